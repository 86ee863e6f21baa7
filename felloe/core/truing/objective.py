"""What a plan weighs: the objective as rows of squares, and the schools that weigh it otherwise."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.influence import Influence
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.tiers import Tier

Array = NDArray[np.float64]

#: Sides whose targets differ by no more than this share have one mean.
ALIKE_SHARE = 0.99

#: Schools of truing: name and why one would choose it.
MODES: dict[str, tuple[str, str]] = {
    "balanced": (
        say("All at once"),
        say("Default: round, straight, centred and even together, so that nothing mended breaks another."),
    ),
    "tighten_only": (say("Tighten only"), say("For a wheel whose tension is low: it comes up as it gets straight.")),
    "ease_only": (say("Ease only"), say("For a wheel whose tension is high: it comes down as it gets straight.")),
    "straight_first": (
        say("Straight first"),
        say("For hand work by eye: what rubs goes first, roundness and evenness follow."),
    ),
    "round_first": (say("Round first"), say("For hand work by eye: hops and flats go first, while the wheel still gives.")),
    "local": (say("One stretch only"), say("For a lump: only nipples of that stretch are turned.")),
    "build": (
        say("From slack"),
        say("For a wheel under construction: up by an even lap, and straight, round and centred as it comes."),
    ),
    "ride_home": (say("Ride home"), say("With a spoke missing: straight enough to clear, nothing more; then to a workshop.")),
}
#: What counts how much, by mode: lateral, radial, dish, evenness, mean.
_MODE_WEIGHTS: dict[str, tuple[float, float, float, float, float]] = {
    "tighten_only": (1, 1, 1, 1, 0.3),
    "ease_only": (1, 1, 1, 1, 0.3),
    "straight_first": (1, 0.3, 1, 0.35, 0.35),
    "round_first": (0.3, 1, 0.3, 0.35, 0.35),
    "ride_home": (1, 0.4, 0.5, 0.1, 0.0),
}


def group_weights(mode: str) -> tuple[float, float, float, float, float]:
    """What counts how much in a mode: lateral, radial, dish, evenness, mean."""
    return _MODE_WEIGHTS.get(mode, (1.0, 1.0, 1.0, 1.0, 1.0))


@dataclass(frozen=True)
class Quadratic:
    """The objective |r + M x|², x in turns."""

    matrix: Array
    residual: Array

    def value(self, turns: Array) -> float:
        return float(np.sum((self.residual + self.matrix @ turns) ** 2))


def tight_spokes(wheel: Wheel) -> NDArray[np.bool_]:
    """The spokes whose mean the target is set for, (n,): the tight side's, or all where both sides are alike."""
    targets = side_targets_n(wheel)
    alike = min(targets.values()) > ALIKE_SHARE * max(targets.values())
    return np.ones(wheel.spoke_count, dtype=bool) if alike else wheel.on_side(tight_side(wheel))


def objective_rows(influence: Influence, tier: Tier, mode: str = "balanced") -> Array:
    """Rows of the objective over a state stacked as tensions, lateral and radial at the holes, (rows, 3n).

    Each is divided by its tolerance unit: a quarter of the tier's TIR for lateral and radial, half its dish, 0.4 of its
    tension band for the evenness of a side and 5 % of target for the tight side's mean; a dish weighs as much as all n
    spokes together. A spoke that is out of the influence counts in no evenness. `mode` weighs the groups.
    """
    wheel = influence.wheel
    present = influence.stiffness_n_mm > 0
    lateral, radial, centred, evenness, level = group_weights(mode)
    count = wheel.spoke_count
    targets = side_targets_n(wheel)
    centre = np.eye(count) - 1.0 / count
    none = np.zeros((count, count))
    rows = [
        np.hstack([none, lateral * centre / (tier.lateral_mm / 4), none]),
        np.hstack([none, none, radial * centre / (tier.radial_mm / 4)]),
    ]
    dish = np.zeros((1, 3 * count))
    dish[0, count : 2 * count] = centred * np.sqrt(count) / (tier.dish_mm / 2) / count
    rows.append(dish)
    for side in Side:
        mine = wheel.on_side(side) & present
        even = np.zeros((int(mine.sum()), 3 * count))
        unit_n = 0.4 * tier.tension_percent / 100 * targets[side] / max(evenness, 1e-9)
        even[:, :count][:, mine] = (np.eye(int(mine.sum())) - 1.0 / mine.sum()) / unit_n
        rows.append(even)
    tight = tight_spokes(wheel) & present
    mean = np.zeros((1, 3 * count))
    mean[0, :count][tight] = level * np.sqrt(count) / (0.05 * wheel.rim.tension_target_n) / tight.sum()
    rows.append(mean)
    return np.vstack(rows)


def objective(state: WheelState, tier: Tier, mode: str = "balanced", target_share: float = 1.0) -> Quadratic:
    """The objective of `state`: its rows on what one turn of each nipple does, and on where the wheel stands now.

    `target_share`: how much of the target tension is aimed at.
    """
    influence = state.influence
    rows = objective_rows(influence, tier, mode)
    matrix = rows @ np.vstack([influence.tension_n, influence.lateral_mm, influence.radial_mm])
    residual = rows @ np.concatenate([state.tension_n, state.lateral_mm + state.dish_mm, state.radial_mm])
    # The last row is the tight side's mean, which has a target of its own.
    level = group_weights(mode)[4]
    residual[-1] -= target_share * level * np.sqrt(state.wheel.spoke_count) / 0.05
    return Quadratic(matrix, residual)
