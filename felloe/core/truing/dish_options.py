"""Ways to correct dish: the same turn on every nipple of a side, or of both."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import tight_side
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import TruingPlan, plan_of_turns
from felloe.core.truing.prediction import Prediction, predict

Array = NDArray[np.float64]

#: Every nipple of a side is turned alike, to a sixteenth.
STEP_TURNS = 1 / 16
#: A wheel is straight enough to judge its dish below this lateral TIR [mm]; common practice, no source.
STRAIGHT_ENOUGH_MM = 1.0


@dataclass(frozen=True)
class DishOption:
    """One way: turns on every nipple of each side (+ tightens), what follows, and whether it is the one proposed."""

    key: str
    name: str
    right_turns: float
    left_turns: float
    after: Prediction
    right_mean_n: float
    left_mean_n: float
    over_cap: bool
    proposed: bool = False

    def mean_n(self, side: Side) -> float:
        """Mean tension of a side after this option [N]."""
        return self.right_mean_n if side is Side.RIGHT else self.left_mean_n


@dataclass(frozen=True)
class DishAdvice:
    """The options, why one is proposed, and whether dish should be judged at all yet."""

    options: tuple[DishOption, ...]
    reason: str
    straight_enough: bool


def side_turns(state: WheelState, right_turns: float, left_turns: float) -> Array:
    """The same turn on every nipple of a side, (n,)."""
    right = state.wheel.on_side(Side.RIGHT)
    return np.asarray(np.where(right, right_turns, left_turns), dtype=np.float64)


def dish_advice(state: WheelState) -> DishAdvice:
    """Tighten the far side, ease the near side, or half and half, each bringing the rim to the middle.

    Proposed is the one that also moves the tight side's mean nearest to its target, so tighten where it is low, ease
    where it is high (common practice, no source); never one that lifts a spoke above the rim's limit.
    """
    move_mm = -state.dish_mm
    mean_row = state.influence.lateral_mm.mean(axis=0)
    alone = {side: move_mm / float(mean_row[state.wheel.on_side(side)].sum()) for side in Side}
    far = Side.RIGHT if move_mm > 0 else Side.LEFT
    ways = (
        ("tighten", say("Tighten the {far}", far=far.said), {far: alone[far]}),
        ("ease", say("Ease the {other}", other=far.other.said), {far.other: alone[far.other]}),
        ("half", say("Half and half"), {side: alone[side] / 2 for side in Side}),
    )
    options = [_option(state, key, name, turns) for key, name, turns in ways]
    tight, target = tight_side(state.wheel), state.wheel.rim.tension_target_n
    allowed = [option for option in options if not option.over_cap]
    best = min(allowed, key=lambda option: abs(option.mean_n(tight) - target), default=None)
    before = float(state.tension_n[state.wheel.on_side(tight)].mean())
    reason = say(
        "The {tight} side's mean is {before:.0f} N, its target {target:.0f} N.", tight=tight.said, before=before, target=target
    )
    if best is None:
        reason += say(" Each way would lift a spoke above the rim's limit: true the wheel as a whole instead.")
    proposed = tuple(replace(option, proposed=option is best) for option in options)
    return DishAdvice(proposed, reason, state.figures.lateral_tir_mm <= STRAIGHT_ENOUGH_MM)


def _option(state: WheelState, key: str, name: str, turns: dict[Side, float]) -> DishOption:
    rounded = {side: round(turns.get(side, 0.0) / STEP_TURNS) * STEP_TURNS for side in Side}
    after = predict(state, side_turns(state, rounded[Side.RIGHT], rounded[Side.LEFT]))
    means = {side: float(after.tension_n[state.wheel.on_side(side)].mean()) for side in Side}
    cap = max(state.wheel.rim.tension_cap_n, float(state.tension_n.max()))
    return DishOption(
        key=key,
        name=name,
        right_turns=rounded[Side.RIGHT],
        left_turns=rounded[Side.LEFT],
        after=after,
        right_mean_n=means[Side.RIGHT],
        left_mean_n=means[Side.LEFT],
        over_cap=bool(after.tension_n.max() > cap + 1e-6),
    )


def dish_plan(state: WheelState, options: PlanOptions, key: str) -> TruingPlan:
    """The plan behind an option, nipple by nipple.

    Raises KeyError for an option that there is not, BadReading for one that would lift a spoke above the rim's limit.
    """
    chosen = {option.key: option for option in dish_advice(state).options}[key]
    if chosen.over_cap:
        raise BadReading(say("{chosen} would lift a spoke above the rim's limit", chosen=chosen.name.lower()), "dish_option")
    return plan_of_turns(state, options, side_turns(state, chosen.right_turns, chosen.left_turns))
