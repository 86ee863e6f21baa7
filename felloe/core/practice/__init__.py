"""The virtual wheel: an independent, harsher wheel that readings can be taken from."""
