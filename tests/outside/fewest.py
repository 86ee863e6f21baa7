"""The fewest nipples that bring a wheel's estimated figures so far inside, proven by a mixed-integer programme (HiGHS).

It shares with the plan only the influence and the estimate: figures are written out anew as linear bounds.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.optimize import LinearConstraint, milp

from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.truing.tiers import Tier


@dataclass(frozen=True)
class Fewest:
    """The fewest nipples found and the bound below which there are surely none; `proven` where they meet."""

    nipples: int
    at_least: int

    @property
    def proven(self) -> bool:
        return self.nipples == self.at_least


def worst_share(state: WheelState, turns: np.ndarray, tier: Tier) -> float:
    """The worst figure after `turns` over its limit, as estimated: runouts at the holes and between them, dish, spread."""
    influence, wheel = state.influence, state.wheel
    lateral, radial, tension = _figures(state)
    after = [np.ptp(at + by @ turns) for at, by in (lateral, radial)]
    dish = state.dish_mm + float(influence.lateral_mm.mean(axis=0) @ turns)
    spread = 0.0
    for side in Side:
        mine = (tension[0] + tension[1] @ turns)[wheel.on_side(side)]
        spread = max(spread, float(np.abs(mine / mine.mean() - 1).max()))
    return max(
        after[0] / tier.lateral_mm, after[1] / tier.radial_mm, abs(dish) / tier.dish_mm, 100 * spread / tier.tension_percent
    )


def _figures(state: WheelState):  # type: ignore[no-untyped-def]
    influence, trace = state.influence, state.figures
    angles = trace.angles_deg[::2]
    lateral, radial = influence.lateral_at(angles), influence.radial_at(angles)
    return (trace.lateral_mm[::2], lateral), (trace.radial_mm[::2], radial), (state.tension_n, influence.tension_n)


def fewest_nipples(
    state: WheelState, tier: Tier, share: float, most_turns: float, cap_n: np.ndarray, seconds: float
) -> Fewest | None:
    """The fewest nipples whose turns, any within `most_turns`, bring the worst figure to `share` of its limit with no tension
    above `cap_n` (n,); None where the solver found none in time."""
    influence, wheel = state.influence, state.wheel
    count = wheel.spoke_count
    lateral, radial, (tension, by_turn) = _figures(state)
    # Variables: turns, whether a nipple is touched, the middles of lateral and radial.
    rows, upper = [], []

    def below(turns: np.ndarray, middles: tuple[float, float], limit: np.ndarray | float) -> None:
        block = np.atleast_2d(turns)
        rows.append(np.hstack([block, np.zeros_like(block), np.tile(middles, (len(block), 1))]))
        upper.append(np.broadcast_to(limit, len(block)))

    for sign in (1, -1):
        below(sign * lateral[1], (-sign, 0), share * tier.lateral_mm / 2 - sign * lateral[0])
        below(sign * radial[1], (0, -sign), share * tier.radial_mm / 2 - sign * radial[0])
        below(sign * influence.lateral_mm.mean(axis=0), (0, 0), share * tier.dish_mm - sign * state.dish_mm)
        for side in Side:
            mine = wheel.on_side(side)
            room = share * tier.tension_percent / 100
            mean, mean_by = tension[mine].mean(), by_turn[mine].mean(axis=0)
            below(sign * (by_turn[mine] - mean_by) - room * mean_by, (0, 0), room * mean - sign * (tension[mine] - mean))
    below(by_turn, (0, 0), cap_n - tension)
    matrix = np.vstack(rows)
    touched = np.hstack([np.eye(count), -most_turns * np.eye(count), np.zeros((count, 2))])
    untouched = np.hstack([-np.eye(count), -most_turns * np.eye(count), np.zeros((count, 2))])
    found = milp(
        np.concatenate([np.zeros(count), np.ones(count), np.zeros(2)]),
        constraints=[
            LinearConstraint(matrix, -np.inf, np.concatenate(upper)),
            LinearConstraint(np.vstack([touched, untouched]), -np.inf, 0),
        ],
        integrality=np.concatenate([np.zeros(count), np.ones(count), np.zeros(2)]),
        bounds=(
            np.concatenate([np.full(count, -most_turns), np.zeros(count), np.full(2, -50.0)]),
            np.concatenate([np.full(count, most_turns), np.ones(count), np.full(2, 50.0)]),
        ),
        options={"time_limit": seconds},
    )
    if found.x is None:
        return None
    return Fewest(round(found.fun), int(np.ceil(found.mip_dual_bound - 1e-6)))
