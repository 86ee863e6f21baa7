"""The owner's numbers."""

from felloe.numbers.services.numbers import numbers_csv, numbers_of

__all__ = ["numbers_csv", "numbers_of"]
