"""What a practice wheel is judged by beside its figures: the fewest touches, whether it is tight, whether a fault was named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from felloe.core.mechanics.influence import Influence
from felloe.core.practice.compare import TrueFigures, best_plan
from felloe.core.practice.deeds import new_nipple
from felloe.core.practice.exercises import SIGNS
from felloe.core.practice.spoilt import Subject
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n
from felloe.core.truing.tiers import Tier

#: A wheel is tight enough from so much of what its rim asks for; common practice, no source.
TIGHT_SHARE = 0.8
#: As many passes the best plan gets to bring a wheel inside.
BEST_PASSES = 4
#: A bend is a place: so many holes beside it name it as well.
BEND_REACH = 2
#: The fault of the whole wheel; it has no spoke of its own.
EVERYWHERE = "slack"


@dataclass(frozen=True)
class Guessed:
    """Whether a fault was named rightly, and what is said to it."""

    right: bool
    says: str


def fewest_touches(first: Subject, tier: Tier, influence: Influence) -> int:
    """How many nipples the best plan turns from the wheel as it was given, pass after pass, when all of them turn."""
    at = first
    for place in range(at.wheel.spoke_count):
        at = new_nipple(at, place)
    touches = 0
    for _ in range(BEST_PASSES):
        best = best_plan(at, tier, influence)
        touches += best.nipples
        at = replace(at, virtual=at.virtual.turned(best.turns))
        if best.nipples == 0 or best.after.inside(tier):
            break
    return touches


def tight_enough(subject: Subject, left: TrueFigures) -> bool:
    """Whether a wheel's mean tension is what its rim asks for, or nearly: a slack one is no good wheel, however straight."""
    targets = side_targets_n(subject.wheel)
    return left.mean_n >= TIGHT_SHARE * float(np.mean([targets[name.side] for name in subject.wheel.names]))


def judge_guess(subject: Subject, truth: str, spokes: Sequence[str], fault: str, spoke: str) -> Guessed:
    """The answer to `fault` at `spoke`, where it is `truth` at `spokes`; a wrong one is told how its fault would show."""
    if fault != truth:
        return Guessed(False, SIGNS[fault])
    if not spokes or _names(subject, fault, spokes, spoke):
        return Guessed(True, say("Yes. That is it."))
    return Guessed(False, say("The fault, yes; not at {spoke}.", spoke=spoke))


def _names(subject: Subject, fault: str, spokes: Sequence[str], spoke: str) -> bool:
    if fault != "bent":
        return spoke in spokes
    index, count = subject.wheel.index_of, subject.wheel.spoke_count
    apart = [(index[spoke] - index[there]) % count for there in spokes]
    return any(min(by, count - by) <= BEND_REACH for by in apart)
