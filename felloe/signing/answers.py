"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Key:
    """`fingerprint` is what people compare; `ended_as` is empty for the key in use; `opens`: its private half can be read
    here; `vouched`: the key before it signed that this one follows it."""

    key: str
    fingerprint: str
    since: datetime
    by: str
    ended_at: datetime | None
    ended_by: str
    ended_as: str
    opens: bool
    vouched: bool


@dataclass(frozen=True)
class Keys:
    shop: str
    keys: list[Key]
