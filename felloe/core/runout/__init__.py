"""Runout and dish of a rim."""
