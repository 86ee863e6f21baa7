"""Customers and their bikes."""
