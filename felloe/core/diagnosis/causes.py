"""The causes behind a customer's complaint, with how often each stands behind it.

The weights are common practice, no source: how many of a hundred wheels with that complaint have this cause. They need not
add up to a hundred; the inference makes shares of them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from felloe.core.said import say

#: What a customer says, as a tag.
COMPLAINTS: dict[str, str] = {
    "rubs": "rubs",
    "hops": say("hops"),
    "off_side": say("off to one side"),
    "creaks": say("creaks or pings"),
    "broken_spoke": say("broken spoke"),
    "loose_spokes": say("loose spokes"),
    "hit": say("hit something"),
    "check": say("just check"),
}


@dataclass(frozen=True)
class Cause:
    """A cause: its name, what to do about it, whether the wheel must not be ridden with it, and weight by complaint."""

    key: str
    name: str
    remedy: str
    weight: Mapping[str, float]
    unsafe: bool = False
    wheel_fault: bool = True


def _cause(key: str, name: str, remedy: str, unsafe: bool = False, wheel_fault: bool = True, **weight: float) -> Cause:
    return Cause(key, name, remedy, weight, unsafe, wheel_fault)


#: A cause that a complaint does not name still stands behind it now and then.
RARE = 0.6

CAUSES: dict[str, Cause] = {
    cause.key: cause
    for cause in (
        _cause("axle_not_home", say("Axle not home in the dropouts"), say("Seat the axle with the bike on the ground, clamp again."),
               wheel_fault=False, rubs=18, off_side=22, check=6),
        _cause("stop_screws", say("Stop screws unequal"), say("Set both stop screws alike, seat the axle again."),
               wheel_fault=False, rubs=4, off_side=8),
        _cause("hanger_overlap", say("Hanger hides part of the slot"),
               say("Home on the free side, centre the rim by eye, clamp; with nuts nip one side, centre, tighten both."),
               wheel_fault=False, rubs=3, off_side=6),
        _cause("axle_ends_proud", say("Axle ends stand proud of the dropouts"),
               say("The clamp cannot bite: shorten the axle's reach or fit the right axle before riding."),
               unsafe=True, wheel_fault=False, rubs=3, off_side=3, creaks=3),
        _cause("clamp_loose", say("Clamp or nuts loose"), say("Clamp or torque to the maker's figure."),
               unsafe=True, wheel_fault=False, rubs=6, off_side=6, creaks=8, check=3),
        _cause("bearing_play", say("Play in the hub's bearings"), say("Adjust or overhaul the hub."), rubs=9, creaks=9, check=8, hit=2),
        _cause("bearing_rough", say("Rough or dry bearings"), say("Overhaul the hub."), creaks=10, check=10),
        _cause("axle_bent", say("Axle bent"), say("New axle; check the dropouts for alignment."), rubs=4, off_side=4, hit=6, hops=2),
        _cause("axle_broken", say("Axle broken"), say("New axle; not to be ridden."), unsafe=True, rubs=3, creaks=4, off_side=3, hit=2),
        _cause("off_dish", say("Rim off-dish"), say("Correct the dish."), off_side=16, rubs=8, check=4),
        _cause("spacers", say("Spacers put back wrongly"), say("Put the hub's spacers right before touching spokes."), off_side=5, rubs=3),
        _cause("frame", say("Frame or fork out of line"), say("Leave a small error; else refer to a frame builder, steel only."),
               wheel_fault=False, off_side=9, rubs=4, hit=4),
        _cause("lateral_untrue", say("Out of true"), say("True the wheel."), rubs=26, check=20, hit=10, loose_spokes=8, broken_spoke=3),
        _cause("radial_untrue", say("Out of round"), say("Round the wheel."), hops=22, check=8, hit=5),
        _cause("rim_bent", say("Rim bent past what spokes can hold"), say("New rim."), hops=9, rubs=5, hit=18, check=1),
        _cause("rim_dent", say("Dent in the rim"), say("Judge the dent: true what can be, else a new rim."), hops=18, hit=28, rubs=2),
        _cause("rim_crack", say("Rim cracked or bulged at the spoke holes"), say("New rim; not to be ridden."),
               unsafe=True, creaks=6, hops=2, check=3, hit=6, broken_spoke=2),
        _cause("rim_worn", say("Brake track worn through its limit"), say("New rim; not to be ridden."),
               unsafe=True, check=6, rubs=3, hops=2, creaks=1),
        _cause("broken_spoke", say("Broken spoke"), say("Replace the spoke; not to be ridden."),
               unsafe=True, broken_spoke=86, rubs=9, loose_spokes=8, creaks=3, hit=6, check=2),
        _cause("low_tension", say("Spokes too slack all round"), say("Bring to tension."), loose_spokes=60, creaks=10, check=10, rubs=5),
        _cause("one_loose", say("One or two spokes loose"), say("Bring them to their neighbours, then true."),
               loose_spokes=28, rubs=7, creaks=5, check=4, broken_spoke=4),
        _cause("settling", say("Spokes settling or unwinding"), say("Relieve stress and twist, re-check."), creaks=16, check=3),
        _cause("dry_crossings", say("Dry crossings or nipples"), say("A drop of oil at crossings and nipples."), creaks=14, check=3),
        _cause("loose_part_in_rim", say("Loose part in the rim"), say("Shake it out at the valve hole; count washers and nipples."),
               creaks=5, loose_spokes=2, check=2),
        _cause("tyre_seat", say("Tyre not seated"), say("Let out, soap, seat and pump again."), wheel_fault=False, hops=24, rubs=3, check=3),
        _cause("brake_off_centre", say("Brake off-centre"), say("Centre the brake."), wheel_fault=False, rubs=22, off_side=6, check=4),
        _cause("rotor_bent", say("Rotor bent"), say("Align or replace the rotor; no oil, no fingers after a ride."),
               wheel_fault=False, rubs=14, hit=3, check=3, creaks=2),
    )
}  # fmt: skip


def prior(complaints: tuple[str, ...], factors: Mapping[str, float] | None = None) -> dict[str, float]:
    """Share of each cause for a set of complaints, adding up to 1; no complaint counts as a check-up.

    `factors` by cause come from the wheel and its history.

    Raises KeyError for a complaint that is not in COMPLAINTS.
    """
    for complaint in complaints:
        COMPLAINTS[complaint]
    asked = complaints or ("check",)
    by_wheel = factors or {}
    weights = {key: max(sum(c.weight.get(a, 0) for a in asked), RARE) * by_wheel.get(key, 1.0) for key, c in CAUSES.items()}
    total = sum(weights.values())
    return {key: weight / total for key, weight in weights.items()}
