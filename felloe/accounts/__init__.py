"""Shops and their staff."""
