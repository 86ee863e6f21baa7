"""Lacing: which rim hole goes to which flange hole."""
