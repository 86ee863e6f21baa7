"""Kinds of part that a wheel bench keeps, and what has to be known of each."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from felloe.core.components import THREAD_PITCH_MM, Flange, Hub, Rim, Spoke
from felloe.core.errors import TradeError
from felloe.core.materials import MATERIALS
from felloe.core.said import joined, say
from felloe.core.spokes.nipple import NIPPLE_MATERIALS, Nipple
from felloe.core.terms import term

Attributes = Mapping[str, Any]
PART_KINDS: dict[str, str] = {
    "spoke": say("Spokes"),
    "nipple": say("Nipples"),
    "washer": say("Rim washers"),
    "rim": say("Rims"),
    "hub": say("Hubs"),
    "tape": say("Rim tape"),
    "other": say("Other"),
}


#: Letters at most.
TEXT_LENGTHS = {"name": 80, "bin": 20, "supplier": 80, "supplier_code": 40}
#: Pieces of anything at most, in a bin or a pack.
MOST_PIECES = 100_000
#: Whole numbers, both ends included: pieces, pieces, pieces, days, smallest coins.
WHOLE_LIMITS = {
    "minimum": (0, MOST_PIECES),
    "pack": (1, MOST_PIECES),
    "counted": (0, MOST_PIECES),
    "lead_days": (0, 365),
    "price_minor": (0, 10_000_000),
}


class BadPart(TradeError):
    """A part that cannot be, at the attribute at fault."""

    code = "bad_part"


#: What a field of each is called.
_LABELS: dict[str, str] = {
    "colour": say("Colour"),
    "length_mm": say("Length, mm"),
    "end_diameter_mm": say("End diameter, mm"),
    "middle_diameter_mm": say("Middle diameter, mm"),
    "blade_thickness_mm": say("Blade thickness, mm"),
    "blade_width_mm": say("Blade width, mm"),
    "pitch_mm": say("Pitch, mm"),
    "elbow": say("Elbow"),
    "material": say("Material"),
    "for_thread_mm": say("For thread, mm"),
    "key_mm": say("Key, mm"),
    "body_mm": say("Body, mm"),
    "erd_mm": say("ERD, mm"),
    "bead_seat_mm": say("Bead seat, mm"),
    "holes": say("Holes"),
    "spoke_bed_offset_mm": say("Spoke bed offset, mm"),
    "stagger_mm": say("Stagger, mm"),
    "rim_hole_mm": say("Rim hole, mm"),
    "target_n": say("Target, N"),
    "cap_n": say("Cap, N"),
    "old_mm": say("Old, mm"),
    "right_pitch_circle_mm": say("Right pitch circle, mm"),
    "left_pitch_circle_mm": say("Left pitch circle, mm"),
    "right_center_to_flange_mm": say("Right center to flange, mm"),
    "left_center_to_flange_mm": say("Left center to flange, mm"),
    "hole_diameter_mm": say("Hole diameter, mm"),
    "right_holes": say("Right holes"),
    "left_holes": say("Left holes"),
    "straight_pull_angle_deg": say("Straight pull angle, °"),
    "width_mm": say("Width, mm"),
}


@dataclass(frozen=True)
class Attribute:
    """One thing known of a part: a number within bounds, one of some words, a free word, or yes or no."""

    name: str
    kind: str = "number"
    required: bool = False
    low: float = 0.0
    high: float = 0.0
    words: tuple[str, ...] = ()

    @property
    def label(self) -> str:
        """What its field is called, its unit last."""
        return _LABELS[self.name]


def _n(name: str, low: float, high: float, required: bool = False) -> Attribute:
    return Attribute(name, "number", required, low, high)


_COLOUR = Attribute("colour", "text")
_FLANGE = ((15, 380), (-5, 75), (1.5, 4))
ATTRIBUTES: dict[str, tuple[Attribute, ...]] = {
    "spoke": (
        _n("length_mm", 60, 350, True),
        _n("end_diameter_mm", 1.4, 3.5, True),
        _n("middle_diameter_mm", 1.2, 3.5),
        _n("blade_thickness_mm", 0.5, 2.5),
        _n("blade_width_mm", 0.5, 8),
        _n("pitch_mm", 0.3, 1.0),
        Attribute("elbow", "flag"),
        Attribute("material", "word", words=tuple(MATERIALS)),
        _COLOUR,
    ),
    "nipple": (
        _n("length_mm", 8, 20),
        _n("for_thread_mm", 1.4, 3.5, True),
        _n("pitch_mm", 0.3, 1.0),
        _n("key_mm", 2.5, 7),
        _n("body_mm", 2.5, 8),
        Attribute("material", "word", words=NIPPLE_MATERIALS),
        _COLOUR,
    ),
    "washer": (_n("body_mm", 2.5, 8, True),),
    "rim": (
        _n("erd_mm", 200, 680, True),
        _n("bead_seat_mm", 200, 700),
        _n("holes", 12, 60, True),
        _n("spoke_bed_offset_mm", -8, 8),
        _n("stagger_mm", 0, 8),
        _n("rim_hole_mm", 3, 12),
        _n("target_n", 200, 2500),
        _n("cap_n", 300, 3000),
        Attribute("material", "word", words=("aluminium", "carbon", "steel")),
        _COLOUR,
    ),
    "hub": (
        _n("old_mm", 60, 200, True),
        _n("right_pitch_circle_mm", *_FLANGE[0], True),
        _n("left_pitch_circle_mm", *_FLANGE[0], True),
        _n("right_center_to_flange_mm", *_FLANGE[1], True),
        _n("left_center_to_flange_mm", *_FLANGE[1], True),
        _n("hole_diameter_mm", *_FLANGE[2]),
        _n("right_holes", 4, 32, True),
        _n("left_holes", 4, 32, True),
        _n("straight_pull_angle_deg", 0, 110),
        _COLOUR,
    ),
    "tape": (_n("width_mm", 5, 80),),
    "other": (),
}


def checked_attributes(kind: str, given: Attributes) -> dict[str, Any]:
    """The attributes of a part of `kind`, empty ones left out. Raises BadPart at the attribute."""
    if kind not in ATTRIBUTES:
        raise BadPart(say("“{kind}” is no kind of part: {kinds}", kind=str(kind)[:20], kinds=joined(", ", PART_KINDS)), "kind")
    known = {attribute.name: attribute for attribute in ATTRIBUTES[kind]}
    found: dict[str, Any] = {}
    for name, value in given.items():
        if value is None or value == "":
            continue
        if name not in known:
            raise BadPart(say("a {kind} has no {name}", kind=kind, name=str(name)[:40]), f"attributes.{str(name)[:40]}")
        found[name] = _checked(known[name], value)
    for name, attribute in known.items():
        if attribute.required and name not in found:
            raise BadPart(
                say("a {kind} needs its {name}", kind=term(kind), name=known[name].label.lower()), f"attributes.{name}"
            )
    try:
        _build(kind, found)
    except TradeError as error:
        raise BadPart(error.message, f"attributes.{error.field}" if error.field in known else "attributes") from None
    return found


def _checked(attribute: Attribute, value: Any) -> Any:
    field = f"attributes.{attribute.name}"
    if attribute.kind == "flag":
        if not isinstance(value, bool):
            raise BadPart(say("is yes or no"), field)
        return value
    if attribute.kind == "number":
        number_like = isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value)
        if not number_like or not attribute.low <= value <= attribute.high:
            raise BadPart(
                say(
                    "lies between {low:g} and {high:g}; found {value}",
                    low=attribute.low,
                    high=attribute.high,
                    value=str(value)[:20],
                ),
                field,
            )
        return value
    if not isinstance(value, str) or len(value) > 40:
        raise BadPart(say("is a word of at most 40 letters"), field)
    if attribute.words and value not in attribute.words:
        raise BadPart(say("is one of {words}; found “{value}”", words=joined(", ", attribute.words), value=value), field)
    return value


def _build(kind: str, found: dict[str, Any]) -> None:
    if kind == "spoke":
        spoke_of(found)
    elif kind == "nipple":
        nipple_of(found)
    elif kind == "rim":
        rim_of(found)
    elif kind == "hub":
        hub_of(found)


def spoke_of(attributes: Attributes) -> Spoke:
    """The core's spoke of a stocked one."""
    return _spoke(*(attributes.get(name) for name in _WIRE))


_WIRE = ("end_diameter_mm", "middle_diameter_mm", "blade_thickness_mm", "blade_width_mm", "material")


@lru_cache(maxsize=256)
def _spoke(*values: Any) -> Spoke:
    """A shop's hundreds of bins hold a handful of wires, and a wire does not change."""
    return Spoke(**{name: value for name, value in zip(_WIRE, values, strict=True) if value is not None})


#: The wire [mm] whose nipples have the common measures.
COMMON_WIRE_MM = 2.0


def nipple_of(attributes: Attributes) -> Nipple:
    """The core's nipple of a stocked one; what is not known is as common, and unknown where it is for another thread."""
    given = {name: value for name, value in attributes.items() if name != "colour"}
    usual = abs(given.get("for_thread_mm", COMMON_WIRE_MM) - COMMON_WIRE_MM) < 0.06
    unknown = () if usual else (name for name in ("body_mm", "key_mm", "pitch_mm") if name not in given)
    return Nipple(**given, unknown=frozenset(unknown))


def rim_of(attributes: Attributes) -> Rim:
    """The core's rim of a stocked one; stiffnesses are the defaults."""
    names = ("erd_mm", "spoke_bed_offset_mm", "stagger_mm", "target_n", "cap_n", "material")
    values = {name: attributes[name] for name in names if name in attributes}
    bead = attributes.get("bead_seat_mm")
    return Rim(**values, bead_seat_mm=int(bead) if bead is not None else None)


def hub_of(attributes: Attributes) -> Hub:
    """The core's hub of a stocked one."""
    flanges = [
        Flange(
            attributes[f"{side}_pitch_circle_mm"],
            attributes[f"{side}_center_to_flange_mm"],
            attributes.get("hole_diameter_mm", 2.6),
            attributes.get("straight_pull_angle_deg"),
        )
        for side in ("right", "left")
    ]
    return Hub(attributes["old_mm"], *flanges)


def pitch_of(attributes: Attributes) -> float:
    """Thread pitch [mm] of a spoke or nipple, the common one where none is given."""
    return float(attributes.get("pitch_mm", THREAD_PITCH_MM))
