"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Backup:
    """One backup that was tried; `reason` is why it failed."""

    at: datetime
    file: str
    bytes: int
    seconds: float
    good: bool
    copied: bool
    reason: str


@dataclass(frozen=True)
class Backups:
    """`hours` since the last good one, None where there never was one."""

    last_good_at: datetime | None
    hours: float | None
    overdue: bool
    copied: bool
    runs: list[Backup]
