"""Promises: the order of work and what stands between a wheel and its day."""
