"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID


@dataclass(frozen=True)
class Claim:
    job: UUID
    job_number: int
    count: int
    covered: int


@dataclass(frozen=True)
class StockPart:
    id: UUID
    version: int
    kind: str
    name: str
    bin: str
    supplier: str
    supplier_code: str
    minimum: int
    pack: int
    lead_days: int
    price_minor: int | None
    attributes: dict[str, Any]
    on_hand: int
    free: int
    on_order: int
    suggested_minimum: int
    claims: list[Claim]


@dataclass(frozen=True)
class Worth:
    """What lies in the bins at the bins' prices, and how many bins with something in them have none."""

    currency: str
    value_minor: int
    unpriced: int


@dataclass(frozen=True)
class Movement:
    id: UUID
    kind: str
    word: str
    delta: int
    claim_delta: int
    job_number: int | None
    note: str
    by: str
    created_at: datetime


@dataclass(frozen=True)
class LedgerPage:
    """Entries of a part's ledger, newest first; `earlier`: there are more before the last of them."""

    movements: list[Movement]
    earlier: bool


@dataclass(frozen=True)
class ProposedLine:
    part: UUID
    name: str
    count: int
    why: str


@dataclass(frozen=True)
class ProposedOrder:
    supplier: str
    lines: list[ProposedLine]


@dataclass(frozen=True)
class OrderLine:
    id: UUID
    part: UUID
    name: str
    count: int
    arrived: int


@dataclass(frozen=True)
class Order:
    id: UUID
    supplier: str
    state: str
    by: str
    created_at: datetime
    lines: list[OrderLine]


@dataclass(frozen=True)
class Orders:
    proposed: list[ProposedOrder]
    orders: list[Order]
    freed_jobs: list[int]


@dataclass(frozen=True)
class PreviewRow:
    line: int
    name: str
    kind: str
    does: str
    wrong: str


@dataclass(frozen=True)
class Imported:
    touched: int


@dataclass(frozen=True)
class Attribute:
    name: str
    label: str
    kind: str
    needed: bool
    words: list[str]


@dataclass(frozen=True)
class PartKind:
    key: str
    name: str
    attributes: list[Attribute]


@dataclass(frozen=True)
class Stock:
    kinds: list[PartKind]
    parts: list[StockPart]
    cuts_spokes: bool
    worth: Worth
