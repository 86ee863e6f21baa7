"""What the bins are worth."""

from __future__ import annotations

from collections.abc import Iterable


def worth_of(bins: Iterable[tuple[int, int | None]]) -> tuple[int, int]:
    """The sum over (count, price each) of the bins with something in them, and how many of those have no price.

    A bin that the ledger finds below nothing is worth nothing.
    """
    filled = [(count, price) for count, price in bins if count > 0]
    return sum(count * price for count, price in filled if price is not None), sum(price is None for _, price in filled)
