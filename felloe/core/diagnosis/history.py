"""What the wheel itself and its history say before the first check: factors on the causes' weights.

Factors are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from felloe.core.diagnosis.causes import CAUSES
from felloe.core.said import joined, say, say_count
from felloe.core.terms import term

#: A cause found on this wheel within a year comes back so much more often.
CAME_BACK = 2.0
CAME_BACK_WITHIN_DAYS = 365

_BY_BRAKE: dict[str, dict[str, float]] = {
    "rim": {"rotor_bent": 0.02},
    "disc": {"rotor_bent": 1.6, "brake_off_centre": 0.2, "rim_worn": 0.05},
    "hub": {"rotor_bent": 0.02, "brake_off_centre": 0.1, "rim_worn": 0.05},
}
_FRONT = {"hanger_overlap": 0.05, "stop_screws": 0.2}
#: A through axle sits in closed holes: nothing to drop into, no slots, no screws behind it.
_BY_AXLE: dict[str, dict[str, float]] = {
    "through": {"axle_not_home": 0.1, "hanger_overlap": 0.02, "stop_screws": 0.02, "axle_ends_proud": 0.02, "axle_bent": 0.4},
    "nuts": {"axle_ends_proud": 0.5},
}
#: Checks that make no sense on a wheel, by what is known of it.
_NOT_WITH_AXLE = {"through": ("drops_in", "stop_screws", "slot_hidden", "ends_proud", "flip")}
_NOT_WITH_BRAKE = {"rim": ("rotor",), "disc": ("pads_alike", "brake_track"), "hub": ("pads_alike", "brake_track", "rotor")}
_NOT_IN_FRONT = ("slot_hidden", "stop_screws")
_BY_MARK: dict[str, dict[str, float]] = {
    "dent": {"rim_dent": 4, "rim_bent": 2},
    "crack": {"rim_crack": 10},
    "bulge": {"rim_crack": 3},
    "wear": {"rim_worn": 4},
    "hub_play": {"bearing_play": 3},
    "hub_rough": {"bearing_rough": 4},
    "axle_bent": {"axle_bent": 6},
    "axle_broken": {"axle_broken": 10},
    "spoke_broken": {"broken_spoke": 6},
}
_HUB_WORK = ("bearing_play", "bearing_rough", "axle_bent", "axle_broken")


@dataclass(frozen=True)
class WheelFacts:
    """What is known of a wheel before it is looked at.

    `brake`: rim, disc, hub or unknown (""). `front`: a front wheel. `breaks`: spokes broken since the last rebuild.
    `axle`: quick, nuts, through or unknown ("").
    `found_before`: cause → days since it was last concluded on this wheel. `marks`: kinds of damage on record.
    """

    brake: str = ""
    front: bool = False
    breaks: int = 0
    found_before: Mapping[str, int] = field(default_factory=dict)
    marks: tuple[str, ...] = ()
    axle: str = ""


def asked_of(facts: WheelFacts | None, check: str) -> bool:
    """Whether a check makes sense on a wheel; nothing known leaves everything open."""
    if facts is None:
        return True
    out = (*_NOT_WITH_AXLE.get(facts.axle, ()), *_NOT_WITH_BRAKE.get(facts.brake, ()), *(_NOT_IN_FRONT if facts.front else ()))
    return check not in out


def factors(facts: WheelFacts) -> dict[str, float]:
    """Factor on each cause's weight; 1 where the wheel says nothing of it."""
    result = dict.fromkeys(CAUSES, 1.0)

    def times(by_cause: Mapping[str, float]) -> None:
        for cause, factor in by_cause.items():
            result[cause] *= factor

    times(_BY_BRAKE.get(facts.brake, {}))
    times(_BY_AXLE.get(facts.axle, {}))
    if facts.front:
        times(_FRONT)
    if facts.breaks:
        times({"broken_spoke": min(1 + 0.8 * facts.breaks, 4), "low_tension": 1.5, "one_loose": 1.3})
    for kind in dict.fromkeys(facts.marks):
        times(_BY_MARK.get(kind, {}))
    recent = {cause for cause, days in facts.found_before.items() if days <= CAME_BACK_WITHIN_DAYS and cause in CAUSES}
    times(dict.fromkeys(recent, CAME_BACK))
    if recent & set(_HUB_WORK):
        times({"spacers": 3, "off_dish": 1.5})
    return result


def said_by(facts: WheelFacts) -> tuple[str, ...]:
    """One line for each thing in the history that moved a weight, fit for the screen."""
    lines = []
    if facts.breaks:
        lines.append(
            say_count(
                "{count} spoke broken since the last rebuild",
                "{count} spokes broken since the last rebuild",
                count=facts.breaks,
            )
        )
    lines += [
        say("{cause} found {days} days ago", cause=CAUSES[cause].name.lower(), days=days)
        for cause, days in sorted(facts.found_before.items(), key=lambda item: item[1])
        if days <= CAME_BACK_WITHIN_DAYS and cause in CAUSES
    ]
    known = [kind for kind in dict.fromkeys(facts.marks) if kind in _BY_MARK]
    if known:
        lines.append(say("on record: ") + joined(", ", [term(kind) for kind in known]))
    return tuple(lines)
