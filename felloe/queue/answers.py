"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from felloe.core.said import say
from felloe.core.stages import Stage
from felloe.core.truing.tiers import Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.queue.models import Job, Signature


@dataclass(frozen=True)
class Tag:
    """A job's tag: the address in its QR code, the code's rows of dark (1) and light (0), and what the shop prints below."""

    address: str
    rows: list[str]
    shop: str
    own_text: str
    signatures: list[Signature]


@dataclass(frozen=True)
class ShopTier:
    """A tier as the shop has it; `usual`: one of the four that every shop begins with, version 0 as it comes."""

    name: str
    lateral_mm: float
    radial_mm: float
    dish_mm: float
    tension_percent: float
    plain: str
    in_use: bool
    version: int
    usual: bool
    changed_by: str
    changed_at: datetime | None


@dataclass(frozen=True)
class RailWheel:
    position: str
    spokes: int
    crossings: int
    kind_name: str


@dataclass(frozen=True)
class Who:
    """Somebody of the staff."""

    id: UUID
    username: str
    name: str
    role: str


@dataclass(frozen=True)
class OnHook:
    id: UUID
    name: str


@dataclass(frozen=True)
class RailJob:
    """A job as rail, desk and search show it."""

    id: UUID
    number: int
    customer: str
    bike: str
    wheel: RailWheel
    complaint: str
    stage: str
    tier: str
    wanted_at: datetime | None
    promised_at: datetime | None
    promise_chance: float | None
    assigned_to: Who | None
    waiting_on: str
    waits_since: datetime | None
    expected_on: date | None
    ready_at: datetime | None
    hook: OnHook | None
    handed_back_at: datetime | None
    ended_as: str
    left_with: str
    version: int


def rail_job(job: Job) -> RailJob:
    """The values of a row of `queue.services.jobs.for_rail`."""
    wheel, bike, person = job.wheel, job.wheel.bike, job.assigned_to
    kind = WHEEL_KINDS.get(wheel.kind)
    return RailJob(
        id=job.pk,
        number=job.number,
        customer=bike.customer.name,
        bike=bike.label,
        wheel=RailWheel(
            position=wheel.position,
            spokes=job.spokes_right + job.spokes_left,  # type: ignore[attr-defined]
            crossings=job.crossings,  # type: ignore[attr-defined]
            kind_name=kind.name if kind else say("Measured wheel"),
        ),
        complaint=job.complaint,
        stage=job.stage,
        tier=job.tier,
        wanted_at=job.wanted_at,
        promised_at=job.promised_at,
        promise_chance=job.promise_chance,
        assigned_to=Who(person.pk, person.username, person.display_name, person.role) if person else None,
        waiting_on=job.waiting_on,
        waits_since=job.waits_since,
        expected_on=job.expected_on,
        ready_at=job.ready_at,
        hook=OnHook(job.hook.pk, job.hook.name) if job.hook else None,
        handed_back_at=job.handed_back_at,
        ended_as=job.ended_as,
        left_with=job.left_with,
        version=job.version,
    )


@dataclass(frozen=True)
class Hit:
    """A job that was found, and the answer to “is my wheel ready?”: its key (ready, not_yet, late, waits, gone) and words."""

    job: RailJob
    customer_id: UUID
    phone: str
    hook: str
    key: str
    said: str


@dataclass(frozen=True)
class Complaint:
    key: str
    name: str


@dataclass(frozen=True)
class Trade:
    """The fixed words and figures that screens need: stages, tiers and complaint tags."""

    complaints: list[Complaint]
    stages: list[Stage]
    tiers: list[Tier]
