"""Sides, spoke names, angles and signs: one convention everywhere.

The wheel is looked at from its right side (the drive side). Angles start at the valve hole and grow clockwise.
A spoke is named by side and count from the valve: R1, R2 … L1, L2 …; both sides count in the same direction.
Lateral + is toward the right, radial + is outward, dish + is rim right of the middle, nipple turn + tightens.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from enum import StrEnum
from functools import cache, lru_cache

from felloe.core.errors import ImpossibleGeometry, UnknownSpoke
from felloe.core.said import Said, say


class Side(StrEnum):
    """Right is the rider's right, the drive side; left is the rotor side on most disc hubs."""

    RIGHT = "R"
    LEFT = "L"

    @property
    def sign(self) -> int:
        """+1 on the right, −1 on the left: the sense of lateral +."""
        return 1 if self is Side.RIGHT else -1

    @property
    def other(self) -> Side:
        return Side.LEFT if self is Side.RIGHT else Side.RIGHT

    @property
    def said(self) -> Said:
        """The side in a sentence; `word` is its name in records and field paths."""
        return say("right") if self is Side.RIGHT else say("left")

    @property
    def word(self) -> str:
        return "right" if self is Side.RIGHT else "left"


_NAME = re.compile(r"^([RL])([1-9][0-9]?)$")


@dataclass(frozen=True, order=True)
class SpokeName:
    """Side and count from the valve, as in R5."""

    side: Side
    number: int

    @classmethod
    def parse(cls, text: str) -> SpokeName:
        """Read a name such as "R5" or " l12 ". Raises UnknownSpoke where it is not one."""
        return _parsed(text)

    def __str__(self) -> str:
        return _written(self.side, self.number)


@lru_cache(maxsize=1024)
def _parsed(text: str) -> SpokeName:
    """A wheel's names are read as often; what is no name is not kept."""
    match = _NAME.match(text.strip().upper())
    if match is None:
        raise UnknownSpoke(say("“{text}” is no spoke name; say a side and a count from the valve, as in R5", text=text[:20]))
    return SpokeName(Side(match[1]), int(match[2]))


@cache
def _written(side: Side, number: int) -> str:
    """A name's text: a wheel's are asked for thousands of times between two keys."""
    return f"{side.value}{number}"


def sides_round_the_rim(right_count: int, left_count: int, first_side: Side) -> tuple[Side, ...]:
    """Which side each rim hole belongs to, hole by hole from the valve.

    Equal counts alternate, beginning with `first_side`. Where one side has twice the other's spokes the holes
    run in threes, the single one in the middle (L R L …), so `first_side` must be the fuller side.
    Raises ImpossibleGeometry for any other pair of counts.
    """
    if right_count == left_count:
        return (first_side, first_side.other) * right_count
    fuller, count = (Side.RIGHT, left_count) if right_count > left_count else (Side.LEFT, right_count)
    if max(right_count, left_count) != 2 * count:
        raise ImpossibleGeometry(
            say(
                "sides must have equally many spokes, or one twice the other; found {right_count} right, {left_count} left",
                right_count=right_count,
                left_count=left_count,
            ),
            "spokes",
        )
    return (fuller, fuller.other, fuller) * count


def names_round_the_rim(right_count: int, left_count: int, first_side: Side) -> tuple[SpokeName, ...]:
    """The spokes in the order in which they pass after the valve."""
    counts = {Side.RIGHT: 0, Side.LEFT: 0}
    names = []
    for side in sides_round_the_rim(right_count, left_count, first_side):
        counts[side] += 1
        names.append(SpokeName(side, counts[side]))
    return tuple(names)


def hole_angles_deg(hole_count: int) -> tuple[float, ...]:
    """Angles of evenly spaced spoke holes; the valve hole (0°) lies midway between the last and the first."""
    step = 360.0 / hole_count
    return tuple((i + 0.5) * step for i in range(hole_count))
