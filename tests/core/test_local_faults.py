"""Where the fault is local the plan is: the pair correction, one spoke alone, and a nipple that cannot be turned."""

from __future__ import annotations

from unittest import TestCase

import numpy as np

from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.joint import estimate_joint
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.options import PlanOptions, how_far_out, suggested_limit_turns
from felloe.core.truing.outcome import Outcome
from felloe.core.truing.plan import TruingPlan, make_plan
from felloe.core.truing.tiers import FINE, SOUND
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.bench.workshops import Reader


def found(kind: str, turned: dict[str, float], seed: int = 1) -> WheelState:
    """A wheel that was right but for some nipples, read whole."""
    wheel = WHEEL_KINDS[kind].wheel
    turns = np.zeros(wheel.spoke_count)
    for name, turn in turned.items():
        turns[wheel.index_of[name]] = turn
    virtual = VirtualWheel.ideal(wheel).turned(turns)
    return estimate_joint(wheel, Reader().full(virtual, np.random.default_rng(seed)))


def turned(plan: TruingPlan) -> dict[str, float]:
    return {move.spoke: move.turns for move in plan.moves}


class LocalFaults(TestCase):
    def test_a_loose_and_a_tight_spoke_of_a_side_get_the_pair_correction(self) -> None:
        for kind in ("rim-brake-rear-36", "disc-front-32"):
            for loose, tight in (("R6", "R7"), ("R6", "R11"), ("L6", "L7")):
                size = 0.7 if loose[0] == "R" else 0.6
                plan = make_plan(found(kind, {loose: -size, tight: size}), PlanOptions(tier=SOUND))
                with self.subTest(kind=kind, loose=loose, tight=tight):
                    self.assertEqual(set(turned(plan)), {loose, tight})
                    self.assertAlmostEqual(turned(plan)[loose], size, delta=0.2)
                    self.assertAlmostEqual(turned(plan)[tight], -size, delta=0.2)
                    self.assertGreater(plan.expected.chance, 0.9)

    def test_one_loose_or_tight_spoke_is_one_nipple(self) -> None:
        for kind in ("rim-brake-rear-36", "disc-front-32"):
            for name, size in (("R6", -1.0), ("L9", 0.75)):
                plan = make_plan(found(kind, {name: size}), PlanOptions(tier=SOUND))
                with self.subTest(kind=kind, name=name):
                    self.assertEqual(list(turned(plan)), [name])
                    self.assertAlmostEqual(turned(plan)[name], -size, delta=0.15)

    def test_a_spoke_far_off_gets_its_whole_turn_however_straight_the_rim_is(self) -> None:
        state = found("rim-brake-rear-36", {"R6": -0.75, "R7": 0.75})
        self.assertLess(state.figures.lateral_tir_mm, 1.2 * SOUND.lateral_mm)
        self.assertGreater(how_far_out(state, SOUND), 1.2)
        self.assertEqual(suggested_limit_turns(state, SOUND), 1.0)


class Stuck(TestCase):
    def test_a_plan_round_a_seized_nipple_stays_small_and_says_what_cannot_be_had(self) -> None:
        for kind in ("rim-brake-rear-36", "disc-front-32"):
            state = found(kind, {"R6": -0.6, "R11": 0.6})
            plan = make_plan(state, PlanOptions(tier=SOUND, untouchable=frozenset({"R6"})))
            with self.subTest(kind):
                self.assertNotIn("R6", turned(plan))
                self.assertLessEqual(plan.nipples, 5)
                self.assertIn("R6 cannot be turned and stays off its side: that cannot be had.", plan.reason)
                # All other figures are the tier's.
                self.assertLessEqual(plan.after.trace.lateral_tir_mm, SOUND.lateral_mm)
                wheel = state.wheel
                right = wheel.on_side(wheel.names[0].side)
                away = np.abs((np.arange(wheel.spoke_count) - wheel.index_of["R6"] + 18) % wheel.spoke_count - 18)
                counted = right & (away > 3)
                after = plan.after.tension_n
                self.assertLess(float(np.abs(after[counted] / after[counted].mean() - 1).max()), 0.2)

    def test_a_seized_nipple_on_a_spoke_that_is_right_changes_no_figure(self) -> None:
        state = found("rim-brake-rear-36", {"R11": 0.6})
        free = Outcome(state, FINE)
        seized = Outcome(state, FINE, untouchable=frozenset({"R3"}))
        self.assertFalse(seized.stuck.any())
        nothing = np.zeros(36)
        np.testing.assert_allclose(free.middle_shares(nothing), seized.middle_shares(nothing))

    def test_only_what_is_off_counts_as_stuck_and_its_neighbours_have_leave(self) -> None:
        state = found("rim-brake-rear-36", {"R6": -1.0})
        outcome = Outcome(state, SOUND, untouchable=frozenset({"R6", "R12"}))
        self.assertEqual([str(state.wheel.names[i]) for i in np.flatnonzero(outcome.stuck)], ["R6"])
        beside = {str(state.wheel.names[i]) for i in np.flatnonzero(outcome.leave > 1)}
        self.assertEqual(beside, {"L4", "R5", "L5", "R6", "L6", "R7", "L7"})
        # A spoke in work is never left out for being off.
        self.assertFalse(Outcome(state, SOUND).stuck.any())
