"""Commands that need no database."""
