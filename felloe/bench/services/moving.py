"""Stages follow the work: what the bench has finished moves the job on by itself, one stage, said and undone with one tap.

Only from the stage that was finished to the next: an unfinished stage is never passed in silence.
"""

from __future__ import annotations

from collections.abc import Callable

from django.utils import timezone

from felloe.accounts.models import User
from felloe.bench.models import Plan, PlanMove, ReadingSet
from felloe.core.mechanics.readings import Readings
from felloe.core.said import say
from felloe.core.truing.sign_off import not_measured
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels.services import spokes_of


def plan_done(user: User, plan: Plan) -> None:
    """The last nipple of a plan was noted, at the stage of truing."""
    job = plan.reading_set.job
    if job.stage == "true" and not plan.moves.filter(state=PlanMove.State.TODO).exists():
        _on(user, job, "true", say("the plan is worked through"))


def as_left_begun(user: User, job: Job, stage: str) -> None:
    """Reading as left is the end of settling."""
    if stage == ReadingSet.Stage.AS_LEFT and job.stage == "settle":
        _on(user, job, "settle", say("readings as left were begun"))


def plan_made(user: User, job: Job) -> None:
    """Another plan while the wheel settles, or after the readings as left: it is trued once more."""
    if job.stage in ("settle", "as_left"):
        locked = queue.find_job(user, job.pk, lock=True)
        queue.to_next(locked, user, "true", say("another plan was made"), timezone.now(), kind="stage_self")


def set_read(user: User, reading_set: ReadingSet, tensions: int, own: Callable[[], Readings]) -> None:
    """Every spoke's tension and all that a sign-off asks for was read, at the stage of reading it.

    `tensions`: how many stand; `own` loads all that was read.
    """
    job = reading_set.job
    if job.stage != reading_set.stage or job.stage not in (ReadingSet.Stage.AS_FOUND, ReadingSet.Stage.AS_LEFT):
        return
    spokes = spokes_of(job.wheel.specification)
    if tensions < spokes:
        return
    readings = own()
    if len({r.spoke for r in readings.tension}) >= spokes and not not_measured(readings):
        _on(user, job, job.stage, say("everything was read"))


def _on(user: User, job: Job, stage: str, why: str) -> None:
    locked = queue.find_job(user, job.pk, lock=True)
    if locked.stage == stage and locked.handed_back_at is None:
        queue.move_by_itself(locked, user, why, timezone.now())
