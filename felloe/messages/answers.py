"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class SentLetter:
    id: UUID
    job: UUID
    number: int
    kind: str
    what: str
    recipient: str
    letter_subject: str
    letter_text: str
    state: str
    tries: int
    problem: str
    by: str
    created_at: datetime
    sent_at: datetime | None


@dataclass(frozen=True)
class Caught:
    at: datetime
    recipients: str
    letter_subject: str
    letter_text: str


@dataclass(frozen=True)
class Outbox:
    """`catches`: nothing leaves this machine, and `caught` is what would have."""

    letters: list[SentLetter]
    catches: bool
    caught: list[Caught]
