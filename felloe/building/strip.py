"""Taking a job's wheel apart: facts, steps, laps, and small parts counted out and in."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.db import transaction

from felloe.accounts.models import User
from felloe.bench import plans as bench_plans
from felloe.bench.states import estimated
from felloe.building.models import SmallPartsCount, StepDone, WorkFacts
from felloe.condition import services as condition
from felloe.core.components import Wheel as CoreWheel
from felloe.core.lacing.strip import COUNTED, BadCount, StripFacts, slacken_laps, strip_steps, tally
from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.tension.statics import side_targets_n
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels import services as wheels

CHOICES = ("washers", "closed_rim", "cut", "keep_spokes")


def facts_of(job: Job, purpose: str) -> dict[str, Any]:
    """What was said last about a purpose."""
    row = WorkFacts.objects.filter(job=job, purpose=purpose).order_by("-created_at").first()
    return dict(row.values) if row else {}


@transaction.atomic
def say_facts(user: User, job_id: UUID, purpose: str, values: dict[str, Any]) -> None:
    job = condition.open_for_work(user, job_id)
    WorkFacts.objects.create(
        shop_id=job.shop_id, job=job, purpose=purpose, values={**facts_of(job, purpose), **values}, created_by=user
    )


def steps_done(job: Job, procedure: str) -> set[str]:
    """Keys of a procedure's steps whose newest word is done."""
    rows = StepDone.objects.filter(job=job, procedure=procedure).order_by("created_at", "id").values_list("step", "done")
    return {step for step, done in dict(rows).items() if done}


@transaction.atomic
def mark_step(user: User, job_id: UUID, procedure: str, step: str, done: bool) -> None:
    job = condition.open_for_work(user, job_id)
    StepDone.objects.create(shop_id=job.shop_id, job=job, procedure=procedure, step=step, done=done, created_by=user)


def step_values(steps: Any, done: set[str]) -> list[dict[str, Any]]:
    return [{**asdict(step), "done": step.key in done} for step in steps]


def side_means(job: Job, wheel: CoreWheel, state: WheelState | None) -> dict[Side, float]:
    """Mean tension of each side: as estimated, else the target."""
    if state is None:
        return side_targets_n(wheel)
    return {side: float(state.tension_n[wheel.on_side(side)].mean()) for side in Side}


def newest_state(user: User, job: Job) -> WheelState | None:
    """The state of the newest set with readings."""
    _, last = bench_plans.latest_sets(user, job.pk)
    return estimated(last)[0] if last is not None else None


def strip_of(user: User, job_id: UUID) -> dict[str, Any]:
    """Everything the strip screen shows."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    facts = {name: bool(facts_of(job, "strip").get(name)) for name in CHOICES}
    state = newest_state(user, job)
    means = side_means(job, wheel, state)
    laps = slacken_laps(wheels.influence_for(wheel), means[Side.RIGHT], means[Side.LEFT])
    bike = job.wheel.bike
    known = StripFacts(rear=job.wheel.position == "rear", disc=bike.brake == "disc", glued=bike.tyre == "glued", **facts)
    return {
        "facts": facts,
        "measured": state is not None,
        "laps": [asdict(lap) for lap in laps],
        "steps": step_values(strip_steps(wheel, known, len(laps)), steps_done(job, "strip")),
        "counts": counts_of(job, wheel, facts["washers"]),
    }


def counts_of(job: Job, wheel: CoreWheel, washers: bool) -> list[dict[str, Any]]:
    """The tally of each kind of small part."""
    rows: dict[str, list[tuple[str, int]]] = {kind: [] for kind in COUNTED}
    for kind, way, count in SmallPartsCount.objects.filter(job=job).values_list("kind", "way", "count"):
        rows[kind].append((way, count))
    tallies = [tally(wheel, kind, kind != "washer" or washers, rows[kind]) for kind in COUNTED if kind != "washer" or washers]
    return [{**asdict(t), "name": COUNTED[t.kind], "word": t.word} for t in tallies]


@transaction.atomic
def count_parts(user: User, job_id: UUID, kind: str, way: str, count: int) -> None:
    """Count small parts out or in; a negative count takes a slip back. Refused where more come out than were in."""
    job = condition.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    if not count or abs(count) > 2 * wheel.spoke_count:
        raise BadCount(f"a count lies between 1 and {2 * wheel.spoke_count}", "count")
    had = kind != "washer" or bool(facts_of(job, "strip").get("washers"))
    rows = list(SmallPartsCount.objects.filter(job=job, kind=kind).values_list("way", "count"))
    ways = {"out": 0, "in": 0}
    for w, n in [*rows, (way, count)]:
        ways[w] = ways.get(w, 0) + n
    if min(ways.values()) < 0:
        raise BadCount("so many were not counted", "count")
    tally(wheel, kind, had, [*rows, (way, count)])
    SmallPartsCount.objects.create(shop_id=job.shop_id, job=job, kind=kind, way=way, count=count, created_by=user)
