"""Felloe: the wheel bench of a bicycle shop."""

__version__ = "0.1.0"
