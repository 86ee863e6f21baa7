"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, datetime
from uuid import UUID

from felloe.bench.answers import Check, Trace
from felloe.core.truing.sign_off import Figures
from felloe.records.models import SignOff


@dataclass(frozen=True)
class Traces:
    as_found: Trace | None
    as_left: Trace


@dataclass(frozen=True)
class Comparison:
    tier: str
    as_found_set: UUID | None
    as_left_set: UUID
    as_left_stage: str
    as_found: Figures | None
    as_left: Figures
    traces: Traces
    checks: list[Check]
    short_of: list[str]
    needs_reason: bool
    roadworthy: bool
    roadworthy_limit_mm: float
    signed_off: SignOff | None
    handed_back_at: datetime | None


@dataclass(frozen=True)
class ComebackAccount:
    """One account of what happened since the wheel left, with its share of the belief."""

    kind: str
    said: str
    share: float


@dataclass(frozen=True)
class Comeback:
    """How the wheel differs from the one that left. `left_set` is None where it never left with readings; `kind` is empty
    where today's readings do not do yet. `whose`: ours, yours, cannot_tell."""

    left_set: UUID | None = None
    left_job: UUID | None = None
    left_number: int | None = None
    days: int = 0
    now_set: UUID | None = None
    kind: str = ""
    whose: str = ""
    sure: bool = False
    happened: str = ""
    proposed: str = ""
    sureness: str = ""
    look: str = ""
    spokes: list[str] = field(default_factory=list)
    accounts: list[ComebackAccount] = field(default_factory=list)


@dataclass(frozen=True)
class PastFigures:
    """Tensions are None where none was read."""

    lateral_tir_mm: float
    radial_tir_mm: float
    dish_mm: float
    right_mean_n: float | None
    left_mean_n: float | None
    spread_percent: float | None


@dataclass(frozen=True)
class PastSet:
    """A set of readings; `foreseen_…` is what the plan worked before it said it would find."""

    id: UUID
    number: int
    stage: str
    taken_at: datetime
    by: str
    figures: PastFigures | None
    foreseen_lateral_mm: float | None
    foreseen_radial_mm: float | None


@dataclass(frozen=True)
class PastJob:
    id: UUID
    number: int
    opened_at: datetime
    left_at: datetime | None
    ended: str
    complaint: str
    cause: str
    turned: int
    signed_by: str
    parts: list[str]
    sets: list[PastSet]


@dataclass(frozen=True)
class PastBreak:
    spoke: str
    place: str
    noticed_on: date
    number: int


@dataclass(frozen=True)
class WheelHistory:
    """`learnt` says how stiff this rim was found; empty where nothing was learnt."""

    wheel_id: UUID
    bike: str
    customer: str
    customer_id: UUID
    position: str
    spokes: int
    jobs: list[PastJob]
    breaks: list[PastBreak]
    learnt: str
