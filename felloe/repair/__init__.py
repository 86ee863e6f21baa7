"""Deciding with the customer, and putting the wheel back: options, approval, refit, safety."""
