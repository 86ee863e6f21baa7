"""The rail: what next for whom, which promise is in danger, what waits to be fetched, and the desk's own list."""

from __future__ import annotations

from collections import Counter
from datetime import date, datetime, timedelta
from uuid import UUID

from felloe.accounts.models import User
from felloe.core.promise.dates import Standing, ready_standing, standing_of
from felloe.core.promise.desk import DeskJob, tasks
from felloe.core.promise.sequence import in_order, next_for
from felloe.promises import answers
from felloe.promises.services.plays import Floor, chances_of, floor_of
from felloe.queue import services as queue
from felloe.queue.answers import rail_job
from felloe.queue.models import Job, JobEvent, WorkSpan

#: So many wheels that left lately are shown.
LATELY = 6
#: So many days of bench hours are shown at most.
DAYS = 14


def rail(user: User, now: datetime) -> answers.Rail:
    """Everything that the rail shows to one person."""
    floor = floor_of(user, now)
    chances = chances_of(floor)
    standing = {job.pk: _standing(floor, job, chances) for job in floor.jobs}
    by_id = {str(job.pk): job for job in floor.jobs}
    hanging = in_order(floor.hanging(job) for job in floor.at_the_bench())
    me = str(user.pk)
    first = next_for(hanging, me, floor.skills[me]) if me in floor.skills else None
    mine = next((job_id for job_id, span in floor.spans.items() if span.person_id == user.pk), None)
    ready = sorted((j for j in floor.jobs if j.ready_at is not None), key=lambda j: j.ready_at or now)
    return answers.Rail(
        now=now,
        next_job_id=UUID(first.job_id) if first else None,
        mine=mine,
        hanging=[_hanging(floor, by_id[h.job_id], standing) for h in hanging],
        ready=[_hanging(floor, job, standing) for job in ready],
        days=_days(floor),
        desk=_desk(floor, standing),
        handed_back=[rail_job(job) for job in queue.handed_back_lately(user.shop_id, LATELY)],
    )


def _standing(floor: Floor, job: Job, chances: dict[str, float]) -> Standing:
    if job.ready_at is not None:
        return ready_standing(job.ready_at, job.promised_at, floor.now)
    return standing_of(job.promised_at, floor.now, floor.line, chances.get(str(job.pk)), floor.estimate(job.pk), job.waiting_on)


def in_hand(span: WorkSpan | None) -> answers.InHand | None:
    if span is None:
        return None
    stand = span.stand.name if span.stand else ""
    return answers.InHand(span.person.display_name, span.person_id, stand, span.started_at)


def _hanging(floor: Floor, job: Job, standing: dict[UUID, Standing]) -> answers.Hanging:
    where = standing[job.pk]
    return answers.Hanging(
        job=rail_job(job),
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
    called = _called_today(floor)
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
    return [answers.DeskTask(kind=task.kind, job=UUID(task.job), why=task.why) for task in found]


def _called_today(floor: Floor) -> dict[UUID, frozenset[str]]:
    """What each customer was told since the shop's day began, by job."""
    day = datetime.combine(floor.calendar.day_of(floor.now), datetime.min.time(), floor.calendar.zone)
    rows = JobEvent.objects.filter(
        shop=floor.shop, job__in=[job.pk for job in floor.jobs], kind__startswith="told_", created_at__gte=day
    ).values_list("job_id", "kind")
    found: dict[UUID, set[str]] = {}
    for job_id, kind in rows:
        found.setdefault(job_id, set()).add(kind.removeprefix("told_"))
    ever = JobEvent.objects.filter(shop=floor.shop, job__in=[j.pk for j in floor.jobs if j.ready_at], kind="told_fetch")
    for job_id in ever.values_list("job_id", flat=True):
        found.setdefault(job_id, set()).add("fetch")
    return {job_id: frozenset(kinds) for job_id, kinds in found.items()}
