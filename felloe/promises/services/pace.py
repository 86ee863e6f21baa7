"""What a stage took beside its estimate, and what the shop's finished jobs teach."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime

from felloe.accounts.models import Shop, User
from felloe.calendar import services as calendar
from felloe.core.promise.clock import Believed, believed
from felloe.core.promise.work import BENCH_STEPS, JobFacts, steps_ahead, together, usual_step
from felloe.promises.services.facts import facts_of
from felloe.queue import services as queue
from felloe.queue.models import Job, StageTime, WorkSpan
from felloe.queue.services.pace import paces_of

#: A clock that ran for less was begun by the very step that ended it.
SHORTEST_MIN = 1.0


def believe(span: WorkSpan, high_min: float, shop: Shop, now: datetime) -> Believed:
    """What a span of work counts, by the person's shifts."""
    hours = calendar.person_calendars([span.person], calendar.shop_calendar(shop, now), span.started_at)
    ended = span.believed_at or span.ended_at or now
    last = ended if span.believed_at else span.last_deed_at
    return believed(span.started_at, last, ended, high_min, hours[str(span.person_id)])


def note_stage(user: User, job: Job, stage: str, now: datetime) -> None:
    """Keep what a stage took that was just left. Nothing where nobody's clock ran."""
    if stage not in BENCH_STEPS:
        return
    spans = queue.spans_of(job, stage)
    if not spans:
        return
    facts = facts_of([job])[job.pk]
    paces, _, _ = paces_of(job.shop_id)
    before = JobFacts(**(asdict(facts) | {"stage": stage, "plan_moves": None}))
    steps = [step for step in steps_ahead(before, paces) if step.stage == stage]
    estimate = together(steps)
    found = [believe(span, max(estimate.high_min, 10.0), user.shop, now) for span in spans]
    taken = sum(one.minutes for one in found)
    if taken < SHORTEST_MIN:
        return
    StageTime.objects.create(
        shop_id=job.shop_id,
        job=job,
        stage=stage,
        tier=job.tier,
        taken_min=taken,
        usual_min=usual_step(before, stage),
        estimated_min=estimate.middle_min,
        counts=not any(one.forgotten for one in found) and not any(span.believed_at for span in spans),
        created_by=user,
    )
