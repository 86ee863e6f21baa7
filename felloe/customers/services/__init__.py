"""Customers and their bikes."""

from felloe.customers.services.customers import (
    add_bike,
    add_customer,
    change_bike,
    find_bike,
    find_customer,
    search,
)

__all__ = [
    "add_bike",
    "add_customer",
    "change_bike",
    "find_bike",
    "find_customer",
    "search",
]
