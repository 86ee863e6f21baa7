"""Which crossings a side can be laced at, and what each gives."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from felloe.core.components import SideLacing, Wheel
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.spokes.length import spoke_length_mm

#: A spoke's head is about this many wire diameters across; from memory.
HEAD_DIAMETERS = 1.9
MOST_CROSSINGS = 4


@dataclass(frozen=True)
class Crossing:
    """A side laced at `crossings`: length, how squarely it pulls on the flange, the room beside the neighbouring head.

    `length_mm` and `room_mm` are None where it cannot be laced so. `pull` is the sine of the angle between spoke and
    flange radius: 1 pulls round the hub with all its force, 0 (radial) with none.
    """

    crossings: int
    length_mm: float | None
    pull: float
    room_mm: float | None
    possible: bool
    why: str


def crossing_limit(count: int) -> int:
    """Most crossings with `count` spokes on a side: a quarter of them, at most 4; common practice, no source."""
    return 0 if count % 2 else min(MOST_CROSSINGS, count // 4)


def crossings_table(wheel: Wheel, side: Side) -> tuple[Crossing, ...]:
    """Radial to 4-cross on one side of `wheel`."""
    lacing = wheel.side(side)
    limit = crossing_limit(lacing.count)
    rows = []
    for c in range(MOST_CROSSINGS + 1):
        if c > limit:
            odd = say("{count} spokes cannot be crossed in pairs", count=lacing.count) if lacing.count % 2 else None
            why = odd or say(
                "the spoke would run under its neighbour's head: at most {limit}-cross with {count} on a side",
                limit=limit,
                count=lacing.count,
            )
            rows.append(Crossing(c, None, 0.0, None, False, why))
            continue
        laced = _with_crossings(wheel, side, c)
        room = _room_mm(laced, side)
        touches = say("; here it touches the neighbouring head: the hub maker's word first") if room < 0 else ""
        rows.append(Crossing(c, spoke_length_mm(laced, side), _pull(laced, side), room, True, _why(c, limit) + touches))
    return tuple(rows)


def _with_crossings(wheel: Wheel, side: Side, crossings: int) -> Wheel:
    old = wheel.side(side)
    lacing = SideLacing(old.count, crossings, old.spoke, old.pitch_mm)
    return replace(wheel, right=lacing) if side is Side.RIGHT else replace(wheel, left=lacing)


def _why(crossings: int, limit: int) -> str:
    if crossings == 0:
        return say("radial: only where hub and rim makers allow it; carries no drive or disc braking")
    if crossings == 1:
        return say("little for drive or disc braking; not interlaced")
    if crossings == limit:
        return say("the most that this side takes; good for drive and disc braking")
    return say("usual, good for drive and disc braking") if crossings >= 3 else say("usual on small counts and large flanges")


def _points(wheel: Wheel, side: Side) -> tuple[tuple[float, float], tuple[float, float]]:
    """A spoke seen from the side: its flange hole on the x axis, and its rim seat."""
    alpha = wheel.lead_angle_rad(side)
    big, small = wheel.rim.erd_mm / 2, wheel.hub.flange(side).pitch_circle_mm / 2
    return (small, 0.0), (big * math.cos(alpha), big * math.sin(alpha))


def _pull(wheel: Wheel, side: Side) -> float:
    hole, seat = _points(wheel, side)
    return (seat[1] - hole[1]) / math.dist(hole, seat)


def _room_mm(wheel: Wheel, side: Side) -> float:
    """From the spoke's edge to the edge of the nearest other head of its flange; negative means under it."""
    hole, seat = _points(wheel, side)
    count, wire = wheel.side(side).count, wheel.side(side).spoke.end_diameter_mm
    ux, uy = (seat[0] - hole[0]) / math.dist(hole, seat), (seat[1] - hole[1]) / math.dist(hole, seat)
    nearest = math.inf
    for k in range(1, count):
        angle = 2 * math.pi * k / count
        dx, dy = hole[0] * math.cos(angle) - hole[0], hole[0] * math.sin(angle)
        along = max(0.0, dx * ux + dy * uy)
        nearest = min(nearest, math.hypot(dx - along * ux, dy - along * uy))
    return nearest - (HEAD_DIAMETERS + 1) * wire / 2
