"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal
from uuid import UUID

from felloe.bench.models import DialTrace, Reading
from felloe.core.truing.tiers import Tier

SideKey = Literal["R", "L"]


@dataclass(frozen=True)
class Bend:
    spokes: list[str]
    why: str


@dataclass(frozen=True)
class CurvePoint:
    spread_percent: float
    lateral_tir_mm: float
    radial_tir_mm: float


@dataclass(frozen=True)
class Curve:
    """Straight against even: the best runout at each tension spread, the tier's place on it, and the verdict."""

    points: list[CurvePoint]
    tier_lateral_mm: float
    tier_radial_mm: float
    tier_spread_percent: float
    can: bool
    chance: float
    best_tier: str | None
    why: str
    bends: list[Bend]
    to_customer: str


@dataclass(frozen=True)
class PlanChoice:
    """One point of the trade-off: so many nipples, and what is to be expected after them."""

    nipples: int
    turns: float
    minutes: float
    chance: float
    lateral_mm: float
    radial_mm: float
    dish_mm: float
    spread_percent: float
    mean_n: float
    proposed: bool


@dataclass(frozen=True)
class LeftAlone:
    """Nipples that an earlier plan for this wheel left: seized ones are remembered."""

    names: list[str]


@dataclass(frozen=True)
class TradeOff:
    """Nipples against chance and finish."""

    tier: Tier
    by_eye: list[str]
    unread: list[str]
    asked_chance: float
    target_n: float
    choices: list[PlanChoice]


@dataclass(frozen=True)
class Shirker:
    spoke: str
    share: float


@dataclass(frozen=True)
class Lap:
    """One lap of a wheel under construction: turns of every nipple of a side, and the means after it."""

    number: int
    share: float
    right_turns: float
    left_turns: float
    right_mean_n: float
    left_mean_n: float
    minutes: float
    care: str


@dataclass(frozen=True)
class NextReading:
    kind: str
    spoke: str
    gain: float


@dataclass(frozen=True)
class SlipPlace:
    """A place of a reading, and what would stand there without the slip, as typed, where that can be said."""

    kind: str
    spoke: str
    instead: float | None


@dataclass(frozen=True)
class Slip:
    """A suspected slip: nothing is mended by itself."""

    kind: str
    what: str
    mending: str
    places: list[SlipPlace]


@dataclass(frozen=True)
class ReadingAdvice:
    """Which reading tells most, which spokes make a quick look, what stands against the instruments."""

    next: list[NextReading]
    quick_look: list[str]
    enough: bool
    doubts: list[str]
    slips: list[Slip]
    traces: list[DialTrace]


@dataclass(frozen=True)
class EntryRefusal:
    """Why a reading was not saved, as a problem document says it."""

    code: str
    status: int
    detail: str


@dataclass(frozen=True)
class EntryResult:
    """What became of one reading: saved, or refused."""

    key: str
    reading: Reading | None
    refusal: EntryRefusal | None


@dataclass(frozen=True)
class Entered:
    """What became of readings that were sent together, in their order, and what the set says with them."""

    results: list[EntryResult]
    state: State | None
    advice: ReadingAdvice | None


@dataclass(frozen=True)
class CsvRow:
    line: int
    kind: str
    spoke: str
    angle_deg: float | None
    entered: float | None
    unit: str
    value: float | None
    wrong: str
    doubt: str
    replaces: float | None


@dataclass(frozen=True)
class CsvLook:
    """What a file of readings holds, row by row, and whether all of it may be taken."""

    said: list[str]
    dense: bool
    rows: list[CsvRow]
    sound: bool
    kept: bool


@dataclass(frozen=True)
class Tone:
    spoke: str
    at_s: float
    hz: float
    clarity: float
    tension_n: float | None
    sd_n: float | None
    wrong: str
    percent: float | None = None


@dataclass(frozen=True)
class Heard:
    tones: list[Tone]
    expected: int
    heard: int


@dataclass(frozen=True)
class TurnHeard:
    """The turn is not whole yet: ask again under the same key."""

    places: int
    gone_deg: float


@dataclass(frozen=True)
class SpokeState:
    name: str
    side: SideKey
    angle_deg: float
    tension_n: float
    tension_sd_n: float
    measured_n: float | None
    percent_of_mean: float
    lateral_mm: float
    lateral_sd_mm: float
    radial_mm: float
    radial_sd_mm: float
    outside: bool
    broken: bool
    read_lateral_mm: float | None
    read_radial_mm: float | None


@dataclass(frozen=True)
class Trace:
    angle_deg: list[float]
    lateral_mm: list[float]
    lateral_sd_mm: list[float]
    radial_mm: list[float]
    radial_sd_mm: list[float]


@dataclass(frozen=True)
class Foreseen:
    tension_n: list[float]
    trace: Trace


@dataclass(frozen=True)
class Pass:
    """What was foreseen for the turns really made, beside what was measured after."""

    made: bool
    plan_id: UUID | None
    foreseen: Foreseen | None
    as_foreseen: bool
    said: str
    shirkers: list[Shirker]


@dataclass(frozen=True)
class Mark:
    angle_deg: float
    deviation_mm: float


@dataclass(frozen=True)
class SideState:
    mean_n: float
    sd_n: float
    worst_spoke: str
    worst_percent: float
    outside: list[str]
    target_n: float


@dataclass(frozen=True)
class SidesState:
    R: SideState
    L: SideState


@dataclass(frozen=True)
class Ratio:
    expected: float
    measured: float | None
    difference_percent: float | None
    warns: bool


@dataclass(frozen=True)
class Check:
    figure: Literal["lateral", "radial", "dish", "tension"]
    value: float
    limit: float
    unit: str
    met: bool
    measured: bool


@dataclass(frozen=True)
class State:
    """The estimated state of a wheel: everything the strip shows."""

    reading_count: int
    headline: str
    tier: Tier
    spokes: list[SpokeState]
    trace: Trace
    lateral_marks: list[Mark]
    radial_marks: list[Mark]
    dish_mm: float
    dish_sd_mm: float
    lateral_tir_mm: float
    radial_tir_mm: float
    sides: SidesState
    ratio: Ratio
    tight_side: SideKey
    target_n: float
    cap_n: float
    tension_is_default: bool
    checks: list[Check]


@dataclass(frozen=True)
class DishOption:
    key: str
    name: str
    right_turns: float
    left_turns: float
    dish_after_mm: float
    right_mean_n: float
    left_mean_n: float
    over_cap: bool
    proposed: bool


@dataclass(frozen=True)
class DishAdvice:
    """Ways to bring the rim to the middle, all nipples of a side alike."""

    dish_mm: float
    dish_sd_mm: float
    lateral_tir_mm: float
    straight_enough: bool
    reason: str
    options: list[DishOption]


@dataclass(frozen=True)
class Predicted:
    tension_n: list[float]
    lateral_mm: list[float]
    radial_mm: list[float]
    dish_mm: float
    lateral_tir_mm: float
    radial_tir_mm: float
    trace: Trace


@dataclass(frozen=True)
class WhatIf:
    """What the wheel would measure after turns by hand."""

    tension_n: list[float]
    trace: Trace
    dish_mm: float
    lateral_tir_mm: float
    radial_tir_mm: float
    over_cap: list[str]
    checks: list[Check]


@dataclass(frozen=True)
class PlanMode:
    key: str
    name: str
    why: str


@dataclass(frozen=True)
class LiveTurn:
    spoke: str
    turns: float


@dataclass(frozen=True)
class LiveNext:
    """The nipple to turn next."""

    spoke: str
    turns: float
    tension_before_n: float
    tension_after_n: float
    twist_turns: float
    why: str


@dataclass(frozen=True)
class LiveSuspect:
    """What seems to have been turned instead of what was noted; 0 turns: nothing was."""

    spoke: str
    turns: float
    noted: str
    noted_turns: float
    said: str


@dataclass(frozen=True)
class LiveFigures:
    """The middle of what is to be expected after all that is left: mm, and the spread in percent."""

    lateral: float
    radial: float
    dish: float
    tension: float


@dataclass(frozen=True)
class LiveStep:
    """Where a live pass stands. `looked`: the rim was looked at since the last nipple; `ask`: a spoke to read first."""

    plan_id: UUID
    reading_set_id: UUID
    version: int
    tier: str
    step_turns: float
    ended: bool
    ended_set_id: UUID | None
    enough: bool
    said: str
    next: LiveNext | None
    rest: list[LiveTurn]
    in_order: int
    ask: str
    looked: bool
    nipples_turned: int
    looks: int
    last: LiveTurn | None
    last_look: str
    suspect: LiveSuspect | None
    chance: float | None
    chance_after: float | None
    after: LiveFigures
    unread: list[str]
    by_eye: list[str]
    caution: str
    state: State


@dataclass(frozen=True)
class ResumeReading:
    """One reading to take before going on; `kind` is tension or lateral. `meter`: with which the spoke was read."""

    kind: str
    spoke: str
    meter: UUID | None


@dataclass(frozen=True)
class Resume:
    """Where an interrupted plan was left. `due`: the readings are still to be taken. `shows_percent`: of so many nipples
    half a turn would show in them. `held` is None before they were taken."""

    due: bool = False
    left_at: datetime | None = None
    left_by: str = ""
    last_spoke: str = ""
    next_spoke: str = ""
    readings: list[ResumeReading] = field(default_factory=list)
    shows_percent: int = 0
    held: bool | None = None
    said: str = ""
    proved_at: datetime | None = None
    proved_by: str = ""
