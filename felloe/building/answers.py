"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from felloe.core.lacing.check import Seen
from felloe.wheels.answers import Derived, Suspicion

SideKey = Literal["R", "L"]


@dataclass(frozen=True)
class KeyWhy:
    key: str
    why: str


@dataclass(frozen=True)
class NippleFit:
    length_mm: float
    end_mm: float
    verdict: str
    why: str
    chance: float
    told: Literal["fits", "cannot_tell", "does_not_fit"]
    usable: bool


@dataclass(frozen=True)
class Share:
    field: str
    share: float


@dataclass(frozen=True)
class Crossing:
    crossings: int
    length_mm: float | None
    pull: float
    bend_deg: float | None
    room_mm: float | None
    possible: bool
    why: str


@dataclass(frozen=True)
class Offer:
    key: UUID
    name: str
    how: Literal["as_it_is", "cut"]
    fit: NippleFit
    cut_to_mm: float | None
    cautions: list[str]
    count: int
    enough: bool


@dataclass(frozen=True)
class Bin:
    id: UUID
    name: str
    bin: str
    free: int
    claimed: int
    taken: int


@dataclass(frozen=True)
class Chosen:
    length_mm: float
    end_mm: float
    verdict: str
    needed_mm: float
    part: Bin | None
    by: str


@dataclass(frozen=True)
class SizingSide:
    side: SideKey
    places: int
    count: int
    wire: str
    crossings: int
    needed_mm: float
    sd_mm: float
    shares: list[Share]
    stretch_mm: float
    rounded_mm: float
    candidates: list[NippleFit]
    table: list[Crossing]
    offers: list[Offer]
    chosen: Chosen | None


@dataclass(frozen=True)
class OldNippleFit:
    length_mm: float
    end_mm: float
    verdict: Literal["fits", "short", "head_unsupported", "in_slot", "thread_runs_out", "proud"]
    why: str
    chance: float
    told: Literal["fits", "cannot_tell", "does_not_fit"]
    usable: bool
    spoke: str


@dataclass(frozen=True)
class OldSide:
    side: SideKey
    count: int
    spread_mm: float
    needed_mm: float
    fits: list[OldNippleFit]
    explains: list[str]
    rebuild: bool


@dataclass(frozen=True)
class OldLength:
    spoke: str
    length_mm: float


@dataclass(frozen=True)
class Kit:
    nipple_part: UUID | None
    washer_part: UUID | None
    nipple_count: int | None
    right_count: int | None
    left_count: int | None
    rim_hole_mm: float | None
    key_mm: float | None
    washers: str
    washer_count: int
    rim_had_washers: bool
    measured_one: bool
    whole_wheel: bool
    wet_or_salt: bool
    despite: str


@dataclass(frozen=True)
class Rule:
    key: str
    level: Literal["stop", "caution", "note"]
    holds: bool
    found: str
    reason: str
    side: SideKey | None


@dataclass(frozen=True)
class NippleDrawn:
    length_mm: float
    head_mm: float
    slot_mm: float
    thread_mm: float


@dataclass(frozen=True)
class Sizing:
    step_mm: float
    school: str
    steps_mm: list[float]
    schools: list[KeyWhy]
    nipple: NippleDrawn
    sides: list[SizingSide]
    suspicions: list[Suspicion]
    old: list[OldSide]
    old_lengths: list[OldLength]
    kit: Kit
    rules: list[Rule]
    nipple_parts: list[Bin]
    washer_parts: list[Bin]
    measured: bool
    can_cut: bool


@dataclass(frozen=True)
class SwapSide:
    side: SideKey
    needed_mm: float
    change_mm: float
    own: NippleFit | None
    other: NippleFit | None


@dataclass(frozen=True)
class Swap:
    advice: str
    why: str
    cautions: list[str]
    sides: list[SwapSide]


@dataclass(frozen=True)
class LengthsBySide:
    R: float
    L: float


@dataclass(frozen=True)
class ChoicesBySide:
    R: list[KeyWhy]
    L: list[KeyWhy]


@dataclass(frozen=True)
class LacingSet:
    number: int
    side: SideKey
    title: str
    before: str
    every: int


@dataclass(frozen=True)
class Crossed:
    spoke: str
    way: str


@dataclass(frozen=True)
class LacingPlace:
    order: int
    set_number: int
    spoke: str
    side: SideKey
    rim_hole: int
    flange_hole: int
    head: str
    lean: str
    crosses: list[Crossed]
    beside_valve: bool


@dataclass(frozen=True)
class Lacing:
    inside: dict[str, str]
    choices: ChoicesBySide
    rotor_left: bool
    sets: list[LacingSet]
    places: list[LacingPlace]
    lengths_mm: LengthsBySide
    placed: int
    placed_by: str
    looked: list[Seen]
    stops: list[str]
    in_vain: list[str]
    derived: Derived


@dataclass(frozen=True)
class LacingError:
    key: str
    side: SideKey | None
    spoke: str
    what: str
    mend: str


@dataclass(frozen=True)
class SpokeNeed:
    spoke: str
    needed_mm: float
    surplus_mm: float


@dataclass(frozen=True)
class LacingVerdict:
    faults: list[LacingError]
    sure: bool
    also: list[str]
    needs: list[SpokeNeed]


@dataclass(frozen=True)
class Step:
    key: str
    what: str
    why: str
    done: bool


@dataclass(frozen=True)
class SlackLap:
    number: int
    turns: float
    right_n: float
    left_n: float


@dataclass(frozen=True)
class Tally:
    kind: Literal["nipple", "washer", "spoke"]
    name: str
    was_in: int
    out: int
    put_in: int
    picked: int
    still_in: int
    places: int
    word: str


@dataclass(frozen=True)
class Strip:
    facts: dict[str, bool]
    measured: bool
    laps: list[SlackLap]
    steps: list[Step]
    counts: list[Tally]


@dataclass(frozen=True)
class ReplacedSpoke:
    spoke: str
    standing: bool
    broke_at: str
    old_length_mm: float | None
    length_mm: float
    length_is_chosen: bool
    neighbours: list[str]
    neighbours_n: float | None
    head: str
    lean: str
    crosses: list[Crossed]
    steps: list[Step]


@dataclass(frozen=True)
class Replacing:
    spokes: list[ReplacedSpoke]
    measured: bool
    derived: Derived


@dataclass(frozen=True)
class SpareLine:
    position: str
    side: SideKey
    length_mm: float
    wire: str
    carry: int
    measured: bool


@dataclass(frozen=True)
class SpareCard:
    bike: str
    customer: str
    spokes: list[SpareLine]
    carry: list[str]
    mind: list[str]
