"""Lacings with one error each, looked at by a hasty eye: how often a verdict that calls itself sure names the right error.

What is seen comes from the lacing map and the law of cosines, spoke by spoke; the check lays whole patterns out and compares.
Eyes err: leans and heads in one of twenty, crossings in one of twelve by one, and whether a spoke barely reaches or stands
slack is felt with a millimetre's doubt. Common practice, no source.
"""

from __future__ import annotations

import math
import sys
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.random import Generator

from felloe.core.lacing.check import LacingVerdict, Seen, check_lacing
from felloe.core.lacing.map import LacingMap, Place, lacing_map
from felloe.core.naming import Side
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.progress import bar

KINDS = ("rim-brake-front-32", "rim-brake-rear-36", "disc-rear-32", "disc-front-28", "small-rear-28")
ERRORS = ("none", "reversed", "shifted", "crossings", "heads", "lengths", "single")
FLIPPED = {"trailing": "leading", "leading": "trailing", "radial": "radial", "in": "out", "out": "in"}
WRONG_GLANCE, WRONG_COUNT, FELT_MM = 0.05, 0.08, 1.0


@dataclass(frozen=True)
class Truth:
    """What was done wrong: the kind, the side or the spoke, and how far a side was shifted or its crossings off."""

    error: str
    side: Side = Side.RIGHT
    by: int = 0
    spoke: str = ""


@lru_cache
def plan_of(kind: str) -> LacingMap:
    return lacing_map(WHEEL_KINDS[kind].wheel)


def drawn(rng: Generator, kind: str, error: str) -> Truth:
    side = Side.RIGHT if rng.random() < 0.5 else Side.LEFT
    if error == "shifted":
        return Truth(error, Side.LEFT, int(rng.choice([-1, 1])))
    if error == "crossings":
        return Truth(error, side, int(rng.choice([-1, 1])) if WHEEL_KINDS[kind].wheel.side(side).crossings < 3 else -1)
    if error == "single":
        place = plan_of(kind).places[rng.integers(len(plan_of(kind).places))]
        return Truth(error, place.side, 0, place.spoke)
    return Truth(error, side)


def length_mm(plan: LacingMap, place: Place, side: Side, crossings: float) -> float:
    """The spoke's length by the law of cosines, over so many hole spacings between hub and rim."""
    wheel = plan.wheel
    flange = wheel.hub.flange(side)
    big, small = wheel.rim.erd_mm / 2, flange.pitch_circle_mm / 2
    angle = 2 * math.pi * crossings / wheel.side(side).count
    return math.sqrt(wheel.bracing_mm(side) ** 2 + big**2 + small**2 - 2 * big * small * math.cos(angle))


def surplus_mm(plan: LacingMap, place: Place, truth: Truth) -> float:
    """By how much the spoke in hand is longer than its way, as laced."""
    wheel = plan.wheel
    mine, other = wheel.side(place.side), wheel.side(place.side.other)
    planned = float(mine.crossings)
    if truth.error == "lengths":
        return length_mm(plan, place, place.side.other, other.crossings) - length_mm(plan, place, place.side, planned)
    actual = planned
    if truth.error == "crossings" and place.side is truth.side:
        actual += truth.by
    if truth.error == "shifted" and place.side is truth.side:
        actual += truth.by * (1 if place.lean == "trailing" else -1)
    return length_mm(plan, place, place.side, planned) - length_mm(plan, place, place.side, actual)


def looked_at(rng: Generator, plan: LacingMap, place: Place, truth: Truth) -> Seen | None:
    """What a hasty eye tells of one spoke: some of lean, crossings, head and reach."""
    mine = place.side is truth.side
    lean, head, crosses = place.lean, place.head, len(place.crosses)
    if (truth.error == "reversed" and mine) or truth.spoke == place.spoke:
        lean = FLIPPED[lean]
    if truth.error == "heads" and mine:
        head = FLIPPED[head]
    if truth.error == "crossings" and mine:
        crosses += truth.by
    given: dict[str, Any] = {}
    if rng.random() < 0.8:
        given["lean"] = FLIPPED[lean] if rng.random() < WRONG_GLANCE else lean
    if rng.random() < 0.5:
        given["crosses"] = max(0, crosses + (int(rng.choice([-1, 1])) if rng.random() < WRONG_COUNT else 0))
    if rng.random() < 0.5:
        given["head"] = FLIPPED[head] if rng.random() < WRONG_GLANCE else head
    if rng.random() < 0.5:
        felt = surplus_mm(plan, place, truth) + rng.normal(0, FELT_MM)
        given["reach"] = "short" if felt < -1.5 else "slack" if felt > 1.5 else "right"
    return Seen(place.spoke, **given) if given else None


def told(plan: LacingMap, verdict: LacingVerdict) -> set[tuple[str, str]]:
    """The verdict's errors of whole sides, by kind and side."""
    return {(error.key, error.side.value if error.side else "") for error in verdict.errors if not error.spoke}


def right(plan: LacingMap, truth: Truth, verdict: LacingVerdict) -> bool:
    """Whether the verdict names what was done wrong, and no other whole side."""
    found = {(key, side) for key, side in told(plan, verdict) if key != "valve"}
    if truth.error in ("none", "single"):
        return not found
    if truth.error == "lengths":
        return found == {("lengths", "")}
    expected = {"reversed": "reversed", "shifted": "shifted", "crossings": "crossings", "heads": "heads"}[truth.error]
    if found != {(expected, truth.side.value)}:
        return False
    way = verdict.right if truth.side is Side.RIGHT else verdict.left
    planned = plan.wheel.side(truth.side).crossings
    return (truth.error != "shifted" or way.shift == truth.by) and (
        truth.error != "crossings" or way.crossings == planned + truth.by
    )


@dataclass
class Tally:
    """Looks by true error: all, called sure, sure and right; and right at all."""

    looks: Counter[str]
    sure: Counter[str]
    sure_right: Counter[str]
    right: Counter[str]
    sure_of_few: int = 0

    @property
    def share(self) -> float:
        return sum(self.sure_right.values()) / max(1, sum(self.sure.values()))


def trial(rounds: int, seed: int = 1) -> Iterator[tuple[int, Tally]]:
    rng = np.random.default_rng(seed)
    tally = Tally(Counter(), Counter(), Counter(), Counter())
    for number in range(rounds):
        kind, error = KINDS[number % len(KINDS)], ERRORS[int(rng.integers(len(ERRORS)))]
        plan = plan_of(kind)
        # Where both sides' spokes are as long nobody can exchange them.
        if error == "lengths" and abs(surplus_mm(plan, plan.places[0], Truth(error))) < 1.5:
            continue
        truth = drawn(rng, kind, error)
        chosen = rng.choice(len(plan.places), int(rng.integers(1, 13)), replace=False)
        seen = [look for i in chosen if (look := looked_at(rng, plan, plan.places[i], truth)) is not None]
        if not seen:
            continue
        verdict = check_lacing(plan, seen)
        good = right(plan, truth, verdict)
        tally.looks[error] += 1
        tally.right[error] += good
        if verdict.sure:
            tally.sure[error] += 1
            tally.sure_right[error] += good
            tally.sure_of_few += sum(v is not None for s in seen for v in (s.lean, s.crosses, s.head, s.reach)) <= 2
        yield number + 1, tally


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 600
    tally = Tally(Counter(), Counter(), Counter(), Counter())
    for number, so_far in trial(rounds):
        tally = so_far
        bar(number, rounds)
    print(f"{'error':<12}{'looks':>7}{'right':>7}{'sure':>7}{'sure and right':>16}")
    for error in ERRORS:
        print(f"{error:<12}{tally.looks[error]:>7}{tally.right[error]:>7}{tally.sure[error]:>7}{tally.sure_right[error]:>16}")
    print(f"of verdicts that call themselves sure {100 * tally.share:.1f} % are right; sure of two hints: {tally.sure_of_few}")


if __name__ == "__main__":
    main()
