"""Sign-off and handing back."""

from __future__ import annotations

from dataclasses import asdict
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused, StaleWrite
from felloe.bench.models import ReadingSet
from felloe.bench.services import plans as bench_plans
from felloe.bench.services.states import check_values, kept_estimate, trace_values
from felloe.core.hand_back import check_reason
from felloe.core.said import joined, say
from felloe.core.terms import term
from felloe.core.truing.sign_off import SignOffCheck, check_sign_off
from felloe.places.here import atomic
from felloe.promises import services as promises
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.tolerances import held_fields
from felloe.records import answers
from felloe.records.models import SignOff
from felloe.records.services import leaving
from felloe.stock import services as stock


def _check(user: User, job: Job) -> tuple[SignOffCheck, ReadingSet | None, ReadingSet, answers.Traces]:
    """The sign-off check of a job; refused where nothing was measured after the work."""
    found, left = bench_plans.latest_sets(user, job.pk)
    if left is None:
        raise Refused("nothing_measured", say("Nothing has been measured on this job yet: take the readings as left."), 422)
    left_state, left_readings = kept_estimate(left)
    found_state = None
    if found is not None and found.pk != left.pk:
        found_state, _ = kept_estimate(found)
    rim_brake = job.wheel.bike.brake == "rim"
    check = check_sign_off(job.tolerance, found_state, left_state, left_readings, rim_brake, bench_plans.is_as_left(job, left))
    traces = answers.Traces(
        as_found=trace_values(found_state.figures) if found_state else None, as_left=trace_values(left_state.figures)
    )
    return check, (found if found_state else None), left, traces


def comparison(user: User, job_id: UUID) -> answers.Comparison:
    """As found against as left against the tier, and what a sign-off would have to say."""
    job = queue.find_job(user, job_id)
    check, found, left, traces = _check(user, job)
    newest = SignOff.objects.filter(job=job).select_related("created_by").order_by("-created_at").first()
    return answers.Comparison(
        tier=job.tier,
        as_found_set=found.pk if found else None,
        as_left_set=left.pk,
        as_left_stage=left.stage,
        as_found=check.as_found,
        as_left=check.as_left,
        traces=traces,
        checks=[check_values(item, check.not_measured) for item in check.checks],
        short_of=list(check.short_of),
        needs_reason=check.needs_reason,
        roadworthy=check.roadworthy,
        roadworthy_limit_mm=check.roadworthy_limit_mm,
        signed_off=newest,
        handed_back_at=job.handed_back_at,
    )


@atomic
def sign_off(user: User, job_id: UUID, version: int, reason: str) -> SignOff:
    """Sign off as left; refused without a written reason where the wheel falls short of what was agreed."""
    job = queue.open_for_work(user, job_id)
    if job.version != version:
        raise StaleWrite({"version": version, "reason": reason}, queue.job_summary(job))
    check, found, left, _ = _check(user, job)
    if check.needs_reason and not reason.strip():
        what = joined(", ", map(term, check.short_of)) or say("the runout of a roadworthy wheel")
        raise Refused(
            "reason_needed",
            say("The wheel falls short in {what}: write down why it leaves like this.", what=what),
            422,
            errors=[{"field": "reason", "message": say("falls short in {what}: say why", what=what), "code": "reason_needed"}],
        )
    if check.needs_reason:
        check_reason(reason, "reason")
    made = SignOff.objects.create(
        shop_id=user.shop_id,
        job=job,
        as_found=found,
        as_left=left,
        **held_fields(job.tolerance),
        figures={"as_found": asdict(check.as_found) if check.as_found else None, "as_left": asdict(check.as_left)},
        short_of=list(check.short_of),
        roadworthy=check.roadworthy,
        reason=reason.strip(),
        created_by=user,
    )
    queue.log(job, user, "signed_off", reason.strip() or say("inside {tier}", tier=job.tolerance.said))
    return made


@atomic
def hand_back(user: User, job_id: UUID, version: int, note: str) -> Job:
    """Give the wheel back: only after a sign-off made since the last reading, and as ready only when it is safe.

    Where a condition is missing (core.hand_back) it leaves by the word of who may let it go, with the reason in `note`.
    """
    stock.lock_for_closing(user, job_id)
    job = queue.open_for_work(user, job_id)
    if job.version != version:
        raise StaleWrite({"version": version, "note": note}, queue.job_summary(job))
    newest = SignOff.objects.filter(job=job).order_by("-created_at").first()
    if newest is None:
        raise Refused("not_signed_off", say("Sign the wheel off first."), 409)
    last = newest.as_left.readings.order_by("-created_at").first()
    _, left = bench_plans.latest_sets(user, job.pk)
    if left is None or left.pk != newest.as_left_id or (last is not None and last.created_at > newest.created_at):
        raise Refused("sign_off_outdated", say("Readings were taken after the sign-off: sign off again."), 409)
    if newest.tolerance != job.tolerance:
        raise Refused("sign_off_outdated", say("The tier was changed after the sign-off: sign off again."), 409)
    again = queue.reopened_at(job)
    if again is not None and newest.created_at < again:
        raise Refused(
            "sign_off_outdated", say("The job was taken up again after the sign-off: measure and sign off again."), 409
        )
    if bench_plans.turned_since(job, newest.created_at):
        raise Refused("sign_off_outdated", say("Nipples were turned after the sign-off: measure and sign off again."), 409)
    said, left_with = leaving.let_go(user, job, note)
    # What the sign-off's reason answers for is missing as well.
    if not left_with and (newest.short_of or not newest.roadworthy):
        left_with = Job.LeftWith.SHORT
    stock.release_claims(user, job)
    queue.close_job(job, user, timezone.now(), said, left_with=left_with)
    promises.stage_left(user, job)
    return job
