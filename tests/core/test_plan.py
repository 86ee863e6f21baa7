"""The truing plan: its promises, and that it mends wheels that it did not model."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import turned_by_hand
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import YIELDS_N, make_plan
from felloe.core.truing.prediction import predict
from felloe.core.truing.tiers import FINE, SOUND
from felloe.core.truing.walk import walk_tensions
from tests.core.wheels import ALL, REAR, influence, read_fully


def state_of(key: str, seed: int, nipple_sd: float = 0.35) -> WheelState:
    rng = np.random.default_rng(seed)
    return estimate_state(influence(ALL[key]), read_fully(used_wheel(ALL[key], rng, nipple_sd), rng))


KEYS = st.sampled_from(["rim-brake-rear-36", "disc-front-28", "small-front-20", "bladed-rear-24", "rear-24-two-to-one"])


class Promises(unittest.TestCase):
    @settings(max_examples=25, deadline=None, derandomize=True)
    @given(KEYS, st.integers(0, 10_000), st.sampled_from([0.25, 0.125, 0.0625]), st.sampled_from([None, 0.5, 1.0]))
    def test_step_limit_cap_and_never_worse(self, key: str, seed: int, step: float, limit: float | None) -> None:
        state = state_of(key, seed)
        plan = make_plan(state, PlanOptions(tier=SOUND, step_turns=step, limit_turns=limit))
        np.testing.assert_allclose(plan.turns / step, np.rint(plan.turns / step), atol=1e-9)
        self.assertLessEqual(np.abs(plan.turns).max(initial=0), plan.limit_turns + 1e-9)
        over_before = np.maximum(state.tension_n - state.wheel.rim.tension_cap_n, 0).sum()
        over_after = np.maximum(plan.after.tension_n - state.wheel.rim.tension_cap_n, 0).sum()
        self.assertLessEqual(over_after, over_before + 1e-6)
        cap = state.wheel.rim.tension_cap_n
        # The rim's limit holds under way; a spoke found above it never rises above where it stood.
        way_cap = np.maximum(state.tension_n, cap)
        names = [str(n) for n in state.wheel.names]
        walk = walk_tensions(state.tension_n, state.influence.tension_n, [(names.index(m.spoke), m.turns) for m in plan.moves])
        # Where no order avoids it the plan says so, and it is never more than the largest of YIELDS_N.
        said = "No order keeps" in plan.caution
        self.assertTrue(np.all(walk <= way_cap + (max(YIELDS_N) if said else 0.0) + 0.5 + 1e-3))
        self.assertEqual(said, bool(((walk - walk[0])[:, state.tension_n > cap] > 0.5).any()))
        self.assertAlmostEqual(walk.max(), plan.worst_tension_n, places=3)
        self.assertEqual(bool(plan.caution), bool((state.tension_n > cap).any()))
        if not plan.caution:
            self.assertGreaterEqual(plan.expected.chance, plan.before.chance - 0.05)

    def test_prediction_is_the_influence_applied(self) -> None:
        state = state_of("rim-brake-rear-36", 1)
        plan = make_plan(state)
        np.testing.assert_allclose(plan.after.tension_n, state.tension_n + state.influence.tension_n @ plan.turns)
        nothing = predict(state, np.zeros(36))
        np.testing.assert_allclose(nothing.lateral_mm, state.lateral_mm)
        np.testing.assert_allclose(nothing.trace.radial_mm, state.figures.radial_mm)

    def test_untouchable_nipples_stay(self) -> None:
        state = state_of("rim-brake-rear-36", 2)
        leave = frozenset({"R1", "L7", "R12"})
        plan = make_plan(state, PlanOptions(untouchable=leave))
        self.assertFalse(leave & {m.spoke for m in plan.moves})
        with self.assertRaises(UnknownSpoke):
            make_plan(state, PlanOptions(untouchable=frozenset({"R44"})))

    def test_a_lower_chance_makes_a_shorter_plan_and_fewer_nipples_are_kept_to(self) -> None:
        state = state_of("disc-rear-32", 3)
        plans = {chance: make_plan(state, PlanOptions(chance=chance)) for chance in (0.5, 0.95)}
        self.assertLess(plans[0.5].nipples, plans[0.95].nipples)
        self.assertGreaterEqual(plans[0.95].expected.chance, 0.94)
        for most in (3, 6, 12):
            self.assertLessEqual(make_plan(state, PlanOptions(nipples=most)).nipples, most)

    def test_a_true_wheel_is_left_alone(self) -> None:
        tension = [TensionReading(str(n), 1000.0 if n.side is Side.RIGHT else 482.3, 5) for n in REAR.names]
        plan = make_plan(estimate_state(influence(REAR), Readings(tension=tension)), PlanOptions(tier=FINE))
        self.assertEqual(plan.moves, ())
        self.assertIn("leave the wheel as it is", plan.reason)

    def test_rotating_the_numbering_rotates_the_plan(self) -> None:
        """Readings moved on by one repeat of the lacing (four holes) move the plan on as far."""
        rng = np.random.default_rng(21)
        readings = read_fully(used_wheel(REAR, rng), rng)
        names = [str(n) for n in REAR.names]
        ahead = {name: names[(i + 4) % 36] for i, name in enumerate(names)}

        def moved(runout):
            return [type(r)((r.angle_deg + 40) % 360, r.deviation_mm, r.sd_mm) for r in runout]

        turned = Readings(
            [TensionReading(ahead[r.spoke], r.tension_n, r.sd_n) for r in readings.tension],
            moved(readings.lateral),
            moved(readings.radial),
            readings.dish,
        )
        one, two = (make_plan(estimate_state(influence(REAR), r)) for r in (readings, turned))
        if not np.allclose(np.roll(one.turns, 4), two.turns):
            # Draws are by place: what is equally good may come out otherwise.
            self.assertAlmostEqual(one.expected.chance, two.expected.chance, delta=0.08)
            self.assertAlmostEqual(one.nipples, two.nipples, delta=6)

    def test_options_that_cannot_be(self) -> None:
        for bad in ({"step_turns": 0.3}, {"limit_turns": 5.0}, {"limit_turns": 0.01}, {"chance": 0.4}, {"nipples": 0}):
            with self.subTest(bad), self.assertRaises(BadReading) as caught:
                PlanOptions(**bad)
            self.assertEqual(caught.exception.field, next(iter(bad)))


class OnTheVirtualWheel(unittest.TestCase):
    """Judged on wheels that answer by another model, with another stiffness, by hands that miss."""

    def true_it(self, key: str, seed: int, passes: int) -> tuple[np.ndarray, np.ndarray]:
        wheel = ALL[key]
        rng = np.random.default_rng(seed)
        virtual = used_wheel(wheel, rng, 0.3)
        angles = np.arange(0, 360, 3.0)
        before = np.array([np.ptp(virtual.lateral_mm(angles)), np.ptp(virtual.radial_mm(angles)), abs(virtual.dish_mm)])
        for _ in range(passes):
            plan = make_plan(estimate_state(influence(wheel), read_fully(virtual, rng)))
            virtual = virtual.turned(turned_by_hand(plan.turns, rng))
        after = np.array([np.ptp(virtual.lateral_mm(angles)), np.ptp(virtual.radial_mm(angles)), abs(virtual.dish_mm)])
        return before, after

    def test_each_turn_says_what_its_spoke_holds_just_before_and_after_it(self) -> None:
        """Turned one after another on the nonlinear wheel, which shares nothing with the plan's own sums."""
        virtual = used_wheel(REAR, np.random.default_rng(4), 0.35)
        plan = make_plan(estimate_state(influence(REAR), read_fully(virtual, np.random.default_rng(5))), PlanOptions(SOUND))
        self.assertGreater(len(plan.moves), 5)
        for move in plan.moves:
            at = REAR.index_of[move.spoke]
            before_n = virtual.tension_n[at]
            turns = np.zeros(REAR.spoke_count)
            turns[at] = move.turns
            virtual = virtual.turned(turns)
            self.assertAlmostEqual(move.turn_from_n, before_n, delta=70)
            change_n = virtual.tension_n[at] - before_n
            self.assertAlmostEqual(move.turn_to_n - move.turn_from_n, change_n, delta=max(15.0, 0.12 * abs(change_n)))

    def test_two_passes_bring_ordinary_wheels_into_sound(self) -> None:
        inside, total = 0, 0
        for key in ("rim-brake-rear-36", "disc-rear-32", "disc-front-28", "small-front-20"):
            for seed in range(3):
                before, after = self.true_it(key, seed, 2)
                inside += bool(np.all(after <= 0.5))
                total += 1
                self.assertLess(after[0], max(0.5, before[0] / 2), (key, seed, before, after))
        self.assertGreaterEqual(inside / total, 0.9)


class FarAboveTheLimit(unittest.TestCase):
    def test_a_wheel_found_far_above_the_limit_gets_a_plan_that_brings_it_down(self) -> None:
        """Such a wheel once got an empty plan, since no walk kept every spoke near where it stood."""
        wheel = ALL["tandem-rear-40"]
        for seed in range(4):
            rng = np.random.default_rng(seed)
            virtual = used_wheel(wheel, rng, 0.45, slack_turns=-0.3, dish_turns=0.7)
            state = estimate_state(influence(wheel), read_fully(virtual, rng))
            self.assertGreater(state.tension_n.max(), 1.15 * wheel.rim.tension_cap_n)
            plan = make_plan(state)
            self.assertTrue(plan.turns.any(), seed)
            self.assertLess(plan.after.tension_n.max(), state.tension_n.max())
            self.assertLessEqual(plan.worst_tension_n, 1.06 * state.tension_n.max())
