"""A wheel under construction: from thread just covered to its tension in a few evenly growing laps.

Order of work: thread just covered on every nipple, whole turns while all is slack, then shares of the tension, with
roundness and dish set early and tension last (common practice, no source).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.influence import Influence
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n, tight_side

#: Shares of the target that the laps under tension go for, each as much more as the last.
LAP_SHARES: tuple[float, ...] = (0.25, 0.5, 0.75, 1.0)
#: A lap counts as reached when so little of the target is missing.
REACHED_WITHIN = 0.06
#: Most for one nipple in a lap.
BUILD_LIMIT_TURNS = 1.5
#: A usual thread, and how far a usual nipple holds it when the end stands at the slot's bottom [mm]; from memory.
THREAD_LENGTH_MM, NIPPLE_HOLDS_MM = 9.5, 11.0


@dataclass(frozen=True)
class Lap:
    """One lap: `number` from 1, turns of each side's nipples, mean tensions after it by the model [N], and what to look to."""

    number: int
    share: float
    right_turns: float
    left_turns: float
    right_mean_n: float
    left_mean_n: float
    care: str


_CARE = {
    0.25: say("Round first: hops and flats while it still gives. On a dished wheel the tight side leads."),
    0.5: say("Dish now, then straight. Press the spokes to their line at hub and crossings."),
    0.75: say("Straight, then round again; settle: squeeze parallel pairs all round."),
    1.0: say("Even out each side, settle, measure everything, plan the truing."),
}


def mean_share(state: WheelState) -> float:
    """How much of its target the tight side has."""
    wheel = state.wheel
    tight = wheel.on_side(tight_side(wheel))
    return float(state.tension_n[tight].mean()) / wheel.rim.tension_target_n


def next_share(state: WheelState) -> float:
    """The share that the next lap goes for."""
    now = mean_share(state)
    return next((share for share in LAP_SHARES if share > now + REACHED_WITHIN), 1.0)


def side_turns(influence: Influence, right_n: float, left_n: float) -> tuple[float, float]:
    """Turns of all right and all left nipples that change the sides' mean tensions by `right_n` and `left_n` [N]."""
    wheel = influence.wheel
    sides = [wheel.on_side(side) for side in (Side.RIGHT, Side.LEFT)]
    effect = np.array([[influence.tension_n[np.ix_(mine, turned)].sum(axis=1).mean() for turned in sides] for mine in sides])
    right, left = np.linalg.solve(effect, np.array([right_n, left_n]))
    return float(right), float(left)


def slack_turns(wheel: Wheel, turns_under_tension: float, thread_mm: float = THREAD_LENGTH_MM) -> float:
    """Whole and half turns from thread just covered until the spokes begin to pull, never below 0."""
    to_slot = max(0.0, NIPPLE_HOLDS_MM - thread_mm) / wheel.right.pitch_mm
    return max(0.0, math.floor(2 * (to_slot - turns_under_tension)) / 2)


def laps_ahead(influence: Influence, right_mean_n: float = 0.0, left_mean_n: float = 0.0) -> tuple[Lap, ...]:
    """The laps from the sides' mean tensions of now to the target; none where the tight side is there."""
    wheel = influence.wheel
    targets = side_targets_n(wheel)
    now = {Side.RIGHT: right_mean_n, Side.LEFT: left_mean_n}
    tight = tight_side(wheel)
    found: list[Lap] = []
    for share in LAP_SHARES:
        if share <= now[tight] / targets[tight] + REACHED_WITHIN:
            continue
        after = {side: share * targets[side] for side in Side}
        right, left = side_turns(influence, after[Side.RIGHT] - now[Side.RIGHT], after[Side.LEFT] - now[Side.LEFT])
        found.append(Lap(len(found) + 1, share, right, left, after[Side.RIGHT], after[Side.LEFT], _CARE[share]))
        now = after
    return tuple(found)
