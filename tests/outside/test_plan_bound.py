"""How near the plan comes to a proven bound: scipy's bounded least squares, and HiGHS on a small wheel."""

import unittest

import numpy as np
from scipy.optimize import LinearConstraint, lsq_linear, milp

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.objective import objective
from felloe.core.truing.plan import PlanOptions, make_plan
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import ALL, influence, read_fully


class Bounds(unittest.TestCase):
    def test_never_below_the_continuous_bound_and_near_it(self) -> None:
        """Without a price per touch: the objective lies above the bound, and takes away nearly all that can be taken."""
        for key in ("rim-brake-rear-36", "disc-front-28", "small-front-20"):
            for seed, step, share in ((1, 1 / 8, 0.98), (2, 1 / 8, 0.98), (1, 1 / 16, 0.995), (2, 1 / 16, 0.995)):
                rng = np.random.default_rng(seed)
                wheel = ALL[key]
                state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.25), rng))
                plan = make_plan(state, PlanOptions(limit_turns=1.0, touch_cost=0.0, step_turns=step))
                quadratic = objective(state, SOUND)
                bound = 2 * lsq_linear(quadratic.matrix, -quadratic.residual, (-1.0, 1.0)).cost
                with self.subTest(key, seed=seed, step=step):
                    self.assertGreaterEqual(plan.objective_after, bound - 1e-6)
                    self.assertGreater((plan.objective_before - plan.objective_after) / (plan.objective_before - bound), share)

    def test_against_highs_in_the_largest_departure(self) -> None:
        """MILP (HiGHS) minimises the largest row over whole steps; the plan's own largest row is at most twice that."""
        wheel = ALL["small-front-20"]
        rng = np.random.default_rng(8)
        state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.3), rng))
        quadratic = objective(state, SOUND)
        step, most = 0.125, 8
        n = wheel.spoke_count
        rows = quadratic.matrix * step
        # variables: n whole steps and the largest departure t; −t ≤ r + M k ≤ t
        upper = LinearConstraint(np.hstack([rows, -np.ones((len(rows), 1))]), -np.inf, -quadratic.residual)
        lower = LinearConstraint(np.hstack([-rows, -np.ones((len(rows), 1))]), -np.inf, quadratic.residual)
        found = milp(
            c=np.append(np.zeros(n), 1.0),
            constraints=[upper, lower],
            integrality=np.append(np.ones(n), 0),
            bounds=(np.append(-most * np.ones(n), 0), np.append(most * np.ones(n), np.inf)),
            options={"time_limit": 10, "mip_rel_gap": 0.02},
        )
        self.assertIsNotNone(found.x)
        plan = make_plan(state, PlanOptions(limit_turns=1.0, touch_cost=0.0))
        ours = np.abs(quadratic.residual + quadratic.matrix @ plan.turns).max()
        self.assertLessEqual(ours, 2.0 * found.fun)
