"""What the page is told of sessions and of the second factor."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from uuid import UUID


@dataclass(frozen=True)
class SignedIn:
    """A session: on what, from where, since when and last seen when; `here` is the one that asks."""

    id: UUID
    device: str
    address: str
    by_digits: bool
    began_at: datetime
    seen_at: datetime
    here: bool


@dataclass(frozen=True)
class Branch:
    """Another shop where the same person works, under which name and in which role."""

    id: UUID
    shop: str
    username: str
    role: str


@dataclass(frozen=True)
class OwnAccount:
    """One's own sign-in: where a letter for a new password goes, and whether a code is asked for."""

    email: str
    second_factor: bool
    spare_codes: int
    sessions: list[SignedIn]
    branches: list[Branch]


@dataclass(frozen=True)
class NewFactor:
    """What an authenticator needs: the secret in base32, the address that it reads (Key URI format), and that as a
    square code: one string of 0 and 1 per row."""

    secret: str
    address: str
    rows: list[str]


@dataclass(frozen=True)
class SpareCodes:
    """Codes that are shown once; each opens once."""

    codes: list[str]
