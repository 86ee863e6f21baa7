"""The short plan against things that share none of its formulas: drawn wheels, the nonlinear wheel, a proven bound."""

from __future__ import annotations

import re
import unittest
from dataclasses import replace

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.joint import EarlierSet, estimate_joint
from felloe.core.mechanics.learning import RimFactors, pooled
from felloe.core.mechanics.readings import Readings, TensionReading
from felloe.core.mechanics.unilateral import slack_turns
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.outcome import Outcome
from felloe.core.truing.plan import make_plan, plan_of_tried, trade_off
from felloe.core.truing.prediction import predict, without_spokes
from felloe.core.truing.relief import relieve
from felloe.core.truing.tiers import FINE, SOUND, Tier
from tests.core.wheels import ALL, REAR, influence, read_fully
from tests.outside.fewest import worst_share

DISC = ALL["disc-rear-32"]


def state_of(wheel=DISC, seed: int = 1, **faults: float) -> WheelState:  # type: ignore[no-untyped-def]
    rng = np.random.default_rng(seed)
    return estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.3, **faults), rng))


def inside(wheel, lateral, radial, dish, tension, tier: Tier) -> bool:  # type: ignore[no-untyped-def]
    """The figures of a tier as the trade takes them."""
    spread = max(np.abs(tension[wheel.on_side(s)] / tension[wheel.on_side(s)].mean() - 1).max() for s in Side)
    return bool(
        np.ptp(lateral) <= tier.lateral_mm
        and np.ptp(radial) <= tier.radial_mm
        and abs(dish) <= tier.dish_mm
        and 100 * spread <= tier.tension_percent
    )


class Chance(unittest.TestCase):
    def test_the_chance_said_is_that_of_wheels_drawn_one_by_one(self) -> None:
        """Each has a state from the posterior, a rim of its own stiffness with its own influence, a hand that misses."""
        for seed, tier in ((1, SOUND), (2, FINE), (3, SOUND)):
            state = state_of(seed=seed)
            plan = make_plan(state, PlanOptions(tier=tier, nipples=8))
            rng = np.random.default_rng(77)
            hits, draws = 0, 160
            for drawn in state.draws(rng, draws):
                rim = DISC.rim
                factors = np.exp(rng.normal(0, 0.18, 3))
                names = ("ei_lat_nm2", "ei_rad_nm2", "gj_nm2")
                rim = replace(rim, **{n: getattr(rim, n) * f for n, f in zip(names, factors, strict=True)})
                own = influence_of(replace(DISC, rim=rim))
                touched = plan.turns != 0
                made = plan.turns * (1 + rng.normal(0, 0.05, 32)) + 0.02 * touched * rng.normal(0, 1, 32)
                lateral = drawn.lateral_mm + own.lateral_mm @ made
                hits += inside(
                    DISC,
                    lateral,
                    drawn.radial_mm + own.radial_mm @ made,
                    drawn.dish_mm + (own.lateral_mm @ made).mean(),
                    drawn.tension_n + own.tension_n @ made,
                    tier,
                )
            with self.subTest(seed=seed):
                self.assertAlmostEqual(plan.expected.chance, hits / draws, delta=0.12)

    def test_nothing_known_is_no_chance(self) -> None:
        few = estimate_state(influence(DISC), Readings([TensionReading(f"R{i}", 1000) for i in (1, 4, 8, 12)]))
        self.assertLess(Outcome(few, SOUND).expected(np.zeros(32)).chance, 0.02)

    def test_a_spoke_that_is_not_there_departs_from_nothing(self) -> None:
        state = replace(state_of(), influence=influence_of(DISC, missing=frozenset({4})))
        outcome = Outcome(state, SOUND)
        shares = outcome.middle_shares(np.zeros(32))
        moved = replace(state, tension_n=np.where(np.arange(32) == 4, 0.0, state.tension_n))
        np.testing.assert_allclose(Outcome(moved, SOUND).middle_shares(np.zeros(32)), shares)


class Fewest(unittest.TestCase):
    def test_two_nipples_that_were_turned_are_found_and_no_single_one_does_it(self) -> None:
        """All single turns reckoned, with the figures taken by hand: none comes as far as the plan."""
        wheel = ALL["small-front-20"]
        off = np.zeros(20)
        off[3], off[11] = 0.75, -0.75
        virtual = used_wheel(wheel, np.random.default_rng(5), 0.0).turned(off)
        state = estimate_state(influence(wheel), read_fully(virtual, np.random.default_rng(5)))
        plan = make_plan(state, PlanOptions(limit_turns=1.0))
        self.assertGreaterEqual(plan.expected.chance, 0.89)
        self.assertLessEqual(plan.nipples, 3)
        reached = []
        for i in range(20):
            for size in np.arange(-8, 9) / 8:
                turns = np.zeros(20)
                turns[i] = size
                reached.append(worst_share(state, turns, SOUND))
        self.assertGreater(min(reached), worst_share(state, plan.turns, SOUND))

    def test_a_wheel_that_is_inside_is_not_touched(self) -> None:
        left = 0
        for seed in range(8):
            rng = np.random.default_rng(seed)
            state = estimate_state(influence(DISC), read_fully(used_wheel(DISC, rng, 0.05), rng, 10.0, 0.01))
            plan = make_plan(state, PlanOptions(tier=SOUND))
            if worst_share(state, np.zeros(32), SOUND) < 0.6:
                left += 1
                self.assertEqual(plan.moves, ())
                self.assertIn("leave the wheel as it is", plan.reason)
                self.assertEqual((plan.minutes, plan.expected), (0.0, plan.before))
        self.assertGreater(left, 1)

    def test_the_picture_of_the_trade_off(self) -> None:
        choices = trade_off(state_of(seed=2, slack_turns=0.2))
        self.assertEqual(choices[0].nipples, 0)
        self.assertEqual([c.nipples for c in choices], sorted({c.nipples for c in choices}))
        self.assertEqual(sum(c.proposed for c in choices), 1)
        proposed = next(c for c in choices if c.proposed)
        plan = make_plan(state_of(seed=2, slack_turns=0.2))
        self.assertEqual((proposed.nipples, proposed.expected), (plan.nipples, plan.expected))
        self.assertGreaterEqual(proposed.expected.chance, choices[0].expected.chance)
        for choice in choices[1:]:
            self.assertAlmostEqual(choice.minutes, 0.4 * choice.nipples + 3, delta=0.4 * choice.nipples)


class Tried(unittest.TestCase):
    """Turns tried by hand become a plan only where they do no harm."""

    def setUp(self) -> None:
        self.state = state_of(seed=2, slack_turns=0.5)
        self.turns = np.zeros(32)

    def refused(self, word: str, state: WheelState | None = None, **options) -> None:  # type: ignore[no-untyped-def]
        with self.assertRaises(BadReading) as caught:
            plan_of_tried(state or self.state, PlanOptions(**options), self.turns)
        self.assertEqual(caught.exception.field, "turns")
        self.assertIn(word, str(caught.exception))

    def test_as_they_are(self) -> None:
        self.turns[4], self.turns[7] = 0.25, -0.125
        plan = plan_of_tried(self.state, PlanOptions(), self.turns)
        np.testing.assert_allclose(plan.turns, self.turns)
        self.assertFalse(plan.differs_from(plan))
        self.assertTrue(plan.differs_from(replace(plan, turns=plan.turns + np.eye(32)[9] * 0.25)))
        self.assertFalse(plan.differs_from(replace(plan, turns=plan.turns + np.eye(32)[9] * 0.2)))

    def test_nothing_and_what_must_not_be_turned(self) -> None:
        self.refused("one nipple")
        self.turns[4] = 0.25
        self.refused("R3 must not be turned", untouchable=frozenset({"R3"}))
        self.refused("R3 must not be turned", without_spokes(self.state, frozenset({"R3"})))

    def test_not_above_the_limit_and_not_slack(self) -> None:
        self.turns[4] = 2.0
        tight = replace(self.state, tension_n=self.state.tension_n + 300)
        self.refused("R3 would come above the rim's limit", tight)
        self.turns[4] = -2.0
        self.refused("too slack")
        # A spoke found above it may be brought down.
        high = replace(self.state, tension_n=np.where(np.arange(32) == 4, 1300.0, self.state.tension_n))
        self.turns[4] = -0.25
        self.assertIn("Above the rim's limit", plan_of_tried(high, PlanOptions(), self.turns).caution)
        self.turns[4] = 0.25
        self.refused("R3 would come above", high)


class Why(unittest.TestCase):
    def test_each_line_says_what_is_so(self) -> None:
        """Movement by the influence; what would be without a nipple, by figures taken otherwise."""
        state = state_of(seed=3)
        plan = make_plan(state)
        self.assertGreater(len(plan.moves), 3)
        for move in plan.moves:
            i = DISC.index_of[move.spoke]
            moved = state.influence.lateral_mm[i, i] * move.turns
            self.assertIn(f"Moves the rim {abs(moved):.2f} mm {'right' if moved > 0 else 'left'}", str(move.why))
            without = plan.turns.copy()
            without[i] = 0
            worst = worst_share(state, without, SOUND)
            figures = [float(part) for part in re.findall(r"[0-9.]+(?= mm\.| %\.)", str(move.why).split("Without it ")[1])]
            self.assertTrue(figures and any(abs(f / limit - worst) < 0.04 for f in figures for limit in (0.5, 20)), move.why)


class Slack(unittest.TestCase):
    def test_by_the_rules_themselves(self) -> None:
        """Slack and tension are never below 0 and never both above it."""
        model = influence(REAR)
        rng = np.random.default_rng(3)
        for _ in range(6):
            tension = rng.normal(300, 350, 36)
            slack = slack_turns(model, tension)
            after = tension + model.tension_n @ slack
            self.assertTrue((slack >= 0).all() and (after >= -1e-6).all())
            np.testing.assert_allclose(slack * after, 0, atol=1e-6)
        np.testing.assert_allclose(slack_turns(model, np.full(36, 500.0)), 0)

    def test_against_the_wheel_that_knows_no_pushing(self) -> None:
        """Four nipples of one side let go: the nonlinear wheel's rim moves as far as foreseen, where the pushing model errs."""
        from felloe.core.practice.virtual_wheel import VirtualWheel

        true = VirtualWheel.ideal(REAR)
        turns = np.zeros(36)
        for name in ("L3", "L4", "L5", "L6"):
            turns[REAR.index_of[name]] = -4.0
        after = true.turned(turns)
        angles = np.array(REAR.angles_deg)
        moved = after.lateral_mm(angles) - true.lateral_mm(angles)
        state = estimate_state(influence(REAR), read_fully(true, np.random.default_rng(0), 1.0, 0.001))
        foreseen = predict(state, turns)
        told = foreseen.lateral_mm + foreseen.dish_mm - state.lateral_mm - state.dish_mm
        pushing = influence(REAR).lateral_mm @ turns
        self.assertLess(np.abs(told - moved).max(), 0.25 * np.abs(pushing - moved).max())
        self.assertGreaterEqual(foreseen.tension_n.min(), -1e-6)


class Relieving(unittest.TestCase):
    def test_what_stands_above_comes_down_and_none_rises_above_where_it_stood(self) -> None:
        model, limit = influence(REAR), 1200.0
        state = state_of(REAR, 3)
        tension = state.tension_n.copy()
        for name, value in (("R4", 1260.0), ("R12", 1230.0)):
            tension[REAR.index_of[name]] = value
        within = (np.full(36, -1.0), np.full(36, 1.0))
        found = relieve(tension, model.tension_n, within, limit, np.full(36, 1150.0), np.full(36, 100.0))
        self.assertEqual(found.left, 0)
        now = tension.copy()
        for i, turn in found.turns:
            now = now + model.tension_n[:, i] * turn
            self.assertTrue((now <= np.maximum(tension, 1200) + 1e-6).all())
        self.assertLess(now.max(), limit)
        np.testing.assert_allclose(found.total(36), sum(np.eye(36)[i] * t for i, t in found.turns))

    def test_where_nothing_may_be_turned_nothing_is(self) -> None:
        tension = np.full(36, 1300.0)
        none = np.zeros(36)
        found = relieve(tension, influence(REAR).tension_n, (none, none), 1200.0, np.full(36, 1150.0), none)
        self.assertEqual((found.turns, found.left), ((), 36))


class Together(unittest.TestCase):
    """All passes fitted at once."""

    def test_a_place_not_read_again_is_known_by_what_was_read_before_and_turned_since(self) -> None:
        """One nipple turned a half, then one spoke read again: each other tension is the old reading and half its column."""
        wheel = ALL["small-front-20"]
        model = influence(wheel)
        full = read_fully(used_wheel(wheel, np.random.default_rng(1), 0.2), np.random.default_rng(1), 5.0, 0.005)
        before = estimate_state(model, full)
        turns = np.zeros(20)
        turns[4] = 0.5
        again = Readings([TensionReading("R1", float(before.tension_n[0] + model.tension_n[0, 4] / 2), 5)])
        state = estimate_joint(wheel, again, [EarlierSet(full, turns)])
        np.testing.assert_allclose(state.tension_n, before.tension_n + model.tension_n[:, 4] / 2, atol=12)
        moved = model.lateral_mm[:, 4] / 2
        np.testing.assert_allclose(state.lateral_mm, before.lateral_mm + moved - moved.mean(), atol=0.05)
        self.assertAlmostEqual(state.dish_mm, before.dish_mm + moved.mean(), delta=0.03)
        # What was not read again is less sure by the hand and the rim.
        self.assertGreater(state.tension_sd_n[4], before.tension_sd_n[4])

    def test_without_earlier_readings_the_few_later_ones_say_little(self) -> None:
        rng = np.random.default_rng(1)
        virtual = used_wheel(REAR, rng, 0.4)
        earlier = read_fully(virtual, rng)
        turns = make_plan(estimate_state(influence(REAR), earlier)).turns
        after = virtual.turned(turns)
        again = Readings([r for r in read_fully(after, rng).tension if r.spoke in ("R1", "L1", "R9", "L9")])
        state = estimate_joint(REAR, again, [EarlierSet(earlier, turns)])
        poor = estimate_joint(REAR, again)
        error = np.abs(state.tension_n - after.tension_n)
        self.assertLess(float(error.mean()), 0.5 * float(np.abs(poor.tension_n - after.tension_n).mean()))
        self.assertLess(abs(state.figures.lateral_tir_mm - float(np.ptp(after.lateral_mm(np.arange(360.0))))), 0.25)

    def passes(self, stiff: float, meter: float, seed: int) -> WheelState:
        rng = np.random.default_rng(seed)
        rim = replace(DISC.rim, ei_lat_nm2=DISC.rim.ei_lat_nm2 * stiff, gj_nm2=DISC.rim.gj_nm2 * stiff)
        virtual = used_wheel(DISC, rng, 0.35)
        virtual = replace(virtual, wheel=replace(DISC, rim=rim), near=None)

        def read() -> Readings:
            full = read_fully(virtual, rng)
            return replace(full, tension=[replace(r, tension_n=r.tension_n * meter) for r in full.tension])

        first = read()
        turns = np.round(rng.normal(0, 0.4, 32) * 8) / 8
        virtual = virtual.turned(turns)
        return estimate_joint(DISC, read(), [EarlierSet(first, turns)])

    def test_a_stiffer_rim_is_learnt_and_a_meter_that_reads_high_is_not_taken_for_one(self) -> None:
        stiffer, high, both = [], [], []
        for seed in range(5):
            stiffer.append(self.passes(1.4, 1.0, seed).doubt)
            high.append(self.passes(1.0, 1.10, seed).doubt)
            both.append(self.passes(1.0, 1.0, seed).doubt)
        self.assertGreater(np.mean([d.factor_logs[0] for d in stiffer]), 0.4 * np.log(1.4))
        self.assertLess(abs(np.mean([d.factor_logs[0] for d in high])), 0.12)
        self.assertGreater(np.mean([d.meter_share for d in high]), 0.02)
        self.assertLess(abs(np.mean([d.meter_share for d in both])), 0.03)

    def test_a_wheel_worked_on_without_a_note_goes_by_what_was_read_last(self) -> None:
        """A turn was noted, and far more was done: the sets do not agree, and the earlier one misleads no more."""
        rng = np.random.default_rng(8)
        virtual = used_wheel(DISC, rng, 0.2)
        first = read_fully(virtual, rng)
        noted = np.zeros(32)
        noted[3] = 0.25
        after = virtual.turned(noted + np.round(rng.normal(0, 0.4, 32) * 8) / 8)
        last = read_fully(after, rng)
        together, alone = estimate_joint(DISC, last, [EarlierSet(first, noted)]), estimate_joint(DISC, last)
        np.testing.assert_allclose(together.tension_n, alone.tension_n, atol=15)
        np.testing.assert_allclose(together.lateral_mm, alone.lateral_mm, atol=0.02)

    def test_rims_of_one_make_teach_the_next_wheel(self) -> None:
        """By hand: two rims found 20 % stiffer, each to 0.1, differ among themselves by 0.06; the prior says 1 to 0.22."""
        self.assertIsNone(pooled([]))
        found = RimFactors(1.2, 1.0, 1.0, (0.1, 0.22, 0.22))
        got = pooled([found, found])
        assert got is not None
        weight = 2 / (0.1**2 + 0.06**2)
        self.assertAlmostEqual(np.log(got.ei_lat), np.log(1.2) * weight / (weight + 1 / 0.22**2))
        self.assertAlmostEqual(got.log_sd[0], float(np.sqrt(1 / (weight + 1 / 0.22**2) + 0.06**2)))
        self.assertAlmostEqual(got.gj, 1.0)

    def test_two_sets_without_turns_are_surer_than_one(self) -> None:
        rng = np.random.default_rng(1)
        virtual = used_wheel(DISC, rng, 0.3)
        first, second = read_fully(virtual, rng), read_fully(virtual, rng)
        alone = estimate_joint(DISC, second)
        together = estimate_joint(DISC, second, [EarlierSet(first, np.zeros(32))])
        self.assertLess(together.lateral_sd_mm.mean(), 0.95 * alone.lateral_sd_mm.mean())
        true = virtual.lateral_mm(np.array(DISC.angles_deg)) - virtual.dish_mm
        self.assertLess(np.std(together.lateral_mm - true), np.std(alone.lateral_mm - true))

    def test_a_nipple_that_did_not_turn_misleads_little(self) -> None:
        """Readings of one spoke after the pass show that its nipple did nothing: the state goes by them."""
        rng = np.random.default_rng(6)
        virtual = used_wheel(DISC, rng, 0.2)
        first = read_fully(virtual, rng)
        turns = np.zeros(32)
        turns[[4, 9, 20]] = 0.75, -0.5, 0.5
        did = turns.copy()
        did[9] = 0.0
        after = virtual.turned(did)
        state = estimate_joint(DISC, read_fully(after, rng), [EarlierSet(first, turns)])
        self.assertLess(abs(state.tension_n[9] - after.tension_n[9]), 60)
        self.assertLess(np.std(state.tension_n - after.tension_n), 35)
