"""The time side of one job: taking it up, putting it down, how long is left, and what its stages took."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.core.promise.hours import Calendar
from felloe.core.promise.work import BENCH_STEPS, steps_ahead, together
from felloe.core.said import joined, say
from felloe.places.here import atomic
from felloe.promises import answers
from felloe.promises.services.facts import facts_of
from felloe.promises.services.rail import in_hand
from felloe.promises.services.times import believe, note_stages, shifts_of
from felloe.queue import services as queue
from felloe.queue.models import Job, WorkSpan
from felloe.queue.services.pace import paces_of, relearn

#: For what a customer is called, in the words of the history.
TOLD = {
    "call": say("told that the promise is in danger"),
    "approve": say("asked for the customer's word"),
    "promise": say("told the promise"),
    "fetch": say("told that the wheel is ready"),
    "unclaimed": say("reminded that the wheel waits"),
}


def work_of(user: User, job_id: UUID) -> answers.Work:
    """Who has a job, what is left of it, and what its steps took beside their estimates."""
    job = queue.find_job(user, job_id)
    now = timezone.now()
    paces, _, _ = paces_of(job.shop_id)
    facts = facts_of([job])[job.pk]
    steps = steps_ahead(facts, paces)
    left = together(steps)
    spans = list(WorkSpan.objects.filter(job=job).select_related("person", "stand").order_by("started_at"))
    going = next((span for span in spans if span.ended_at is None), None)
    hours = shifts_of(spans, user.shop, now)
    high = {step.stage: together([step]).high_min for step in steps}
    taken = _taken(spans, high, hours, now)
    found = believe(going, high.get(going.stage, 0.0), hours, now) if going else None
    note = queue.notes_to_next(job) if going is None else None
    by_stage = {step.stage: together([step]) for step in steps}
    return answers.Work(
        in_hand=in_hand(going),
        mine=going is not None and going.person_id == user.pk,
        forgotten=bool(found and found.forgotten),
        believed_until=found.until if found and found.forgotten else None,
        left=left.said,
        left_min=round(left.middle_min, 1),
        steps=[
            answers.StepTime(
                stage=stage,
                low_min=round(by_stage[stage].low_min, 1) if stage in by_stage else 0.0,
                middle_min=round(by_stage[stage].middle_min, 1) if stage in by_stage else 0.0,
                high_min=round(by_stage[stage].high_min, 1) if stage in by_stage else 0.0,
                taken_min=round(taken.get(stage, 0.0), 1),
            )
            for stage in BENCH_STEPS
            if stage in by_stage or stage in taken
        ],
        note=note.note if note else "",
        note_by=note.ended_by.display_name if note and note.ended_by else "",
    )


def _taken(spans: list[WorkSpan], high: dict[str, float], hours: dict[str, Calendar], now: datetime) -> dict[str, float]:
    found: dict[str, float] = {}
    for span in spans:
        counted = believe(span, max(high.get(span.stage, 0.0), 30.0), hours, now)
        found[span.stage] = found.get(span.stage, 0.0) + counted.minutes
    return found


def take_up(user: User, job_id: UUID, stand: UUID | None) -> answers.Work:
    queue.take_up(user, job_id, stand)
    return work_of(user, job_id)


def put_down(user: User, job_id: UUID, values: dict[str, Any]) -> answers.Work:
    queue.put_down(user, job_id, values)
    return work_of(user, job_id)


def stage_left(user: User, job: Job) -> None:
    """A stage was left: keep its time, and learn once the wheel is ready."""
    now = timezone.now()
    note_stages(user, job, now)
    if job.ready_at is not None or job.handed_back_at is not None:
        relearn(job.shop_id, now)


@atomic
def told(user: User, job_id: UUID, about: str, note: str) -> None:
    """The customer was told something: it leaves the desk's list for today, for fetching for good."""
    job = queue.find_job(user, job_id, lock=True)
    words = TOLD[about]
    queue.log(job, user, f"told_{about}", joined(": ", [words, note.strip()]) if note.strip() else words)
