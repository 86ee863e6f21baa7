"""Stripping, sizing, lacing and replacing: what is decided and done of it for a job."""
