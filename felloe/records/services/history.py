"""A wheel's history: its jobs with what was read, done and fitted, how it stood each time, and what became of it since."""

from __future__ import annotations

from collections import defaultdict
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench.models import LearntRim, Plan, PlanMove, Reading, ReadingSet
from felloe.bench.services.plans import is_as_left, latest_sets
from felloe.bench.services.states import kept_estimate, own_readings
from felloe.condition.models import Finding, SpokeBreak
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.causes import CAUSES
from felloe.core.diagnosis.comeback import CANNOT_TELL, came_back
from felloe.core.diagnosis.comeback_words import ACCOUNTS, LOOK, WHOSE, happened, sureness
from felloe.core.endings import ENDS
from felloe.core.errors import TradeError
from felloe.core.said import joined, say, say_count
from felloe.core.truing.sign_off import figures_of
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.records import answers
from felloe.records.models import SignOff
from felloe.stock.models import Movement
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel

#: The event of a visit that was another shop's: what became of its work is not this shop's to own.
TAKEN_IN = "taken_in"
#: Of so many sets the figures are worked out, the newest; the jobs are all listed.
MOST_FIGURED = 24
#: With fewer tensions and runouts than this no comparison is made.
FEWEST_READINGS = 8


def left_before(job: Job) -> ReadingSet | None:
    """The readings with which the wheel left the last time before this job: taken as left, and nothing turned after."""
    sets = (
        ReadingSet.objects.filter(
            job__wheel=job.wheel_id,
            job__handed_back_at__lte=job.created_at,
            stage=ReadingSet.Stage.AS_LEFT,
            readings__isnull=False,
        )
        .exclude(job=job)
        .select_related("job", "job__wheel", "job__wheel__bike", "created_by")
        .order_by("-job__handed_back_at", "-number")
        .distinct()
    )
    newest = sets.first()
    # An older one would compare across work that nobody measured.
    return newest if newest is not None and is_as_left(newest.job, newest) and _last_job(job) == newest.job_id else None


def _last_job(job: Job) -> UUID | None:
    earlier = Job.objects.filter(wheel=job.wheel_id, handed_back_at__lte=job.created_at).exclude(pk=job.pk)
    return earlier.order_by("-handed_back_at").values_list("pk", flat=True).first()


def comeback_of(user: User, job_id: UUID) -> answers.Comeback:
    """Today's first readings against those with which the wheel left; `kind` is empty where there is nothing to compare."""
    job = queue.find_job(user, job_id)
    left = left_before(job)
    if left is None or left.job.handed_back_at is None:
        return answers.Comeback()
    found, _ = latest_sets(user, job.pk)
    days = (job.created_at - left.job.handed_back_at).days
    answer = answers.Comeback(left_set=left.pk, left_job=left.job_id, left_number=left.job.number, days=days)
    if found is None or found.stage != ReadingSet.Stage.AS_FOUND:
        return answer
    now = own_readings(found)
    if min(len(now.tension), len(now.lateral)) < FEWEST_READINGS:
        return answer
    try:
        seen = came_back(kept_estimate(left)[0], now)
    except TradeError:
        # It is laced otherwise now than it was then.
        return answer
    whose = CANNOT_TELL if left.job.events.filter(kind=TAKEN_IN).exists() else seen.whose
    return answers.Comeback(
        left_set=left.pk,
        left_job=left.job_id,
        left_number=left.job.number,
        days=days,
        now_set=found.pk,
        kind=seen.kind,
        whose=whose,
        sure=seen.sure,
        happened=happened(seen),
        proposed=WHOSE[whose],
        sureness=sureness(seen),
        look=LOOK[seen.kind],
        spokes=list(seen.spokes),
        accounts=[
            answers.ComebackAccount(kind=account.kind, said=ACCOUNTS[account.kind], share=round(account.share, 3))
            for account in seen.accounts
        ],
    )


def history_of(user: User, wheel_id: UUID) -> answers.WheelHistory:
    """Everything the shop knows of a wheel, newest job first; 404 for another shop's."""
    wheel = wheels.find_wheel(user, wheel_id)
    jobs = list(Job.objects.filter(wheel=wheel).select_related("created_by").order_by("-number"))
    sets = _sets(wheel)
    found = {row.job_id: row.cause for row in Finding.objects.filter(job__in=jobs, mended=False).order_by("created_at")}
    signed = {
        row.job_id: row for row in SignOff.objects.filter(job__in=jobs).select_related("created_by").order_by("created_at")
    }
    parts = _parts(jobs)
    turned: dict[UUID, int] = defaultdict(int)
    for job_id in PlanMove.objects.filter(plan__reading_set__job__in=jobs, state__in=["done", "changed"]).values_list(
        "plan__reading_set__job", flat=True
    ):
        turned[job_id] += 1
    return answers.WheelHistory(
        wheel_id=wheel.pk,
        bike=wheel.bike.label,
        customer=wheel.bike.customer.name,
        customer_id=wheel.bike.customer_id,
        position=wheel.position,
        spokes=wheels.spokes_of(wheel.specification),
        jobs=[
            answers.PastJob(
                id=job.pk,
                number=job.number,
                opened_at=job.created_at,
                left_at=job.handed_back_at,
                ended=ENDS[job.ended_as] if job.handed_back_at and job.ended_as in ENDS else "",
                complaint=job.complaint,
                cause=CAUSES[found[job.pk]].name if job.pk in found else "",
                turned=turned[job.pk],
                signed_by=_signer(signed.get(job.pk)),
                parts=parts.get(job.pk, []),
                sets=sets.get(job.pk, []),
            )
            for job in jobs
        ],
        breaks=[
            answers.PastBreak(spoke=row.spoke, place=PLACES[row.place], noticed_on=row.noticed_on, number=row.job.number)
            for row in SpokeBreak.objects.filter(wheel=wheel, ending=None).select_related("job").order_by("-noticed_on")
        ],
        learnt=_learnt(wheel),
    )


def _signer(row: SignOff | None) -> str:
    return row.created_by.display_name if row is not None and row.created_by is not None else ""


def _sets(wheel: Wheel) -> dict[UUID, list[answers.PastSet]]:
    """By job, the newest set first; the figures of the newest MOST_FIGURED."""
    filled = Reading.objects.filter(reading_set__job__wheel=wheel, withdrawn=False).values("reading_set")
    rows = list(
        ReadingSet.objects.filter(pk__in=filled)
        .select_related("job", "job__wheel", "job__wheel__bike", "created_by")
        .order_by("-created_at", "-number")
    )
    plans: dict[UUID, Plan] = {}
    for plan in Plan.objects.filter(reading_set__in=rows, moves__state__in=["done", "changed"]).order_by("created_at"):
        plans[plan.reading_set_id] = plan
    by_number = {(row.job_id, row.number): row for row in rows}
    found: dict[UUID, list[answers.PastSet]] = defaultdict(list)
    for place, row in enumerate(rows):
        worked = by_number.get((row.job_id, row.number - 1))
        before = plans.get(worked.pk) if worked is not None else None
        found[row.job_id].append(
            answers.PastSet(
                id=row.pk,
                number=row.number,
                stage=row.stage,
                taken_at=row.created_at,
                by=row.created_by.display_name if row.created_by else "",
                figures=_figures(row) if place < MOST_FIGURED else None,
                foreseen_lateral_mm=before.predicted["lateral_tir_mm"] if before else None,
                foreseen_radial_mm=before.predicted["radial_tir_mm"] if before else None,
            )
        )
    return found


def _figures(row: ReadingSet) -> answers.PastFigures | None:
    try:
        state, own = kept_estimate(row)
    except TradeError:
        # Read on a wheel that was specified otherwise since.
        return None
    figures = figures_of(state)
    tension = bool(own.tension)
    return answers.PastFigures(
        lateral_tir_mm=round(figures.lateral_tir_mm, 3),
        radial_tir_mm=round(figures.radial_tir_mm, 3),
        dish_mm=round(figures.dish_mm, 3),
        right_mean_n=round(figures.right_mean_n, 1) if tension else None,
        left_mean_n=round(figures.left_mean_n, 1) if tension else None,
        spread_percent=round(figures.worst_spread_percent, 1) if tension else None,
    )


def _parts(jobs: list[Job]) -> dict[UUID, list[str]]:
    """What each job took from the bins, net of what was put back."""
    net: dict[tuple[UUID, str], int] = defaultdict(int)
    rows = Movement.objects.filter(job__in=jobs, kind__in=["take", "return"]).select_related("part").order_by("created_at")
    for row in rows:
        if row.job_id is not None:
            net[row.job_id, row.part.name] -= row.delta
    found: dict[UUID, list[str]] = defaultdict(list)
    for (job_id, name), count in net.items():
        if count > 0:
            found[job_id].append(say("{count} × {name}", count=count, name=name))
    return found


def _learnt(wheel: Wheel) -> str:
    rows = LearntRim.objects.filter(wheel=wheel, wheel_version=wheel.version).order_by("-created_at")
    newest = rows.first()
    if newest is None:
        return ""
    parts = [
        say("{what} {percent:+.0f} %", what=what, percent=100 * (factor - 1))
        for what, factor in (
            (say("sideways"), newest.ei_lat),
            (say("in its plane"), newest.ei_rad),
            (say("in twist"), newest.gj),
        )
    ]
    passes = say_count("{count} pass", "{count} passes", rows.count())
    return say("This rim, learnt from {passes}, against its class: {parts}.", passes=passes, parts=joined(", ", parts))
