"""Whether a wheel may leave: the core's requirements, for one job."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.accounts.rights import may
from felloe.api.problems import Refused
from felloe.bench.services import plans as bench_plans
from felloe.bench.services.states import kept_estimate
from felloe.core.hand_back import AT_HAND_BACK, OWNER, Facts, Requirement, check_reason, missing, requirements
from felloe.core.said import joined, say
from felloe.core.truing.sign_off import check_sign_off
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.records.services.evidence import undone_of
from felloe.repair.models import Decision
from felloe.repair.services import decisions, refit
from felloe.repair.services.agreed import standing_decision


def requirements_of(user: User, job: Job) -> tuple[Requirement, ...]:
    """Every requirement of handing this job's wheel back, met or not."""
    _, left = bench_plans.latest_sets(user, job.pk)
    facts: dict[str, Any] = {}
    decision = standing_decision(job)
    if left is not None:
        state, readings = kept_estimate(left)
        check = check_sign_off(
            job.tolerance, None, state, readings, job.wheel.bike.brake == "rim", bench_plans.is_as_left(job, left)
        )
        facts = {
            "outside": [c.figure for c in check.checks if not c.met],
            "unmeasured": check.not_measured,
            "unsure": [unsure.said for unsure in check.unsure],
            "mean_share": check.mean_share,
            "mean_within": check.mean_within,
            "highest_n": float(state.tension_n.max()),
            "measured": check.as_left_read,
            "cap_n": state.wheel.rim.tension_cap_n,
        }
    open_steps, wrong = refit.steps_open(job), refit.steps_not_right(job)
    return requirements(
        Facts(
            decided=decision is not None,
            refused=decision is not None and decision.outcome == Decision.Outcome.REFUSED,
            undone=undone_of(job, decision, bool(facts.get("measured"))),
            known=left is not None,
            open_steps=len(open_steps),
            wrong_steps=[step.text for step in wrong],
            unsafe=decisions.unsafe_now(user, job),
            **facts,
        )
    )


def of_job(user: User, job_id: UUID) -> tuple[Requirement, ...]:
    """As `requirements_of`, by the job's key; none for a wheel that has left."""
    job = queue.find_job(user, job_id)
    return () if job.handed_back_at else requirements_of(user, job)


def let_go(user: User, job: Job, note: str) -> tuple[str, str]:
    """The note with which the wheel leaves, and what it leaves with (Job.LeftWith): as it is where nothing is missing, else
    with what is, said by who may.

    Raises Refused where this person may not let it go, or gives no reason.
    """
    absent = [requirement for requirement in missing(requirements_of(user, job)) if requirement.answered == AT_HAND_BACK]
    if not absent:
        return note.strip(), Job.LeftWith.NOTHING
    said = [joined(": ", [requirement.name, requirement.missing]) for requirement in absent]
    unsafe = any(requirement.key == "safe" for requirement in absent)
    if any(requirement.waived_by == OWNER for requirement in absent) and not may(user.role, "hand_back_unsafe"):
        raise Refused(
            "unsafe_wheel" if unsafe else "not_ready",
            say(
                "This wheel is not ready to leave. {missing} Only the owner can let it go, with a reason.",
                missing=joined(" ", said),
            ),
            409,
            missing=said,
        )
    if not may(user.role, "sign_off"):
        raise Refused(
            "not_ready",
            say(
                "This wheel is not ready to leave. {missing} A mechanic or the owner can let it go.", missing=joined(" ", said)
            ),
            409,
            missing=said,
        )
    reason = check_reason(note, "note")
    if unsafe:
        return say("NOT TO BE RIDDEN. {missing} {note}", missing=joined(" ", said), note=reason), Job.LeftWith.UNSAFE
    return say("Left with something missing. {missing} {note}", missing=joined(" ", said), note=reason), Job.LeftWith.SHORT
