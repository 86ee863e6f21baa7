"""Measuring rims and hubs: from what rods, ruler and caliper show to the dimensions, each with its uncertainty.

The ways of measuring are common practice, no source; the geometry is plane trigonometry.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.components import require
from felloe.core.errors import TradeError
from felloe.core.said import say

#: One diameter by two rods and a ruler, one reading of a caliper: standard deviations [mm]; common practice, no source.
ROD_SD_MM, CALIPER_SD_MM = 0.4, 0.1
#: A common error of all diameters of a rim: the rods' own lengths, how the ends were seated [mm].
ROD_COMMON_SD_MM = 0.25
#: Diameters of one rim that differ by more are doubted.
SPREAD_DOUBT_MM = 1.0
#: How far the two ways across a flange's holes may differ.
FLANGE_DOUBT_MM = 0.5


class BadMeasure(TradeError):
    """A measure that no part gives."""

    code = "bad_measure"


@dataclass(frozen=True)
class Found:
    """A dimension [mm] with its standard deviation, the spread of what it rests on, and what to doubt about it."""

    value_mm: float
    sd_mm: float
    spread_mm: float = 0.0
    doubts: tuple[str, ...] = ()


@dataclass(frozen=True)
class Rods:
    """One diameter: two rods, or two spokes of known length, through opposite holes, and the gap between their ends.

    A negative gap is an overlap.
    """

    first_mm: float
    second_mm: float
    gap_mm: float

    def __post_init__(self) -> None:
        require("first_mm", self.first_mm, 50, 400, "mm", "A rod")
        require("second_mm", self.second_mm, 50, 400, "mm", "A rod")
        require("gap_mm", self.gap_mm, -100, 500, "mm", say("The gap between the rods"))

    @property
    def across_mm(self) -> float:
        return self.first_mm + self.second_mm + self.gap_mm


def diameter_of_chord_mm(chord_mm: float, hole_count: int, holes_apart: int, sideways_mm: float = 0.0) -> float:
    """The diameter of the circle on which two holes stand `chord_mm` apart, `holes_apart` holes round of `hole_count`.

    `sideways_mm` is how far the two seats lie apart across the rim (holes drilled alternately left and right).
    Two holes that are not opposite span ERD·sin(π·k/n).
    """
    if not 0 < holes_apart < hole_count:
        raise BadMeasure(
            say(
                "two holes lie 1 to {hole_count} holes apart; found {holes_apart}",
                hole_count=hole_count - 1,
                holes_apart=holes_apart,
            ),
            "holes_apart",
        )
    if abs(sideways_mm) >= chord_mm:
        raise BadMeasure(say("the seats cannot lie farther apart across the rim than along the rods"), "sideways_mm")
    in_plane_mm = math.sqrt(chord_mm**2 - sideways_mm**2)
    return in_plane_mm / math.sin(math.pi * holes_apart / hole_count)


def erd_by_rods(diameters: Sequence[Rods], hole_count: int, holes_apart: int | None = None, stagger_mm: float = 0.0) -> Found:
    """ERD from one or more diameters taken round the rim.

    `holes_apart` is half the holes where left out, or as near to half as an odd number allows. Raises BadMeasure for
    none, and ImpossibleGeometry for an ERD that no rim has.
    """
    if not diameters:
        raise BadMeasure(say("measure at least one diameter"), "diameters")
    if not 12 <= hole_count <= 60:
        raise BadMeasure(say("a rim has 12 to 60 spoke holes; found {hole_count}", hole_count=hole_count), "hole_count")
    apart = hole_count // 2 if holes_apart is None else holes_apart
    # An odd number of holes apart, the two rods end on different sides of a staggered rim.
    sideways = 2 * stagger_mm if apart % 2 else 0.0
    found = [diameter_of_chord_mm(rods.across_mm, hole_count, apart, sideways) for rods in diameters]
    mean = sum(found) / len(found)
    require("erd_mm", mean, 200, 680, "mm", say("ERD"))
    spread = max(found) - min(found)
    scatter = math.sqrt(sum((d - mean) ** 2 for d in found) / (len(found) - 1)) if len(found) > 1 else 0.0
    # An error along the rods grows where the holes do not face each other, and with the seats' stagger.
    grows = max(
        d / math.sqrt(r.across_mm**2 - sideways**2) * r.across_mm / math.sqrt(r.across_mm**2 - sideways**2)
        for d, r in zip(found, diameters, strict=True)
    )
    sd = math.hypot(max(scatter, grows * ROD_SD_MM) / math.sqrt(len(found)), grows * ROD_COMMON_SD_MM)
    doubts = []
    if len(found) == 1:
        doubts.append(say("One diameter does not show whether the rim is round: take a second, a quarter turn on."))
    if spread > SPREAD_DOUBT_MM:
        doubts.append(
            say(
                "The diameters differ by {spread:.1f} mm: the rim is out of round, or a rod was not seated. Take more.",
                spread=spread,
            )
        )
    return Found(mean, sd, spread, tuple(doubts))


def erd_from_inside(inside_diameter_mm: float, bed_mm: float, seat_mm: float) -> Found:
    """ERD from the inside diameter, the thickness of the spoke bed and the nipple's seat up to its slot's bottom.

    ERD = inside diameter + 2 × (bed + seat).
    """
    require("inside_diameter_mm", inside_diameter_mm, 180, 670, "mm", say("The inside diameter"))
    require("bed_mm", bed_mm, 0.3, 12, "mm", say("The thickness of the spoke bed"))
    require("seat_mm", seat_mm, 0, 6, "mm", say("The nipple's seat to its slot's bottom"))
    value = inside_diameter_mm + 2 * (bed_mm + seat_mm)
    require("erd_mm", value, 200, 680, "mm", say("ERD"))
    doubts = (say("The bed's thickness is hard to reach: where it can be done, prove it with two rods."),)
    return Found(value, math.hypot(0.5, 2 * math.hypot(0.15, 0.15)), 0.0, doubts)


def bed_offset(to_left_edge_mm: float, to_right_edge_mm: float) -> Found:
    """How far the spoke bed lies right (+) of the rim's centre plane, from a caliper's two readings: (left − right)/2."""
    for name, value in (("to_left_edge_mm", to_left_edge_mm), ("to_right_edge_mm", to_right_edge_mm)):
        require(name, value, 1, 60, "mm", say("Spoke bed to the rim's edge"))
    value = (to_left_edge_mm - to_right_edge_mm) / 2
    if abs(value) > 8:
        raise BadMeasure(
            say("these readings put the spoke bed {value:.1f} mm off the middle; no rim has more than 8 mm", value=abs(value)),
            "to_right_edge_mm",
        )
    doubts = (say("Less than the caliper can tell: take the rim as symmetric."),) if 0 < abs(value) <= CALIPER_SD_MM else ()
    return Found(value, CALIPER_SD_MM / math.sqrt(2), 0.0, doubts)


def pitch_circle(inner_edges_mm: float | None, outer_edges_mm: float | None, hole_mm: float) -> Found:
    """A flange's pitch circle between opposite holes: inner edges + hole, or outer edges − hole; both prove each other.

    Holes with no hole opposite: measure to the middle between the two nearest, a little less; not corrected here.
    """
    require("hole_mm", hole_mm, 1.5, 4, "mm", say("Flange hole diameter"))
    ways = []
    if inner_edges_mm is not None:
        ways.append(inner_edges_mm + hole_mm)
    if outer_edges_mm is not None:
        ways.append(outer_edges_mm - hole_mm)
    if not ways:
        raise BadMeasure(
            say("measure between the inner edges of two opposite holes, or between their outer edges"), "inner_edges_mm"
        )
    value = sum(ways) / len(ways)
    require("pitch_circle_mm", value, 15, 380, "mm", say("Flange pitch-circle diameter"))
    spread = max(ways) - min(ways)
    if spread > FLANGE_DOUBT_MM:
        doubts: tuple[str, ...] = (
            say("The two ways differ by {spread:.1f} mm: measure both again, and the hole.", spread=spread),
        )
    else:
        doubts = ()
    # Two ways that lie farther apart than the caliper explains are known no better than they agree.
    return Found(value, max(CALIPER_SD_MM * math.sqrt(2 / len(ways)), spread / 2), spread, doubts)


def locknut_to_flange(to_outer_face_mm: float, flange_thickness_mm: float) -> Found:
    """Locknut to the middle of the flange, from the distance to its outer face: + half its thickness."""
    require("to_outer_face_mm", to_outer_face_mm, 0, 120, "mm", say("Locknut to the flange's outer face"))
    require("flange_thickness_mm", flange_thickness_mm, 1, 12, "mm", say("The flange's thickness"))
    return Found(to_outer_face_mm + flange_thickness_mm / 2, math.hypot(2 * CALIPER_SD_MM, CALIPER_SD_MM / 2))
