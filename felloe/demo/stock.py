"""The demo's parts: invented makers, lengths that the demo's wheels ask for, and a few weeks of takes."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from felloe.accounts import services as accounts
from felloe.accounts.models import User
from felloe.core.naming import Side
from felloe.core.spokes.fit import rounded_mm
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.stock.substitutes import name_of_spoke
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.demo.clock import demo_clock
from felloe.stock import services as stock
from felloe.stock.models import Part

WIRE, SMALL, WHEELS = "Gannet Wire", "Low Ferry Small Parts", "Breakwater Rims"
#: Kinds whose spokes are kept, and how many of each length lie in the bin.
KEPT = (
    ("rim-brake-rear-36", 54),
    ("rim-brake-front-32", 40),
    ("disc-front-32", 34),
    ("hub-gear-rear-36", 72),
    ("small-front-20", 24),
)
NIPPLES = (
    ("Brass nipple 12 mm, 2.0", {"for_thread_mm": 2.0, "material": "brass", "key_mm": 3.25, "body_mm": 4.0}, 260, 150, "N1"),
    ("Brass nipple 14 mm, 2.0", {"for_thread_mm": 2.0, "material": "brass", "length_mm": 14, "key_mm": 3.25}, 90, 72, "N2"),
    ("Aluminium nipple 12 mm, 2.0", {"for_thread_mm": 2.0, "material": "aluminium", "colour": "black"}, 64, 0, "N3"),
    ("Brass nipple 12 mm, 2.3", {"for_thread_mm": 2.3, "material": "brass", "key_mm": 3.45, "body_mm": 4.4}, 44, 80, "N4"),
)
_RIM = {"bead_seat_mm": 622, "rim_hole_mm": 4.5}
OTHERS = (
    ("washer", "Rim washer, oval", {"body_mm": 4.0}, 120, 64, SMALL, "W1"),
    ("tape", "Rim tape 18 mm", {"width_mm": 18}, 14, 6, SMALL, "T1"),
    ("tape", "Rim tape 22 mm", {"width_mm": 22}, 3, 6, SMALL, "T2"),
    ("rim", "Box rim 622, 36 holes", {**_RIM, "erd_mm": 605, "holes": 36}, 2, 1, WHEELS, "R1"),
    ("rim", "Wide disc rim 622, 32 holes", {**_RIM, "erd_mm": 596, "holes": 32}, 1, 1, WHEELS, "R2"),
    ("rim", "Shallow rim 622, 32 holes", {**_RIM, "erd_mm": 604, "holes": 32}, 1, 0, WHEELS, "R3"),
)  # fmt: skip


def load_stock(staff: dict[str, User], now: datetime) -> dict[str, UUID]:
    """Fill the bins; returns the parts by name."""
    odile, ines = staff["odile"], staff["ines"]
    accounts.set_cuts_spokes(odile, True)
    made: dict[str, Part] = {}
    with demo_clock(now - timedelta(days=90)) as clock:
        for values, count in _all_parts():
            clock.tick(seconds=20)
            made[values["name"]] = part = stock.add_part(odile, values)
            stock.count_bin(ines, part.pk, count, "first count")
    return {name: part.pk for name, part in made.items()}


def _all_parts() -> list[tuple[dict[str, Any], int]]:
    found: dict[str, tuple[dict[str, Any], int]] = {}
    for kind, count in KEPT:
        for side in Side:
            attributes = spoke_for(kind, side)
            name = name_of_spoke(attributes)
            values = {"kind": "spoke", "name": name, "bin": f"S{len(found) + 1}", "supplier": WIRE, "minimum": 18, "pack": 18}
            found.setdefault(name, ({**values, "price_minor": 60, "attributes": attributes}, count))
    black = {"length_mm": 294, "end_diameter_mm": 2.0, "middle_diameter_mm": 1.8, "colour": "black"}
    long = {"length_mm": 304, "end_diameter_mm": 2.0}
    for attributes, count in ((black, 12), (long, 60)):
        name = name_of_spoke(attributes)
        values = {"kind": "spoke", "name": name, "bin": f"S{len(found) + 1}", "supplier": WIRE, "pack": 18}
        found[name] = ({**values, "attributes": attributes}, count)
    for name, attributes, count, minimum, bin_ in NIPPLES:
        values = {"kind": "nipple", "name": name, "bin": bin_, "supplier": SMALL, "minimum": minimum, "pack": 100}
        found[name] = ({**values, "price_minor": 12, "attributes": attributes}, count)
    for kind, name, attributes, count, minimum, supplier, bin_ in OTHERS:
        values = {"kind": kind, "name": name, "bin": bin_, "supplier": supplier, "minimum": minimum, "attributes": attributes}
        found[name] = (values, count)
    hub = WHEEL_KINDS["disc-front-32"].wheel.hub
    attributes = {"old_mm": hub.old_mm, "right_holes": 16, "left_holes": 16, "hole_diameter_mm": 2.6}
    for side in Side:
        flange = hub.flange(side)
        attributes[f"{side.word}_pitch_circle_mm"] = flange.pitch_circle_mm
        attributes[f"{side.word}_center_to_flange_mm"] = flange.center_to_flange_mm
    hub_values = {"kind": "hub", "name": "Disc front hub, 32", "bin": "H1", "supplier": WHEELS, "attributes": attributes}
    found["Disc front hub, 32"] = (hub_values, 1)
    return list(found.values())


def spoke_for(kind: str, side: Side) -> dict[str, Any]:
    """The attributes of the stocked spoke that a kind's side asks for."""
    wheel = WHEEL_KINDS[kind].wheel
    stretch = stretch_mm(wheel, side, side_targets_n(wheel)[side])
    wire = wheel.side(side).spoke
    attributes: dict[str, Any] = {
        "length_mm": rounded_mm(spoke_length_mm(wheel, side), stretch, 1.0),
        "end_diameter_mm": wire.end_diameter_mm,
    }
    if wire.middle_diameter_mm:
        attributes["middle_diameter_mm"] = wire.middle_diameter_mm
    return attributes
