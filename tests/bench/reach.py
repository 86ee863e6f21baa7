"""What is possible on a wheel at all: the least worst figure, by linear programmes on the wheel as it truly is.

All is known and hands are perfect; turns are continuous. Each programme is linear about the wheel's own balance and is
repeated from where its turns really led. The best of a few is attained, so that no bound below it is claimed.
"""

from __future__ import annotations

import numpy as np
from scipy.optimize import linprog

from felloe.core.mechanics.influence import influence_of
from felloe.core.naming import Side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.objective import tight_spokes
from felloe.core.truing.tiers import Tier
from tests.bench.passes import figures

ROUNDS = 5


def best_share(virtual: VirtualWheel, tier: Tier) -> float:
    """The worst figure over its limit that perfect turns reach, with no spoke above the rim's limit."""
    wheel = virtual.wheel
    model = influence_of(wheel)
    angles = model.figure_angles_deg[::2]
    lateral, radial = model.lateral_at(angles), model.radial_at(angles)
    cap, target, allowed = wheel.rim.tension_cap_n, wheel.rim.tension_target_n, tier.tension_percent / 100
    best = np.inf
    for _ in range(ROUNDS):
        now = figures(virtual)
        if now.over <= 1:
            found = (now.lateral_mm / tier.lateral_mm, now.radial_mm / tier.radial_mm, now.dish_mm / tier.dish_mm)
            best = min(best, max(*found, now.spread_percent / tier.tension_percent))
        rows: list[np.ndarray] = []
        upper: list[np.ndarray] = []

        def below(by: np.ndarray, middles: tuple[float, float], room: float, start: np.ndarray) -> None:
            """`start` + `by` x − middles ≤ share · `room`."""
            by, start = np.atleast_2d(by), np.atleast_1d(start)
            tail = np.tile([*middles, -room], (len(by), 1))
            rows.append(np.hstack([by, tail]))  # noqa: B023
            upper.append(-start)  # noqa: B023

        tension = virtual.tension_n
        tight = tight_spokes(wheel)
        for sign in (1, -1):
            below(sign * lateral, (-sign, 0), tier.lateral_mm / 2, sign * virtual.lateral_mm(angles))
            below(sign * radial, (0, -sign), tier.radial_mm / 2, sign * virtual.radial_mm(angles))
            below(sign * model.lateral_mm.mean(axis=0), (0, 0), tier.dish_mm, np.array([sign * virtual.dish_mm]))
            for side in Side:
                mine = wheel.on_side(side)
                mean, by_mean = tension[mine].mean(), model.tension_n[mine].mean(axis=0)
                below(sign * (model.tension_n[mine] - by_mean), (0, 0), allowed * mean, sign * (tension[mine] - mean))
            mean_off = np.array([sign * (tension[tight].mean() - target)])
            below(sign * model.tension_n[tight].mean(axis=0), (0, 0), allowed * target, mean_off)
        below(model.tension_n, (0, 0), 0.0, tension - 0.995 * cap)
        count = wheel.spoke_count
        found_turns = linprog(
            np.append(np.zeros(count + 2), 1.0),
            np.vstack(rows),
            np.concatenate(upper),
            bounds=[(-2, 2)] * count + [(-20, 20)] * 2 + [(0, 50)],
        )
        if found_turns.x is None:
            break
        virtual = virtual.turned(found_turns.x[:count])
    return float(best)
