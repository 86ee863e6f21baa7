"""Wheels that came back: within how long after a repair, and what was found then."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

WITHIN = timedelta(days=90)
NOT_KNOWN = "not_known"


@dataclass(frozen=True)
class Visit:
    """One job of a wheel: when it came, when it left and how, and the cause that was found, empty where none was."""

    wheel: str
    came_at: datetime
    left_at: datetime | None
    repaired: bool
    cause: str


def comebacks(visits: Iterable[Visit], since: datetime, until: datetime) -> tuple[int, int, dict[str, int]]:
    """Of the repairs that left from `since` up to `until`: how many, how many came back within 90 days, and why, by cause.

    A repair is counted once, by the wheel's next visit; a wheel that came again before it had left did not come back.
    """
    by_wheel: dict[str, list[Visit]] = {}
    for visit in visits:
        by_wheel.setdefault(visit.wheel, []).append(visit)
    repairs = back = 0
    causes: Counter[str] = Counter()
    for of_wheel in by_wheel.values():
        of_wheel.sort(key=lambda visit: visit.came_at)
        for i, visit in enumerate(of_wheel):
            if not visit.repaired or visit.left_at is None or not since <= visit.left_at < until:
                continue
            repairs += 1
            after = next((later for later in of_wheel[i + 1 :] if later.came_at >= visit.left_at), None)
            if after is not None and after.came_at - visit.left_at <= WITHIN:
                back += 1
                causes[after.cause or NOT_KNOWN] += 1
    return repairs, back, dict(causes.most_common())
