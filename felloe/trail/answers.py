"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class ChangedField:
    """What it is called, as it was and as it is; `before` is empty for what was new."""

    what: str
    before: str
    after: str


@dataclass(frozen=True)
class Changed:
    """What was saved together. `by` is empty where nobody was signed in."""

    id: int
    topic: str
    what: str
    deed: str
    at: datetime
    by: str
    fields: list[ChangedField]
