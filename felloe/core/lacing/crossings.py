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
#: How far a spoke may leave its nipple aside of the rim's radius, seen from the side: without a thought, and at all [deg].
#: Nipples swivel a little in their holes; beyond that the spoke is bent at its thread and breaks there. Common practice, no
#: source; the rim maker's drilling comes first.
BEND_GOOD_DEG, BEND_MOST_DEG = 7.5, 10.0


@dataclass(frozen=True)
class Crossing:
    """A side laced at `crossings`: length, how squarely it pulls on the flange, the room beside the neighbouring head.

    `length_mm` and `room_mm` are None where it cannot be laced so. `pull` is the sine of the angle between spoke and
    flange radius: 1 pulls round the hub with all its force, 0 (radial) with none. `bend_deg`: how far the spoke leaves its
    nipple aside of the rim's radius.
    """

    crossings: int
    length_mm: float | None
    pull: float
    room_mm: float | None
    possible: bool
    why: str
    bend_deg: float | None = None


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
        bend = bend_deg(laced, side)
        turned = bent(bend) or _why(c, limit)
        rows.append(Crossing(c, spoke_length_mm(laced, side), _pull(laced, side), room, True, turned + touches, bend))
    return tuple(rows)


def bend_deg(wheel: Wheel, side: Side) -> float:
    """Angle between a side's spokes and the rim's radius at the nipple, seen from the side [deg]; plane trigonometry."""
    hole, seat = _points(wheel, side)
    toward_hole = math.atan2(hole[1] - seat[1], hole[0] - seat[0])
    inward = math.atan2(-seat[1], -seat[0])
    return abs(math.degrees((toward_hole - inward + math.pi) % (2 * math.pi) - math.pi))


def bent(angle_deg: float) -> str:
    """What speaks against a bend at the nipple; empty where it is small."""
    if angle_deg > BEND_MOST_DEG:
        return say("not good: {angle:.0f}° aside at the nipple bends the spoke at its thread, where it breaks; cross fewer",
                   angle=angle_deg)  # fmt: skip
    if angle_deg > BEND_GOOD_DEG:
        return say("{angle:.0f}° aside at the nipple: bend the spokes at the nipple by hand, or cross fewer", angle=angle_deg)
    return ""


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
