"""Replacing single spokes: the steps for this place on this wheel, and the tension of its neighbours to bring it to.

Common practice, no source.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from felloe.core.components import Wheel
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.lacing.map import BadLacing
from felloe.core.lacing.strip import Step
from felloe.core.naming import Side, SpokeName
from felloe.core.said import say


@dataclass(frozen=True)
class ReplaceFacts:
    """What decides the steps for a place."""

    rear: bool
    disc: bool
    tyre: str = ""
    broke_at: str = ""
    closed_rim: bool = False


@dataclass(frozen=True)
class Neighbours:
    """The two nearest sound spokes of the same side and the mean of their tensions [N]; None where none was estimated."""

    spokes: tuple[str, ...]
    tension_n: float | None


def replace_steps(wheel: Wheel, spoke: str, facts: ReplaceFacts) -> tuple[Step, ...]:
    """The steps for one place, in order. Raises BadLacing for a spoke that the wheel has not."""
    if spoke not in wheel.index_of:
        raise BadLacing(say("this wheel has no spoke {spoke}", spoke=spoke), "spoke")
    side = SpokeName.parse(spoke).side
    straight = wheel.hub.flange(side).straight_pull_angle_deg is not None
    blade = wheel.side(side).spoke.blade_thickness_mm is not None
    steps = [Step("off", say("Wheel out; tyre aside at this place, tape aside."), _tyre_word(facts.tyre))]
    if facts.rear and side is Side.RIGHT and not straight:
        steps.append(
            Step(
                "sprockets", say("Sprockets off."), say("The elbow goes in behind them; the kind of sprocket decides the tool.")
            )
        )
    if facts.disc and side is Side.LEFT and not straight:
        steps.append(
            Step(
                "rotor",
                say("Rotor off, laid aside clean."),
                say("The elbow goes in behind it. No oil, no fingers after a ride."),
            )
        )
    if facts.broke_at in ("elbow", "middle", "thread"):
        steps.append(
            Step(
                "pieces",
                say("Pieces of the broken spoke out."),
                say("It broke {place}: keep it for the length.", place=PLACES[facts.broke_at]),
            )
        )
    closed = say(" With no hole under the tape: by the valve hole, led with a magnet.") if facts.closed_rim else ""
    steps.append(
        Step(
            "nipple_out",
            say("Old nipple out, with a spare spoke screwed into it from outside."),
            say("Count it: a rattle is one that was not returned.") + closed,
        )
    )
    steps.append(
        Step(
            "measure",
            say("Measure the old spoke and the new one."),
            say("From the inside of the elbow to the end of the thread; boxes get mixed."),
        )
    )
    steps.append(Step("through", *_through(wheel, side, straight)))
    steps.append(
        Step(
            "nipple_in",
            say("New nipple with a drop of oil, hand-tight; a new washer if the rim has washers."),
            say("Nipples and washers are never used again."),
        )
    )
    hold = say("Hold the blade close to the nipple.") if blade else say("Overshoot by the twist and come back.")
    steps.append(Step("tension", say("Bring it to its neighbours' tension."), hold))
    steps.append(
        Step(
            "true",
            say("Settle, measure, plan the truing."),
            say("Slack so far, the spoke has let the rim go: it wants to be looked at as a whole."),
        )
    )
    return tuple(steps)


def _tyre_word(tyre: str) -> str:
    if tyre == "glued":
        return say("A glued tyre has its own procedure: lift it only as far as the glue may be renewed.")
    if tyre == "tubeless":
        return say("Tubeless tape that is pierced or lifted is renewed all round.")
    return say("Look at the tape on the way: sharp holes cut tubes.")


def _through(wheel: Wheel, side: Side, straight: bool) -> tuple[str, str]:
    if straight:
        return say("New spoke through its seat from the hub's side."), say("Its head lies in line; nothing is bent.")
    lacing = wheel.side(side)
    if lacing.crossings == 0:
        return say("New spoke through the flange, its head as its neighbours' next but one."), say("Radial: no crossing.")
    woven = say(", under or over the outermost crossing as its like do") if lacing.crossings >= 2 else ""
    return (
        say(
            "New spoke through the flange, head as on the next but one, across {crossings} of its side{woven}.",
            crossings=lacing.crossings,
            woven=woven,
        ),
        say("Bend it gently in a long bow to get it through; never kink it."),
    )


def neighbours(wheel: Wheel, spoke: str, tension_n: Sequence[float] | None, without: Collection[str] = ()) -> Neighbours:
    """The nearest sound spokes on either hand of the same side, leaving out `without` (broken ones)."""
    if spoke not in wheel.index_of:
        raise BadLacing(say("this wheel has no spoke {spoke}", spoke=spoke), "spoke")
    name = SpokeName.parse(spoke)
    count = wheel.side(name.side).count
    found = []
    for way in (-1, 1):
        for k in range(1, count):
            other = f"{name.side.value}{(name.number - 1 + way * k) % count + 1}"
            if other != spoke and other not in without and other not in found:
                found.append(other)
                break
    if tension_n is None or not found:
        return Neighbours(tuple(found), None)
    values = [float(tension_n[wheel.index_of[n]]) for n in found]
    return Neighbours(tuple(found), sum(values) / len(values))
