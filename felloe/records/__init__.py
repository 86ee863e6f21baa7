"""Sign-offs and the open wheel record."""
