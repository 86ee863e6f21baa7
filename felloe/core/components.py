"""What a wheel is made of: frozen values that refuse what cannot be."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from felloe.core.bead_seats import BEAD_SEAT_DIAMETERS_MM, plausible_erd_mm
from felloe.core.errors import ImpossibleGeometry
from felloe.core.materials import MATERIALS, Material
from felloe.core.naming import Side, SpokeName, hole_angles_deg, names_round_the_rim
from felloe.core.said import say

#: Pitch of the spoke thread, 56 threads per inch [mm]; BS 811 / ISO cycle thread, from memory.
THREAD_PITCH_MM = 25.4 / 56


def require(field_name: str, value: float, low: float, high: float, unit: str, what: str) -> None:
    """Raise ImpossibleGeometry unless low ≤ value ≤ high; says what was expected and what was found."""
    if not (isinstance(value, int | float) and math.isfinite(value) and low <= value <= high):
        shown = f"{value:g}" if isinstance(value, int | float) else repr(value)
        raise ImpossibleGeometry(
            say(
                "{what} must lie between {low:g} and {high:g} {unit}; found {shown}",
                what=what,
                low=low,
                high=high,
                unit=unit,
                shown=shown,
            ),
            field_name,
        )


#: Target on the tight side and limit [N] where no maker states one: common practice for an alloy rim, no source. What carbon
#: bears differs from maker to maker, so without his figure it is treated with caution, and shown as a default like any other.
USUAL_TENSION_N = {"aluminium": (1000.0, 1200.0), "carbon": (900.0, 1000.0), "steel": (800.0, 1000.0)}
#: How far above a stated target the limit is taken to lie.
ABOVE_TARGET = 1.15


@dataclass(frozen=True)
class Rim:
    """A rim.

    `erd_mm` is the diameter on which the spoke ends sit (bottom of the nipple's slot).
    `spoke_bed_offset_mm` + is the spoke bed right of the rim's centre plane.
    `centroid_depth_mm` is how far the section's centroid lies outside the spoke ends' circle.
    Stiffnesses: EA [N]; bending out of the wheel plane, bending in it, torsion [N·m²].
    """

    erd_mm: float
    bead_seat_mm: int | None = None
    spoke_bed_offset_mm: float = 0.0
    stagger_mm: float = 0.0
    centroid_depth_mm: float = 6.0
    ea_n: float = 6.0e6
    ei_lat_nm2: float = 220.0
    ei_rad_nm2: float = 150.0
    gj_nm2: float = 50.0
    target_n: float | None = None
    cap_n: float | None = None
    material: str = "aluminium"

    def __post_init__(self) -> None:
        require("erd_mm", self.erd_mm, 200, 680, "mm", say("ERD"))
        require("spoke_bed_offset_mm", self.spoke_bed_offset_mm, -8, 8, "mm", say("Offset of the spoke bed"))
        require("stagger_mm", self.stagger_mm, 0, 8, "mm", say("Stagger of the spoke holes"))
        require("centroid_depth_mm", self.centroid_depth_mm, 0, 60, "mm", say("Depth of the section's centroid"))
        require("ea_n", self.ea_n, 1e5, 1e9, "N", say("EA of the rim"))
        for name in ("ei_lat_nm2", "ei_rad_nm2"):
            require(name, getattr(self, name), 5, 20_000, "N·m²", say("Bending stiffness of the rim"))
        require("gj_nm2", self.gj_nm2, 1, 20_000, "N·m²", say("Torsional stiffness of the rim"))
        if self.bead_seat_mm is not None:
            if self.bead_seat_mm not in BEAD_SEAT_DIAMETERS_MM:
                raise ImpossibleGeometry(
                    say("{bead_seat_mm} mm is no bead seat diameter of ISO 5775", bead_seat_mm=self.bead_seat_mm),
                    "bead_seat_mm",
                )
            low_mm, high_mm = plausible_erd_mm(self.bead_seat_mm)
            what = say("ERD of a {bead_seat_mm} mm rim", bead_seat_mm=self.bead_seat_mm)
            require("erd_mm", self.erd_mm, low_mm, high_mm, "mm", what)
        if self.target_n is not None:
            require("target_n", self.target_n, 200, 2500, "N", say("Target tension"))
        if self.cap_n is not None:
            require("cap_n", self.cap_n, 300, 3000, "N", say("Tension limit of the rim"))
        if self.tension_target_n > self.tension_cap_n:
            raise ImpossibleGeometry(
                say(
                    "the target ({tension_target_n:g} N) lies above the rim's limit ({tension_cap_n:g} N)",
                    tension_target_n=self.tension_target_n,
                    tension_cap_n=self.tension_cap_n,
                ),
                "target_n",
            )

    @property
    def tension_target_n(self) -> float:
        """The maker's target on the tight side, else USUAL_TENSION_N for the rim's material.

        Never above 90 % of a limit that is known.
        """
        if self.target_n is not None:
            return self.target_n
        usual = self._usual_n[0]
        return min(usual, 0.9 * self.cap_n) if self.cap_n is not None else usual

    @property
    def tension_cap_n(self) -> float:
        """The maker's limit, else USUAL_TENSION_N for the rim's material; a target that the maker states sets it, by 15 %."""
        if self.cap_n is not None:
            return self.cap_n
        return self._usual_n[1] if self.target_n is None else ABOVE_TARGET * self.target_n

    @property
    def _usual_n(self) -> tuple[float, float]:
        return USUAL_TENSION_N.get(self.material, USUAL_TENSION_N["aluminium"])

    @property
    def tension_is_default(self) -> bool:
        """True where target or limit is Felloe's default and not the rim maker's figure."""
        return self.target_n is None or self.cap_n is None


@dataclass(frozen=True)
class Flange:
    """One flange. `center_to_flange_mm` is measured from the middle of the over-locknut width.

    `straight_pull_angle_deg`: for a hub that takes spokes without an elbow, the angle between the spoke's seat and its
    rim hole, by the hub's own drawing; `pitch_circle_mm` is then the circle of the seats. None for spokes with elbows.
    """

    pitch_circle_mm: float
    center_to_flange_mm: float
    hole_diameter_mm: float = 2.6
    straight_pull_angle_deg: float | None = None

    def __post_init__(self) -> None:
        require("pitch_circle_mm", self.pitch_circle_mm, 15, 380, "mm", say("Flange pitch-circle diameter"))
        require("center_to_flange_mm", self.center_to_flange_mm, -5, 75, "mm", say("Distance from centre to flange"))
        require("hole_diameter_mm", self.hole_diameter_mm, 1.5, 4, "mm", say("Flange hole diameter"))
        if self.straight_pull_angle_deg is not None:
            require("straight_pull_angle_deg", self.straight_pull_angle_deg, 0, 110, "°", say("Angle of a straight-pull spoke"))


@dataclass(frozen=True)
class Hub:
    """A hub. `old_mm` is the over-locknut width."""

    old_mm: float
    right: Flange
    left: Flange

    def __post_init__(self) -> None:
        require("old_mm", self.old_mm, 60, 200, "mm", say("Over-locknut width"))
        for side in Side:
            flange = self.flange(side)
            if flange.center_to_flange_mm > self.old_mm / 2:
                raise ImpossibleGeometry(
                    say(
                        "the {side} flange lies {center_to_flange_mm:g} mm from the centre, outside the "
                        "locknut at {old_mm:g} mm",
                        side=side.said,
                        center_to_flange_mm=flange.center_to_flange_mm,
                        old_mm=self.old_mm / 2,
                    ),
                    f"{side.word}.center_to_flange_mm",
                )

    @classmethod
    def from_locknuts(cls, old_mm: float, right: Flange, left: Flange) -> Hub:
        """A hub measured from locknut to flange: the flanges' `center_to_flange_mm` hold locknut-to-flange."""

        def convert(flange: Flange) -> Flange:
            return replace(flange, center_to_flange_mm=old_mm / 2 - flange.center_to_flange_mm)

        return cls(old_mm, convert(right), convert(left))

    def flange(self, side: Side) -> Flange:
        return self.right if side is Side.RIGHT else self.left


@dataclass(frozen=True)
class Spoke:
    """A J-bend spoke: round, butted, or bladed.

    Round: `end_diameter_mm` throughout. Butted: `middle_diameter_mm` between the ends. Bladed: the middle is
    `blade_thickness_mm` × `blade_width_mm`. The thick ends are `end_length_mm` long, each.
    """

    end_diameter_mm: float = 2.0
    middle_diameter_mm: float | None = None
    blade_thickness_mm: float | None = None
    blade_width_mm: float | None = None
    end_length_mm: float = 25.0
    material: str = "stainless"

    def __post_init__(self) -> None:
        require("end_diameter_mm", self.end_diameter_mm, 1.4, 3.5, "mm", say("Spoke diameter"))
        require("end_length_mm", self.end_length_mm, 0, 80, "mm", say("Length of the thick ends"))
        if self.material not in MATERIALS:
            known = ", ".join(sorted(MATERIALS))
            raise ImpossibleGeometry(
                say("spoke material must be one of {known}; found {material!r}", known=known, material=self.material),
                "material",
            )
        if (self.blade_thickness_mm is None) != (self.blade_width_mm is None):
            raise ImpossibleGeometry(say("a blade needs both its thickness and its width"), "blade_width_mm")
        if self.blade_thickness_mm is not None and self.blade_width_mm is not None:
            if self.middle_diameter_mm is not None:
                raise ImpossibleGeometry(say("the middle is either round or a blade, not both"), "middle_diameter_mm")
            require("blade_thickness_mm", self.blade_thickness_mm, 0.5, 2.5, "mm", say("Blade thickness"))
            require("blade_width_mm", self.blade_width_mm, self.blade_thickness_mm, 8, "mm", say("Blade width"))
        if self.middle_diameter_mm is not None:
            what = say("Middle of a butted spoke")
            require("middle_diameter_mm", self.middle_diameter_mm, 1.2, self.end_diameter_mm, "mm", what)

    @cached_property
    def kind(self) -> str:
        """How a meter's table names it: "round 1.8" or "blade 0.9x2.2", by what the meter touches."""
        if self.blade_thickness_mm is not None:
            return say(
                "blade {blade_thickness_mm:.1f}x{blade_width_mm:.1f}",
                blade_thickness_mm=self.blade_thickness_mm,
                blade_width_mm=self.blade_width_mm,
            )
        return say("round {value:.1f}", value=self.middle_diameter_mm or self.end_diameter_mm)

    @property
    def elastic(self) -> Material:
        return MATERIALS[self.material]

    @property
    def end_area_mm2(self) -> float:
        return math.pi * self.end_diameter_mm**2 / 4

    @property
    def middle_area_mm2(self) -> float:
        """Cross-section of the middle; a blade has rounded edges, taken as a flat with half-round ends."""
        if self.blade_thickness_mm is not None and self.blade_width_mm is not None:
            t, w = self.blade_thickness_mm, self.blade_width_mm
            return t * (w - t) + math.pi * t**2 / 4
        diameter_mm = self.middle_diameter_mm or self.end_diameter_mm
        return math.pi * diameter_mm**2 / 4

    def axial_stiffness_n_mm(self, length_mm: float) -> float:
        """k = 1 / Σ ℓ/(E·A) over thick ends and middle, for a spoke of `length_mm` [N/mm]."""
        ends_mm = min(2 * self.end_length_mm, length_mm)
        compliance = ends_mm / self.end_area_mm2 + (length_mm - ends_mm) / self.middle_area_mm2
        return self.elastic.youngs_modulus_mpa / compliance


@dataclass(frozen=True)
class SideLacing:
    """One side's spokes: how many, how crossed, of which kind, on which thread."""

    count: int
    crossings: int
    spoke: Spoke = field(default_factory=Spoke)
    pitch_mm: float = THREAD_PITCH_MM

    def __post_init__(self) -> None:
        if not isinstance(self.count, int) or not 4 <= self.count <= 32:
            raise ImpossibleGeometry(say("a side has 4 to 32 spokes; found {count}", count=self.count), "count")
        if not isinstance(self.crossings, int) or not 0 <= self.crossings <= 4:
            raise ImpossibleGeometry(
                say("crossings must be 0 (radial) to 4; found {crossings}", crossings=self.crossings), "crossings"
            )
        if self.crossings and self.count % 2:
            raise ImpossibleGeometry(
                say("{count} spokes on a side cannot be crossed in pairs: lace it radial", count=self.count), "crossings"
            )
        if self.crossings > self.count // 4:
            raise ImpossibleGeometry(
                say(
                    "{crossings}-cross with {count} spokes on a side would lay a spoke under its neighbour's head; "
                    "at most {most}-cross",
                    crossings=self.crossings,
                    count=self.count,
                    most=self.count // 4,
                ),
                "crossings",
            )
        require("pitch_mm", self.pitch_mm, 0.3, 1.0, "mm", say("Thread pitch"))


@dataclass(frozen=True)
class Wheel:
    """A whole wheel: rim, hub, and the two sides' spokes.

    `first_side` says which of R1 and L1 comes first after the valve; it is a property of the rim.
    `dish_target_mm`: where the rim belongs, right (+) of the middle of the over-locknut width; 0 but for hubs and frames
    that are off-centre by design. Everything else, states and plans too, counts dish from there.
    """

    rim: Rim
    hub: Hub
    right: SideLacing
    left: SideLacing
    first_side: Side = Side.RIGHT
    dish_target_mm: float = 0.0

    def __post_init__(self) -> None:
        require("dish_target_mm", self.dish_target_mm, -30, 30, "mm", say("Where the rim belongs, from the middle,"))
        if not 16 <= self.spoke_count <= 48:
            raise ImpossibleGeometry(
                say("a wheel has 16 to 48 spokes; found {spoke_count}", spoke_count=self.spoke_count), "spokes"
            )
        if self.right.count > self.left.count:
            fuller = Side.RIGHT
        elif self.left.count > self.right.count:
            fuller = Side.LEFT
        else:
            fuller = self.first_side
        if fuller is not self.first_side:
            raise ImpossibleGeometry(
                say(
                    "with {right} right and {left} left the first spoke after the valve is a {fuller} one",
                    right=self.right.count,
                    left=self.left.count,
                    fuller=fuller.said,
                ),
                "first_side",
            )
        _ = self.names
        for side in Side:
            flange = self.hub.flange(side)
            if flange.pitch_circle_mm >= self.rim.erd_mm - 60:
                raise ImpossibleGeometry(
                    say(
                        "the {side} flange ({pitch_circle_mm:g} mm) does not fit inside an ERD of {erd_mm:g} mm",
                        side=side.said,
                        pitch_circle_mm=flange.pitch_circle_mm,
                        erd_mm=self.rim.erd_mm,
                    ),
                    f"hub.{side.word}.pitch_circle_mm",
                )
            if self.bracing_mm(side) <= 1.0:
                raise ImpossibleGeometry(
                    say(
                        "the {side} spokes do not lean out from the rim (flange {bracing_mm:.1f} mm from the "
                        "spoke bed's plane): the wheel could not stand",
                        side=side.said,
                        bracing_mm=self.bracing_mm(side),
                    ),
                    f"hub.{side.word}.center_to_flange_mm",
                )

    @property
    def spoke_count(self) -> int:
        return self.right.count + self.left.count

    @cached_property
    def names(self) -> tuple[SpokeName, ...]:
        """Spokes in the order from the valve."""
        return names_round_the_rim(self.right.count, self.left.count, self.first_side)

    @cached_property
    def index_of(self) -> Mapping[str, int]:
        """Place round the rim, from 0, by spoke name."""
        return {str(name): i for i, name in enumerate(self.names)}

    @cached_property
    def angles_deg(self) -> tuple[float, ...]:
        """Angle of each spoke hole, in the order of `names`."""
        return hole_angles_deg(self.spoke_count)

    def on_side(self, side: Side) -> NDArray[np.bool_]:
        """Which spokes, in the order from the valve, belong to `side`, (n,)."""
        return np.array([name.side is side for name in self.names])

    def side(self, side: Side) -> SideLacing:
        return self.right if side is Side.RIGHT else self.left

    def lead_angle_rad(self, side: Side) -> float:
        """α: how far round a spoke's flange hole lies from its rim hole.

        2π·c/m where the rim holes of the side are evenly spaced. Where one side has twice the other's spokes they stand
        in pairs while the flange is still drilled evenly, so each hole lies half the difference of the spacings
        farther round. A straight-pull hub's own drawing overrides both.
        """
        drawn = self.hub.flange(side).straight_pull_angle_deg
        if drawn is not None:
            return math.radians(drawn)
        lacing = self.side(side)
        alpha = 2 * math.pi * lacing.crossings / lacing.count
        if lacing.count > self.side(side.other).count:
            alpha += math.pi / lacing.count - math.pi / self.spoke_count
        return alpha

    def bracing_mm(self, side: Side) -> float:
        """w: distance from the plane of the rim's spoke bed to the flange plane, + outward on that side."""
        offset_mm = self.rim.spoke_bed_offset_mm + self.dish_target_mm
        return self.hub.flange(side).center_to_flange_mm - side.sign * offset_mm
