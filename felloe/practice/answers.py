"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID

from felloe.core.practice.compare import TrueFigures
from felloe.core.practice.marks import PracticeMarks
from felloe.core.truing.tiers import Tier
from felloe.wheels.answers import Derived


@dataclass(frozen=True)
class PracticeWord:
    """A key and what it is called."""

    key: str
    text: str


@dataclass(frozen=True)
class Rung:
    """An exercise of the ladder with one's own standing: runs ended, the best mark, an open run, who set it."""

    key: str
    name: str
    task: str
    mode: str
    kind: str
    lesson: str
    runs: int
    best: int | None
    mastered: bool
    open_run: UUID | None
    set_by: str


@dataclass(frozen=True)
class Ladder:
    """`modes`, `faults`, `tiers` and `kinds` are what a wheel of one's own choice is made from."""

    rungs: list[Rung]
    own: Rung
    kinds: list[PracticeWord]
    bladed: list[str]
    modes: list[PracticeWord]
    faults: list[PracticeWord]
    findable: list[str]
    tiers: list[PracticeWord]


@dataclass(frozen=True)
class RungStanding:
    exercise: str
    runs: int
    best: int | None
    mastered: bool
    set_by: str
    task: UUID | None


@dataclass(frozen=True)
class Learner:
    """Somebody at the bench, and where they stand on each rung."""

    id: UUID
    name: str
    role: str
    standings: list[RungStanding]


@dataclass(frozen=True)
class NippleTurned:
    spoke: str
    turns: float


@dataclass(frozen=True)
class PracticePass:
    """One pass against the best plan: turns summed over nipples, and the wheel as it truly was, is, and could be."""

    number: int
    touches: int
    best_touches: int
    turned: float
    best_turned: float
    needed: float
    too_far: float
    wrong_way: float
    elsewhere: float
    left_out: float
    in_twist: float
    before: TrueFigures
    after: TrueFigures
    best: TrueFigures
    yours: list[NippleTurned]
    plan: list[NippleTurned]
    sentence: str


@dataclass(frozen=True)
class Blade:
    """A blade as it is seen from the tyre: 0° is flat to the wind."""

    spoke: str
    degrees: float


@dataclass(frozen=True)
class Happened:
    """What the last deed showed: the spoke that turned along with its nipple [°], a reading, or a word."""

    what: str
    spoke: str
    along_deg: float
    tension_n: float | None
    says: str


@dataclass(frozen=True)
class PracticeMove:
    """A nipple of Felloe's plan for a practice wheel."""

    spoke: str
    turns: float
    turn_from_n: float
    turn_to_n: float
    why: str


@dataclass(frozen=True)
class LaceQuestion:
    """What is asked next; `what`: hole or cross. `laced` are the spokes that are in."""

    number: int
    total: int
    what: str
    spoke: str
    side: str
    set_number: int
    flange_hole: int
    head: str
    lean: str
    other: str
    laced: list[str]


@dataclass(frozen=True)
class Given:
    """An answer that was given, in finding and lacing."""

    said: str
    right: bool
    says: str


@dataclass(frozen=True)
class Truth:
    """What was wrong, told at the end."""

    fault: str
    spokes: list[str]


@dataclass(frozen=True)
class PracticeNow:
    """A practice wheel as it hangs in the stand: the rim where the pointers see it, and what was done and read.

    `angle_deg`, `lateral_mm`, `radial_mm` run round the rim. `read_version` rises with each reading: the strip is asked anew.
    """

    deeds: int
    angle_deg: list[float]
    lateral_mm: list[float]
    radial_mm: list[float]
    blades: list[Blade]
    snapped: list[str]
    this_pass: list[NippleTurned]
    touches: int
    read_version: int
    read_spokes: list[str]
    looked: bool
    dish_read: bool
    happened: Happened
    moves: list[PracticeMove]
    passes: list[PracticePass]
    question: LaceQuestion | None
    answers: list[Given]
    marks: PracticeMarks | None
    truth: list[Truth]


@dataclass(frozen=True)
class PracticeRun:
    """A practice wheel with everything that does not change while it is worked."""

    id: UUID
    exercise: str
    name: str
    task: str
    mode: str
    kind: str
    kind_name: str
    tier: Tier
    tier_word: str
    lesson: str
    derived: Derived
    blade: bool
    findable: list[PracticeWord]
    created_at: datetime
    now: PracticeNow


@dataclass(frozen=True)
class LessonWay:
    name: str
    says: str
    right: bool
    turns: list[NippleTurned]
    lateral_mm: list[float]
    radial_mm: list[float]
    figures: TrueFigures


@dataclass(frozen=True)
class PracticeLesson:
    """A lesson: the rim every 5° from the valve before, and after each way."""

    key: str
    lines: list[str]
    angle_deg: list[float]
    lateral_mm: list[float]
    radial_mm: list[float]
    before: TrueFigures
    ways: list[LessonWay]
