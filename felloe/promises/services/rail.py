"""The rail: what next for whom, which promise is in danger, what waits to be fetched, and the desk's own list."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID

from felloe.accounts.models import User
from felloe.core.promise.dates import Standing
from felloe.core.promise.desk import DeskJob, tasks
from felloe.core.promise.sequence import Hanging as InOrder
from felloe.core.promise.sequence import in_order, next_for
from felloe.promises import answers
from felloe.promises.services.floor import Floor, floor_of
from felloe.promises.services.plays import chances_of
from felloe.queue.answers import RailJob
from felloe.queue.models import Job, WorkSpan

#: So many days of bench hours are shown at most.
DAYS = 14


@dataclass(frozen=True, eq=False)
class Shared:
    """What everybody of a shop sees alike, as of one minute: spans are said in minutes, so that it holds as long.

    The same object for as long as it holds; `order`: the bench's sequence, by which each finds his next.
    """

    minute: int
    played_at: datetime
    order: list[InOrder]
    hanging: list[answers.Hanging]
    ready: list[answers.Hanging]
    days: list[answers.Day]
    desk: list[answers.DeskTask]
    handed_back: list[RailJob]


def rail(user: User, now: datetime) -> answers.Rail:
    """Everything that the rail shows to one person."""
    return whole(*own_and_shared(user, now))


def whole(own: answers.OwnRail, shared: Shared) -> answers.Rail:
    """Both halves of a rail."""
    return answers.Rail(
        now=own.now,
        next_job_id=own.next_job_id,
        mine=own.mine,
        hanging=shared.hanging,
        ready=shared.ready,
        days=shared.days,
        desk=shared.desk,
        handed_back=shared.handed_back,
    )


def own_and_shared(user: User, now: datetime) -> tuple[answers.OwnRail, Shared]:
    """The rail in two halves: what is one person's, and what all of the shop see alike."""
    floor = floor_of(user.shop_id, now)
    shared = _shared(floor)
    me = str(user.pk)
    first = next_for(shared.order, me, floor.skills[me]) if me in floor.skills else None
    mine = next((job_id for job_id, span in floor.spans.items() if span.person_id == user.pk), None)
    return answers.OwnRail(now, UUID(first.job_id) if first else None, mine), shared


def _shared(floor: Floor) -> Shared:
    chances = chances_of(floor)
    minute = int(floor.now.timestamp() // 60)
    kept = floor.shown.get("rail")
    if isinstance(kept, Shared) and (kept.minute, kept.played_at) == (minute, chances.played_at):
        return kept
    standing = {job.pk: floor.standing(job, chances.of.get(str(job.pk))) for job in floor.jobs}
    by_id = {str(job.pk): job for job in floor.jobs}
    ready = sorted((j for j in floor.jobs if j.ready_at is not None), key=lambda j: j.ready_at or floor.now)
    order = in_order(floor.hanging(job) for job in floor.at_the_bench())
    customers: dict[UUID, int] = {}
    for job in floor.jobs:
        customers.setdefault(job.wheel.bike.customer_id, job.number)

    def hanging(job: Job) -> answers.Hanging:
        return _hanging(floor, job, standing, customers[job.wheel.bike.customer_id])

    made = Shared(
        minute=minute,
        played_at=chances.played_at,
        order=order,
        hanging=[hanging(by_id[h.job_id]) for h in order],
        ready=[hanging(job) for job in ready],
        days=_days(floor),
        desk=_desk(floor, standing),
        handed_back=floor.lately,
    )
    floor.shown["rail"] = made
    return made


def in_hand(span: WorkSpan | None) -> answers.InHand | None:
    if span is None:
        return None
    stand = span.stand.name if span.stand else ""
    return answers.InHand(span.person.display_name, span.person_id, stand, span.started_at)


def _hanging(floor: Floor, job: Job, standing: dict[UUID, Standing], customer_no: int) -> answers.Hanging:
    where = standing[job.pk]
    return answers.Hanging(
        job=floor.line_of(job),
        customer_no=customer_no,
        level=where.level,
        why=where.why,
        chance=where.chance,
        in_hand=in_hand(floor.spans.get(job.pk)),
    )


def _days(floor: Floor) -> list[answers.Day]:
    """Each day of the shop with the bench minutes of all, and those that are due on it; what is late is due today."""
    today = floor.calendar.day_of(floor.now)
    due: Counter[date] = Counter()
    for job in floor.at_the_bench():
        day = max(floor.calendar.day_of(floor.hanging(job).due_at), today)
        due[day] += floor.estimate(job.pk).middle_min  # type: ignore[assignment]
    last = min(max(due, default=today), today + timedelta(days=DAYS - 1))
    found = []
    for offset in range((last - today).days + 1):
        day = today + timedelta(days=offset)
        bench = 0.0
        for worker in floor.workers:
            spans = worker.calendar.spans_on(day)
            hours = sum((ends - max(starts, floor.now)).total_seconds() for starts, ends in spans if ends > floor.now)
            bench += hours / 60 * (1 - worker.interrupted)
        if bench or due[day]:
            found.append(answers.Day(day=day, bench_min=round(bench), work_min=round(due[day])))
    return found


def _desk(floor: Floor, standing: dict[UUID, Standing]) -> list[answers.DeskTask]:
    called = floor.told_today()
    found = tasks(
        [
            DeskJob(
                key=str(job.pk),
                level=standing[job.pk].level,
                why=standing[job.pk].why,
                promised_at=job.promised_at,
                waiting_on=job.waiting_on,
                waits_since=job.waits_since,
                ready_at=job.ready_at,
                called=called.get(job.pk, frozenset()),
            )
            for job in floor.jobs
        ],
        floor.now,
        floor.shop.unfetched_days,
    )
    numbers = {str(job.pk): job.number for job in floor.jobs}
    return [answers.DeskTask(kind=task.kind, number=numbers[task.job], why=task.why) for task in found]
