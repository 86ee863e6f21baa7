"""Who gets what is in a bin: claims in the order in which they were made, and what may be taken."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.errors import TradeError
from felloe.core.said import say


class NotEnough(TradeError):
    """More asked of a bin than it holds for the one who asks."""

    code = "not_enough"


@dataclass(frozen=True)
class Claim:
    """What a job has reserved of one part and not taken yet."""

    job: str
    count: int


def covered(on_hand: int, claims: Sequence[Claim]) -> dict[str, int]:
    """How much of each claim the bin covers; the earlier claim first."""
    left = max(0, on_hand)
    found: dict[str, int] = {}
    for claim in claims:
        share = min(left, claim.count)
        found[claim.job] = found.get(claim.job, 0) + share
        left -= share
    return found


def free(on_hand: int, claims: Sequence[Claim]) -> int:
    """What nobody has a claim on; negative where claims outrun the bin."""
    return on_hand - sum(claim.count for claim in claims)


def for_job(on_hand: int, claims: Sequence[Claim], job: str) -> int:
    """What `job` may take: all but what earlier or other claims cover."""
    others = [claim for claim in claims if claim.job != job]
    mine = sum(claim.count for claim in claims if claim.job == job)
    return max(on_hand - sum(covered(on_hand, others).values()), covered(on_hand, claims).get(job, 0) if mine else 0, 0)


def check_take(on_hand: int, claims: Sequence[Claim], job: str, count: int, name: str) -> None:
    """Raise NotEnough where `job` may not take `count`, saying what is there and who has a claim."""
    if count < 1:
        raise NotEnough(say("take one at least"), "count")
    allowed = for_job(on_hand, claims, job)
    if count > allowed:
        taken = sum(covered(on_hand, [c for c in claims if c.job != job]).values())
        why = say("; {taken} of the {on_hand} are reserved for other jobs", taken=taken, on_hand=on_hand) if taken else ""
        raise NotEnough(
            say("{name}: {allowed} to be had, {count} wanted{why}", name=name, allowed=allowed, count=count, why=why), "count"
        )
