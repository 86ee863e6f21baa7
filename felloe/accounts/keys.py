"""Keys of rows that grow without end: in the order of their making, so that new ones stand beside each other in the index."""

from __future__ import annotations

import secrets
import time
from uuid import UUID


def uuid7() -> UUID:
    """A UUID whose first 48 bits are the milliseconds since 1970, the rest random. Source: RFC 9562, section 5.7."""
    return made_of(time.time_ns() // 1_000_000, secrets.randbits(74))


def made_of(unix_ms: int, random: int) -> UUID:
    """The UUID of a moment [ms since 1970] and 74 random bits: 12 after the version, 62 after the variant."""
    upper, lower = random >> 62, random & ((1 << 62) - 1)
    return UUID(int=(unix_ms & ((1 << 48) - 1)) << 80 | 0x7 << 76 | upper << 64 | 0b10 << 62 | lower)
