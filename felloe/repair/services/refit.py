"""The refit: its checklist for this bike, what was found at each step, and the first re-check."""

from __future__ import annotations

from datetime import date, timedelta
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.refit.checklist import BikeFacts, Step, recheck_after, refit_steps
from felloe.core.said import say
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair import answers
from felloe.repair.models import RefitAnswer
from felloe.repair.services.agreed import newest_decision
from felloe.wheels.models import Wheel


def _facts(job: Job) -> BikeFacts:
    bike = job.wheel.bike
    return BikeFacts(
        brake=bike.brake,
        rear=job.wheel.position == Wheel.Position.REAR,
        dropout=bike.dropout,
        axle=bike.axle,
        axle_torque_nm=bike.axle_torque_nm,
        tyre=bike.tyre,
        directional=bike.directional,
        hub_gear=job.wheel.kind.startswith("hub-gear"),
        with_bike=job.with_bike,
    )


def _answers(job: Job) -> dict[str, RefitAnswer]:
    """The newest answer of each step; what was found before the job was taken up again says nothing of today."""
    rows = RefitAnswer.objects.filter(job=job).select_related("created_by").order_by("created_at")
    again = queue.reopened_at(job)
    if again is not None:
        rows = rows.filter(created_at__gt=again)
    return {row.step: row for row in rows}


def refit_of(user: User, job_id: UUID) -> answers.Refit:
    """The checklist with what was found, and the re-check proposed."""
    job = queue.find_job(user, job_id)
    given = _answers(job)
    decision = newest_decision(job)
    new_spokes = decision is not None and bool(set(decision.chosen) & {"replace", "rebuild_side", "rebuild", "new_rim"})
    recheck = recheck_after(job.wheel.bike.use, new_spokes, temporary=False)
    return answers.Refit(
        steps=[
            answers.RefitStep(
                key=step.key,
                text=step.text,
                must=step.must,
                result=given[step.key].result if step.key in given else None,
                note=given[step.key].note if step.key in given else "",
                by=_name(given.get(step.key)),
            )
            for step in refit_steps(_facts(job))
        ],
        recheck_proposed_on=timezone.now().date() + timedelta(days=recheck.days),
        recheck_why=recheck.why,
        recheck_on=job.recheck_on,
    )


def _name(answer: RefitAnswer | None) -> str:
    return answer.created_by.display_name if answer is not None and answer.created_by else ""


@atomic
def answer_step(user: User, job_id: UUID, step: str, result: str, note: str) -> None:
    """Note a step as right, or not right with a word what is wrong."""
    job = queue.open_for_work(user, job_id)
    known = {s.key for s in refit_steps(_facts(job))}
    if step not in known:
        raise Refused("unknown_step", say("This step is not on the list of this bike."), 422)
    if result == RefitAnswer.Result.WRONG and not note.strip():
        errors = [{"field": "note", "message": say("say what is not right"), "code": "reason_needed"}]
        raise Refused("reason_needed", say("Say what is not right."), 422, errors=errors)
    RefitAnswer.objects.create(shop_id=job.shop_id, job=job, step=step, result=result, note=note.strip(), created_by=user)


@atomic
def set_recheck(user: User, job_id: UUID, on: date) -> None:
    """The day of the first re-check; never in the past."""
    job = queue.find_job(user, job_id, lock=True)
    if on < timezone.now().date():
        errors = [{"field": "on", "message": say("this day has passed"), "code": "past_day"}]
        raise Refused("past_day", say("This day has passed."), 422, errors=errors)
    job.recheck_on = on
    job.save_change(user, ["recheck_on"])
    queue.log(job, user, "recheck", say("Look again on {on}", on=on.isoformat()))


def steps_open(job: Job) -> list[Step]:
    """Steps that must be right and are not answered yet."""
    answers = _answers(job)
    return [step for step in refit_steps(_facts(job)) if step.must and step.key not in answers]


def steps_not_right(job: Job) -> list[Step]:
    """Steps that the wheel must not leave with: found not right, and not right since."""
    answers = _answers(job)
    steps = refit_steps(_facts(job))
    return [s for s in steps if s.must and s.key in answers and answers[s.key].result == RefitAnswer.Result.WRONG]
