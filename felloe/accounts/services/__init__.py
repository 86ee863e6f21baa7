"""Who works in a shop, and what they may do."""

from felloe.accounts.services.people import (
    find_staff,
    one_at_a_time,
    set_cuts_spokes,
    set_force_unit,
    sign_in,
    sign_out,
    staff_of,
)

__all__ = [
    "find_staff",
    "one_at_a_time",
    "set_cuts_spokes",
    "set_force_unit",
    "sign_in",
    "sign_out",
    "staff_of",
]
