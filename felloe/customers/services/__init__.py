"""Customers and their bikes."""

from felloe.customers.services.customers import (
    add_bike,
    add_customer,
    change_bike,
    change_customer,
    find_bike,
    find_customer,
    merge_customers,
    search,
)

__all__ = [
    "add_bike",
    "add_customer",
    "change_bike",
    "change_customer",
    "find_bike",
    "find_customer",
    "merge_customers",
    "search",
]
