"""Ends of a job other than a repair, reopening, and moving it on by what it has to show."""

from __future__ import annotations

from dataclasses import replace
from uuid import UUID

from django.core.exceptions import PermissionDenied
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.accounts.rights import may
from felloe.api.problems import StaleWrite
from felloe.condition.services import diagnosis
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.endings import COUNTER, OWNER, SKILLED, Ground, WayToEnd, way_named, ways_to_end
from felloe.core.hand_back import check_reason
from felloe.core.said import joined, say
from felloe.places.here import atomic
from felloe.promises import services as promises
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.records.services.evidence import stages_undone, worked_on
from felloe.repair.models import Decision
from felloe.repair.services import refit, unsafe
from felloe.repair.services.agreed import standing_decision
from felloe.stock import services as stock

#: The operation that stands for each kind of person who may end a job.
_RIGHTS = {COUNTER: "job_end", SKILLED: "sign_off", OWNER: "hand_back_unsafe"}


def ground_of(user: User, job: Job) -> Ground:
    """Everything that ends rest on."""
    # A cause that was put right is still what it was.
    finding = diagnosis.newest_finding(job)
    decision = standing_decision(job)
    ground = Ground(
        refused=decision is not None and decision.outcome == Decision.Outcome.REFUSED,
        warned=decision is not None and bool(decision.warning),
        worked=worked_on(job),
        unsafe=unsafe.reasons_of(user, job),
        open_steps=len(refit.steps_open(job)),
        quiet_days=queue.quiet_days(job, timezone.now()),
        unfetched_days=user.shop.unfetched_days,
    )
    if finding is None:
        return ground
    cause = CAUSES[finding.cause]
    return replace(ground, cause=cause.name, elsewhere=not cause.wheel_fault)


def ways_of(user: User, job_id: UUID) -> tuple[WayToEnd, ...]:
    """How this job can end without a repair; nothing for one that has ended."""
    job = queue.find_job(user, job_id)
    return () if job.handed_back_at else ways_to_end(ground_of(user, job))


@atomic
def end_job(user: User, job_id: UUID, version: int, end: str, reason: str) -> Job:
    """End a job without a repair. Raises CannotEnd where its state does not allow that, PermissionDenied for who may not."""
    stock.lock_for_closing(user, job_id)
    job = queue.open_for_work(user, job_id)
    if job.version != version:
        raise StaleWrite({"version": version, "end": end, "reason": reason}, queue.job_summary(job))
    way = way_named(ground_of(user, job), end)
    if not may(user.role, _RIGHTS[way.who]):
        who = say("Only the owner ends a job so.") if way.who == OWNER else say("A mechanic or the owner ends a job so.")
        raise PermissionDenied(who)
    why = check_reason(reason, "reason")
    label = [say("NOT TO BE RIDDEN.")] if way.not_to_ride else []
    left = Job.LeftWith.UNSAFE if way.not_to_ride else Job.LeftWith.NOTHING
    stock.release_claims(user, job)
    queue.close_job(job, user, timezone.now(), joined(" ", [*label, way.name + ".", way.words, why]), way.key, left)
    promises.stage_left(user, job)
    return job


def reopen(user: User, job_id: UUID, version: int, reason: str) -> Job:
    """Take an ended job up again."""
    return queue.reopen_job(user, job_id, version, reason, timezone.now())


@atomic
def move(user: User, job_id: UUID, version: int, to_stage: str, reason: str) -> Job:
    """Take a job to another stage; leaving one with nothing to show for it needs a reason."""
    job = queue.open_for_work(user, job_id)
    moved = queue.move_job(user, job_id, version, to_stage, reason, stages_undone(user, job))
    promises.stage_left(user, moved)
    return moved


@atomic
def set_rules(user: User, unfetched_days: int, reopen_days: int) -> Shop:
    """The shop's rules for ends; ranges are the database's own."""
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    shop.unfetched_days, shop.reopen_days = unfetched_days, reopen_days
    shop.save(update_fields=["unfetched_days", "reopen_days"])
    return shop
