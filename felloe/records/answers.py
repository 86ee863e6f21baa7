"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
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
