"""Giving promises: dates with their chance for a new job or an open one, what a date would mean, and the promise itself."""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Any
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.calendar import services as calendar
from felloe.core.promise import dates
from felloe.core.promise.simulate import FIRST, SECOND, Played, Queued
from felloe.core.promise.skills import needs_of
from felloe.core.promise.work import JobFacts, steps_ahead, together, until_agreed
from felloe.core.said import say
from felloe.core.stages import STAGE_KEYS
from felloe.places.here import atomic
from felloe.promises import answers
from felloe.promises.services.floor import LAST_RANK, Floor, floor_of
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels import services as wheels

#: What a wheel is called in the queue before it is a job.
_NEW = "new"


def offers_for_new(user: User, values: dict[str, Any]) -> answers.Offers:
    """Dates for a wheel that stands at the counter. `values`: tier, wheel_id or spokes, rear, wanted_at or None."""
    now = timezone.now()
    floor = floor_of(user.shop_id, now)
    tier = queue.chosen_tier(user.shop_id, values.get("tier"))
    facts = JobFacts(STAGE_KEYS[0], tier, values.get("spokes") or 32, values.get("rear", False))
    if values.get("wheel_id"):
        wheel = wheels.find_wheel(user, values["wheel_id"])
        facts = JobFacts(STAGE_KEYS[0], tier, wheels.spokes_of(wheel.specification), wheel.position == "rear")
    return _offers(floor, facts, None, values.get("wanted_at"))


def offers_for_job(user: User, job_id: UUID, wanted_at: datetime | None) -> answers.Offers:
    """Dates for a job of the shop, its promise as it stands left aside."""
    job = queue.find_job(user, job_id)
    floor = floor_of(user.shop_id, timezone.now())
    if job.pk not in floor.facts or job.ready_at is not None:
        raise Refused("nothing_to_do", say("Nothing is left for the bench on this wheel."), 409)
    return _offers(floor, floor.facts[job.pk], job, wanted_at or job.wanted_at)


def _offers(floor: Floor, facts: JobFacts, job: Job | None, wanted: datetime | None) -> answers.Offers:
    now, key = floor.now, str(job.pk) if job else _NEW
    steps = steps_ahead(facts, floor.paces)
    if wanted is not None and (wanted <= now or not floor.calendar.is_open(wanted)):
        wanted = None
    played = _played(floor, facts, job, wanted)
    found = dates.offers(played, key, floor.calendar, floor.line, wanted)
    return answers.Offers(
        estimate=together(steps).said,
        middle_min=round(together(steps).middle_min, 1),
        offers=[answers.DateOffer(o.key, o.at, round(o.chance, 3), dates.odds(o.chance)) for o in found],
        effects=_effects(floor, played, key) if wanted is not None else [],
        line=dates.odds(floor.line),
        learned_jobs=floor.learned,
    )


def _played(floor: Floor, facts: JobFacts, job: Job | None, wanted: datetime | None) -> Played:
    """The queue twice: with the job behind all others, and, where there is a time, with it at its place for that time."""
    others = [floor.queued(other) for other in floor.at_the_bench() if job is None or other.pk != job.pk]
    if job is not None:
        mine = floor.queued(job)
        at_time = floor.queued(job, wanted) if wanted else mine
    else:
        before, after = until_agreed(steps_ahead(facts, floor.paces), facts)
        # By the number that it will have, so that the chance that was offered is the one that is kept with it.
        number = queue.next_number(floor.shop.pk)
        mine = Queued(_NEW, LAST_RANK, before, after, needs=needs_of(facts), asks=True, draw=str(number))
        work = together(before + after).middle_min * 60
        at_time = mine if wanted is None else replace(mine, rank=wanted.timestamp() - work)
    last = replace(mine, rank=LAST_RANK)
    if wanted is None:
        return floor.play([*others, last])
    return floor.play([*others, replace(last, worlds=FIRST), replace(at_time, worlds=SECOND)], worlds=2)


def _effects(floor: Floor, played: Played, but: str) -> list[answers.Effect]:
    by_id = {str(job.pk): job for job in floor.at_the_bench()}
    promises = {key: job.promised_at for key, job in by_id.items() if job.promised_at is not None}
    found = []
    for effect in dates.effects(played, promises, but):
        job = by_id[effect.job]
        if job.promised_at is None:
            continue
        found.append(
            answers.Effect(
                job=job.pk,
                number=job.number,
                customer=job.wheel.bike.customer.name,
                promised_at=job.promised_at,
                before=dates.odds(effect.before),
                after=dates.odds(effect.after),
                below_line=effect.after < floor.line <= effect.before,
            )
        )
    return found


def look(user: User, job_id: UUID, at: datetime) -> answers.PromiseLook:
    """What promising a job for `at` would mean: its own chance, and what it does to the others. Refused in closed hours."""
    now = timezone.now()
    job = queue.find_job(user, job_id)
    calendar.check_promise(user.shop, at, now)
    floor = floor_of(user.shop_id, now)
    if job.pk not in floor.facts or job.ready_at is not None:
        raise Refused("nothing_to_do", say("Nothing is left for the bench on this wheel."), 409)
    key = str(job.pk)
    others = [floor.queued(other) for other in floor.at_the_bench() if other.pk != job.pk]
    played = floor.play(
        [*others, replace(floor.queued(job), worlds=FIRST), replace(floor.queued(job, at), worlds=SECOND)], worlds=2
    )
    chance = played.chance(key, at, world=1)
    return answers.PromiseLook(
        at=at,
        chance=round(chance, 3),
        odds=dates.odds(chance),
        enough=chance >= floor.line - 1e-9,
        effects=_effects(floor, played, key),
    )


def give(user: User, job_id: UUID, version: int, at: datetime | None) -> Job:
    """Promise a job for `at`, with the chance as the queue stands; None takes the promise back."""
    job = queue.find_job(user, job_id)
    chance = None
    if at is not None and job.ready_at is None and job.handed_back_at is None:
        chance = look(user, job_id, at).chance
    return queue.promise(user, job_id, version, at, chance, timezone.now())


@atomic
def open_job(user: User, values: dict[str, Any]) -> Job:
    """Open a job and give its promise, both or neither."""
    at = values.pop("promised_at", None)
    if at is not None:
        calendar.check_promise(user.shop, at, timezone.now())
    job = queue.open_job(user, values)
    return give(user, job.pk, job.version, at) if at is not None else job
