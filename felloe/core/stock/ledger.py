"""A part's ledger gone through entry by entry: what it leaves in the bin, and who has a claim since when."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from felloe.core.stock.claims import Claim


@dataclass(frozen=True)
class Entry:
    """One entry: pieces into or out of the bin, and reserved or let go for a job, at a moment."""

    delta: int
    claim_delta: int
    job: str
    at: datetime


@dataclass(frozen=True)
class Standing:
    """What a ledger leaves: pieces in the bin, and claims in the order in which they were made.

    A claim that was let go whole and made anew stands where it was made anew.
    """

    on_hand: int = 0
    claims: tuple[Claim, ...] = ()


def standing(entries: Iterable[Entry]) -> Standing:
    """Go through entries, oldest first."""
    on_hand = 0
    held: dict[str, tuple[datetime, int]] = {}
    for entry in entries:
        on_hand += entry.delta
        if not entry.claim_delta:
            continue
        since, count = held.get(entry.job, (entry.at, 0))
        held[entry.job] = (since, count + entry.claim_delta)
        if not held[entry.job][1]:
            del held[entry.job]
    order = sorted(held.items(), key=lambda one: (one[1][0], one[0]))
    return Standing(on_hand, tuple(Claim(job, count) for job, (_, count) in order))
