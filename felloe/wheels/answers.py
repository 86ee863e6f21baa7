"""What this room answers, as values: frozen, typed, and the source of its part of the API's description."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

SideKey = Literal["R", "L"]


@dataclass(frozen=True)
class Found:
    value_mm: float
    sd_mm: float
    spread_mm: float
    doubts: list[str]


@dataclass(frozen=True)
class RimBelongs:
    """Where the rim belongs, + right of the middle of the locknuts."""

    dish_target_mm: float


@dataclass(frozen=True)
class ThreadFound:
    end_mm: float
    missing_mm: float
    why: str


@dataclass(frozen=True)
class Stiffness:
    ea_n: float
    ei_lat_nm2: float
    ei_rad_nm2: float
    gj_nm2: float
    spread: float


@dataclass(frozen=True)
class HangAnswer:
    ea_n: float
    ei_lat_nm2: float
    ei_rad_nm2: float
    gj_nm2: float
    spread: float
    factor: float
    predicted_mm: float


@dataclass(frozen=True)
class SideDerived:
    spoke_length_mm: float
    length_sd_mm: float
    bracing_mm: float
    target_n: float
    stretch_mm: float
    spoke_kind: str


@dataclass(frozen=True)
class SidesDerived:
    R: SideDerived
    L: SideDerived


@dataclass(frozen=True)
class SpokePlace:
    name: str
    side: SideKey
    angle_deg: float
    hub_angle_deg: float
    hub_radius_mm: float


@dataclass(frozen=True)
class Suspicion:
    field: str
    why: str


@dataclass(frozen=True)
class Derived:
    """What follows from the dimensions."""

    sides: SidesDerived
    left_over_right: float
    tight_side: SideKey
    target_n: float
    cap_n: float
    tension_is_default: bool
    rim_radius_mm: float
    suspicions: list[Suspicion]
    uncertainty_mm: dict[str, float]
    spokes: list[SpokePlace]


@dataclass(frozen=True)
class WheelKind:
    key: str
    name: str
    note: str
    position: str
    brakes: list[str]
    specification: dict[str, Any]
    tier: str = ""
    own: bool = False
    in_use: bool = True
    version: int = 0


@dataclass(frozen=True)
class PatternsIn:
    """How many patterns came in, and the names of those that were here already and stay as they are."""

    taken: int
    known: list[str]


@dataclass(frozen=True)
class MaterialGuess:
    materials: list[str]
    why: str
