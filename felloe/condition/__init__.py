"""What is found on a wheel, placed by spoke, and kept over its whole life."""
