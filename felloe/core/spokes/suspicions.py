"""Dimensions that can be, but that a mechanic would measure again. Thresholds: common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.components import Wheel
from felloe.core.lacing.crossings import BEND_GOOD_DEG, bend_deg, bent
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n

#: Over-locknut widths in use [mm], front and rear, gear hubs and tandems; from memory.
USUAL_OLD_MM = (70, 74, 91, 100, 104, 110, 112, 114, 117, 119, 120, 126, 127, 130, 132, 135, 141, 142, 145, 148, 150, 157, 160)
USUAL_COUNTS = (16, 18, 20, 24, 28, 32, 36, 40, 44, 48)


#: Mean of a side below which its nipples unwind [N].
UNWINDS_BELOW_N = 450.0


@dataclass(frozen=True)
class Suspicion:
    """What to look at again: the dimension's path in the specification, and why."""

    field: str
    why: str


def suspicions(wheel: Wheel) -> tuple[Suspicion, ...]:
    """Every dimension of a possible wheel that is unusual enough to measure again."""
    return (*_of_rim(wheel), *_of_hub(wheel), *_of_spokes(wheel), *_of_tension(wheel))


def _of_rim(wheel: Wheel) -> list[Suspicion]:
    rim = wheel.rim
    found = []
    if rim.bead_seat_mm is not None and rim.bead_seat_mm - rim.erd_mm < 10:
        found.append(
            Suspicion(
                "rim.erd_mm",
                say(
                    "only {bead_seat_mm:.0f} mm inside the bead seat: is it the spoke ends' circle?",
                    bead_seat_mm=rim.bead_seat_mm - rim.erd_mm,
                ),
            )
        )
    if wheel.spoke_count not in USUAL_COUNTS:
        found.append(
            Suspicion(
                "right.count", say("{spoke_count} spoke holes are unusual: count them again", spoke_count=wheel.spoke_count)
            )
        )
    offset = rim.spoke_bed_offset_mm
    right, left = (wheel.hub.flange(side).center_to_flange_mm for side in (Side.RIGHT, Side.LEFT))
    if abs(offset) >= 1 and abs(right - left) >= 4 and (offset > 0) == (right < left):
        nearer = say("right") if right < left else say("left")
        why = say(
            "the bed lies toward the {nearer} flange, the nearer one, so the sides grow more uneven: rim turned round?",
            nearer=nearer,
        )
        found.append(Suspicion("rim.spoke_bed_offset_mm", why))
    return found


def _of_hub(wheel: Wheel) -> list[Suspicion]:
    hub = wheel.hub
    found = []
    if min(abs(hub.old_mm - usual) for usual in USUAL_OLD_MM) > 1.0:
        found.append(
            Suspicion(
                "hub.old_mm",
                say("{old_mm:g} mm is no usual width: are both locknuts on, and is the axle's cap off?", old_mm=hub.old_mm),
            )
        )
    for side in Side:
        flange, word = hub.flange(side), side.word
        if flange.center_to_flange_mm < 8:
            why = say(
                "the {word} flange stands only {center_to_flange_mm:.1f} mm from the middle",
                word=word,
                center_to_flange_mm=flange.center_to_flange_mm,
            )
            found.append(Suspicion(f"hub.{word}.center_to_flange_mm", why))
        if flange.straight_pull_angle_deg is None and flange.pitch_circle_mm < 26:
            found.append(Suspicion(f"hub.{word}.pitch_circle_mm", say("is that the diameter, or the radius?")))
    ratio = hub.right.pitch_circle_mm / hub.left.pitch_circle_mm
    if max(ratio, 1 / ratio) > 1.7:
        found.append(Suspicion("hub.left.pitch_circle_mm", say("the two flanges differ very much in size")))
    return found


def _of_tension(wheel: Wheel) -> list[Suspicion]:
    """A side that stays so slack by its geometry that its nipples unwind: common practice, from memory."""
    targets = side_targets_n(wheel)
    loose = min(targets, key=lambda side: targets[side])
    if targets[loose] >= UNWINDS_BELOW_N:
        return []
    why = say(
        "the {side} side comes to {tension_n:.0f} N only, and nipples unwind below about {limit:.0f} N: thread preparation, "
        "or a rim with an offset bed",
        side=loose.said,
        tension_n=targets[loose],
        limit=UNWINDS_BELOW_N,
    )
    return [Suspicion("tension", why)]


def _of_spokes(wheel: Wheel) -> list[Suspicion]:
    found = []
    for side in Side:
        lacing, flange = wheel.side(side), wheel.hub.flange(side)
        play = flange.hole_diameter_mm - lacing.spoke.end_diameter_mm
        if flange.straight_pull_angle_deg is None and not 0.1 <= play <= 0.9:
            what = say("does not go through") if play < 0.1 else say("has much play in")
            why = say(
                "a {end_diameter_mm:g} mm spoke {what} a {hole_diameter_mm:g} mm hole",
                end_diameter_mm=lacing.spoke.end_diameter_mm,
                what=what,
                hole_diameter_mm=flange.hole_diameter_mm,
            )
            found.append(Suspicion(f"hub.{side.word}.hole_diameter_mm", why))
        if flange.straight_pull_angle_deg is None and bend_deg(wheel, side) > BEND_GOOD_DEG:
            why = say("{side} spokes: ", side=side.said) + bent(bend_deg(wheel, side))
            found.append(Suspicion(f"{side.word}.crossings", why))
    return found
