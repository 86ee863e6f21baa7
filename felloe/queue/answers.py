"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.stages import Stage
from felloe.core.truing.tiers import Tier
from felloe.queue.models import Job, Signature


@dataclass(frozen=True)
class Tag:
    """A job's tag: the address in its QR code, and the code's rows of dark (1) and light (0)."""

    address: str
    rows: list[str]
    shop: str
    signatures: list[Signature]


@dataclass(frozen=True)
class Hit:
    """A job that was found, and the answer to “is my wheel ready?”: its key (ready, not_yet, late, waits, gone) and words."""

    job: Job
    phone: str
    hook: str
    key: str
    said: str
    complaint: str


@dataclass(frozen=True)
class Complaint:
    key: str
    name: str


@dataclass(frozen=True)
class Trade:
    """The fixed words and figures that screens need: stages, tiers and complaint tags."""

    complaints: list[Complaint]
    stages: list[Stage]
    tiers: list[Tier]
