"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class TakenIn:
    """What a bundle brought, or would bring where `kept` is False. `known`: what was here already, in words."""

    kept: bool
    shop: str
    customer: str
    customer_id: UUID | None
    new_customers: int
    bikes: int
    wheels: int
    jobs: int
    readings: int
    photos: int
    known: list[str]


@dataclass(frozen=True)
class SentTo:
    """To which shop a customer's record went, by whom and when."""

    shop: str
    by: str
    at: datetime


@dataclass(frozen=True)
class Underway:
    """How many of the wheels of a bundle have been gone through."""

    done: int
    total: int
