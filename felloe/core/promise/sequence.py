"""Which wheel next. A job's place is its due date less the work that is left in it: a fixed moment, so that the day is
reshuffled only where a promise, a wheel or its work has changed, never by the clock alone.

Earliest due date first is best for the largest lateness on one bench (J. R. Jackson, 1955, in M. Pinedo, Scheduling, ch. 3,
from memory); a job nobody promised gets a due date of its own and so comes up in the end.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

#: A job without a promise hangs as if promised so long after it came in.
UNPROMISED_DUE = timedelta(days=7)
_LAST = datetime.max.replace(tzinfo=UTC)


@dataclass(frozen=True)
class Hanging:
    """A wheel on the rail. `work_min`: bench minutes left; `in_hand`: somebody's key who is at it now; `needs`: skills;
    `waiting_on`: "" when nothing; `ready`: nothing is left for the bench.
    """

    job_id: str
    opened_at: datetime
    promised_at: datetime | None = None
    wanted_at: datetime | None = None
    assigned_to: str | None = None
    waiting_on: str = ""
    work_min: float = 0.0
    in_hand: str | None = None
    needs: frozenset[str] = frozenset()
    ready: bool = False

    @property
    def due_at(self) -> datetime:
        """The promise, else what the customer wanted, else a due date of its own."""
        return self.promised_at or self.wanted_at or self.opened_at + UNPROMISED_DUE

    @property
    def latest_start(self) -> datetime:
        """Its place in the sequence: the moment at which work has to begin at the latest."""
        return self.due_at - timedelta(minutes=self.work_min)


def in_order(jobs: Iterable[Hanging]) -> list[Hanging]:
    """By the latest start; what came in first breaks a tie."""
    return sorted(jobs, key=lambda job: (job.latest_start, job.opened_at, job.job_id))


def next_for(
    jobs: Iterable[Hanging], person: str, skills: frozenset[str], day: timedelta = timedelta(days=1)
) -> Hanging | None:
    """The wheel that `person` should take up: what he has in hand; else the first of the sequence that waits for nothing, that
    he can do, and that is his or nobody's. His own comes before a free wheel that is due within the same `day`.
    """
    ordered = in_order(jobs)
    for job in ordered:
        if job.in_hand == person and not job.ready:
            return job
    can = [
        job
        for job in ordered
        if not job.ready
        and not job.waiting_on
        and job.in_hand is None
        and (job.assigned_to == person or (job.assigned_to is None and job.needs <= skills))
    ]
    if not can:
        return None
    first = can[0]
    if first.assigned_to is None:
        for job in can[1:]:
            if job.assigned_to == person and job.due_at - first.due_at <= day:
                return job
    return first
