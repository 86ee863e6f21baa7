"""Wheels: what they are, and what follows from it."""

from felloe.wheels.services.patterns import tier_of_kind
from felloe.wheels.services.wheels import (
    add_wheel,
    change_specification,
    core_wheel,
    derived,
    find_wheel,
    influence_for,
    kinds,
    spokes_of,
    wheels_of_bike,
)

__all__ = [
    "add_wheel",
    "change_specification",
    "core_wheel",
    "derived",
    "find_wheel",
    "influence_for",
    "kinds",
    "spokes_of",
    "tier_of_kind",
    "wheels_of_bike",
]
