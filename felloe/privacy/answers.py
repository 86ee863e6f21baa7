"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class ConsentState:
    """`given` is None where the customer was not asked."""

    purpose: str
    what: str
    given: bool | None
    at: datetime | None
    by: str


@dataclass(frozen=True)
class ErasureAhead:
    """What an erasure reaches; `barred` says what stands against it, `erased` that it was done."""

    jobs: int
    photos: int
    letters: int
    signatures: int
    barred: str
    erased: bool
