"""What is known of the work of many jobs at once, in a fixed number of questions to the database."""

from __future__ import annotations

from collections import Counter
from uuid import UUID

from django.db.models import Count, Q

from felloe.bench.models import Plan, PlanMove, ReadingSet
from felloe.condition.models import ConditionMark
from felloe.core.diagnosis.condition import REPLACED_FOR, STUCK
from felloe.core.promise.work import JobFacts
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.repair.services.agreed import standing_of
from felloe.wheels.services import spokes_of


def facts_of(jobs: list[Job]) -> dict[UUID, JobFacts]:
    """The core's facts of each job, by id."""
    ids = [job.pk for job in jobs]
    agreed: dict[UUID, tuple[str, ...]] = {}
    for job_id, word in standing_of(jobs).items():
        agreed[job_id] = tuple(word.chosen) if word.outcome == Decision.Outcome.APPROVED else ()
    wheels = [job.wheel_id for job in jobs]
    marks = ConditionMark.objects.filter(wheel__in=wheels, ending=None).values_list("wheel_id", "kind")
    to_replace = Counter(wheel for wheel, kind in marks if kind in REPLACED_FOR)
    stuck = Counter(wheel for wheel, kind in marks if kind in STUCK)
    plans = Plan.objects.filter(reading_set__job__in=ids).order_by("reading_set__job_id", "-created_at")
    newest_plans = plans.distinct("reading_set__job_id").values("pk")
    moves = dict(
        Plan.objects.filter(pk__in=newest_plans)
        .annotate(left=Count("moves", filter=Q(moves__state=PlanMove.State.TODO)))
        .values_list("reading_set__job_id", "left")
    )
    read = ReadingSet.objects.filter(job__in=ids, spread_percent__isnull=False).order_by("job_id", "-number")
    spreads = dict(read.distinct("job_id").values_list("job_id", "spread_percent"))
    return {
        job.pk: JobFacts(
            stage=job.stage,
            tier=job.tolerance,
            spokes=_spokes(job),
            rear=job.wheel.position == "rear",
            agreed=agreed.get(job.pk),
            to_replace=to_replace[job.wheel_id],
            stuck=stuck[job.wheel_id],
            spread_percent=spreads.get(job.pk),
            plan_moves=moves.get(job.pk),
        )
        for job in jobs
    }


def _spokes(job: Job) -> int:
    """As the rail's rows carry it, else from the wheel's own record."""
    right, left = getattr(job, "spokes_right", None), getattr(job, "spokes_left", None)
    return right + left if right is not None and left is not None else spokes_of(job.wheel.specification)
