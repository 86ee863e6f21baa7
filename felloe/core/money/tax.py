"""Tax on a total, to the smallest coin."""

from __future__ import annotations

from dataclasses import dataclass
from decimal import ROUND_HALF_UP, Decimal

from felloe.core.errors import TradeError
from felloe.core.said import say

MOST_BASIS_POINTS = 5000


class BadTax(TradeError):
    """A rate of tax that cannot be."""

    code = "bad_tax"


@dataclass(frozen=True)
class Amounts:
    """Without tax, the tax, and with it, in the smallest coin; net and tax always add up to gross."""

    net_minor: int
    tax_minor: int
    gross_minor: int


@dataclass(frozen=True)
class Tax:
    """A rate in hundredths of a percent (1900 is 19 %), and whether the shop's prices hold it already."""

    basis_points: int = 0
    included: bool = True

    def __post_init__(self) -> None:
        if not 0 <= self.basis_points <= MOST_BASIS_POINTS:
            raise BadTax(say("a rate of tax lies between 0 and 50 %"), "tax_basis_points")

    def of(self, total_minor: int) -> Amounts:
        """The parts of a total of the shop's prices. The tax is worked out once, of the whole, and a half is rounded up,
        away from nothing (EN 16931-1, BR-CO-17, for the tax of a rate from the sum of its lines; from memory)."""
        rate = Decimal(self.basis_points) / 10_000
        exact = total_minor * rate / (1 + rate) if self.included else total_minor * rate
        tax = int(exact.quantize(Decimal(1), ROUND_HALF_UP))
        net = total_minor - tax if self.included else total_minor
        return Amounts(net, tax, net + tax)
