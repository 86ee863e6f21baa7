"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, time
from uuid import UUID


@dataclass(frozen=True)
class WeekSpan:
    weekday: int
    starts: time
    ends: time


@dataclass(frozen=True)
class ClosedOn:
    day: date
    name: str


@dataclass(frozen=True)
class Hours:
    """`usual`: nothing was said, so the usual week holds. `version` is the shop's."""

    version: int
    time_zone: str
    week: list[WeekSpan]
    closed_days: list[ClosedOn]
    usual: bool


@dataclass(frozen=True)
class Away:
    id: UUID
    first_day: date
    last_day: date
    why: str


@dataclass(frozen=True)
class WorkTimes:
    """A person's own week and absences; without shifts the opening hours hold."""

    person: UUID
    version: int
    week: list[WeekSpan]
    as_open: bool
    absences: list[Away]
