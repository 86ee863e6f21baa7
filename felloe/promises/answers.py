"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, datetime
from uuid import UUID

from felloe.queue.answers import RailJob


@dataclass(frozen=True)
class InHand:
    person: str
    person_id: UUID
    stand: str
    since: datetime


@dataclass(frozen=True)
class Hanging:
    """A wheel on the rail, where its promise stands and why, and who has it in hand.

    `customer_no`: whose it is, by the number of that customer's first open job; two of one name have two.
    """

    job: RailJob
    customer_no: int
    level: str
    why: str
    chance: float | None
    in_hand: InHand | None


@dataclass(frozen=True)
class Day:
    """A day of the shop: bench minutes of all who work, and of the wheels that are due on it."""

    day: date
    bench_min: float
    work_min: float


@dataclass(frozen=True)
class DeskTask:
    """Something for the desk: `kind` call, approve, promise, fetch or unclaimed; the job of this number hangs or is ready."""

    kind: str
    number: int
    why: str


@dataclass(frozen=True)
class Rail:
    """`hanging` in the order of the sequence; `ready` to be fetched, the longest wait first; `mine`: what one has in hand."""

    now: datetime
    next_job_id: UUID | None
    mine: UUID | None
    hanging: list[Hanging]
    ready: list[Hanging]
    days: list[Day]
    desk: list[DeskTask]
    handed_back: list[RailJob]


@dataclass(frozen=True)
class OwnRail:
    """What of the rail is one person's."""

    now: datetime
    next_job_id: UUID | None
    mine: UUID | None


@dataclass(frozen=True)
class DateOffer:
    key: str
    at: datetime
    chance: float
    odds: str


@dataclass(frozen=True)
class Effect:
    """What a promise does to another one: chances before and after."""

    job: UUID
    number: int
    customer: str
    promised_at: datetime
    before: str
    after: str
    below_line: bool


@dataclass(frozen=True)
class Offers:
    """Dates for a promise, what they do to the other promises, and the estimate they rest on."""

    estimate: str
    middle_min: float
    offers: list[DateOffer]
    effects: list[Effect]
    line: str
    learned_jobs: int


@dataclass(frozen=True)
class PromiseLook:
    """What a promise at a time would mean, before it is given."""

    at: datetime
    chance: float
    odds: str
    enough: bool
    effects: list[Effect]


@dataclass(frozen=True)
class StepTime:
    """A step of a job: estimated middle and spread, and minutes taken so far."""

    stage: str
    low_min: float
    middle_min: float
    high_min: float
    taken_min: float


@dataclass(frozen=True)
class Work:
    """The time side of a job: who has it, how long is left, what was left for the next one. `forgotten`: nobody believes the
    clock that runs; it is believed `believed_until` then."""

    in_hand: InHand | None
    mine: bool
    forgotten: bool
    believed_until: datetime | None
    left: str
    left_min: float
    steps: list[StepTime]
    note: str
    note_by: str
