"""The checks: what is asked, where, what it costs, and how each cause answers.

One readable table. `otherwise` is how a wheel answers that has none of the causes named; `by_cause` how one answers that has it.
Chances are common practice, no source; none is 0 or 1, since eyes and hands err, so no order of answers contradicts itself.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from felloe.core.diagnosis.causes import CAUSES
from felloe.core.said import say

ON_BIKE, OFF_BIKE, HUB_APART = say("on the bike"), say("off the bike"), say("with the hub open")


@dataclass(frozen=True)
class Check:
    """One check: its question, where it is done, minutes, the answers in words, and the chances of each answer."""

    key: str
    question: str
    where: str
    minutes: float
    answers: Mapping[str, str]
    otherwise: tuple[float, ...]
    by_cause: Mapping[str, tuple[float, ...]]

    def chance(self, cause: str, answer: str) -> float:
        """P(answer | cause)."""
        place = list(self.answers).index(answer)
        return self.by_cause.get(cause, self.otherwise)[place]


def _check(
    key: str,
    question: str,
    where: str,
    minutes: float,
    answers: Mapping[str, str],
    otherwise: tuple[float, ...],
    **by_cause: tuple[float, ...],
) -> Check:
    for cause, chances in {"otherwise": otherwise, **by_cause}.items():
        if cause != "otherwise" and cause not in CAUSES:
            raise ValueError(f"{key}: there is no cause {cause}")
        if len(chances) != len(answers) or abs(sum(chances) - 1) > 1e-9 or min(chances) <= 0:
            raise ValueError(f"{key}, {cause}: chances must be above 0 and add up to 1, one for each answer")
    return Check(key, question, where, minutes, answers, otherwise, by_cause)


_YES_NO = {"yes": say("yes"), "no": say("no")}
_SURE, _MOSTLY, _HALF, _HARDLY = (0.95, 0.05), (0.8, 0.2), (0.5, 0.5), (0.03, 0.97)

CHECKS: dict[str, Check] = {
    check.key: check
    for check in (
        _check("spokes_by_hand", say("Run a hand round the spokes. What do you find?"), ON_BIKE, 0.5,
               {"firm": say("all firm"), "one": say("one or two loose"), "all": say("all slack"), "broken": say("one broken")},
               (0.9, 0.06, 0.03, 0.01),
               broken_spoke=(0.02, 0.02, 0.01, 0.95), one_loose=(0.08, 0.86, 0.05, 0.01), low_tension=(0.1, 0.08, 0.81, 0.01),
               settling=(0.8, 0.1, 0.09, 0.01), rim_bent=(0.5, 0.42, 0.06, 0.02), lateral_untrue=(0.72, 0.2, 0.07, 0.01),
               rim_dent=(0.7, 0.25, 0.03, 0.02), rim_crack=(0.75, 0.2, 0.03, 0.02)),
        _check("drops_in", say("Bike on the ground, open the clamp or nuts: does the axle drop further into the dropouts?"), ON_BIKE, 0.7,
               _YES_NO, _HARDLY, axle_not_home=_SURE, clamp_loose=(0.45, 0.55), stop_screws=(0.1, 0.9), hanger_overlap=(0.15, 0.85)),
        _check("stop_screws", say("Are the two stop screws set alike?"), ON_BIKE, 0.3,
               {"alike": say("alike, or none there"), "unequal": say("unequal")}, (0.97, 0.03), stop_screws=(0.04, 0.96)),
        _check("slot_hidden", say("Does the hanger hide part of the slot?"), ON_BIKE, 0.3, _YES_NO, _HARDLY, hanger_overlap=(0.96, 0.04)),
        _check("ends_proud", say("Do the axle ends stand proud of the dropouts?"), ON_BIKE, 0.3, _YES_NO, _HARDLY,
               axle_ends_proud=(0.96, 0.04)),
        _check("clamp_firm", say("Is the clamp firm, are the nuts tight?"), ON_BIKE, 0.3,
               {"firm": say("firm"), "loose": say("loose")}, (0.97, 0.03), clamp_loose=(0.04, 0.96), axle_ends_proud=(0.5, 0.5)),
        _check("play", say("Push the rim sideways at the top: does it knock?"), ON_BIKE, 0.3,
               {"knocks": say("it knocks"), "firm": say("no play")}, (0.04, 0.96),
               bearing_play=(0.96, 0.04), axle_broken=(0.8, 0.2), clamp_loose=(0.4, 0.6), axle_bent=(0.15, 0.85)),
        _check("where_rubs", say("Spin it and watch rim against the pads or a pointer: where does it come near?"), ON_BIKE, 0.4,
               {"once": say("in one place, once a turn"), "round": say("all the way round"), "no": say("nowhere")}, (0.12, 0.18, 0.7),
               lateral_untrue=(0.93, 0.03, 0.04), rim_bent=(0.9, 0.04, 0.06), broken_spoke=(0.75, 0.05, 0.2),
               one_loose=(0.7, 0.05, 0.25), rim_dent=(0.45, 0.05, 0.5), axle_bent=(0.2, 0.45, 0.35),
               axle_not_home=(0.03, 0.82, 0.15), stop_screws=(0.03, 0.8, 0.17), hanger_overlap=(0.03, 0.8, 0.17),
               off_dish=(0.05, 0.8, 0.15), spacers=(0.04, 0.8, 0.16), frame=(0.04, 0.78, 0.18),
               brake_off_centre=(0.05, 0.85, 0.1), rotor_bent=(0.06, 0.04, 0.9), clamp_loose=(0.06, 0.6, 0.34),
               bearing_play=(0.2, 0.3, 0.5), axle_broken=(0.2, 0.5, 0.3), axle_ends_proud=(0.05, 0.6, 0.35),
               radial_untrue=(0.15, 0.05, 0.8), tyre_seat=(0.06, 0.04, 0.9), rim_worn=(0.15, 0.05, 0.8)),
        _check("hop", say("Sight the rim edge over the pads: does it rise and fall?"), ON_BIKE, 0.4,
               {"one": say("in one short place"), "wave": say("in long waves"), "no": say("no")}, (0.05, 0.07, 0.88),
               radial_untrue=(0.12, 0.83, 0.05), rim_dent=(0.9, 0.05, 0.05), rim_bent=(0.35, 0.45, 0.2),
               tyre_seat=(0.02, 0.03, 0.95), rim_crack=(0.25, 0.05, 0.7), axle_bent=(0.05, 0.3, 0.65)),
        _check("tyre_line", say("Does the tyre's moulded line run even with the rim?"), ON_BIKE, 0.3,
               {"even": say("even"), "wanders": say("it wanders")}, (0.96, 0.04), tyre_seat=(0.04, 0.96)),
        _check("pads_alike", say("Pull the lever: do both pads reach the rim together, and does the brake sit in the middle?"), ON_BIKE, 0.4,
               {"middle": say("yes, in the middle"), "off": say("no, the brake sits off"), "disc": say("it is a disc or hub brake")},
               (0.6, 0.06, 0.34), brake_off_centre=(0.03, 0.93, 0.04), rotor_bent=(0.01, 0.01, 0.98), rim_worn=(0.9, 0.09, 0.01)),
        _check("rotor", say("Spin and watch the rotor in the caliper."), ON_BIKE, 0.3,
               {"true": say("true, or there is none"), "wobbles": say("it wobbles")}, (0.96, 0.04), rotor_bent=(0.04, 0.96),
               bearing_play=(0.75, 0.25), axle_broken=(0.8, 0.2)),
        _check("rim_surface", say("Look along the rim and at every spoke hole."), ON_BIKE, 1.0,
               {"clean": say("clean"), "dent": say("a dent or flat"), "crack": say("cracks or bulges at the holes")}, (0.95, 0.03, 0.02),
               rim_dent=(0.05, 0.92, 0.03), rim_crack=(0.05, 0.03, 0.92), rim_bent=(0.6, 0.36, 0.04)),
        _check("brake_track", say("Lay a straight edge on the brake track, find its wear mark."), ON_BIKE, 0.5,
               {"sound": say("flat and sound, or there is none"), "worn": say("hollow, or the mark is gone")}, (0.96, 0.04),
               rim_worn=(0.04, 0.96)),
        _check("rattle", say("Roll it slowly by hand: does something tick or rattle inside the rim?"), ON_BIKE, 0.3, _YES_NO, _HARDLY,
               loose_part_in_rim=(0.96, 0.04)),
        _check("squeeze", say("Squeeze the spokes in parallel pairs, all round. What do you hear?"), ON_BIKE, 0.8,
               {"quiet": say("nothing"), "pings": say("pings"), "creaks": say("creaks at the crossings")}, (0.93, 0.04, 0.03),
               settling=(0.06, 0.91, 0.03), dry_crossings=(0.07, 0.05, 0.88), low_tension=(0.7, 0.1, 0.2)),
        _check("flip", say("Flip the wheel in its dropouts and look again: where does the rim sit now?"), ON_BIKE, 2.0,
               {"changes": say("off to the other side"), "stays": say("off to the same side"), "middle": say("in the middle, both ways")},
               (0.03, 0.03, 0.94),
               off_dish=(0.93, 0.03, 0.04), spacers=(0.92, 0.04, 0.04), frame=(0.03, 0.93, 0.04),
               brake_off_centre=(0.03, 0.05, 0.92), stop_screws=(0.05, 0.85, 0.1), hanger_overlap=(0.05, 0.6, 0.35),
               axle_not_home=(0.1, 0.2, 0.7), axle_bent=(0.35, 0.1, 0.55), axle_broken=(0.2, 0.2, 0.6)),
        _check("hub_was_apart", say("Was the hub apart, or the axle changed, before this began?"), ON_BIKE, 0.1, _YES_NO, (0.06, 0.94),
               spacers=_SURE, off_dish=(0.1, 0.9)),
        _check("axle_turns", say("Wheel out: turn the axle by hand and watch its end."), OFF_BIKE, 1.5,
               {"true": say("it runs true"), "circle": say("it draws a circle"), "pulls": say("it pulls out or shifts")}, (0.96, 0.03, 0.01),
               axle_bent=(0.04, 0.94, 0.02), axle_broken=(0.03, 0.1, 0.87), bearing_play=(0.86, 0.06, 0.08)),
        _check("bearing_feel", say("Wheel out: how does the bearing turn?"), OFF_BIKE, 1.0,
               {"smooth": say("smooth"), "rough": say("rough or dry")}, (0.9, 0.1), bearing_rough=(0.04, 0.96), bearing_play=_HALF,
               axle_broken=_HALF, axle_bent=_MOSTLY),
        _check("tension_there", say("At the worst place, is one side far tight and the other slack, or the flat's spokes slack already?"),
               OFF_BIKE, 1.0, _YES_NO, (0.05, 0.95), rim_bent=(0.92, 0.08), rim_dent=(0.4, 0.6), lateral_untrue=(0.1, 0.9),
               one_loose=(0.15, 0.85), broken_spoke=(0.3, 0.7)),
    )
}  # fmt: skip
