"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class Link:
    """`state`: open, answered, expired, revoked. `address` is empty once nobody can use it any more."""

    id: UUID
    asks: bool
    state: str
    address: str
    language: str
    expires_at: datetime
    seen: int
    seen_at: datetime | None
    by: str
    created_at: datetime


@dataclass(frozen=True)
class Letter:
    """A text to a customer in their language, and the ways to send it from where nothing leaves the shop's network."""

    kind: str
    language: str
    letter_subject: str
    letter_text: str
    phone: str
    email: str
    tel: str
    sms: str
    mailto: str
    prefers: str


@dataclass(frozen=True)
class Feed:
    """Where calendars read the shop's promises; `address` is empty where there is none."""

    address: str
    since: datetime | None
    by: str
