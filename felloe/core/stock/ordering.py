"""What to order: from claims, minimum and use, grouped by supplier."""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from felloe.core.said import say, say_count

#: The share of lead times through which a bin should last; common practice, no source.
#: More of one part is never proposed.
MOST_KEPT = 20_000
SERVICE = 0.95
USUAL_LEAD_DAYS = 7


#: Use is looked at over so many days.
USE_DAYS = 180


@dataclass(frozen=True)
class Bin:
    """One part's figures: in the bin, claimed by jobs, already ordered, the minimum to keep, sold in packs of."""

    key: str
    supplier: str
    on_hand: int
    claimed: int
    on_order: int
    minimum: int
    pack: int = 1


@dataclass(frozen=True)
class Line:
    """One line of an order: how many, and why."""

    key: str
    count: int
    why: str


def to_order(bins: Iterable[Bin]) -> dict[str, tuple[Line, ...]]:
    """Lines by supplier, suppliers in the order of their names; whole packs."""
    found: dict[str, list[Line]] = {}
    for bin_ in bins:
        short = bin_.claimed + bin_.minimum - bin_.on_hand - bin_.on_order
        if short <= 0:
            continue
        count = math.ceil(short / bin_.pack) * bin_.pack
        missing = bin_.claimed - bin_.on_hand - bin_.on_order
        why = (
            say_count("{count} waits for it", "{count} wait for it", count=missing)
            if missing > 0
            else say("below the minimum of {minimum}", minimum=bin_.minimum)
        )
        found.setdefault(bin_.supplier, []).append(Line(bin_.key, count, why))
    return {supplier: tuple(found[supplier]) for supplier in sorted(found)}


def minimum_by_use(taken: Sequence[int], days: int, lead_days: int = USUAL_LEAD_DAYS, service: float = SERVICE) -> int:
    """The stock with which `service` of lead times are got through, from the takes of the last `days`.

    Takes arrive as a Poisson process, each of a size like those seen: the quantile of the compound distribution, by Panjer's
    recursion (ASTIN Bulletin 12, 1981, from memory).
    """
    sizes = [size for size in taken if size > 0]
    if not sizes or days <= 0:
        return 0
    takes = len(sizes) * lead_days / days
    share = {size: sizes.count(size) / len(sizes) for size in set(sizes)}
    chance = [math.exp(-takes)]
    reached = chance[0]
    while reached < service and len(chance) <= MOST_KEPT:
        need = len(chance)
        chance.append(takes / need * sum(size * p * chance[need - size] for size, p in share.items() if size <= need))
        reached += chance[-1]
    return len(chance) - 1
