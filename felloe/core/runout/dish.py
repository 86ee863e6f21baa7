"""Dish: how far the rim's mean plane lies right (+) of the middle of the over-locknut width.

The rules are definitions. What is entered says on which side a gap was seen, so no sign can be mixed up.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from felloe.core.errors import BadReading
from felloe.core.naming import Side
from felloe.core.said import say


@dataclass(frozen=True)
class Dish:
    """Dish [mm], + right, with its standard deviation [mm]."""

    dish_mm: float
    sd_mm: float


def _within(value: float, limit_mm: float, field: str, what: str) -> None:
    if not math.isfinite(value) or abs(value) > limit_mm:
        raise BadReading(
            say("{what} of {value:g} mm cannot be; at most {limit_mm:g} mm", what=what, value=value, limit_mm=limit_mm), field
        )


def dish_from_gauge(gap_mm: float, gap_side: Side, sd_mm: float = 0.1) -> Dish:
    """Dish by gauge: set to the locknut on one side, a gap `gap_mm` is seen on `gap_side`.

    The rim sits half the gap off toward the side with the gap; an overlap is a negative gap.
    Example: 1.0 mm of gap on the left → dish −0.5 mm. Halving the gap halves its uncertainty too.
    """
    _within(gap_mm, 40, "gap_mm", "A gap")
    return Dish(gap_side.sign * gap_mm / 2, sd_mm / 2)


def dish_from_flipping(clearance_right_way_mm: float, clearance_flipped_mm: float, sd_mm: float = 0.15) -> Dish:
    """Dish by flipping in a stand, against one fixed pointer on the right.

    a with the wheel the right way round, b flipped: (b − a)/2, + right. Each clearance has `sd_mm`.
    """
    _within(clearance_right_way_mm, 60, "clearance_right_way_mm", "A clearance")
    _within(clearance_flipped_mm, 60, "clearance_flipped_mm", "A clearance")
    return Dish((clearance_flipped_mm - clearance_right_way_mm) / 2, sd_mm / math.sqrt(2))


def dish_from_stand(offset_mm: float, side: Side, stand_error_mm: float = 0.0, sd_mm: float = 0.5) -> Dish:
    """Dish by the stand's own centring: the rim sits `offset_mm` toward `side` of where the stand points.

    `stand_error_mm` is where the stand itself points, + right, from its last check. The least trustworthy of the three
    ways (common practice, no source), so its standard deviation is wide.
    """
    _within(offset_mm, 30, "offset_mm", say("An offset"))
    return Dish(side.sign * offset_mm + stand_error_mm, sd_mm)


def dish_target_from_face(old_mm: float, face: Side, distance_mm: float) -> float:
    """Where the rim belongs [mm, + right] when a drawing states its distance inward from the locknut face on `face`.

    Example: 130 mm over the locknuts, rim 61.5 mm from the right face → +3.5 mm.
    """
    _within(distance_mm, old_mm, "distance_mm", say("A distance from the face"))
    return face.sign * (old_mm / 2 - distance_mm)


def dish_target_from_edge(
    old_mm: float, side: Side, edge_inside_mm: float, distance_mm: float, rim_width_mm: float = 0.0
) -> float:
    """Where the rim belongs [mm, + right] when its drawing or its owner states it from a part of the hub to the rim's edge.

    The edge of the drum, gear or rotor on `side` lies `edge_inside_mm` inside that side's locknut face (0: the face), and
    the rim's near edge `distance_mm` further in; a rim `rim_width_mm` wide over its edges has its middle half of that further
    on (0: the distance is to the rim's middle). Definition. Raises BadReading.
    Example: 135 mm over the locknuts, rotor's edge 15.3 mm inside the left face, rim 41.2 mm from it, 24 mm wide:
    +1.0 mm.
    """
    _within(edge_inside_mm, old_mm, "edge_inside_mm", say("A distance from the face"))
    _within(distance_mm, old_mm, "distance_mm", say("A distance to the rim"))
    _within(rim_width_mm, 120, "rim_width_mm", say("A rim's width"))
    if rim_width_mm < 0:
        raise BadReading(say("A rim's width is more than nothing"), "rim_width_mm")
    return dish_target_from_face(old_mm, side, edge_inside_mm + distance_mm + rim_width_mm / 2)
