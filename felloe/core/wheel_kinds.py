"""Generic kinds of wheel to start from when a wheel has not been measured yet.

Dimensions and stiffnesses are typical of the kind (common practice, no source; from memory): defaults to be
replaced by what is measured and by the makers' figures. No real product is meant.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from felloe.core.components import Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.said import say

_PLAIN = Spoke(2.0)
_BUTTED = Spoke(2.0, middle_diameter_mm=1.8)
_THIN = Spoke(2.0, middle_diameter_mm=1.5)
_STOUT = Spoke(2.3, middle_diameter_mm=2.0)
_BLADE = Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=2.2)

_BOX = Rim(605, 622, centroid_depth_mm=5, ea_n=6.0e6, ei_lat_nm2=220, ei_rad_nm2=110, gj_nm2=45)
_WIDE_DISC = Rim(596, 622, centroid_depth_mm=6, ea_n=6.5e6, ei_lat_nm2=260, ei_rad_nm2=140, gj_nm2=60)
_OFFSET_DISC = Rim(
    596, 622, spoke_bed_offset_mm=-2.5, centroid_depth_mm=6, ea_n=6.5e6, ei_lat_nm2=260, ei_rad_nm2=140, gj_nm2=60
)
_TANDEM = Rim(598, 622, centroid_depth_mm=7, ea_n=8.0e6, ei_lat_nm2=330, ei_rad_nm2=220, gj_nm2=90)
_SMALL = Rim(388, 406, centroid_depth_mm=5, ea_n=5.5e6, ei_lat_nm2=160, ei_rad_nm2=90, gj_nm2=40)
_DEEP = Rim(566, 622, centroid_depth_mm=16, ea_n=7.5e6, ei_lat_nm2=300, ei_rad_nm2=420, gj_nm2=120)
_UTILITY = Rim(588, 622, centroid_depth_mm=6, ea_n=7.0e6, ei_lat_nm2=280, ei_rad_nm2=150, gj_nm2=60)


@dataclass(frozen=True)
class WheelKind:
    """A generic wheel with a key, a name and what it is meant for; `brakes` that it is built for, all where empty."""

    key: str
    name: str
    note: str
    wheel: Wheel
    brakes: tuple[str, ...] = ()

    @property
    def position(self) -> str:
        """Front or rear: which end of a bike it belongs to."""
        return "front" if "front" in self.key else "rear"


def _lacing(count: int, crossings: int, spoke: Spoke) -> SideLacing:
    return SideLacing(count, crossings, spoke)


WHEEL_KINDS: dict[str, WheelKind] = {
    kind.key: kind
    for kind in (
        WheelKind(
            "rim-brake-rear-36",
            say("Rim-brake rear, 36 spokes, 3-cross"),
            say("Everyday rear wheel, 130 mm, sprockets on the right"),
            Wheel(_BOX, Hub(130, Flange(45, 17.5), Flange(45, 36.5)), _lacing(18, 3, _PLAIN), _lacing(18, 3, _PLAIN)),
        ),
        WheelKind(
            "rim-brake-rear-32",
            say("Rim-brake rear, 32 spokes, 3-cross"),
            say("Lighter rear wheel, 130 mm, butted spokes"),
            Wheel(_BOX, Hub(130, Flange(45, 17.5), Flange(45, 36.5)), _lacing(16, 3, _BUTTED), _lacing(16, 3, _BUTTED)),
        ),
        WheelKind(
            "rim-brake-front-32",
            say("Rim-brake front, 32 spokes, 3-cross"),
            say("Symmetric front wheel, 100 mm"),
            Wheel(_BOX, Hub(100, Flange(39, 35), Flange(39, 35)), _lacing(16, 3, _BUTTED), _lacing(16, 3, _BUTTED)),
        ),
        WheelKind(
            "offset-rear-32",
            say("Rear for an offset frame, 32 spokes, 3-cross"),
            say("Frame with its rear end 3 mm to the right by design: the rim belongs 3 mm right of the locknuts' middle"),
            Wheel(
                _WIDE_DISC,
                Hub(142, Flange(56, 21), Flange(58, 34)),
                _lacing(16, 3, _PLAIN),
                _lacing(16, 3, _PLAIN),
                dish_target_mm=3.0,
            ),
        ),
        WheelKind(
            "disc-front-28",
            say("Disc front, 28 spokes, 3-cross"),
            say("Rotor on the left, 100 mm; the left side is the tight one"),
            Wheel(_WIDE_DISC, Hub(100, Flange(45, 33), Flange(58, 22)), _lacing(14, 3, _BUTTED), _lacing(14, 3, _BUTTED)),
        ),
        WheelKind(
            "disc-front-32",
            say("Disc front, 32 spokes, 3-cross"),
            say("Rotor on the left, 100 mm; everyday and fleet use"),
            Wheel(_WIDE_DISC, Hub(100, Flange(45, 33), Flange(58, 22)), _lacing(16, 3, _PLAIN), _lacing(16, 3, _PLAIN)),
        ),
        WheelKind(
            "disc-rear-32",
            say("Disc rear, 32 spokes, 3-cross, offset rim"),
            say("Rotor left, sprockets right, 142 mm; offset spoke bed evens the sides"),
            Wheel(_OFFSET_DISC, Hub(142, Flange(54, 20.5), Flange(58, 34)), _lacing(16, 3, _BUTTED), _lacing(16, 3, _BUTTED)),
        ),
        WheelKind(
            "tandem-rear-40",
            say("Tandem rear, 40 spokes, 4-cross"),
            say("145 mm, stout butted spokes, higher tension"),
            Wheel(
                Rim(**{**_TANDEM.__dict__, "target_n": 1150.0, "cap_n": 1350.0}),
                Hub(145, Flange(58, 25), Flange(58, 35)),
                _lacing(20, 4, _STOUT),
                _lacing(20, 4, _STOUT),
            ),
        ),
        WheelKind(
            "small-front-20",
            say("Small wheel, front, 20 spokes, 2-cross"),
            say("406 mm bead seat, 74 mm hub, folding or carrier bikes"),
            Wheel(_SMALL, Hub(74, Flange(38, 25), Flange(38, 25)), _lacing(10, 2, _PLAIN), _lacing(10, 2, _PLAIN)),
        ),
        WheelKind(
            "small-rear-28",
            say("Small wheel, rear, 28 spokes, 2-cross"),
            say("406 mm bead seat, 135 mm hub"),
            Wheel(_SMALL, Hub(135, Flange(58, 20.5), Flange(58, 34)), _lacing(14, 2, _PLAIN), _lacing(14, 2, _PLAIN)),
        ),
        WheelKind(
            "bladed-front-20",
            say("Bladed spokes, front, 20 spokes, radial"),
            say("Deep rim, 100 mm; radial only where hub and rim makers allow it"),
            Wheel(_DEEP, Hub(100, Flange(38, 36), Flange(38, 36)), _lacing(10, 0, _BLADE), _lacing(10, 0, _BLADE)),
        ),
        WheelKind(
            "bladed-rear-24",
            say("Bladed spokes, rear, 24 spokes, 2-cross"),
            say("Deep rim, 130 mm; hold the blade while turning the nipple"),
            Wheel(
                Rim(**{**_DEEP.__dict__, "target_n": 1100.0, "cap_n": 1250.0}),
                Hub(130, Flange(48, 17.5), Flange(45, 37)),
                _lacing(12, 2, _BLADE),
                _lacing(12, 2, _BLADE),
            ),
        ),
        WheelKind(
            "track-rear-36",
            say("Track rear, 36 spokes, 3-cross"),
            say("120 mm, large flanges, nearly even sides"),
            Wheel(_BOX, Hub(120, Flange(63, 31), Flange(63, 35)), _lacing(18, 3, _THIN), _lacing(18, 3, _THIN)),
        ),
        WheelKind(
            "hub-gear-rear-36",
            say("Gear hub rear, 36 spokes, 2-cross"),
            say("135 mm, large flanges, fleet and utility bikes"),
            Wheel(_UTILITY, Hub(135, Flange(92, 29), Flange(92, 32)), _lacing(18, 2, _PLAIN), _lacing(18, 2, _PLAIN)),
        ),
        WheelKind(
            "rear-24-two-to-one",
            say("Rear, 24 spokes, 16 right and 8 left"),
            say("Twice as many spokes on the tight side; left radial"),
            Wheel(_DEEP, Hub(130, Flange(48, 17.5), Flange(45, 37)), _lacing(16, 3, _BUTTED), _lacing(8, 0, _BUTTED)),
        ),
    )
}


_BRAKES = {"rim-brake": ("rim",), "bladed": ("rim",), "track": ("rim", "hub"), "disc": ("disc",), "hub-gear": ("hub", "rim")}
WHEEL_KINDS = {
    key: replace(kind, brakes=next((brakes for start, brakes in _BRAKES.items() if key.startswith(start)), ()))
    for key, kind in WHEEL_KINDS.items()
}


def kinds_for(position: str, brake: str) -> tuple[WheelKind, ...]:
    """The kinds that a wheel of this end and brake can start from; an unknown brake leaves all of that end."""
    return tuple(k for k in WHEEL_KINDS.values() if k.position == position and (not brake or not k.brakes or brake in k.brakes))
