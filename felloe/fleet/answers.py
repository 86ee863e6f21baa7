"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class LotLine:
    """A lot in the list of lots."""

    id: UUID
    name: str
    customer: str
    wheels: int
    returned: int
    exceptions: int
    created_at: datetime


@dataclass(frozen=True)
class Item:
    """`state`: waits, bench, ready, returned, exception. `sample`: good, bad, or empty where too little was read."""

    job: UUID
    number: int
    label: str
    state: str
    reason: str
    stage: str
    agreed: bool
    sample: str
    sample_why: str


@dataclass(frozen=True)
class Verdict:
    lot_is: str
    measured: int
    bad: int
    of: int
    certain: bool
    fewest_more: int
    why: str
    accept: list[float]
    reject: list[float]
    path: list[int]
    rule: str


@dataclass(frozen=True)
class Batch:
    points_to: str
    breaks: int
    wheels: int
    expected: float
    why: str


@dataclass(frozen=True)
class Lot:
    """`next_to_measure`: the jobs to take for the sample, in their drawn order."""

    id: UUID
    version: int
    name: str
    customer: str
    customer_id: UUID
    tier: str
    items: list[Item]
    sampling: Verdict
    next_to_measure: list[UUID]
    batch: Batch


@dataclass(frozen=True)
class Preview:
    """What a list would open: so many, which stood twice, which are in the shop's books already, which are open."""

    count: int
    doubled: list[str]
    known: list[str]
    already_open: list[str]


@dataclass(frozen=True)
class Refusal:
    number: int
    label: str
    reason: str


@dataclass(frozen=True)
class Done:
    """What a deed for many did: so many, and which were left out and why."""

    done: int
    left_out: list[Refusal]


@dataclass(frozen=True)
class Label:
    """One label: the job's number, the owner's, and the modules of the code that opens the job."""

    number: int
    label: str
    rows: list[str]
