"""What next at the desk: calls, approvals, promises to give, wheels to be fetched. Never bench work, and one call a job."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from felloe.core.promise.dates import span_of
from felloe.core.said import Said, say

CALL, APPROVE, PROMISE, FETCH, UNCLAIMED = "call", "approve", "promise", "fetch", "unclaimed"
#: In which order they come: who is let down first, then who holds the bench up, then who waits without a date.
ORDER = (CALL, APPROVE, PROMISE, FETCH, UNCLAIMED)


@dataclass(frozen=True)
class DeskJob:
    """What the desk knows of a job: its promise's standing, what it waits for, since when it is ready, and for what its
    customer was called already: today, or for fetching at all."""

    key: str
    level: str
    why: Said
    promised_at: datetime | None = None
    waiting_on: str = ""
    waits_since: datetime | None = None
    ready_at: datetime | None = None
    called: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Task:
    """One entry of the desk's list: `kind` of ORDER, the job's key, and why."""

    kind: str
    job: str
    why: Said


def tasks(jobs: Iterable[DeskJob], now: datetime, unfetched_days: int) -> list[Task]:
    """The desk's list, in order; a customer who was told today is not called for it again."""
    found: list[tuple[int, datetime, Task]] = []
    for job in jobs:
        for kind, since, why in _due(job, now, unfetched_days):
            if kind not in job.called:
                found.append((ORDER.index(kind), since, Task(kind, job.key, why)))
    return [task for _, _, task in sorted(found, key=lambda entry: entry[:2])]


def _due(job: DeskJob, now: datetime, unfetched_days: int) -> Iterable[tuple[str, datetime, Said]]:
    if job.ready_at is not None:
        days = (now - job.ready_at) // timedelta(days=1)
        if days >= unfetched_days:
            yield UNCLAIMED, job.ready_at, say("ready for {days} days, not fetched", days=days)
        else:
            yield FETCH, job.ready_at, say("ready for {span}, nobody told", span=span_of(now - job.ready_at))
        return
    if job.level in ("danger", "late") and job.promised_at is not None:
        yield CALL, job.promised_at, job.why
    elif job.waiting_on == "customer" and job.waits_since is not None:
        yield APPROVE, job.waits_since, say("waits for the customer's word for {span}", span=span_of(now - job.waits_since))
    if job.promised_at is None:
        yield PROMISE, now, say("no promise given")
