"""How well a spoke length is known: first-order propagation of what the dimensions are known to."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from felloe.core.components import Wheel
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.spokes.fit import WINDOW_MM
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.spokes.measuring import BadMeasure

#: Standard deviations [mm] of dimensions that were measured with rods and a caliper; common practice, no source.
MEASURED_SD_MM: dict[str, float] = {
    "rim.erd_mm": 0.5,
    "rim.spoke_bed_offset_mm": 0.1,
    "rim.stagger_mm": 0.2,
    "hub.old_mm": 0.2,
    "hub.right.pitch_circle_mm": 0.2,
    "hub.left.pitch_circle_mm": 0.2,
    "hub.right.center_to_flange_mm": 0.3,
    "hub.left.center_to_flange_mm": 0.3,
    "hub.right.hole_diameter_mm": 0.1,
    "hub.left.hole_diameter_mm": 0.1,
}
#: The same of a wheel that was only taken for one of its kind: rims and hubs of a kind differ by so much.
OF_ITS_KIND_SD_MM: dict[str, float] = {
    **MEASURED_SD_MM,
    "rim.erd_mm": 4.0,
    "rim.spoke_bed_offset_mm": 0.5,
    "hub.old_mm": 0.5,
    "hub.right.pitch_circle_mm": 3.0,
    "hub.left.pitch_circle_mm": 3.0,
    "hub.right.center_to_flange_mm": 1.5,
    "hub.left.center_to_flange_mm": 1.5,
}
#: Kept instead of the centre's where a flange was measured from its locknut.
FROM_LOCKNUT = ("hub.right.locknut_to_flange_mm", "hub.left.locknut_to_flange_mm")
MOST_SD_MM = 20.0


@dataclass(frozen=True)
class KnownLength:
    """A side's spoke length [mm], its standard deviation, and each dimension's share of the variance, largest first."""

    length_mm: float
    sd_mm: float
    shares: tuple[tuple[str, float], ...]


def checked_sds(given: Mapping[str, float], measured: bool) -> dict[str, float]:
    """The standard deviation of every dimension: what was given, else the usual one. Raises BadMeasure at its field."""
    usual = MEASURED_SD_MM if measured else OF_ITS_KIND_SD_MM
    for name, value in given.items():
        if name not in usual and name not in FROM_LOCKNUT:
            raise BadMeasure(say("“{name}” is no dimension whose uncertainty is kept", name=name[:60]), name[:60])
        if isinstance(value, bool) or not isinstance(value, int | float) or not 0 <= value <= MOST_SD_MM:
            raise BadMeasure(say("an uncertainty lies between 0 and {most_sd_mm:g} mm", most_sd_mm=MOST_SD_MM), name)
    return {**usual, **given}


def slopes(wheel: Wheel, side: Side) -> dict[str, float]:
    """∂L/∂x for each dimension that the length of `side` depends on, by differentiating the law of cosines."""
    flange = wheel.hub.flange(side)
    big, small = wheel.rim.erd_mm / 2, flange.pitch_circle_mm / 2
    w = wheel.bracing_mm(side) - wheel.rim.stagger_mm
    alpha = wheel.lead_angle_rad(side)
    straight_pull = flange.straight_pull_angle_deg is not None
    span = spoke_length_mm(wheel, side) + (0.0 if straight_pull else flange.hole_diameter_mm / 2)
    found = {
        "rim.erd_mm": (big - small * math.cos(alpha)) / span / 2,
        "rim.spoke_bed_offset_mm": -side.sign * w / span,
        "rim.stagger_mm": -w / span,
        f"hub.{side.word}.pitch_circle_mm": (small - big * math.cos(alpha)) / span / 2,
        f"hub.{side.word}.center_to_flange_mm": w / span,
    }
    if not straight_pull:
        found[f"hub.{side.word}.hole_diameter_mm"] = -0.5
    if wheel.rim.stagger_mm == 0:
        del found["rim.stagger_mm"]
    return found


def known_length(wheel: Wheel, side: Side, sds: Mapping[str, float]) -> KnownLength:
    """The side's spoke length with its uncertainty; errors of the dimensions are taken as independent.

    Where the flange's uncertainty is one from the locknut, half of the over-locknut width's error comes to it.
    """
    variances = {name: (slope * sds[name]) ** 2 for name, slope in slopes(wheel, side).items()}
    locknut = f"hub.{side.word}.locknut_to_flange_mm"
    if locknut in sds:
        slope = slopes(wheel, side)[f"hub.{side.word}.center_to_flange_mm"]
        del variances[f"hub.{side.word}.center_to_flange_mm"]
        variances[locknut] = (slope * sds[locknut]) ** 2
        variances["hub.old_mm"] = (slope * sds["hub.old_mm"] / 2) ** 2
    total = sum(variances.values())
    order = sorted(variances.items(), key=lambda item: -item[1])
    shares = tuple((name, value / total if total else 0.0) for name, value in order)
    return KnownLength(spoke_length_mm(wheel, side), math.sqrt(total), shares)


#: An old spoke that held ended within about so much of the middle of its nipple's window [mm]; common practice, no source.
OLD_SPOKE_SD_MM = 1.2


def with_old_spokes(known: KnownLength, lengths_mm: Sequence[float], stretch_mm: float) -> KnownLength:
    """A computed length joined with what spokes taken out of the wheel measured, each weighted by its variance.

    The ruler weighs as it should where the dimensions are a guess; lengths that differ among themselves count for less.
    """
    if not lengths_mm:
        return known
    # The end of a spoke that held stood in the middle of the window, as far as anybody knows.
    needed = sum(lengths_mm) / len(lengths_mm) + stretch_mm - (WINDOW_MM[0] + WINDOW_MM[1]) / 2
    spread = max(lengths_mm) - min(lengths_mm)
    variance = OLD_SPOKE_SD_MM**2 + (spread / 2) ** 2
    weight = known.sd_mm**2 / (known.sd_mm**2 + variance)
    shares = [(name, share * (1 - weight)) for name, share in known.shares] + [("old_spokes", weight)]
    return KnownLength(
        known.length_mm + weight * (needed - known.length_mm),
        math.sqrt(known.sd_mm**2 * variance / (known.sd_mm**2 + variance)),
        tuple(sorted(shares, key=lambda item: -item[1])),
    )
