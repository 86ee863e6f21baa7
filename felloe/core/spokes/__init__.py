"""Spoke geometry: length, thread engagement, stretch."""
