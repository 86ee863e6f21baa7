"""What a stage took beside its estimate, and what the shop's finished jobs teach."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from datetime import datetime

from django.db.models import Q

from felloe.accounts.models import Shop, User
from felloe.bench.services.readings import spread_of
from felloe.calendar import services as calendar
from felloe.condition.models import ConditionMark, Ending
from felloe.core.diagnosis.condition import REPLACED_FOR
from felloe.core.promise.clock import Believed, believed
from felloe.core.promise.hours import Calendar
from felloe.core.promise.work import BENCH_STEPS, steps_ahead, together, usual_step
from felloe.promises.services.facts import facts_of
from felloe.queue.models import Job, StageTime, WorkSpan
from felloe.queue.services.pace import paces_of

#: A clock that ran for less was begun by the very step that ended it.
SHORTEST_MIN = 1.0


def shifts_of(spans: Iterable[WorkSpan], shop: Shop, now: datetime) -> dict[str, Calendar]:
    """The shifts of all who worked, for `believe`; absences of the time since the first of it included."""
    spans = list(spans)
    people = list({span.person_id: span.person for span in spans}.values())
    since = min((span.started_at for span in spans), default=now)
    return calendar.person_calendars(people, calendar.shop_calendar(shop, since), since)


def _ended(span: WorkSpan, now: datetime) -> datetime:
    return span.believed_at or span.ended_at or now


def believe(span: WorkSpan, high_min: float, hours: dict[str, Calendar], now: datetime) -> Believed:
    """What a span of work counts, by the person's shifts."""
    ended = _ended(span, now)
    last = ended if span.believed_at else span.last_deed_at
    return believed(span.started_at, last, ended, high_min, hours[str(span.person_id)])


def _replaced(job: Job) -> int:
    """Spokes that were to be replaced on this job, those that have been meanwhile among them."""
    mended = Q(ending__job=job, ending__how=Ending.How.MENDED)
    return ConditionMark.objects.filter(Q(ending=None) | mended, wheel=job.wheel, kind__in=REPLACED_FOR).count()


def note_stages(user: User, job: Job, now: datetime) -> None:
    """Keep what each stage took that is behind the job and has not been kept yet, however it was left."""
    kept = set(StageTime.objects.filter(job=job).values_list("stage", flat=True))
    worked = _worked(job, now)
    spans_by_stage = {
        stage: worked[stage] for stage in BENCH_STEPS if stage in worked and stage not in kept and stage != job.stage
    }
    if not spans_by_stage:
        return
    paces, _, _ = paces_of(job.shop_id)
    # As it was found: what the work has made even since was part of the work.
    found = spread_of(job, first=True)
    before = replace(facts_of([job])[job.pk], plan_moves=None, to_replace=_replaced(job), spread_percent=found)
    hours = shifts_of([span for spans in spans_by_stage.values() for span in spans], user.shop, now)
    for stage, spans in spans_by_stage.items():
        at_stage = replace(before, stage=stage)
        estimate = together([step for step in steps_ahead(at_stage, paces) if step.stage == stage])
        spent = [believe(span, max(estimate.high_min, 10.0), hours, now) for span in spans]
        taken = sum(one.minutes for one in spent)
        if taken < SHORTEST_MIN:
            continue
        StageTime.objects.create(
            shop_id=job.shop_id,
            job=job,
            stage=stage,
            tier=job.tier,
            taken_min=taken,
            usual_min=usual_step(at_stage, stage),
            estimated_min=estimate.middle_min,
            counts=not any(one.forgotten for one in spent) and not any(span.believed_at for span in spans),
            created_by=user,
        )


def _worked(job: Job, now: datetime) -> dict[str, list[WorkSpan]]:
    """What was worked at each stage, in order, where a clock ended and ran long enough: no more is believed than it ran."""
    found: dict[str, list[WorkSpan]] = {}
    for span in WorkSpan.objects.filter(job=job).select_related("person").order_by("started_at"):
        found.setdefault(span.stage, []).append(span)
    return {
        stage: spans
        for stage, spans in found.items()
        if any(span.ended_at for span in spans)
        and sum((_ended(span, now) - span.started_at).total_seconds() for span in spans) >= 60 * SHORTEST_MIN
    }
