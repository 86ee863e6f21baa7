"""What the wheel will measure after turns, by the model; spokes that go slack push nothing."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.errors import UnknownSpoke
from felloe.core.mechanics.estimate import Trace, WheelState
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.unilateral import slack_turns
from felloe.core.naming import SpokeName
from felloe.core.said import say

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Prediction:
    """What the wheel will measure: arrays (n,) from the valve; lateral and radial from the mean line [mm]."""

    tension_n: Array
    lateral_mm: Array
    radial_mm: Array
    dish_mm: float
    trace: Trace


def turns_by_place(wheel: Wheel, turns_by_spoke: Mapping[str, float]) -> Array:
    """Turns told by spoke as an array (n,); raises UnknownSpoke for one that the wheel does not have."""
    turns = np.zeros(wheel.spoke_count)
    for name, turn in turns_by_spoke.items():
        spoke = str(SpokeName.parse(name))
        if spoke not in wheel.index_of:
            raise UnknownSpoke(say("this wheel has no spoke {spoke}", spoke=spoke), "turns")
        turns[wheel.index_of[spoke]] = turn
    return turns


def predict(state: WheelState, turns: Array) -> Prediction:
    """The state after any turns (n,): what the wheel will measure by the model ("what if").

    A spoke that would push hangs slack instead; what hung slack before says nothing new.
    """
    influence = state.influence
    tension = state.tension_n + influence.tension_n @ turns
    if (tension < np.minimum(state.tension_n, 0) - 1e-9).any():
        turns = turns + slack_turns(influence, tension)
        tension = np.maximum(state.tension_n + influence.tension_n @ turns, np.minimum(state.tension_n, 0))
    lateral = influence.lateral_mm @ turns
    radial = influence.radial_mm @ turns
    lateral_op, radial_op = influence.figure_operators
    before = state.figures
    moved = influence.displacement @ turns
    trace = Trace(
        angles_deg=before.angles_deg,
        lateral_mm=before.lateral_mm + lateral_op @ moved - lateral.mean(),
        lateral_sd_mm=before.lateral_sd_mm,
        radial_mm=before.radial_mm + radial_op @ moved - radial.mean(),
        radial_sd_mm=before.radial_sd_mm,
    )
    return Prediction(
        tension_n=tension,
        lateral_mm=state.lateral_mm + lateral - lateral.mean(),
        radial_mm=state.radial_mm + radial - radial.mean(),
        dish_mm=state.dish_mm + float(lateral.mean()),
        trace=trace,
    )


def turned_state(state: WheelState, turns: Array) -> WheelState:
    """The state that follows from turns (n,), as if they were made to the letter."""
    after = predict(state, turns)
    return replace(
        state,
        tension_n=after.tension_n,
        lateral_mm=after.lateral_mm,
        radial_mm=after.radial_mm,
        dish_mm=after.dish_mm,
        displacement=state.displacement + state.influence.displacement @ turns,
    )


def without_spokes(state: WheelState, names: frozenset[str]) -> WheelState:
    """The same state with broken or missing spokes out of the model: nothing answers through them any more."""
    places = frozenset(state.wheel.index_of[name] for name in names if name in state.wheel.index_of)
    return replace(state, influence=influence_of(state.wheel, missing=places)) if places else state
