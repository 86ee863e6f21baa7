"""Live truing: the list shrinks, nothing passes the limit, and it ends when the wheel is inside, on the virtual wheel."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

import numpy as np

from felloe.core.measuring.coarse import lump_readings, nothing_seen
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.joint import estimate_joint
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.live import finer, left_to_do
from felloe.core.truing.options import UNREAD_LIMIT_TURNS, PlanOptions, unread_figures
from felloe.core.truing.plan import make_plan
from felloe.core.truing.tiers import FINE, SOUND
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.bench.live import true_live
from tests.bench.workshops import WORKSHOPS


def state_of(workshop: str = "first", kind: str = "disc-rear-32", seed: int = 5) -> WheelState:
    stand = WORKSHOPS[workshop].start(kind, seed)
    return estimate_joint(stand.wheel, stand.reader.full(stand.virtual, stand.rng))


class LiveTests(TestCase):
    def test_a_wheel_is_brought_inside_and_then_left_alone(self) -> None:
        for workshop, kind, seed in (("first", "disc-rear-32", 5), ("second", "small-rear-28", 6)):
            trued = true_live(workshop, kind, seed, "sound")
            with self.subTest(kind):
                self.assertTrue(trued.enough)
                self.assertFalse(trued.before.inside(SOUND))
                self.assertTrue(trued.after.inside(SOUND), trued)
                self.assertLessEqual(trued.worst_over, max(1.0, trued.before.over))

    def test_a_wheel_inside_is_enough_at_once(self) -> None:
        wheel = WHEEL_KINDS["disc-front-32"].wheel
        stand = WORKSHOPS["third"].start("disc-front-32", 1)
        virtual = type(stand.virtual).ideal(wheel)
        state = estimate_state(influence_of(wheel), stand.reader.full(virtual, np.random.default_rng(1)))
        left = left_to_do(state, PlanOptions(tier=SOUND))
        self.assertTrue(left.enough)
        self.assertEqual(left.steps, ())

    def test_the_list_shrinks_by_the_nipple_that_was_turned_and_keeps_to_what_it_named(self) -> None:
        state = state_of()
        options = PlanOptions(tier=FINE)
        followed, before = Followed.begun(state), left_to_do(state, options)
        named = {place for place, _ in before.steps}
        for _ in range(4):
            place, turns = before.steps[0]
            # As if all had gone to the letter: nothing new is to be turned.
            followed = followed.turned(place, turns)
            after = left_to_do(followed.state, options, before.without(place))
            self.assertLessEqual({place for place, _ in after.steps}, named)
            self.assertLessEqual(after.nipples, before.nipples)
            if not after.steps:
                break
            before = after

    def test_the_step_gets_finer_as_the_wheel_gets_near_but_not_by_eye(self) -> None:
        wheel = WHEEL_KINDS["disc-rear-32"].wheel
        stand = WORKSHOPS["first"].start("disc-rear-32", 5)
        near = estimate_state(influence_of(wheel), stand.reader.full(VirtualWheel.ideal(wheel), np.random.default_rng(1)))
        options = PlanOptions(tier=SOUND)
        self.assertEqual(finer(state_of(), options).step_turns, 1 / 8)
        self.assertEqual(finer(near, options).step_turns, 1 / 16)
        self.assertEqual(finer(near, replace(options, by_eye=frozenset({"lateral"}))).step_turns, 1 / 8)

    def test_no_step_takes_a_tension_above_the_limit(self) -> None:
        for seed in range(6):
            state = state_of("second", "rim-brake-front-32", seed)
            limit = state.wheel.rim.tension_cap_n
            left = left_to_do(state, PlanOptions(tier=FINE))
            if not left.steps:
                continue
            place, turns = left.steps[0]
            after = state.tension_n + turns * state.influence.tension_n[:, place]
            self.assertLessEqual(float((after - np.maximum(limit, state.tension_n + 0.6)).max()), 0.0, seed)

    def test_what_stands_above_the_limit_comes_down_first_and_in_order(self) -> None:
        state = state_of()
        limit = state.wheel.rim.tension_cap_n
        # Found so, not made so by a reading of its own: the neighbours are as they were.
        high = replace(state, tension_n=np.where(np.arange(32) == 5, limit + 120, state.tension_n))
        left = left_to_do(high, PlanOptions(tier=SOUND))
        self.assertFalse(left.enough)
        self.assertGreater(left.in_order, 0)
        place, turns = left.steps[0]
        self.assertLessEqual(turns * state.influence.tension_n[5, place], 0.5)

    def test_a_nipple_that_will_not_turn_is_left_out(self) -> None:
        state = state_of()
        first = left_to_do(state, PlanOptions(tier=FINE)).steps[0][0]
        seized = PlanOptions(tier=FINE, untouchable=frozenset({str(state.wheel.names[first])}))
        for before in (None, left_to_do(state, PlanOptions(tier=FINE))):
            left = left_to_do(state, seized, before)
            self.assertNotIn(first, {place for place, _ in left.steps})
            self.assertTrue(left.steps)

    def test_a_spoke_that_is_hardly_known_is_asked_for(self) -> None:
        stand = WORKSHOPS["first"].start("disc-rear-32", 5)
        read = stand.reader.full(stand.virtual, stand.rng)
        missing = {"R4", "L4", "R6", "L6"}
        without = replace(read, tension=[r for r in read.tension if r.spoke not in missing])
        influence = influence_of(stand.wheel)
        left = left_to_do(estimate_state(influence, without), PlanOptions(tier=SOUND))
        assert left.ask is not None
        self.assertIn(str(stand.wheel.names[left.ask]), missing)
        self.assertIsNone(left_to_do(estimate_state(influence, read), PlanOptions(tier=SOUND)).ask)


class ByEyeTests(TestCase):
    """Nothing but "it rubs left from R5 to R11, about eight tenths of a millimetre"."""

    def setUp(self) -> None:
        wheel = WHEEL_KINDS["rim-brake-rear-36"].wheel
        self.lump = Readings(lateral=lump_readings(wheel, "R5", "R11", 0.8, Side.LEFT))
        self.state = estimate_state(influence_of(wheel), self.lump)
        self.options = PlanOptions(tier=SOUND, unread=unread_figures([self.lump]), by_eye=frozenset({"lateral"}))

    def test_what_was_not_read_is_not_claimed(self) -> None:
        self.assertEqual(self.options.unread, {"radial", "dish", "tension"})
        plan = make_plan(self.state, self.options)
        self.assertIn("Too little was read of radial, dish, tension", plan.reason)
        for figure in ("radial 0", "dish +", "mean "):
            self.assertNotIn(figure, plan.reason)
        # Without that the unread tensions alone leave no chance, and the whole wheel would be turned for what nobody knows.
        whole = make_plan(self.state, replace(self.options, unread=frozenset()))
        self.assertLess(whole.expected.chance, 0.05)
        self.assertGreater(plan.expected.chance, 0.5)

    def test_the_plan_is_near_the_lump_and_small(self) -> None:
        plan = make_plan(self.state, self.options)
        wheel = self.state.wheel
        self.assertGreater(plan.nipples, 0)
        self.assertLessEqual(float(np.abs(plan.turns).max()), UNREAD_LIMIT_TURNS)
        middle = wheel.index_of["R8"]
        weights = np.abs(plan.turns)
        away = np.abs((np.arange(36) - middle + 18) % 36 - 18)
        self.assertLess(float((weights * away).sum() / weights.sum()), 5.0)
        # Pulled to the right: right spokes there are tightened, left ones eased.
        for place in np.flatnonzero(np.where(away <= 2, plan.turns, 0)):
            self.assertEqual(np.sign(plan.turns[place]), 1 if wheel.names[place].side is Side.RIGHT else -1)

    def test_live_it_goes_on_until_nothing_rubs(self) -> None:
        followed = Followed.begun(self.state)
        left = left_to_do(followed.state, self.options)
        self.assertIsNone(left.ask)
        self.assertTrue(left.steps)
        place, turns = left.steps[0]
        clear = followed.turned(place, turns).read(Readings(lateral=nothing_seen(1)))
        self.assertTrue(left_to_do(clear.state, self.options, left.without(place)).enough)
