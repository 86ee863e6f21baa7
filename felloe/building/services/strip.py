"""Taking a job's wheel apart: facts, steps, laps, and small parts counted out and in."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import asdict
from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.bench.services.plans import newest_state
from felloe.building import answers
from felloe.building.models import SmallPartsCount, StepDone, WorkFacts
from felloe.core.components import Wheel as CoreWheel
from felloe.core.lacing.map import BadLacing
from felloe.core.lacing.strip import COUNTED, Step, StripFacts, check_count, slacken_laps, strip_steps, tally
from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.stock import services as stock
from felloe.wheels import services as wheels

CHOICES = ("washers", "closed_rim", "cut", "keep_spokes")


def facts_of(job: Job, purpose: str) -> dict[str, Any]:
    """What was said last about a purpose."""
    row = WorkFacts.objects.filter(job=job, purpose=purpose).order_by("-created_at").first()
    return dict(row.values) if row else {}


@atomic
def say_facts(user: User, job_id: UUID, purpose: str, values: dict[str, Any]) -> None:
    job = queue.open_for_work(user, job_id)
    WorkFacts.objects.create(
        shop_id=job.shop_id, job=job, purpose=purpose, values={**facts_of(job, purpose), **values}, created_by=user
    )


def all_steps_done(job: Job) -> dict[str, set[str]]:
    """By procedure, the keys of the steps whose newest word is done."""
    newest: dict[str, dict[str, bool]] = {}
    rows = StepDone.objects.filter(job=job).order_by("created_at", "id").values_list("procedure", "step", "done")
    for procedure, step, done in rows:
        newest.setdefault(procedure, {})[step] = done
    return {procedure: {step for step, done in steps.items() if done} for procedure, steps in newest.items()}


def steps_done(job: Job, procedure: str) -> set[str]:
    return all_steps_done(job).get(procedure, set())


@atomic
def mark_step(user: User, job_id: UUID, procedure: str, steps: Iterable[Step], step: str, done: bool) -> None:
    """Tick or untick a step of a procedure; refused where the procedure has no such step."""
    job = queue.open_for_work(user, job_id)
    if step not in {known.key for known in steps}:
        raise BadLacing(say("there is no such step"), "step")
    StepDone.objects.create(shop_id=job.shop_id, job=job, procedure=procedure, step=step, done=done, created_by=user)


@atomic
def mark_strip_step(user: User, job_id: UUID, step: str, done: bool) -> None:
    """Tick a step of taking the wheel apart."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    # Steps that the facts left out meanwhile may still be unticked: all there are count.
    everything = StripFacts(True, True, True, True, True, True, True)
    mark_step(user, job_id, "strip", strip_steps(wheel, everything, 1), step, done)


def step_values(steps: Iterable[Step], done: set[str]) -> list[answers.Step]:
    return [answers.Step(key=step.key, what=step.what, why=step.why, done=step.key in done) for step in steps]


def side_means(wheel: CoreWheel, state: WheelState | None) -> dict[Side, float]:
    """Mean tension of each side: as estimated, else the target."""
    if state is None:
        return side_targets_n(wheel)
    return {side: float(state.tension_n[wheel.on_side(side)].mean()) for side in Side}


def strip_of(user: User, job_id: UUID) -> answers.Strip:
    """Everything the strip screen shows."""
    job = queue.find_job(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    facts = {name: bool(facts_of(job, "strip").get(name)) for name in CHOICES}
    state = newest_state(user, job.pk)
    means = side_means(wheel, state)
    laps = slacken_laps(wheels.influence_for(wheel), means[Side.RIGHT], means[Side.LEFT])
    bike = job.wheel.bike
    known = StripFacts(rear=job.wheel.position == "rear", disc=bike.brake == "disc", glued=bike.tyre == "glued", **facts)
    return answers.Strip(
        facts=facts,
        measured=state is not None,
        laps=[answers.SlackLap(**asdict(lap)) for lap in laps],
        steps=step_values(strip_steps(wheel, known, len(laps)), steps_done(job, "strip")),
        counts=counts_of(job, wheel, facts["washers"]),
    )


def counts_of(job: Job, wheel: CoreWheel, washers: bool) -> list[answers.Tally]:
    """The tally of each kind of small part."""
    rows: dict[str, list[tuple[str, int]]] = {kind: [] for kind in COUNTED}
    for kind, way, count in SmallPartsCount.objects.filter(job=job).values_list("kind", "way", "count"):
        rows[kind].append((way, count))
    tallies = [tally(wheel, kind, kind != "washer" or washers, rows[kind]) for kind in COUNTED if kind != "washer" or washers]
    picked: dict[str, int] = {}
    for part, count in stock.picked_for(job):
        picked[part.kind] = picked.get(part.kind, 0) + count
    return [
        answers.Tally(
            **{**asdict(t), "picked": picked.get(t.kind, 0), "name": COUNTED[t.kind], "still_in": t.still_in, "word": t.word}
        )
        for t in tallies
    ]


@atomic
def count_parts(user: User, job_id: UUID, kind: str, way: str, count: int) -> None:
    """Count small parts out or in; a negative count takes a slip back. Refused where more come out than were in."""
    job = queue.open_for_work(user, job_id)
    wheel = wheels.core_wheel(job.wheel)
    had = kind != "washer" or bool(facts_of(job, "strip").get("washers"))
    rows = list(SmallPartsCount.objects.filter(job=job, kind=kind).values_list("way", "count"))
    check_count(wheel, kind, had, rows, way, count)
    SmallPartsCount.objects.create(shop_id=job.shop_id, job=job, kind=kind, way=way, count=count, created_by=user)
