"""A wheel under construction: laps that grow evenly, and plans that bring it from slack to its tension."""

import unittest

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.hands import Hand, worked
from felloe.core.tension.statics import side_targets_n
from felloe.core.truing.laps import laps_ahead, mean_share, next_share, side_turns, slack_turns
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from tests.core.wheels import ALL, REAR, influence, read_fully


class Laps(unittest.TestCase):
    def test_they_end_at_the_target_and_grow_evenly(self) -> None:
        laps = laps_ahead(influence(REAR))
        targets = side_targets_n(REAR)
        self.assertEqual([lap.number for lap in laps], [1, 2, 3, 4])
        # 31 nipples alike and 5 otherwise, a look, settled, read again.
        self.assertAlmostEqual(laps[0].minutes, 31 * 0.12 + 5 * 0.4 + 3 + 2 + 3)
        self.assertAlmostEqual(laps[-1].right_mean_n, targets[Side.RIGHT])
        self.assertAlmostEqual(laps[-1].left_mean_n, targets[Side.LEFT])
        np.testing.assert_allclose([lap.right_turns for lap in laps], laps[0].right_turns)
        # The far side of a dished wheel is the slack one: it takes fewer turns.
        self.assertLess(laps[0].left_turns, laps[0].right_turns)

    def test_turns_of_a_lap_give_its_means(self) -> None:
        model = influence(REAR)
        right, left = side_turns(model, 250.0, 120.0)
        turns = np.array([right if name.side is Side.RIGHT else left for name in REAR.names])
        moved = model.tension_n @ turns
        self.assertAlmostEqual(float(moved[REAR.on_side(Side.RIGHT)].mean()), 250.0)
        self.assertAlmostEqual(float(moved[REAR.on_side(Side.LEFT)].mean()), 120.0)

    def test_a_wheel_at_its_tension_has_none_left_and_one_on_the_way_fewer(self) -> None:
        targets = side_targets_n(REAR)
        self.assertEqual(laps_ahead(influence(REAR), targets[Side.RIGHT], targets[Side.LEFT]), ())
        self.assertEqual(len(laps_ahead(influence(REAR), 0.5 * targets[Side.RIGHT], 0.5 * targets[Side.LEFT])), 2)

    def test_slack_turns_come_in_halves_and_never_below_none(self) -> None:
        self.assertEqual(slack_turns(REAR, 1.5) % 0.5, 0)
        self.assertEqual(slack_turns(REAR, 99.0), 0)
        self.assertGreater(slack_turns(REAR, 1.0, thread_mm=9.0), slack_turns(REAR, 1.0, thread_mm=10.0))


class FromSlack(unittest.TestCase):
    def test_from_a_fifth_of_the_tension_to_sound_in_a_few_passes(self) -> None:
        """Judged on the virtual wheel, with spokes that start slack, hands that miss and threads that twist."""
        for key in ("rim-brake-rear-36", "disc-front-28", "bladed-front-20"):
            wheel, rng = ALL[key], np.random.default_rng(3)
            laps = laps_ahead(influence(wheel))
            back = {Side.RIGHT: sum(p.right_turns for p in laps), Side.LEFT: sum(p.left_turns for p in laps)}
            virtual = used_wheel(wheel, rng, 0.2)
            virtual = virtual.turned(-0.8 * np.array([back[name.side] for name in wheel.names]))
            hand, shares = Hand.drawn(virtual, rng), []
            for _ in range(6):
                state = estimate_state(influence(wheel), read_fully(virtual, rng))
                shares.append(mean_share(state))
                plan = make_plan(state, PlanOptions(mode="build" if shares[-1] < 0.94 else "balanced"))
                self.assertLessEqual(plan.worst_tension_n, max(wheel.rim.tension_cap_n, float(state.tension_n.max())) * 1.06)
                virtual = worked(virtual, plan.turns, hand, rng)
            with self.subTest(key):
                self.assertLess(shares[0], 0.45)
                self.assertEqual(sorted(shares[:4]), shares[:4])
                self.assertAlmostEqual(shares[-1], 1.0, delta=0.06)
                self.assertLess(np.ptp(virtual.lateral_mm(np.arange(0, 360, 2.0))), 0.5)
                self.assertLess(abs(virtual.dish_mm), 0.5)
                for side in Side:
                    mine = virtual.tension_n[wheel.on_side(side)]
                    self.assertLess(float(np.abs(mine / mine.mean() - 1).max()), 0.2)

    def test_a_lap_turns_every_nipple_of_a_side_alike_but_for_few(self) -> None:
        rng = np.random.default_rng(5)
        virtual = used_wheel(REAR, rng, 0.12)
        laps = laps_ahead(influence(REAR))
        back = {Side.RIGHT: sum(p.right_turns for p in laps), Side.LEFT: sum(p.left_turns for p in laps)}
        slack = virtual.turned(-0.7 * np.array([back[name.side] for name in REAR.names]))
        state = estimate_state(influence(REAR), read_fully(slack, rng))
        plan = make_plan(state, PlanOptions(mode="build"))
        for side in Side:
            mine = plan.turns[REAR.on_side(side)]
            usual = float(np.median(mine))
            self.assertGreater(usual, 0)
            self.assertGreaterEqual(int((mine == usual).sum()), 12)
        others = [m.spoke for m in plan.moves if m.turns != np.median(plan.turns[REAR.on_side(Side(m.spoke[0]))])]
        self.assertEqual(plan.alike, 36 - len(others) - int((plan.turns == 0).sum()))
        self.assertIn("To 50 % of the tension:", plan.reason)
        for name in others:
            self.assertIn(name, plan.reason)
        # Its share of the tension is reached, and what a lap need not be nearer than.
        after = plan.after.tension_n
        target = side_targets_n(REAR)
        for side in Side:
            self.assertAlmostEqual(float(after[REAR.on_side(side)].mean()) / target[side], 0.5, delta=0.08)
        self.assertLess(abs(plan.after.dish_mm), 0.6)
        # From hand to hand it goes quicker than nipple by nipple.
        self.assertLess(plan.minutes, 0.6 * (0.4 * len(plan.moves) + 3.0))

    def test_the_next_share_is_the_next_step_up(self) -> None:
        rng = np.random.default_rng(1)
        state = estimate_state(influence(REAR), read_fully(used_wheel(REAR, rng, 0.1), rng))
        self.assertEqual(next_share(state), 1.0)

    def test_a_share_that_cannot_be(self) -> None:
        with self.assertRaises(BadReading) as caught:
            PlanOptions(target_share=0.0)
        self.assertEqual(caught.exception.field, "target_share")
