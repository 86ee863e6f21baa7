"""Marks for a practice wheel: what is left, in how many touches, and how that compares; who has mastered a rung.

A mark is 0 (not there), 1 (inside the tier), 2 (well done) or 3 (as the best plan does it); common practice, no source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.practice.compare import TrueFigures
from felloe.core.truing.tiers import Tier

#: Well done takes at most so many times the best plan's touches, and two; a master's hand so many, and one.
WELL_TIMES, MASTER_TIMES = 2.5, 1.4
#: So many wrong answers are still well done, by mode.
FORGIVEN = {"find": 1, "lace": 2}
#: So many runs in a row of mark 2 or better are mastery.
MASTERED_RUNS = 2


@dataclass(frozen=True)
class PracticeMarks:
    """What a finished exercise shows: touches, turns, what is left [mm, %], blades askew, spokes broken, time, the mark."""

    touches: int
    best_touches: int
    turns: float
    lateral_mm: float
    radial_mm: float
    dish_mm: float
    spread_percent: float
    askew: int
    snapped: int
    wrong: int
    seconds: int
    inside: bool
    mark: int


def mark_truing(
    left: TrueFigures,
    tier: Tier,
    touches: int,
    best_touches: int,
    turns: float,
    askew: int,
    snapped: int,
    seconds: int,
    tight: bool,
) -> PracticeMarks:
    """Marks for truing. With a broken spoke, a blade askew or too little tension a wheel is not inside, however straight."""
    inside = left.inside(tier) and not snapped and not askew and tight
    mark = 0
    if inside:
        mark = 1
        if touches <= WELL_TIMES * best_touches + 2:
            mark = 2
        if touches <= MASTER_TIMES * best_touches + 1:
            mark = 3
    return PracticeMarks(
        touches,
        best_touches,
        turns,
        left.lateral_mm,
        left.radial_mm,
        abs(left.dish_mm),
        left.spread_percent,
        askew,
        snapped,
        0,
        seconds,
        inside,
        mark,
    )


def mark_answers(wrong: int, done: bool, touches: int, seconds: int, mode: str) -> PracticeMarks:
    """Marks for finding a fault or lacing: by the answers that were wrong; FORGIVEN of a mode are still well done."""
    mark = 0 if not done else 3 if wrong == 0 else 2 if wrong <= FORGIVEN[mode] else 1
    return PracticeMarks(touches, 0, 0.0, 0.0, 0.0, 0.0, 0.0, 0, 0, wrong, seconds, done, mark)


def mastered(marks: Sequence[int]) -> bool:
    """Whether a rung is mastered, by the marks of its finished runs, oldest first."""
    last = marks[-MASTERED_RUNS:]
    return len(last) == MASTERED_RUNS and min(last) >= 2
