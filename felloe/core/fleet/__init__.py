"""Many like wheels: is the lot good, does something run through it."""
