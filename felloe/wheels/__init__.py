"""The wheels a shop has seen."""
