"""The diagnosis of a job: answers as they are given, causes as the core ranks them, what was concluded."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.condition import answers
from felloe.condition import services as condition
from felloe.condition.models import CheckAnswer, Finding
from felloe.core.diagnosis.causes import CAUSES, COMPLAINTS
from felloe.core.diagnosis.checks import CHECKS, Check
from felloe.core.diagnosis.history import WheelFacts, asked_of, said_by
from felloe.core.diagnosis.inference import DONT_KNOW, Diagnosis, UnknownAnswer, diagnose, expected_gain_bit
from felloe.core.said import joined, say, sentence
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel

#: So many causes are shown, the likeliest first.
SHOWN_CAUSES = 8


def current_answers(job: Job) -> dict[str, CheckAnswer]:
    """The newest answer of each check, in the order in which the checks were first answered."""
    found: dict[str, CheckAnswer] = {}
    for row in CheckAnswer.objects.filter(job=job).select_related("created_by").order_by("created_at"):
        found[row.check_key] = row
    return found


def _diagnosed(job: Job, answers: dict[str, CheckAnswer]) -> Diagnosis:
    return diagnose(tuple(job.complaint_tags), {key: row.answer for key, row in answers.items()}, facts_of(job.wheel, job))


def facts_of(wheel: Wheel, job: Job | None = None) -> WheelFacts:
    """What a wheel and its history say before the first check; findings of `job` itself are not history."""
    earlier = Finding.objects.filter(job__wheel=wheel, mended=False)
    if job is not None:
        earlier = earlier.exclude(job=job)
    now = timezone.now()
    found = {row.cause: (now - row.created_at).days for row in earlier.order_by("created_at")}
    return WheelFacts(
        brake=wheel.bike.brake,
        front=wheel.position == Wheel.Position.FRONT,
        breaks=len(condition.breaks_of(wheel)),
        found_before=found,
        marks=tuple(mark.kind for mark in condition.standing_marks(wheel)),
        axle=wheel.bike.axle,
    )


def preview(user: User, values: dict[str, Any]) -> answers.CounterView:
    """At the counter, before there is a job: likely causes from the complaint, and whether the wheel may be ridden."""
    if values.get("wheel_id"):
        facts = facts_of(wheels.find_wheel(user, values["wheel_id"]))
    else:
        facts = WheelFacts(values.get("brake", ""), values.get("position") == "front")
    found = diagnose(tuple(values.get("complaint_tags", ())), {}, facts)
    return answers.CounterView(
        causes=[
            answers.LikelyCause(key=r.key, name=CAUSES[r.key].name, share=round(r.share, 4), unsafe=CAUSES[r.key].unsafe)
            for r in found.causes[:4]
        ],
        history=list(said_by(facts)),
        unsafe=[CAUSES[key].name for key in found.unsafe],
    )


def diagnosis_of(user: User, job_id: UUID) -> answers.Diagnosis:
    """Everything the checks screen shows."""
    job = queue.find_job(user, job_id)
    given = current_answers(job)
    found = _diagnosed(job, given)
    shares = {ranked.key: ranked.share for ranked in found.causes}
    facts = facts_of(job.wheel, job)
    open_checks = [check for key, check in CHECKS.items() if key not in given and asked_of(facts, key)]
    return answers.Diagnosis(
        complaints=[COMPLAINTS[tag] for tag in job.complaint_tags],
        history=list(said_by(facts)),
        answers=[_answer_values(row) for row in given.values()],
        causes=[
            answers.RankedCause(
                key=ranked.key,
                name=CAUSES[ranked.key].name,
                remedy=CAUSES[ranked.key].remedy,
                unsafe=CAUSES[ranked.key].unsafe,
                wheel_fault=CAUSES[ranked.key].wheel_fault,
                share=round(ranked.share, 4),
                speaks_for=[_said(key, given) for key in ranked.speaks_for],
                speaks_against=[_said(key, given) for key in ranked.speaks_against],
            )
            for ranked in found.causes[:SHOWN_CAUSES]
        ],
        next_check=_check_values(CHECKS[found.next_check.key], found.next_check.gain_bit) if found.next_check else None,
        other_checks=sorted(
            (_check_values(check, expected_gain_bit(shares, check)) for check in open_checks),
            key=lambda value: -value.gain_bit,
        ),
        clear=found.clear,
        why=found.why,
        unsafe=[CAUSES[key].name for key in found.unsafe],
        finding=Finding.objects.filter(job=job).select_related("created_by").order_by("-created_at").first(),
    )


def _said(key: str, given: dict[str, CheckAnswer]) -> str:
    return joined(" ", [CHECKS[key].question, sentence(CHECKS[key].answers[given[key].answer])])


def _answer_values(row: CheckAnswer) -> answers.GivenAnswer:
    check = CHECKS[row.check_key]
    text = say("don't know") if row.answer == DONT_KNOW else check.answers[row.answer]
    by = row.created_by.display_name if row.created_by else ""
    return answers.GivenAnswer(**asdict(_check_values(check, 0.0)), answer=row.answer, answer_text=text, by=by)


def _check_values(check: Check, gain_bit: float) -> answers.DiagnosisCheck:
    return answers.DiagnosisCheck(
        key=check.key,
        question=check.question,
        where=check.where,
        minutes=check.minutes,
        gain_bit=round(gain_bit, 3),
        answers=[answers.AnswerChoice(key=key, text=text) for key, text in check.answers.items()],
    )


@atomic
def answer_check(user: User, job_id: UUID, check: str, answer: str) -> None:
    """Note an answer; the core refuses a check or an answer that it does not know."""
    job = queue.open_for_work(user, job_id)
    diagnose((), {check: answer})
    CheckAnswer.objects.create(shop_id=job.shop_id, job=job, check_key=check, answer=answer, created_by=user)


@atomic
def conclude(user: User, job_id: UUID, cause: str, reason: str) -> Finding:
    """Note the cause. Any other than the likeliest overrules the reckoning and needs a word why."""
    job = queue.open_for_work(user, job_id)
    if cause not in CAUSES:
        raise UnknownAnswer(say("“{cause}” is no cause of the list", cause=cause[:40]), "cause")
    found = _diagnosed(job, current_answers(job))
    overruled = cause != found.causes[0].key
    if overruled and not reason.strip():
        raise Refused(
            "reason_needed",
            say("This is not the likeliest cause: say why in a few words."),
            422,
            errors=[{"field": "reason", "message": say("say why in a few words"), "code": "reason_needed"}],
        )
    share = next(ranked.share for ranked in found.causes if ranked.key == cause)
    made = Finding.objects.create(
        shop_id=job.shop_id,
        job=job,
        cause=cause,
        share=share,
        overruled=overruled,
        reason=reason.strip(),
        created_by=user,
    )
    queue.log(job, user, "found", joined(" ", [sentence(CAUSES[cause].name), reason.strip()]))
    return made


def newest_finding(job: Job) -> Finding | None:
    """The newest finding, put right or not."""
    return Finding.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()


def current_finding(job: Job) -> Finding | None:
    """The cause that stands: the newest finding, None where it was put right since or nothing was found."""
    newest = newest_finding(job)
    return None if newest is None or newest.mended else newest


@atomic
def mend_finding(user: User, job_id: UUID, how: str) -> None:
    """Say that the cause was put right, and how: it no longer forbids riding."""
    job = queue.open_for_work(user, job_id)
    standing = current_finding(job)
    if standing is None:
        raise Refused("nothing_found", say("No cause stands that could be put right."), 409)
    if not how.strip():
        raise Refused(
            "reason_needed",
            say("Say in a few words what was done."),
            422,
            errors=[{"field": "note", "message": say("say in a few words what was done"), "code": "reason_needed"}],
        )
    Finding.objects.create(
        shop_id=job.shop_id,
        job=job,
        cause=standing.cause,
        share=standing.share,
        mended=True,
        reason=how.strip(),
        created_by=user,
    )
    queue.log(job, user, "mended", joined(": ", [CAUSES[standing.cause].name, how.strip()]))
