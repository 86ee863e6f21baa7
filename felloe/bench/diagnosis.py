"""The diagnosis of a job: answers as they are given, causes as the core ranks them, what was concluded."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db import transaction

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import CheckAnswer, Finding
from felloe.core.diagnosis.causes import CAUSES, COMPLAINTS
from felloe.core.diagnosis.checks import CHECKS, Check
from felloe.core.diagnosis.inference import DONT_KNOW, Diagnosis, UnknownAnswer, diagnose, expected_gain_bit
from felloe.queue import services as queue
from felloe.queue.models import Job

#: So many causes are shown, the likeliest first.
SHOWN_CAUSES = 8


def current_answers(job: Job) -> dict[str, CheckAnswer]:
    """The newest answer of each check, in the order in which the checks were first answered."""
    found: dict[str, CheckAnswer] = {}
    for row in CheckAnswer.objects.filter(job=job).select_related("created_by").order_by("created_at"):
        found[row.check_key] = row
    return found


def _diagnosed(job: Job, answers: dict[str, CheckAnswer]) -> Diagnosis:
    return diagnose(tuple(job.complaint_tags), {key: row.answer for key, row in answers.items()})


def diagnosis_of(user: User, job_id: UUID) -> dict[str, Any]:
    """Everything the checks screen shows."""
    job = queue.find_job(user, job_id)
    answers = current_answers(job)
    found = _diagnosed(job, answers)
    shares = {ranked.key: ranked.share for ranked in found.causes}
    open_checks = [check for key, check in CHECKS.items() if key not in answers]
    return {
        "complaints": [COMPLAINTS[tag] for tag in job.complaint_tags],
        "answers": [_answer_values(row) for row in answers.values()],
        "causes": [
            {
                "key": ranked.key,
                "name": CAUSES[ranked.key].name,
                "remedy": CAUSES[ranked.key].remedy,
                "unsafe": CAUSES[ranked.key].unsafe,
                "wheel_fault": CAUSES[ranked.key].wheel_fault,
                "share": round(ranked.share, 4),
                "speaks_for": [_said(key, answers) for key in ranked.speaks_for],
                "speaks_against": [_said(key, answers) for key in ranked.speaks_against],
            }
            for ranked in found.causes[:SHOWN_CAUSES]
        ],
        "next_check": _check_values(CHECKS[found.next_check.key], found.next_check.gain_bit) if found.next_check else None,
        "other_checks": sorted(
            (_check_values(check, expected_gain_bit(shares, check)) for check in open_checks),
            key=lambda value: -float(value["gain_bit"]),
        ),
        "clear": found.clear,
        "why": found.why,
        "unsafe": [CAUSES[key].name for key in found.unsafe],
        "finding": Finding.objects.filter(job=job).select_related("created_by").order_by("-created_at").first(),
    }


def _said(key: str, answers: dict[str, CheckAnswer]) -> str:
    return f"{CHECKS[key].question} {CHECKS[key].answers[answers[key].answer].capitalize()}."


def _answer_values(row: CheckAnswer) -> dict[str, Any]:
    check = CHECKS[row.check_key]
    text = "don't know" if row.answer == DONT_KNOW else check.answers[row.answer]
    by = row.created_by.display_name if row.created_by else ""
    return {**_check_values(check, 0.0), "answer": row.answer, "answer_text": text, "by": by}


def _check_values(check: Check, gain_bit: float) -> dict[str, Any]:
    return {
        "key": check.key,
        "question": check.question,
        "where": check.where,
        "minutes": check.minutes,
        "gain_bit": round(gain_bit, 3),
        "answers": [{"key": key, "text": text} for key, text in check.answers.items()],
    }


@transaction.atomic
def answer_check(user: User, job_id: UUID, check: str, answer: str) -> None:
    """Note an answer; the core refuses a check or an answer that it does not know."""
    job = queue.find_job(user, job_id, lock=True)
    if job.handed_back_at is not None:
        raise Refused("job_done", "This wheel has been handed back; open a new job for it.", 409)
    diagnose((), {check: answer})
    CheckAnswer.objects.create(shop_id=job.shop_id, job=job, check_key=check, answer=answer, created_by=user)


@transaction.atomic
def conclude(user: User, job_id: UUID, cause: str, reason: str) -> Finding:
    """Note the cause. Any other than the likeliest overrules the reckoning and needs a word why."""
    job = queue.find_job(user, job_id, lock=True)
    if job.handed_back_at is not None:
        raise Refused("job_done", "This wheel has been handed back; open a new job for it.", 409)
    if cause not in CAUSES:
        raise UnknownAnswer(f"“{cause[:40]}” is no cause of the list", "cause")
    found = _diagnosed(job, current_answers(job))
    overruled = cause != found.causes[0].key
    if overruled and not reason.strip():
        raise Refused(
            "reason_needed",
            "This is not the likeliest cause: say why in a few words.",
            422,
            errors=[{"field": "reason", "message": "say why in a few words", "code": "reason_needed"}],
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
    queue.log(job, user, "found", f"{CAUSES[cause].name}. {reason.strip()}".strip())
    return made
