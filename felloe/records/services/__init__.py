"""Sign-off, hand-back and the open record."""

from felloe.records.services.closing import (
    blockers,
    comparison,
    hand_back,
    sign_off,
)

__all__ = [
    "blockers",
    "comparison",
    "hand_back",
    "sign_off",
]
