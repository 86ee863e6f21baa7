"""A wheel's specification as plain JSON values: the `wheel` object of the record, the API and the database."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from felloe.core.components import THREAD_PITCH_MM, Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.errors import BadRecord
from felloe.core.materials import MATERIALS
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.strict_fields import Fields, placed


def wheel_to_dict(wheel: Wheel) -> dict[str, Any]:
    """Plain values of a wheel; absent optional values are left out."""

    def side(lacing: SideLacing) -> dict[str, Any]:
        return asdict(lacing)

    value: dict[str, Any] = {
        "first_side": wheel.first_side.value,
        "rim": asdict(wheel.rim),
        "hub": asdict(wheel.hub),
        "right": side(wheel.right),
        "left": side(wheel.left),
    }
    if wheel.dish_target_mm:
        value["dish_target_mm"] = wheel.dish_target_mm
    return {key: _without_none(item) for key, item in value.items()}


def _without_none(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _without_none(item) for key, item in value.items() if item is not None}
    return value


def wheel_from_dict(value: object, path: str = "wheel") -> Wheel:
    """Build a wheel from plain values.

    A flange is given by `center_to_flange_mm` or `locknut_to_flange_mm`. Raises BadRecord for a wrong shape and
    ImpossibleGeometry for dimensions that cannot be, each with the path of the value at fault.
    """
    fields = Fields(value, path)
    rim = _rim(fields.object("rim"), fields.path("rim"))
    hub = _hub(fields.object("hub"), fields.path("hub"))
    right = _side(fields.object("right"), fields.path("right"))
    left = _side(fields.object("left"), fields.path("left"))
    first = Side(fields.choice("first_side", ("R", "L"), "R"))
    target = fields.number("dish_target_mm", 0.0)
    fields.done()
    return placed(path, lambda: Wheel(rim, hub, right, left, first, target))


def _rim(fields: Fields, path: str) -> Rim:
    values: dict[str, Any] = {"erd_mm": fields.number("erd_mm"), "bead_seat_mm": fields.integer("bead_seat_mm", None)}
    for name in ("spoke_bed_offset_mm", "stagger_mm", "centroid_depth_mm", "ea_n", "ei_lat_nm2", "ei_rad_nm2", "gj_nm2"):
        if fields.has(name):
            values[name] = fields.number(name)
    values["target_n"] = fields.number("target_n", None)
    values["cap_n"] = fields.number("cap_n", None)
    values["material"] = fields.choice("material", ("aluminium", "carbon", "steel"), "aluminium")
    fields.done()
    return placed(path, lambda: Rim(**values))


def _flange(fields: Fields, path: str, old_mm: float) -> Flange:
    circle = fields.number("pitch_circle_mm")
    hole = fields.number("hole_diameter_mm", 2.6)
    center = fields.number("center_to_flange_mm", None)
    locknut = fields.number("locknut_to_flange_mm", None)
    drawn = fields.number("straight_pull_angle_deg", None)
    fields.done()
    if (center is None) == (locknut is None):
        raise BadRecord(say("give the flange by center_to_flange_mm or by locknut_to_flange_mm, one of them"), path)
    distance = center if center is not None else old_mm / 2 - locknut
    return placed(path, lambda: Flange(circle, distance, hole, drawn))


def _hub(fields: Fields, path: str) -> Hub:
    old_mm = fields.number("old_mm")
    right = _flange(fields.object("right"), fields.path("right"), old_mm)
    left = _flange(fields.object("left"), fields.path("left"), old_mm)
    fields.done()
    return placed(path, lambda: Hub(old_mm, right, left))


def _side(fields: Fields, path: str) -> SideLacing:
    count, crossings = fields.integer("count"), fields.integer("crossings")
    pitch = fields.number("pitch_mm", THREAD_PITCH_MM)
    spoke = _spoke(fields.object("spoke"), fields.path("spoke")) if fields.has("spoke") else Spoke()
    fields.done()
    return placed(path, lambda: SideLacing(count, crossings, spoke, pitch))


def _spoke(fields: Fields, path: str) -> Spoke:
    values: dict[str, Any] = {"material": fields.choice("material", tuple(MATERIALS), "stainless")}
    for name in ("end_diameter_mm", "end_length_mm"):
        if fields.has(name):
            values[name] = fields.number(name)
    for name in ("middle_diameter_mm", "blade_thickness_mm", "blade_width_mm"):
        values[name] = fields.number(name, None)
    fields.done()
    return placed(path, lambda: Spoke(**values))
