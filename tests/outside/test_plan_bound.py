"""How near the short plan comes to a proven bound: HiGHS on the fewest nipples, a linear programme on the best finish."""

import unittest
from unittest import mock

import numpy as np
from scipy.optimize import minimize

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.core.truing.short import Shortest
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import ALL, influence, read_fully
from tests.outside.fewest import fewest_nipples, worst_share


class Bounds(unittest.TestCase):
    def test_few_more_nipples_than_the_fewest_there_can_be(self) -> None:
        """For the finish that each plan foresees: no more than five nipples above what is proven, two on the average.

        The proven ones may turn by any amount, and nobody asks how sure they are.
        """
        more = []
        for key, seed in (("small-front-20", 1), ("bladed-rear-24", 0), ("bladed-rear-24", 1), ("disc-front-28", 0)):
            wheel = ALL[key]
            rng = np.random.default_rng(seed)
            state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.25), rng))
            plan = make_plan(state, PlanOptions(limit_turns=1.0))
            cap = np.maximum(wheel.rim.tension_cap_n, state.tension_n)
            found = fewest_nipples(state, SOUND, worst_share(state, plan.turns, SOUND), 1.0, cap, 20)
            assert found is not None
            with self.subTest(key, seed=seed):
                self.assertGreaterEqual(plan.nipples, found.at_least)
                self.assertLessEqual(plan.nipples, found.nipples + 5)
            more.append(plan.nipples - found.at_least)
        self.assertLessEqual(np.mean(more), 2.5)

    @mock.patch("felloe.core.truing.sparse.FORBIDDEN", 0.0)
    def test_with_all_nipples_the_search_finds_what_a_general_minimiser_finds(self) -> None:
        """L-BFGS-B (scipy) on the power of all rows, from nothing and with as many steps as it likes."""
        for key, seed in (("small-front-20", 2), ("disc-front-28", 1)):
            wheel = ALL[key]
            rng = np.random.default_rng(seed)
            state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.25), rng))
            sparse = Shortest(state, PlanOptions(), 1.0).sparse
            ours = float(sparse.cost(sparse.all_nipples()[:, None])[0])
            free = minimize(
                lambda x, sparse=sparse: float(np.log(sparse.cost(x[:, None])[0])),
                np.zeros(wheel.spoke_count),
                method="L-BFGS-B",
                bounds=[(-1, 1)] * wheel.spoke_count,
                options={"maxiter": 300},
            )
            with self.subTest(key):
                # A sixth power: within a tenth is within two per cent of the worst row.
                self.assertLess(ours, 1.3 * float(np.exp(free.fun)))
