"""A shop's price list, in the smallest unit of its money."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from felloe.core.errors import TradeError
from felloe.core.said import say

#: What can be priced, and how it is said. Labour is per hour.
PRICED: dict[str, str] = {
    "labour_hour": say("Labour, per hour"),
    "spoke": say("Spoke"),
    "nipple": say("Nipple"),
    "washer": say("Rim washer"),
    "rim": say("Rim"),
    "rim_tape": say("Rim tape"),
    "hub_parts": say("Bearings and cones of a hub"),
    "axle": say("Axle"),
}
MOST_MINOR = 10_000_000


class BadPrice(TradeError):
    """A price that cannot be."""

    code = "bad_price"


@dataclass(frozen=True)
class PriceList:
    """Prices by key of PRICED, in minor units (cents); what is missing has no price and is said to have none."""

    minor: Mapping[str, int] = field(default_factory=dict)

    def __post_init__(self) -> None:
        for key, value in self.minor.items():
            if key not in PRICED:
                raise BadPrice(say("“{key}” is nothing that this list prices", key=key[:40]), key[:40])
            if isinstance(value, bool) or not isinstance(value, int) or not 0 <= value <= MOST_MINOR:
                raise BadPrice(say("a price is a whole number of the smallest coin, not below 0"), key)

    def total(self, minutes: float, parts: Mapping[str, int]) -> int | None:
        """Labour and parts together; None where a price that is needed is missing. Labour goes by the minute."""
        needed = [key for key, count in parts.items() if count] + (["labour_hour"] if minutes else [])
        if any(key not in self.minor for key in needed):
            return None
        labour = round(self.minor["labour_hour"] * minutes / 60) if minutes else 0
        return labour + sum(self.minor[key] * count for key, count in parts.items() if count)
