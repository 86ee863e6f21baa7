"""Frame and fork alignment at the dropouts: what a frame gauge reads, what it does at the rim, and what may be done.

The gauge lies along the frame's middle plane; its pointer is set once and held to either dropout. Where it touches the
gap is 0. Rule: the gap g on one side means g/2 at each stay [def]; setting is for steel only [common practice, no source].
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from felloe.core.errors import BadReading
from felloe.core.naming import Side
from felloe.core.said import say

#: Materials of frames, and whether their stays may be set cold at all.
FRAME_MATERIALS: dict[str, bool] = {"steel": True, "aluminium": False, "carbon": False, "titanium": False, "unknown": False}
#: An axle this far aside may be left [mm]; common practice, no source ("a few mm at the dropout").
LEAVE_MM = 2.0
#: One gap read by eye against a rule [mm]; common practice, no source.
GAP_SD_MM = 0.5
#: Stays from the axle to where they are held, about, for a bicycle of common size [mm]; from memory.
STAY_LENGTH_MM = {"rear": 430.0, "front": 370.0}
LEAVE, SET_BY_BUILDER, REFER = "leave", "set", "refer"


@dataclass(frozen=True)
class FrameError:
    """What the gauge says.

    `offset_mm`: the middle of the dropouts lies so far right (+) of the frame's plane, with `sd_mm`.
    `at_rim_mm`: (swung, parallel): offset of the rim at the brake when the stays swung with the axle square to them,
    and when the dropouts stand parallel to the frame. `advice`: leave, set or refer, with `why`.
    """

    offset_mm: float
    sd_mm: float
    toward: Side | None
    each_stay_mm: float
    at_rim_mm: tuple[float, float]
    advice: str
    why: str


def frame_error(
    gap_right_mm: float, gap_left_mm: float, material: str, end: str, rim_radius_mm: float, stay_length_mm: float | None = None
) -> FrameError:
    """Judge an end ("rear" or "front") from the gap seen at each dropout with one pointer setting, both ≥ 0.

    The dropout with the gap stands nearer to the middle plane, so the axle's middle lies half the difference toward the
    other one. Raises BadReading with the field at fault.
    """
    for field, gap in (("gap_right_mm", gap_right_mm), ("gap_left_mm", gap_left_mm)):
        if not math.isfinite(gap) or not 0 <= gap <= 40:
            raise BadReading(
                say("a gap of {gap:g} mm cannot be; expected 0 to 40, and 0 where the pointer touches", gap=gap), field
            )
    if gap_right_mm > 0 and gap_left_mm > 0:
        raise BadReading(say("one side must touch: set the pointer to the dropout that stands further out"), "gap_left_mm")
    if material not in FRAME_MATERIALS:
        raise BadReading(say("“{material}” is no frame material of the list", material=material[:40]), "material")
    if end not in STAY_LENGTH_MM:
        raise BadReading(say("the end is rear or front"), "end")
    stay = stay_length_mm if stay_length_mm is not None else STAY_LENGTH_MM[end]
    if not math.isfinite(stay) or not rim_radius_mm < stay <= 700:
        raise BadReading(
            say("stays must be longer than the rim's radius and at most 700 mm; found {stay:g}", stay=stay), "stay_length_mm"
        )
    offset = (gap_left_mm - gap_right_mm) / 2
    toward = Side.RIGHT if offset > 0 else Side.LEFT if offset < 0 else None
    swung = offset * (1 - rim_radius_mm / stay)
    advice, why = _advice(abs(offset), toward, material, end)
    return FrameError(offset, GAP_SD_MM / 2, toward, abs(offset), (swung, offset), advice, why)


def _advice(offset_mm: float, toward: Side | None, material: str, end: str) -> tuple[str, str]:
    what = "frame" if end == "rear" else "fork"
    if toward is None or offset_mm <= LEAVE_MM:
        return LEAVE, say(
            "{offset_mm:.1f} mm at the axle may be left: dish the wheel to the hub, not to the {what}.",
            offset_mm=offset_mm,
            what=what,
        )
    if FRAME_MATERIALS[material]:
        return SET_BY_BUILDER, say(
            "Steel: each stay {offset_mm:.1f} mm to the {other}, keeping the hub width; by somebody qualified, "
            "never near a joint, dropouts set parallel after it.",
            offset_mm=offset_mm,
            other=toward.other.said,
        )
    if material == "unknown":
        return REFER, say(
            "Find out the material first; until then the {what} is not bent. Refer to a frame builder.", what=what
        )
    return REFER, say("{material} is never bent: refer to the {what}'s maker.", material=material.capitalize(), what=what)
