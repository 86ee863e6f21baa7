"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from typing import Literal
from uuid import UUID

from felloe.bench.answers import Bend, Curve
from felloe.core.money.quote import Extra, QuoteLine
from felloe.repair.models import Decision

SideKey = Literal["R", "L"]


@dataclass(frozen=True)
class ConditionKind:
    key: str
    name: str
    part: str
    measure: str
    placed: bool


@dataclass(frozen=True)
class Place:
    key: str
    name: str


@dataclass(frozen=True)
class ConditionMark:
    id: UUID
    kind: str
    name: str
    part: str
    spoke: str
    measure_mm: float | None
    note: str
    photo: UUID | None
    level: str
    why: str
    remedy: str
    earlier_job: int | None
    by: str
    created_at: datetime


@dataclass(frozen=True)
class Break:
    id: UUID
    spoke: str
    place: str
    place_name: str
    noticed_on: date
    note: str
    job_number: int


@dataclass(frozen=True)
class Suspect:
    key: str
    name: str
    share: float
    why: str


@dataclass(frozen=True)
class Pattern:
    advice: str
    side: SideKey | None
    reasons: list[str]
    suspects: list[Suspect]


@dataclass(frozen=True)
class FrameCheck:
    material: str
    gap_right_mm: float
    gap_left_mm: float
    stay_length_mm: float | None
    offset_mm: float
    sd_mm: float
    each_stay_mm: float
    toward: SideKey | None
    at_rim_swung_mm: float
    at_rim_parallel_mm: float
    advice: Literal["leave", "set", "refer"]
    why: str
    by: str


@dataclass(frozen=True)
class Condition:
    """What was found on the wheel, each judged at its place."""

    kinds: list[ConditionKind]
    places: list[Place]
    marks: list[ConditionMark]
    breaks: list[Break]
    pattern: Pattern | None
    bends: list[Bend]
    frame: FrameCheck | None
    measured: bool
    rim_material: str


@dataclass(frozen=True)
class Part:
    key: str
    name: str
    count: int


@dataclass(frozen=True)
class RepairOption:
    key: str
    name: str
    minutes: int
    parts: list[Part]
    price_minor: int | None
    result: str
    chance: float | None
    chance_why: str
    why: str
    proposed: bool
    barred: str


@dataclass(frozen=True)
class Options:
    """What can be done, side by side, and what was decided."""

    tier: str
    currency: str
    options: list[RepairOption]
    curve: Curve | None
    cause_to_mend: str | None
    unsafe: list[str]
    decisions: list[Decision]


@dataclass(frozen=True)
class RefitStep:
    key: str
    text: str
    must: bool
    result: str | None
    note: str
    by: str


@dataclass(frozen=True)
class Refit:
    steps: list[RefitStep]
    recheck_proposed_on: date
    recheck_why: str
    recheck_on: date | None


@dataclass(frozen=True)
class RoadCard:
    ride: bool
    steps: list[str]
    km: int
    km_h: int
    label: str


@dataclass(frozen=True)
class UnsafeJob:
    """An open job whose wheel is not to be ridden, and why."""

    job_id: UUID
    why: list[str]


@dataclass(frozen=True)
class TierPrice:
    tier: str
    gross_minor: int | None


@dataclass(frozen=True)
class Quote:
    """`void` says why the newest approval no longer stands; `words` is what is read to the customer on the telephone."""

    lines: list[QuoteLine]
    net_minor: int | None
    tax_minor: int | None
    gross_minor: int | None
    missing: list[str]
    refusal: str
    tax_basis_points: int
    currency: str
    tiers: list[TierPrice]
    extras: list[Extra]
    version: int
    void: str
    words: list[str]


@dataclass(frozen=True)
class Payment:
    id: UUID
    amount_minor: int
    how: str
    note: str
    by: str
    created_at: datetime


@dataclass(frozen=True)
class Account:
    currency: str
    agreed_minor: int | None
    open_minor: int
    payments: list[Payment]
