"""A wheel under construction: from thread just covered to its tension in a few evenly growing laps.

Order of work: thread just covered on every nipple, whole turns while all is slack, then shares of the tension, with
roundness and dish set early and tension last (common practice, no source).
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.influence import Influence
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.minutes import lap_minutes
from felloe.core.truing.tiers import Tier

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
    """One lap: `number` from 1, turns of each side's nipples, mean tensions after it by the model [N], minutes with settling
    and reading again, and what to look to."""

    number: int
    share: float
    right_turns: float
    left_turns: float
    right_mean_n: float
    left_mean_n: float
    minutes: float
    care: str


#: What a lap need not be nearer than before the next, by its share of the tension: round and centred early, straight by and
#: by, even last. Common practice, no source.
LAP_TIERS: dict[float, Tier] = {
    0.25: Tier("lap", 2.0, 1.2, 0.8, 45),
    0.5: Tier("lap", 1.5, 0.8, 0.6, 35),
    0.75: Tier("lap", 1.0, 0.6, 0.5, 25),
}

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


def lap_tier(share: float, tier: Tier) -> Tier:
    """What a lap to `share` of the tension is brought inside: the job's `tier` at the end, something wider before."""
    wider = LAP_TIERS.get(share)
    if wider is None:
        return tier
    return Tier(
        "lap",
        max(wider.lateral_mm, tier.lateral_mm),
        max(wider.radial_mm, tier.radial_mm),
        max(wider.dish_mm, tier.dish_mm),
        max(wider.tension_percent, tier.tension_percent),
    )


def lap_turns(state: WheelState, share: float, step_turns: float) -> NDArray[np.float64]:
    """Turns (n,) of a lap to `share` of the tension, every nipple of a side alike, multiples of the step; none is eased."""
    wheel = state.wheel
    targets = side_targets_n(wheel)
    missing = {side: share * targets[side] - float(state.tension_n[state.present(side)].mean()) for side in Side}
    right, left = side_turns(state.influence, missing[Side.RIGHT], missing[Side.LEFT])
    rounded = {
        side: max(0.0, round(turns / step_turns) * step_turns) for side, turns in ((Side.RIGHT, right), (Side.LEFT, left))
    }
    return np.array([min(rounded[name.side], BUILD_LIMIT_TURNS) for name in wheel.names])


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
        minutes = lap_minutes(wheel.spoke_count)
        found.append(Lap(len(found) + 1, share, right, left, after[Side.RIGHT], after[Side.LEFT], minutes, _CARE[share]))
        now = after
    return tuple(found)
