"""Jobs: opening, moving, changing; and the rail."""

from __future__ import annotations

from collections.abc import Collection
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.db.models import F, Max, QuerySet
from django.http import Http404
from django.utils import timezone

from felloe.accounts import services as accounts
from felloe.accounts.models import Shop, User
from felloe.accounts.rights import WORKS_AT_THE_BENCH
from felloe.api.pages import page
from felloe.api.problems import Refused, StaleWrite
from felloe.calendar import services as calendar
from felloe.core.endings import REPAIRED, check_reopening
from felloe.core.hand_back import check_reason
from felloe.core.said import say
from felloe.core.stages import DONE, STAGE_KEYS, check_move
from felloe.core.truing.tiers import Tier
from felloe.customers import services as customers
from felloe.customers.models import Bike
from felloe.places.here import atomic
from felloe.queue.models import Job, JobEvent, Place
from felloe.queue.services.changes import picture, said_of
from felloe.queue.services.clock import stage_left
from felloe.queue.services.guard import open_for_work
from felloe.queue.services.places import find_place
from felloe.queue.services.tiers import chosen_tier, tiers_in_use
from felloe.queue.services.waiting import wait
from felloe.queue.tolerances import TIER_FIELDS, held_fields
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel

_SHOWN_WITH = ("wheel", "wheel__bike", "wheel__bike__customer", "assigned_to", "hook")


@atomic
def open_job(user: User, values: dict[str, Any]) -> Job:
    """Open a job, making customer, bike and wheel where they are new: all of it or nothing.

    `values`: customer_id or customer; bike_id or bike; wheel_id or wheel {position, kind, specification};
    complaint, tier, wanted_at, assigned_to. A promise is given on its own: see `promise`.
    """
    wheel = _wheel_for(user, values)
    assigned = values.get("assigned_to")
    if assigned is not None and accounts.find_staff(user, assigned) is None:
        raise Refused("unknown_person", say("Nobody of this shop has that name."), 422)
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    if Job.objects.filter(shop=shop).exclude(stage=DONE).count() >= shop.most_open_jobs:
        raise Refused("shop_full", say("This server gives the shop {most} open jobs: end some.", most=shop.most_open_jobs), 422)
    again = Job.objects.filter(shop_id=user.shop_id, wheel=wheel).exclude(stage=DONE).order_by("number").first()
    if again is not None and not values.get("second"):
        raise Refused(
            "already_open",
            say("Job {number} is open on this wheel: go on there, or open a second one on purpose.", number=again.number),
            409,
            job=str(again.pk),
            number=again.number,
        )
    job = Job.objects.create(
        shop_id=user.shop_id,
        number=next_number(user.shop_id),
        wheel=wheel,
        complaint=values["complaint"],
        complaint_tags=list(dict.fromkeys(values.get("complaint_tags", []))),
        **held_fields(_tier_for(user, values, wheel)),
        wanted_at=values.get("wanted_at"),
        assigned_to_id=assigned,
        load_kg=values.get("load_kg"),
        with_bike=values.get("with_bike", True),
        created_by=user,
        changed_by=user,
    )
    log(job, user, "opened", note=values["complaint"], to_stage=job.stage)
    return job


def _tier_for(user: User, values: dict[str, Any], wheel: Wheel) -> Tier:
    """What was asked for; else what its pattern says, for as long as the shop offers that."""
    patterns = wheels.tier_of_kind(user.shop_id, wheel.kind)
    if not values.get("tier") and patterns in tiers_in_use(user.shop_id):
        return chosen_tier(user.shop_id, patterns)
    return chosen_tier(user.shop_id, values.get("tier"))


def next_number(shop_id: UUID) -> int:
    """What the next job of a shop is called."""
    return (Job.objects.filter(shop_id=shop_id).aggregate(last=Max("number"))["last"] or 100) + 1


def _wheel_for(user: User, values: dict[str, Any]) -> Wheel:
    if values.get("wheel_id"):
        return wheels.find_wheel(user, values["wheel_id"])
    wheel = values["wheel"]
    return wheels.add_wheel(
        user,
        _bike_for(user, values),
        wheel["position"],
        wheel["specification"],
        wheel.get("kind", ""),
        wheel.get("measured", False),
    )


def _bike_for(user: User, values: dict[str, Any]) -> Bike:
    if values.get("bike_id"):
        return customers.find_bike(user, values["bike_id"])
    if values.get("customer_id"):
        return customers.add_bike(user, values["customer_id"], values["bike"])
    return customers.add_bike(user, customers.add_customer(user, values["customer"]).pk, values["bike"])


def log(job: Job, user: User, kind: str, note: str = "", from_stage: str = "", to_stage: str = "") -> JobEvent:
    """Add to a job's history."""
    return JobEvent.objects.create(
        shop_id=job.shop_id, job=job, kind=kind, from_stage=from_stage, to_stage=to_stage, note=note, created_by=user
    )


def find_job(user: User, job_id: UUID, lock: bool = False) -> Job:
    """A job of this shop with its wheel and bike; 404 for another's."""
    # All that a job hangs together with makes this question three times as long, and nearly every deed asks it.
    found = Job.objects.filter(shop_id=user.shop_id, pk=job_id)
    return _there(found.select_for_update() if lock else found.select_related("wheel", "wheel__bike"))


def shown_job(user: User, job_id: UUID) -> Job:
    """The same with all that is shown with it."""
    return _there(Job.objects.filter(shop_id=user.shop_id, pk=job_id).select_related(*_SHOWN_WITH))


def _there(found: QuerySet[Job]) -> Job:
    job = next(iter(found), None)
    if job is None:
        raise Http404
    return job


#: So many of a job's events come with it, and with each page of earlier ones.
EVENTS_A_PAGE = 40


def events_of(job: Job, before: UUID | None = None) -> tuple[list[JobEvent], bool]:
    """A page of a job's history, newest first, and whether there is more; 404 where `before` is none of its events."""
    return page(JobEvent.objects.filter(job=job).select_related("created_by"), before, EVENTS_A_PAGE)


def job_summary(job: Job) -> dict[str, Any]:
    """What two people may both change, as plain values, for showing a conflict."""
    return {
        "version": job.version,
        "complaint": job.complaint,
        "complaint_tags": job.complaint_tags,
        "tier": job.tier,
        "promised_at": job.promised_at.isoformat() if job.promised_at else None,
        "wanted_at": job.wanted_at.isoformat() if job.wanted_at else None,
        "assigned_to": str(job.assigned_to_id) if job.assigned_to_id else None,
        "waiting_on": job.waiting_on,
        "load_kg": job.load_kg,
        "with_bike": job.with_bike,
        "stage": job.stage,
        "changed_by": job.changed_by.display_name if job.changed_by else "",
    }


@atomic
def change_job(user: User, job_id: UUID, version: int, values: dict[str, Any]) -> Job:
    """Change complaint, tier, person or what it waits on; a stale write is refused with both versions."""
    job = open_for_work(user, job_id, at_work=False)
    if job.version != version:
        yours = {key: (value.isoformat() if isinstance(value, datetime) else value) for key, value in values.items()}
        yours = {key: str(value) if key in ("assigned_to", "hook") and value else value for key, value in yours.items()}
        raise StaleWrite({**yours, "version": version}, job_summary(job))
    if "assigned_to" in values:
        person = values.pop("assigned_to")
        if person is not None and accounts.find_staff(user, person) is None:
            raise Refused("unknown_person", say("Nobody of this shop has that name."), 422)
        values["assigned_to_id"] = person
    tier = _other_tier(job, values.pop("tier", job.tier), values.pop("tier_anew", False))
    if tier is not None:
        values.update(held_fields(tier))
    if "hook" in values:
        values["hook"] = find_place(user, values["hook"], Place.Kind.HOOK) if values["hook"] else None
    before = picture(job)
    expected = values.pop("expected_on", job.expected_on)
    if "waiting_on" in values or expected != job.expected_on:
        wait(job, user, values.pop("waiting_on", job.waiting_on), timezone.now(), expected)
    values = {name: value for name, value in values.items() if name in TIER_FIELDS or getattr(job, name) != value}
    for name, value in values.items():
        setattr(job, name, value)
    if values:
        job.save_change(user, list(values))
    said = said_of(job, before)
    if said:
        log(job, user, "changed", note=said)
    return job


def _other_tier(job: Job, name: str, anew: bool) -> Tier | None:
    """Another tier, or the same with the shop's figures of today; None where it stays as promised."""
    if name == job.tier and not anew:
        return None
    tier = chosen_tier(job.shop_id, name)
    return tier if tier != job.tolerance else None


@atomic
def promise(user: User, job_id: UUID, version: int, at: datetime | None, chance: float | None, now: datetime) -> Job:
    """Promise a job for a time, or take its promise back; never for the past, never while the shop is closed."""
    job = open_for_work(user, job_id, at_work=False)
    if job.version != version:
        raise StaleWrite({"promised_at": at.isoformat() if at else None, "version": version}, job_summary(job))
    if at is not None and at != job.promised_at:
        calendar.check_promise(user.shop, at, now)
    before, job.promised_at, job.promise_chance = job.promised_at, at, chance if at else None
    job.save_change(user, ["promised_at", "promise_chance"])
    if before != at:
        log(job, user, "promised", _promised(user, before, at))
    return job


def _promised(user: User, before: datetime | None, at: datetime | None) -> str:
    zone = calendar.shop_calendar(user.shop).zone

    def day(moment: datetime) -> str:
        return moment.astimezone(zone).strftime("%Y-%m-%d %H:%M")

    if at is None:
        return say("promise taken back")
    if before is None:
        return say("promised for {day}", day=day(at))
    return say("promise moved from {before} to {day}", before=day(before), day=day(at))


@atomic
def move_job(user: User, job_id: UUID, version: int, to_stage: str, reason: str, undone: Collection[str] = ()) -> Job:
    """Take the job to another stage; the core says which moves need a reason. `undone`: stages with nothing to show."""
    job = open_for_work(user, job_id)
    if job.version != version:
        raise StaleWrite({"stage": to_stage, "version": version}, job_summary(job))
    check_move(job.stage, to_stage, reason, undone)
    to_next(job, user, to_stage, reason.strip(), timezone.now())
    return job


def move_by_itself(job: Job, user: User, why: str, now: datetime) -> None:
    """To the next stage, since the work of this one is done. The caller holds the lock."""
    to_next(job, user, STAGE_KEYS[STAGE_KEYS.index(job.stage) + 1], why, now, kind="stage_self")


def to_next(job: Job, user: User, to_stage: str, note: str, now: datetime, kind: str = "stage") -> None:
    """Take a job to a stage: its clock, since when it is ready, and its history. The caller holds the lock and has checked."""
    before, job.stage = job.stage, to_stage
    if job.assigned_to_id is None and user.role in WORKS_AT_THE_BENCH:
        job.assigned_to = user
    job.ready_at = (job.ready_at or now) if to_stage == STAGE_KEYS[-1] else None
    job.save_change(user, ["stage", "assigned_to", "ready_at"])
    stage_left(job, user, now, bench=True)
    log(job, user, kind, note, before, to_stage)


def close_job(job: Job, user: User, now: datetime, note: str, ended_as: str = REPAIRED, left_with: str = "") -> None:
    """The job ends. The caller holds the lock and has checked that it may end so."""
    wait(job, user, "", now)
    before, job.stage, job.handed_back_at, job.ended_as = job.stage, DONE, now, ended_as
    job.left_with, job.hook = left_with, None
    # What leaves without having waited was ready when it left.
    job.ready_at = job.ready_at or now
    job.save_change(user, ["stage", "handed_back_at", "ended_as", "left_with", "hook", "ready_at"])
    stage_left(job, user, now, bench=False)
    log(job, user, "handed_back" if ended_as == REPAIRED else "ended", note, before, DONE)


@atomic
def reopen_job(user: User, job_id: UUID, version: int, reason: str, now: datetime) -> Job:
    """Take a job up again that ended a short while ago, at the stage where it ended; a sign-off of before binds no longer."""
    job = find_job(user, job_id, lock=True)
    if job.version != version:
        raise StaleWrite({"version": version, "reason": reason}, job_summary(job))
    if job.handed_back_at is None:
        raise Refused("job_open", say("This job is open."), 409)
    said = check_reason(reason, "reason")
    again = Job.objects.filter(shop_id=job.shop_id, wheel_id=job.wheel_id).exclude(stage=DONE).order_by("number").first()
    check_reopening((now - job.handed_back_at).days, user.shop.reopen_days, again.number if again else None)
    last = job.events.filter(to_stage=DONE).order_by("-created_at").first()
    job.stage = last.from_stage if last is not None and last.from_stage in STAGE_KEYS else STAGE_KEYS[0]
    job.handed_back_at, job.ended_as, job.left_with = None, "", ""
    job.ready_at = now if job.stage == STAGE_KEYS[-1] else None
    job.save_change(user, ["stage", "handed_back_at", "ended_as", "left_with", "ready_at"])
    log(job, user, "reopened", said, DONE, job.stage)
    return job


def reopened_at(job: Job) -> datetime | None:
    """When a job was taken up again last; None where it never was."""
    newest = job.events.filter(kind="reopened").order_by("-created_at").first()
    return newest.created_at if newest is not None else None


def quiet_days(job: Job, now: datetime) -> int:
    """Whole days since anything happened on a job; a promise that lies ahead counts as today."""
    newest = job.events.order_by("-created_at").first()
    moments = [job.created_at, job.promised_at, newest.created_at if newest else None]
    return max(0, (now - max(m for m in moments if m is not None)) // timedelta(days=1))


def open_jobs(shop_id: UUID, only: Collection[UUID] | None = None) -> list[Job]:
    """Every open job of a shop, or some of them, with wheel, bike and customer, by number."""
    found = Job.objects.filter(shop_id=shop_id).exclude(stage=DONE)
    return list(for_rail(found if only is None else found.filter(pk__in=only)).order_by("number"))


def for_rail(jobs: QuerySet[Job]) -> QuerySet[Job]:
    """With all that rail, desk and search show of a job, and of the wheel only what they show: its record is long."""
    sides = "wheel__specification"
    return (
        jobs.select_related("wheel", "wheel__bike", "wheel__bike__customer", "assigned_to", "hook")
        .defer("wheel__specification", "wheel__uncertainty_mm")
        .annotate(
            spokes_right=F(f"{sides}__right__count"),
            spokes_left=F(f"{sides}__left__count"),
            crossings=F(f"{sides}__right__crossings"),
        )
    )


def handed_back_lately(shop_id: UUID, most: int) -> list[Job]:
    found = Job.objects.filter(shop_id=shop_id, handed_back_at__isnull=False)
    return list(for_rail(found).order_by("-handed_back_at")[:most])


@atomic
def wait_for_parts(user: User, job_id: UUID, what: str) -> None:
    """The job waits for parts from now on, unless it waits for somebody already."""
    job = find_job(user, job_id, lock=True)
    if not job.waiting_on:
        wait(job, user, Job.WaitingOn.PARTS, timezone.now())
    log(job, user, "parts", say("waits for {what}", what=what))


@atomic
def parts_are_there(user: User, job_id: UUID) -> None:
    """All parts that the job waited for have come."""
    job = find_job(user, job_id, lock=True)
    if job.waiting_on == Job.WaitingOn.PARTS:
        wait(job, user, Job.WaitingOn.NOTHING, timezone.now())
        log(job, user, "parts", say("all parts are there"))


def job_numbers(user: User, job_ids: set[str]) -> dict[str, int]:
    """What jobs are called in the shop, by id."""
    return {
        str(pk): number for pk, number in Job.objects.filter(shop_id=user.shop_id, pk__in=job_ids).values_list("pk", "number")
    }
