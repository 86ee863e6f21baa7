"""Tolerance tiers and the truing plan."""
