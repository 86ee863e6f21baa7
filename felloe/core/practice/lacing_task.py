"""Lacing as an exercise: for the first spokes of each set, into which rim hole and how past the last spoke it crosses.

What a wrong hole does is worked out from the wheel's own geometry.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.errors import BadReading
from felloe.core.lacing.map import LacingMap, Place, lacing_map
from felloe.core.lacing.pattern import lace
from felloe.core.said import say

#: So many spokes of each set are asked; the others follow as the set runs.
ASKED_OF_A_SET = 3


@dataclass(frozen=True)
class Question:
    """What is asked next. `what`: "hole" or "cross"; `other` is the spoke that it crosses last, of those that are in."""

    place: Place
    what: str
    other: str = ""


@dataclass(frozen=True)
class Told:
    """Whether an answer is right, and what it would do where it is not."""

    right: bool
    says: str


def questions(wheel: Wheel) -> tuple[Question, ...]:
    """Everything that is asked of a wheel, in working order."""
    plan = lacing_map(wheel)
    order = {place.spoke: place.order for place in plan.places}
    asked: list[Question] = []
    of_the_set: dict[int, int] = {}
    for place in plan.places:
        of_the_set[place.set_number] = of_the_set.get(place.set_number, 0) + 1
        if of_the_set[place.set_number] > ASKED_OF_A_SET:
            continue
        asked.append(Question(place, "hole"))
        there = [other for other, _ in place.crosses if order[other] < place.order]
        if there:
            asked.append(Question(place, "cross", there[-1]))
    return tuple(asked)


def laced_before(wheel: Wheel, question: Question) -> tuple[str, ...]:
    """The spokes that are in when a question comes, by name."""
    return tuple(place.spoke for place in lacing_map(wheel).places if place.order < question.place.order)


def answer_hole(wheel: Wheel, question: Question, hole: int) -> Told:
    """The answer to "which rim hole", counted clockwise from the valve, from 1. Raises BadReading if it is not there."""
    plan = lacing_map(wheel)
    count = wheel.spoke_count
    if not 1 <= hole <= count:
        raise BadReading(say("the rim has holes 1 to {count}", count=count), "hole")
    place = question.place
    if hole == place.rim_hole:
        return Told(True, say("Yes: hole {hole}.", hole=hole))
    in_it = next((p for p in plan.places if p.rim_hole == hole), None)
    assert in_it is not None
    if in_it.order < place.order:
        return Told(False, say("Hole {hole} has its spoke already: {spoke}.", hole=hole, spoke=in_it.spoke))
    if in_it.side is not place.side:
        return Told(
            False,
            say(
                "Hole {hole} is drilled toward the {side} flange: every second hole belongs to the other side.",
                hole=hole,
                side=in_it.side.said,
            ),
        )
    return Told(False, _off(wheel, plan, place, in_it))


def _off(wheel: Wheel, plan: LacingMap, place: Place, into: Place) -> str:
    laced = lace(wheel)
    i, j = wheel.index_of[place.spoke], wheel.index_of[into.spoke]
    needs_mm = float(np.linalg.norm(laced.hub_hole_mm[i] - laced.seat_mm[j]))
    more_mm = needs_mm - float(laced.span_mm[i])
    beside = (
        say(" And it would lean over the valve, where the pump goes.") if into.beside_valve and into.lean != place.lean else ""
    )
    if more_mm > 0:
        return say(
            "It would be {mm:.0f} mm too short to reach hole {hole}.{beside}", mm=more_mm, hole=into.rim_hole, beside=beside
        )
    return say(
        "It would be {mm:.0f} mm too long for hole {hole}, and cross the wrong spokes.{beside}",
        mm=-more_mm,
        hole=into.rim_hole,
        beside=beside,
    )


def answer_cross(question: Question, over: bool) -> Told:
    """The answer to "over or under", at the last spoke that it crosses; over is outside, away from the other flange."""
    how = dict(question.place.crosses)[question.other]
    right = (how == "over") == over
    if right:
        return Told(True, say("Yes."))
    return Told(
        False,
        say(
            "Not so: at its last crossing a spoke changes sides, so that the two press on each other and share a bump. "
            "Its head sits {head}.",
            head=say("inside") if question.place.head == "inside" else say("outside"),
        ),
    )
