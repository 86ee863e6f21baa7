"""Sign-off, hand-back and the open record."""

from felloe.records.services.closing import (
    comparison,
    hand_back,
    sign_off,
)

__all__ = [
    "comparison",
    "hand_back",
    "sign_off",
]
