"""Which wheel next: first version, by promise."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from felloe.core.said import say
from felloe.core.stages import minutes_left

#: A promise is in danger when less than this many times the usual work time is left before it.
SLACK_FACTOR = 2.0


@dataclass(frozen=True)
class Hanging:
    """A wheel on the rail: its job, stage, promise, who has it, what it waits for ("" when nothing)."""

    job_id: str
    stage: str
    promised_at: datetime | None
    assigned_to: str | None
    waiting_on: str = ""


@dataclass(frozen=True)
class Standing:
    """Where a promise stands: "late", "danger", "fine" or "none", with one line of why."""

    job_id: str
    level: str
    why: str


def standing_of(job: Hanging, now: datetime) -> Standing:
    """Judge the promise of one job at `now`."""
    if job.promised_at is None:
        return Standing(job.job_id, "none", say("no promise given"))
    left = job.promised_at - now
    work = timedelta(minutes=minutes_left(job.stage))
    minutes = int(work.total_seconds() // 60)
    if left < timedelta(0):
        return Standing(
            job.job_id, "late", say("promised {span} ago, about {minutes} min of work left", span=_span(-left), minutes=minutes)
        )
    if left < work * SLACK_FACTOR:
        return Standing(
            job.job_id, "danger", say("due in {span} with about {minutes} min of work left", span=_span(left), minutes=minutes)
        )
    if job.waiting_on and left < timedelta(days=1):
        return Standing(
            job.job_id,
            "danger",
            say("due in {span} and still waiting on {waiting_on}", span=_span(left), waiting_on=job.waiting_on),
        )
    return Standing(
        job.job_id, "fine", say("due in {span}, about {minutes} min of work left", span=_span(left), minutes=minutes)
    )


def _span(time: timedelta) -> str:
    minutes = int(time.total_seconds() // 60)
    if minutes < 90:
        return say("{minutes} min", minutes=minutes)
    if minutes < 36 * 60:
        return say("{hours} h", hours=minutes // 60)
    return say("{days} days", days=round(minutes / 1440))


def in_order(jobs: Iterable[Hanging]) -> list[Hanging]:
    """By promise, earliest first; jobs without one at the end, in the order given."""
    return sorted(jobs, key=lambda job: (job.promised_at is None, job.promised_at or datetime.max))


def next_for(jobs: Iterable[Hanging], person: str) -> Hanging | None:
    """The wheel that `person` should take up: the earliest promise that waits for nothing and is his or nobody's.

    His own begun work comes before a free wheel of the same day.
    """
    workable = [job for job in in_order(jobs) if not job.waiting_on and job.assigned_to in (None, person)]
    if not workable:
        return None
    first = workable[0]
    if first.assigned_to is None and first.promised_at is not None:
        for job in workable[1:]:
            same_day = job.promised_at is not None and job.promised_at.date() == first.promised_at.date()
            if job.assigned_to == person and same_day:
                return job
    return first
