"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date


@dataclass(frozen=True)
class ShareOf:
    """`hits` of `of`, and the 95 % interval of the share, 0 to 1."""

    hits: int
    of: int
    share: float | None
    low: float | None
    high: float | None


@dataclass(frozen=True)
class Week:
    """One week by its Monday: promises kept, days from taking in to ready (median, nine of ten), wheels made ready."""

    monday: date
    kept: ShareOf
    lead_days: float | None
    lead_days_most: float | None
    ready: int


@dataclass(frozen=True)
class StagePace:
    """A stage: how often, hours in all, and the median of taken over estimated."""

    stage: str
    name: str
    times: int
    hours: float
    ratio: float | None


@dataclass(frozen=True)
class HoursOf:
    """Bench hours of one kind of wheel at one tier."""

    position: str
    use: str
    tier: str
    jobs: int
    hours: float


@dataclass(frozen=True)
class CauseCount:
    cause: str
    name: str
    count: int


@dataclass(frozen=True)
class Numbers:
    since: date
    until: date
    kept: ShareOf
    stated: float | None
    lead_days: float | None
    lead_days_most: float | None
    weeks: list[Week]
    stages: list[StagePace]
    comebacks: ShareOf
    comeback_causes: list[CauseCount]
    first_pass: ShareOf
    hours: list[HoursOf]
