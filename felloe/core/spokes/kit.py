"""Does the kit fit together: spoke, nipple, rim hole, key, washer, material, and enough of each.

Each trap of the trade is one rule with its reason; common practice, no source, dimensions from memory.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from felloe.core.components import Wheel, require
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.spokes.fit import CANNOT_TELL, fit
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.nipple import THREAD_LENGTH_MM, Nipple
from felloe.core.tension.statics import side_targets_n
from felloe.core.terms import term

STOP, CAUTION, NOTE = "stop", "caution", "note"
#: Uses of a bike that mean wet and salt; common practice, no source.
WET_USES = frozenset({"everyday", "cargo"})
WASHERS = {"none": say("none"), "new": say("new ones"), "old": say("the old ones")}


@dataclass(frozen=True)
class KitSpoke:
    """Spokes for one side: length and wire [mm], thread pitch, whether they have an elbow, and how many are at hand."""

    length_mm: float
    end_diameter_mm: float
    pitch_mm: float
    elbow: bool = True
    count: int = 0
    thread_length_mm: float = THREAD_LENGTH_MM

    def __post_init__(self) -> None:
        require("length_mm", self.length_mm, 60, 350, "mm", say("Spoke length"))
        require("end_diameter_mm", self.end_diameter_mm, 1.4, 3.5, "mm", say("Spoke diameter"))
        require("pitch_mm", self.pitch_mm, 0.3, 1.0, "mm", say("Thread pitch"))


@dataclass(frozen=True)
class Kit:
    """Everything for a wheel, as laid out on the bench."""

    spokes: Mapping[Side, KitSpoke]
    nipple: Nipple
    nipple_count: int
    rim_hole_mm: float | None
    key_mm: float | None
    washers: str = "none"
    washer_count: int = 0
    washer_for_mm: float | None = None
    rim_had_washers: bool = False
    measured_one: bool = False
    wet_or_salt: bool = False
    places: Mapping[Side, int] = field(default_factory=dict)
    #: What each side needs and how well that is known [mm]; where it is left out the wheel's dimensions count as exact.
    needed_mm: Mapping[Side, tuple[float, float]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if self.rim_hole_mm is not None:
            require("rim_hole_mm", self.rim_hole_mm, 3, 12, "mm", say("The rim's spoke hole"))
        if self.key_mm is not None:
            require("key_mm", self.key_mm, 2.5, 7, "mm", say("The spoke key"))


@dataclass(frozen=True)
class Rule:
    """One rule applied: `level` stop, caution or note; what was found, why it matters; `holds` where all is well."""

    key: str
    level: str
    holds: bool
    found: str
    reason: str
    side: Side | None = None


def check_kit(wheel: Wheel, kit: Kit) -> tuple[Rule, ...]:
    """Every rule for this kit on this wheel, broken ones first, the worst of them foremost."""
    rules: list[Rule] = []
    for side in (Side.RIGHT, Side.LEFT):
        if kit.places.get(side, wheel.side(side).count):
            rules += _side_rules(wheel, kit, side)
    if kit.washers == "new" and kit.washer_for_mm is not None:
        rules.append(_washer_fits(kit, kit.washer_for_mm))
    rules += [_rim_hole(kit), _key(kit), _washers(kit), _alloy_on_carbon(wheel, kit), _corrosion(kit)]
    rules += [_nipple_count(wheel, kit), _measured_one(kit)]
    order = {STOP: 0, CAUTION: 1, NOTE: 2}
    return tuple(sorted(rules, key=lambda rule: (rule.holds, order[rule.level])))


def needed(wheel: Wheel, kit: Kit, side: Side) -> int:
    """Spokes to be placed on a side: those that the job replaces, else all of it."""
    return kit.places.get(side, wheel.side(side).count)


def spares(count: int) -> int:
    """How many to have beyond what is placed: one, two for a whole side or wheel; common practice, no source."""
    return 0 if count == 0 else 1 if count < 8 else 2


def _side_rules(wheel: Wheel, kit: Kit, side: Side) -> list[Rule]:
    return [
        _thread(kit, side),
        _length(wheel, kit, side),
        _flange_hole(wheel, kit, side),
        _elbow(wheel, kit, side),
        _spoke_count(wheel, kit, side),
    ]


def _thread(kit: Kit, side: Side) -> Rule:
    spoke, nipple = kit.spokes[side], kit.nipple
    same_wire = abs(spoke.end_diameter_mm - nipple.for_thread_mm) < 0.06
    same_pitch = abs(spoke.pitch_mm - nipple.pitch_mm) < 0.004
    if same_wire and "pitch_mm" in nipple.unknown:
        what = say("{end_diameter_mm:g} mm spoke, the nipple's pitch is not known", end_diameter_mm=spoke.end_diameter_mm)
        return Rule(
            "thread", CAUTION, False, what, say("Try it: a nipple that stops after one or two turns is the wrong thread."), side
        )
    what = say(
        "{end_diameter_mm:g} mm spoke, nipple for {for_thread_mm:g} mm",
        end_diameter_mm=spoke.end_diameter_mm,
        for_thread_mm=nipple.for_thread_mm,
    )
    if not same_pitch:
        what += say(", pitches {pitch_mm:.3f} and {nipple_mm:.3f} mm", pitch_mm=spoke.pitch_mm, nipple_mm=nipple.pitch_mm)
    reason = say("Two threads that look alike do not mate: a nipple that stops after one or two turns is the wrong thread.")
    return Rule("thread", STOP, same_wire and same_pitch, what, reason, side)


def _length(wheel: Wheel, kit: Kit, side: Side) -> Rule:
    spoke = kit.spokes[side]
    stretch = stretch_mm(wheel, side, side_targets_n(wheel)[side])
    needed, sd = kit.needed_mm.get(side, (spoke_length_mm(wheel, side), 0.0))
    found = fit(spoke.length_mm, needed, stretch, sd, kit.nipple, spoke.thread_length_mm)
    if found.told == CANNOT_TELL:
        return Rule("length", CAUTION, False, f"{spoke.length_mm:g} mm", found.why, side)
    return Rule("length", STOP, found.usable, f"{spoke.length_mm:g} mm", found.why, side)


def _flange_hole(wheel: Wheel, kit: Kit, side: Side) -> Rule:
    spoke, flange = kit.spokes[side], wheel.hub.flange(side)
    play = flange.hole_diameter_mm - spoke.end_diameter_mm
    what = say(
        "{end_diameter_mm:g} mm spoke, {hole_diameter_mm:g} mm hole",
        end_diameter_mm=spoke.end_diameter_mm,
        hole_diameter_mm=flange.hole_diameter_mm,
    )
    if play < 0.1:
        return Rule(
            "flange_hole", STOP, False, what, say("The thread does not pass the flange's hole; never drill a flange."), side
        )
    reason = say("With much play the elbow is not held and breaks: washers under the heads, or a thicker spoke.")
    return Rule("flange_hole", CAUTION, play <= 0.9, what, reason, side)


def _elbow(wheel: Wheel, kit: Kit, side: Side) -> Rule:
    straight = wheel.hub.flange(side).straight_pull_angle_deg is not None
    spoke = kit.spokes[side]
    what = say(
        "{spokes} spokes, {hub} hub",
        spokes=say("elbow") if spoke.elbow else say("straight"),
        hub=say("straight-pull") if straight else say("flanged"),
    )
    return Rule(
        "elbow", STOP, spoke.elbow != straight, what, say("Straight-pull hubs hold heads in line; flanges need elbows."), side
    )


def _spoke_count(wheel: Wheel, kit: Kit, side: Side) -> Rule:
    places, at_hand = needed(wheel, kit, side), kit.spokes[side].count
    spare = spares(places)
    what = say("{at_hand} at hand, {places} to place and {spare} to spare", at_hand=at_hand, places=places, spare=spare)
    if at_hand < places:
        return Rule(
            "enough", STOP, False, what, say("Found out after half the wheel is laced, it is found out too late."), side
        )
    return Rule("enough", NOTE, at_hand >= places + spare, what, say("One spoiled thread must not stop the job."), side)


def _rim_hole(kit: Kit) -> Rule:
    body, hole = kit.nipple.body_mm, kit.rim_hole_mm
    if "body_mm" in kit.nipple.unknown:
        return Rule("rim_hole", CAUTION, False, say("the nipple's body is not known"), _UNMEASURED)
    if hole is None:
        return Rule("rim_hole", CAUTION, False, say("{body:g} mm nipple, hole not measured", body=body), _UNMEASURED)
    what = say("{body:g} mm nipple, {hole:g} mm hole", body=body, hole=hole)
    if hole < body + 0.1:
        reason = say("The nipple does not go through. Drilling the rim out weakens it and burns the way back: other nipples.")
        return Rule("rim_hole", STOP, False, what, reason)
    holds = hole <= body + 0.9 or kit.washers == "new"
    return Rule(
        "rim_hole", CAUTION, holds, what, say("In a larger hole the head has too little to sit on: washers that fit both.")
    )


_UNMEASURED = say("Nothing is taken for granted here: measure it with a caliper, and enter what it is.")


def _key(kit: Kit) -> Rule:
    if "key_mm" in kit.nipple.unknown:
        return Rule("key", CAUTION, False, say("the nipple's flats are not known"), _UNMEASURED)
    if kit.key_mm is None:
        return Rule("key", CAUTION, False, say("flats {key_mm:g} mm, key not tried", key_mm=kit.nipple.key_mm), _UNMEASURED)
    what = say("flats {key_mm:g} mm, key {flats_key_mm:g} mm", key_mm=kit.nipple.key_mm, flats_key_mm=kit.key_mm)
    holds = -0.02 <= kit.key_mm - kit.nipple.key_mm <= 0.12
    return Rule("key", STOP, holds, what, say("A loose key rounds the nipple; a tight one does not go on."))


def _washers(kit: Kit) -> Rule:
    has = WASHERS[kit.washers]
    what = (
        say("rim had washers; kit has {washers}", washers=has)
        if kit.rim_had_washers
        else say("rim had no washers; kit has {washers}", washers=has)
    )
    if kit.washers == "old":
        return Rule("washers", STOP, False, what, say("Nipples and rim washers are never used again."))
    holds = not kit.rim_had_washers or kit.washers == "new"
    return Rule("washers", STOP, holds, what, say("A rim that had washers gets new washers: they spread the load on the bed."))


def _washer_fits(kit: Kit, washer_for_mm: float) -> Rule:
    what = say(
        "washer for {washer_for_mm:g} mm, nipple {body_mm:g} mm", washer_for_mm=washer_for_mm, body_mm=kit.nipple.body_mm
    )
    holds = -0.05 <= washer_for_mm - kit.nipple.body_mm <= 0.3
    return Rule(
        "washer_fits", STOP, holds, what, say("A tight washer holds the nipple off its seat; a wide one lets the head through.")
    )


def _alloy_on_carbon(wheel: Wheel, kit: Kit) -> Rule:
    carbon, alloy = wheel.rim.material == "carbon", kit.nipple.material == "aluminium"
    what = say("{nipple} nipples on {rim}", nipple=term(kit.nipple.material), rim=term(wheel.rim.material))
    reason = say("Aluminium in bare contact with carbon corrodes: washers between, or brass. The rim maker's word comes first.")
    return Rule("carbon", STOP, not (carbon and alloy and kit.washers != "new"), what, reason)


def _corrosion(kit: Kit) -> Rule:
    what = say(
        "{material} nipples, {use}",
        material=term(kit.nipple.material),
        use=say("wet or salt use") if kit.wet_or_salt else say("dry use"),
    )
    reason = say("Aluminium nipples seize and crack in salt and wet: brass for repair work.")
    return Rule("corrosion", CAUTION, not (kit.wet_or_salt and kit.nipple.material == "aluminium"), what, reason)


def _nipple_count(wheel: Wheel, kit: Kit) -> Rule:
    places = sum(needed(wheel, kit, side) for side in Side)
    what = say("{nipple_count} nipples, {places} to place", nipple_count=kit.nipple_count, places=places)
    if kit.washers == "new":
        what += say("; {count} washers", count=kit.washer_count)
    holds = kit.nipple_count >= places and (kit.washers != "new" or kit.washer_count >= places)
    return Rule(
        "nipples", STOP, holds, what, say("Three nipples short of a set stops the job: new ones for every spoke, and spares.")
    )


def _measured_one(kit: Kit) -> Rule:
    said = say("one was held to the ruler") if kit.measured_one else say("not measured yet")
    return Rule(
        "measure_one", CAUTION, kit.measured_one, said, say("Boxes get mixed: measure one spoke of each length before lacing.")
    )
