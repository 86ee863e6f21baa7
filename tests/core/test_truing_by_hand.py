"""Sign-off, sureness, dish ways, laps and plan limits, worked out by hand at their borders."""

from __future__ import annotations

import itertools
import re
import unittest
from dataclasses import replace

import numpy as np
from scipy.stats import norm

from felloe.core.errors import BadReading, ImpossibleGeometry
from felloe.core.mechanics.estimate import Doubt, WheelState, estimate_state
from felloe.core.mechanics.learning import Learnt, RimFactors, Shirker
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.after_pass import compare_pass
from felloe.core.truing.dish_options import dish_advice, dish_plan
from felloe.core.truing.headline import headline, nearest_spoke
from felloe.core.truing.laps import laps_ahead, mean_share, next_share, side_turns, slack_turns
from felloe.core.truing.objective import MODES, objective, tight_spokes
from felloe.core.truing.options import PlanOptions, stretch, suggested_limit_turns, suggested_step_turns
from felloe.core.truing.plan import YIELDS_N, make_plan, plan_of_turns
from felloe.core.truing.prediction import predict, without_spokes
from felloe.core.truing.short import Shortest
from felloe.core.truing.sign_off import check_sign_off, not_measured
from felloe.core.truing.sureness import unsure_figures
from felloe.core.truing.tiers import FINE, RACE, ROADWORTHY, SOUND, Tier, check_against, roadworthy_runout_mm
from felloe.core.truing.walk import _careful_walk, ceiling, safe_walk, walk_tensions
from tests.core.wheels import ALL, REAR, SYMMETRIC, influence, read_fully

SMALL = ALL["small-front-20"]


def ideal(wheel=REAR) -> WheelState:  # type: ignore[no-untyped-def]
    """A wheel read everywhere and just as it should be, its figures set to the ideal itself."""
    targets = side_targets_n(wheel)
    readings = Readings(
        [TensionReading(str(n), targets[n.side], 10) for n in wheel.names],
        [RunoutReading(a, 0.0, 0.01) for a in wheel.angles_deg],
        [RunoutReading(a, 0.0, 0.01) for a in wheel.angles_deg],
        [DishReading(wheel.dish_target_mm, 0.02)],
    )
    return estimate_state(influence(wheel), readings)


def with_tension(state: WheelState, **by_name: float) -> WheelState:
    tension = state.tension_n.copy()
    for name, value in by_name.items():
        tension[state.wheel.index_of[name]] = value
    return replace(state, tension_n=tension)


class SigningOff(unittest.TestCase):
    def test_tiers_as_the_trade_rules_say(self) -> None:
        """Common practice, no source: from what is roadworthy to racing."""
        figures = [(t.lateral_mm, t.radial_mm, t.dish_mm, t.tension_percent) for t in (ROADWORTHY, SOUND, FINE, RACE)]
        self.assertEqual(figures, [(1, 1, 1, 25), (0.5, 0.5, 0.5, 20), (0.3, 0.3, 0.3, 15), (0.2, 0.2, 0.2, 10)])
        self.assertEqual((roadworthy_runout_mm(True), roadworthy_runout_mm(False)), (1.0, 2.0))

    def test_a_tier_that_cannot_be(self) -> None:
        Tier("own", 0.01, 10, 0.01, 1)
        Tier("own", 0.01, 10, 10, 100)
        for bad in (
            (0.009, 1, 1, 20),
            (1, 10.1, 1, 20),
            (1, 1, 0.009, 20),
            (1, 1, 1, 0.9),
            (1, 1, 1, 100.1),
            (1, 1, 1, float("nan")),
        ):
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry):
                Tier("own", *bad)

    def test_each_figure_at_its_limit(self) -> None:
        met = [c.met for c in check_against(SOUND, 0.5, 0.5, -0.5, 20)]
        self.assertEqual(met, [True] * 4)
        for figures, out in (
            ((0.51, 0, 0, 0), 0),
            ((0, 0.51, 0, 0), 1),
            ((0, 0, -0.51, 0), 2),
            ((0, 0, 0.51, 0), 2),
            ((0, 0, 0, 20.1), 3),
        ):
            self.assertEqual([c.met for c in check_against(SOUND, *figures)].index(False), out)

    def test_what_counts_as_measured(self) -> None:
        """Eight places of a dial, a dish, four spokes a side; the same place twice is one."""

        def readings(lateral: int = 8, radial: int = 8, right: int = 4, left: int = 4, dish: int = 1) -> Readings:
            return Readings(
                [
                    *(TensionReading(f"R{i + 1}", 900) for i in range(right)),
                    *(TensionReading(f"L{i + 1}", 700) for i in range(left)),
                ],
                [RunoutReading(10.0 * i, 0) for i in range(lateral)],
                [RunoutReading(10.0 * i, 0) for i in range(radial)],
                [DishReading(0)] * dish,
            )

        self.assertEqual(not_measured(readings()), ())
        self.assertEqual(not_measured(readings(lateral=7)), ("lateral",))
        self.assertEqual(not_measured(readings(radial=7)), ("radial",))
        self.assertEqual(not_measured(readings(dish=0)), ("dish",))
        self.assertEqual(not_measured(readings(right=3)), ("tension",))
        self.assertEqual(not_measured(readings(left=3)), ("tension",))
        self.assertEqual(not_measured(readings(right=0, left=0)), ("tension",))
        one = readings(lateral=7)
        self.assertEqual(not_measured(replace(one, lateral=[*one.lateral, one.lateral[0]])), ("lateral",))

    def test_the_mean_may_lie_as_far_off_as_the_tier_s_band(self) -> None:
        base = ideal()
        for share, enough in ((0.801, True), (0.799, False), (1.199, True), (1.201, False)):
            state = replace(base, tension_n=base.tension_n * share)
            check = check_sign_off(SOUND, None, state, Readings(), True, True)
            with self.subTest(share=share):
                self.assertAlmostEqual(check.mean_share, share, 2)
                self.assertEqual(check.mean_within, 0.2)
                self.assertEqual(check.tight_enough, enough)
                self.assertEqual("mean_tension" in check.short_of, not enough)

    def test_beyond_the_standard_s_runout_nothing_is_roadworthy(self) -> None:
        base = ideal(SYMMETRIC)
        angles = influence(SYMMETRIC).figure_angles_deg
        wave = np.cos(2 * np.radians(angles)) / 2
        for size, rim_brake, roadworthy in ((0.99, True, True), (1.01, True, False), (1.99, False, True), (2.01, False, False)):
            for kind in ("lateral_mm", "radial_mm"):
                state = replace(base)
                state.__dict__["figures"] = replace(base.figures, **{kind: wave * size})
                check = check_sign_off(ROADWORTHY, None, state, Readings(), rim_brake, True)
                with self.subTest(size=size, rim_brake=rim_brake, kind=kind):
                    self.assertEqual(check.roadworthy, roadworthy)
                    self.assertEqual(check.needs_reason, bool(check.short_of) or not roadworthy)

    def test_the_mean_s_sureness_goes_by_the_tier_s_band(self) -> None:
        little = estimate_state(
            influence(REAR), Readings([TensionReading(f"{s}{i}", 950 if s == "R" else 560, 60) for s in "RL" for i in (1, 7)])
        )
        for tier, percent in ((SOUND, 20.0), (RACE, 10.0)):
            unsure = {u.figure: u for u in check_sign_off(tier, None, little, Readings(), True, True).unsure}
            self.assertAlmostEqual(unsure["mean_tension"].limit, percent)
            self.assertIn("%", unsure["mean_tension"].said)
            self.assertIn(f"{percent:.0f} are allowed", unsure["mean_tension"].said)
        sure = check_sign_off(SOUND, None, replace(ideal(), dish_mm=0.4, dish_sd_mm=0.1), Readings(), True, True)
        self.assertIn("0.56 mm, 0.50 are allowed", next(u for u in sure.unsure if u.figure == "dish").said)

    def test_not_read_as_left_asks_for_a_reason(self) -> None:
        state = ideal()
        angles = REAR.angles_deg
        full = Readings(
            [TensionReading(str(n), 900) for n in REAR.names],
            [RunoutReading(a, 0) for a in angles],
            [RunoutReading(a, 0) for a in angles],
            [DishReading(0)],
        )
        self.assertEqual(check_sign_off(SOUND, state, state, full, True, True).short_of, ())
        self.assertEqual(check_sign_off(SOUND, None, state, full, True, False).short_of, ("as_left",))
        self.assertFalse(check_sign_off(SOUND, None, state, full, True, True).needs_reason)
        self.assertIsNone(check_sign_off(SOUND, None, state, full, True, True).as_found)
        # The mean that counts is the tight side's, on either hand.
        mirrored = replace(REAR, hub=replace(REAR.hub, left=REAR.hub.right, right=REAR.hub.left))
        self.assertIs(tight_side(mirrored), Side.LEFT)
        self.assertAlmostEqual(check_sign_off(SOUND, None, ideal(mirrored), full, True, True).mean_share, 1.0, 2)


class Surely(unittest.TestCase):
    """Against scipy's normal quantile: 1.645 standard deviations leave one in twenty outside."""

    Z = float(norm.ppf(0.95))

    def test_dish(self) -> None:
        base = ideal()
        for dish, sd, unsure in (
            (0.4, 0.05, False),
            (0.4, 0.062, True),
            (-0.4, 0.062, True),
            (0.51, 0.5, False),
            (0.4, 0.0607, False),
        ):
            found = [u for u in unsure_figures(replace(base, dish_mm=dish, dish_sd_mm=sd), SOUND, 0.2) if u.figure == "dish"]
            with self.subTest(dish=dish, sd=sd):
                self.assertEqual(bool(found), unsure)
                if found:
                    self.assertAlmostEqual(found[0].bound, abs(dish) + self.Z * sd, 4)
                    self.assertEqual((found[0].limit, found[0].unit, found[0].settle), (0.5, "mm", (("dish", ""),)))

    def test_the_rim_s_limit(self) -> None:
        base = ideal()
        cap = REAR.rim.tension_cap_n
        sd = np.full(REAR.spoke_count, 20.0)
        for margin, over in ((self.Z * 20 + 0.5, 0), (self.Z * 20 - 0.5, 1)):
            state = replace(with_tension(base, R3=cap - margin), tension_sd_n=sd)
            found = [u for u in unsure_figures(state, SOUND, 9.9) if u.figure == "highest_tension"]
            with self.subTest(margin=margin):
                self.assertEqual(len(found), over)
                if found:
                    self.assertAlmostEqual(found[0].bound, cap - margin + self.Z * 20, 2)
                    self.assertEqual(found[0].settle, (("tension", "R3"),))
        state = replace(with_tension(base, R3=cap + 1), tension_sd_n=sd)
        self.assertFalse([u for u in unsure_figures(state, SOUND, 9.9) if u.figure == "highest_tension"])
        # Three are named, with four it is to be read in full; the surest to be over comes first.
        three = replace(with_tension(base, R3=cap - 9, R5=cap - 3, R7=cap - 6), tension_sd_n=sd)
        named = next(u for u in unsure_figures(three, SOUND, 9.9) if u.figure == "highest_tension")
        self.assertEqual([name for _, name in named.settle], ["R5", "R7", "R3"])
        four = replace(with_tension(base, R3=cap - 9, R5=cap - 3, R7=cap - 6, R9=cap - 4), tension_sd_n=sd)
        self.assertEqual(next(u for u in unsure_figures(four, SOUND, 9.9) if u.figure == "highest_tension").settle, ())

    def test_mean_and_spread_by_drawing_wheels(self) -> None:
        """The bound's standard deviation is that of drawn wheels, for the mean and for one spoke's departure from it."""
        rng = np.random.default_rng(5)
        half = read_fully(used_wheel(REAR, rng, 0.2), rng)
        state = estimate_state(influence(REAR), replace(half, tension=half.tension[1:]))
        drawn = np.array([one.tension_n for one in state.draws(np.random.default_rng(1), 3000)])
        tight = REAR.on_side(tight_side(REAR))
        target = REAR.rim.tension_target_n
        off = abs(state.tension_n[tight].mean() / target - 1)
        bound = off + self.Z * float((drawn[:, tight].mean(axis=1) / target).std())
        for within, unsure in ((bound * 1.05, False), ((off + bound) / 2, True), (off * 0.9, False)):
            found = [u for u in unsure_figures(state, ROADWORTHY, within) if u.figure == "mean_tension"]
            with self.subTest(within=within):
                self.assertEqual(bool(found), unsure)
                if found:
                    self.assertAlmostEqual(found[0].bound / 100, bound, delta=0.03 * bound)
                    self.assertEqual(found[0].limit, 100 * within)
        reach, offs = [], []
        for side in Side:
            mine = REAR.on_side(side)
            shares = drawn[:, mine] / drawn[:, mine].mean(axis=1)[:, None]
            now = 100 * np.abs(state.tension_n[mine] / state.tension_n[mine].mean() - 1)
            reach += list(now + self.Z * 100 * shares.std(axis=0))
            offs += list(now)
        self.assertLess(max(offs), max(reach))
        for limit, unsure in ((max(reach) * 1.06, False), ((max(offs) + max(reach)) / 2, True), (max(offs) * 0.95, False)):
            found = [u for u in unsure_figures(state, replace(ROADWORTHY, tension_percent=limit), 9.9) if u.figure == "tension"]
            with self.subTest(limit=limit):
                self.assertEqual(bool(found), unsure)
                if found:
                    self.assertAlmostEqual(found[0].bound, max(reach), delta=0.06 * max(reach))

    def test_runout_by_drawing_wheels(self) -> None:
        """The widest pair's bound against the same bound with the scatter of drawn wheels."""
        rng = np.random.default_rng(6)
        full = read_fully(used_wheel(SMALL, rng, 0.1), rng)
        state = estimate_state(influence(SMALL), replace(full, lateral=full.lateral[::2]))
        values = state.figures.lateral_mm
        drawn = np.array([one.figures.lateral_mm for one in state.draws(np.random.default_rng(3), 2500)])
        apart = (drawn[:, :, None] - drawn[:, None, :]).std(axis=0)
        bound = float((values[:, None] - values[None, :] + self.Z * apart).max())
        limit = (np.ptp(values) + bound) / 2
        found = [u for u in unsure_figures(state, replace(ROADWORTHY, lateral_mm=limit), 9.9) if u.figure == "lateral"]
        self.assertAlmostEqual(found[0].bound, bound, delta=0.04 * bound)
        self.assertEqual(found[0].limit, limit)
        for sure in (bound * 1.05, np.ptp(values) * 0.98):
            found = [u for u in unsure_figures(state, replace(ROADWORTHY, lateral_mm=sure), 9.9) if u.figure == "lateral"]
            self.assertEqual(found, [])


class Foreseen(unittest.TestCase):
    def test_turns_move_what_their_columns_say(self) -> None:
        state = ideal()
        inf = influence(REAR)
        turns = np.zeros(36)
        turns[5], turns[20] = 0.25, -0.5
        found = predict(state, turns)
        np.testing.assert_allclose(found.tension_n, state.tension_n + inf.tension_n[:, 5] / 4 - inf.tension_n[:, 20] / 2)
        lateral = inf.lateral_mm[:, 5] / 4 - inf.lateral_mm[:, 20] / 2
        self.assertAlmostEqual(found.dish_mm, state.dish_mm + lateral.mean())
        np.testing.assert_allclose(found.lateral_mm, state.lateral_mm + lateral - lateral.mean(), atol=1e-12)
        radial = inf.radial_mm[:, 5] / 4 - inf.radial_mm[:, 20] / 2
        np.testing.assert_allclose(found.radial_mm, state.radial_mm + radial - radial.mean(), atol=1e-12)
        # The trace runs through the holes.
        np.testing.assert_allclose(found.trace.lateral_mm[2::4], found.lateral_mm, atol=1e-6)
        np.testing.assert_allclose(found.trace.radial_mm[2::4], found.radial_mm, atol=1e-6)

    def test_a_pass_beside_what_was_foreseen(self) -> None:
        state = ideal()
        bent = replace(state, radial_mm=np.cos(np.radians(REAR.angles_deg)), lateral_mm=np.sin(np.radians(REAR.angles_deg)))
        state = replace(bent, tension_n=state.tension_n)
        foreseen = predict(state, np.zeros(36))
        readings = Readings(
            [TensionReading("R1", 900), TensionReading("R2", 900)],
            [RunoutReading(0, 0)],
            [RunoutReading(0, 0)],
            [DishReading(0)],
        )
        moved = replace(
            with_tension(state, R1=state.tension_n[state.wheel.index_of["R1"]] + 80, R9=0.0),
            lateral_mm=state.lateral_mm + 0.11, radial_mm=state.radial_mm - 0.1, dish_mm=state.dish_mm - 0.3,
        )  # fmt: skip
        found = compare_pass(foreseen, moved, readings, None)
        self.assertAlmostEqual(found.tension_rms_n or 0, 80 / np.sqrt(2))
        self.assertAlmostEqual(found.lateral_rms_mm or 0, 0.11)
        self.assertAlmostEqual(found.radial_rms_mm or 0, 0.1)
        self.assertAlmostEqual(found.dish_off_mm or 0, -0.3)
        self.assertTrue(found.as_foreseen)
        self.assertIn("dish within 0.30 mm", found.said)
        for off in (replace(moved, lateral_mm=state.lateral_mm + 0.13), replace(moved, radial_mm=state.radial_mm + 0.13)):
            self.assertFalse(compare_pass(foreseen, off, readings, None).as_foreseen)
        far = with_tension(state, R1=state.tension_n[state.wheel.index_of["R1"]] + 86)
        self.assertFalse(compare_pass(foreseen, far, readings, None).as_foreseen)
        unread = compare_pass(foreseen, moved, Readings(), None)
        self.assertEqual((unread.tension_rms_n, unread.lateral_rms_mm, unread.radial_rms_mm, unread.dish_off_mm), (None,) * 4)
        self.assertTrue(unread.as_foreseen)
        learnt = Learnt(RimFactors(), 20, 1.0, 1.0, (Shirker("R4", 0.314, 0.05),))
        self.assertIn("R4 did 31 % of its turn", compare_pass(foreseen, moved, readings, learnt).said)


class Dishing(unittest.TestCase):
    def test_each_way_brings_the_rim_to_the_middle_to_a_sixteenth(self) -> None:
        for aside in (1.5, -1.5):
            state = replace(ideal(), dish_mm=aside)
            rows = influence(REAR).lateral_mm.mean(axis=0)
            right = REAR.on_side(Side.RIGHT)
            found = {option.key: option for option in dish_advice(state).options}
            far_right = aside < 0
            tightened = found["tighten"]
            self.assertEqual((tightened.right_turns > 0, tightened.left_turns > 0), (far_right, not far_right))
            eased = found["ease"]
            self.assertEqual((eased.right_turns < 0, eased.left_turns < 0), (not far_right, far_right))
            for option in found.values():
                moved = float(rows[right].sum() * option.right_turns + rows[~right].sum() * option.left_turns)
                least = max(abs(float(rows[right].sum())), abs(float(rows[~right].sum()))) / 32
                with self.subTest(option.key, aside=aside):
                    self.assertAlmostEqual(moved, -aside, delta=2.01 * least)
                    self.assertAlmostEqual(option.after.dish_mm, aside + moved, 6)
                    for side, mean in ((Side.RIGHT, option.right_mean_n), (Side.LEFT, option.left_mean_n)):
                        self.assertAlmostEqual(option.after.tension_n[REAR.on_side(side)].mean(), mean)
                        self.assertEqual(option.mean_n(side), mean)
                    for turns in (option.right_turns, option.left_turns):
                        self.assertEqual(turns * 16, round(turns * 16))
            half = found["half"]
            self.assertTrue(half.right_turns * half.left_turns < 0)

    def test_the_far_side_is_tightened_also_where_little_is_wrong(self) -> None:
        for aside in (0.6, -0.6):
            found = {option.key: option for option in dish_advice(replace(ideal(), dish_mm=aside)).options}
            self.assertEqual((found["tighten"].right_turns > 0, found["tighten"].left_turns > 0), (aside < 0, aside > 0))

    def test_proposed_is_what_brings_the_tight_side_to_its_target(self) -> None:
        def proposed(share: float) -> str:
            base = ideal()
            state = replace(base, dish_mm=0.6, tension_n=base.tension_n * share)
            return next(option.key for option in dish_advice(state).options if option.proposed)

        self.assertEqual((proposed(0.8), proposed(1.19)), ("tighten", "ease"))

    def test_never_above_the_limit(self) -> None:
        base = ideal()
        state = with_tension(replace(base, dish_mm=2.0), R1=REAR.rim.tension_cap_n - 1)
        advice = dish_advice(state)
        over = {option.key: option.over_cap for option in advice.options}
        self.assertEqual(over, {"tighten": True, "ease": False, "half": over["half"]})
        with self.assertRaises(BadReading):
            dish_plan(state, PlanOptions(), "tighten")
        self.assertFalse([o for o in advice.options if o.proposed and o.over_cap])
        plan = dish_plan(state, PlanOptions(), "ease")
        chosen = {option.key: option for option in advice.options}["ease"]
        np.testing.assert_allclose(plan.turns, np.where(REAR.on_side(Side.RIGHT), chosen.right_turns, chosen.left_turns))

    def test_a_rim_out_of_true_by_more_than_a_millimetre_comes_first(self) -> None:
        base = ideal()
        for size, straight in ((0.99, True), (1.01, False)):
            state = replace(base)
            wave = np.cos(2 * np.radians(base.figures.angles_deg)) * size / 2
            state.__dict__["figures"] = replace(base.figures, lateral_mm=wave)
            self.assertEqual(dish_advice(state).straight_enough, straight)


class Laps(unittest.TestCase):
    def test_all_nipples_of_a_side_by_two_equations(self) -> None:
        inf = influence(REAR)
        right, left = side_turns(inf, 120.0, 75.0)
        turns = np.where(REAR.on_side(Side.RIGHT), right, left)
        moved = inf.tension_n @ turns
        self.assertAlmostEqual(moved[REAR.on_side(Side.RIGHT)].mean(), 120, 6)
        self.assertAlmostEqual(moved[REAR.on_side(Side.LEFT)].mean(), 75, 6)

    def test_a_lap_is_reached_within_six_hundredths(self) -> None:
        base = ideal()
        tight = REAR.on_side(tight_side(REAR))

        def at(share: float) -> WheelState:
            return replace(base, tension_n=np.where(tight, share * REAR.rim.tension_target_n, 300.0))

        self.assertAlmostEqual(mean_share(at(0.4)), 0.4)
        for share, expected in (
            (0.0, 0.25),
            (0.18, 0.25),
            (0.2, 0.5),
            (0.43, 0.5),
            (0.45, 0.75),
            (0.68, 0.75),
            (0.7, 1.0),
            (1.3, 1.0),
        ):
            with self.subTest(share=share):
                self.assertEqual(next_share(at(share)), expected)
        target = side_targets_n(REAR)
        ahead = laps_ahead(influence(REAR), 0.45 * target[Side.RIGHT], 0.4 * target[Side.LEFT])
        self.assertEqual([(lap.number, lap.share) for lap in ahead], [(1, 0.75), (2, 1.0)])
        self.assertAlmostEqual(ahead[0].right_mean_n, 0.75 * target[Side.RIGHT])
        first = side_turns(influence(REAR), 0.3 * target[Side.RIGHT], 0.35 * target[Side.LEFT])
        np.testing.assert_allclose((ahead[0].right_turns, ahead[0].left_turns), first)
        second = side_turns(influence(REAR), 0.25 * target[Side.RIGHT], 0.25 * target[Side.LEFT])
        np.testing.assert_allclose((ahead[1].right_turns, ahead[1].left_turns), second)

    def test_slack_turns_by_the_thread(self) -> None:
        """11 mm held less 9.5 mm of thread is 1.5 mm, 3.3 turns of 56 to the inch; halves, rounded down."""
        self.assertEqual(slack_turns(REAR, 0.0), 3.0)
        self.assertEqual(slack_turns(REAR, 0.7), 2.5)
        self.assertEqual(slack_turns(REAR, 9.0), 0.0)
        self.assertEqual(slack_turns(REAR, 0.0, thread_mm=8.0), 6.5)
        self.assertEqual(slack_turns(REAR, 0.0, thread_mm=14.0), 0.0)


class Limits(unittest.TestCase):
    def test_how_much_a_pass_may_turn(self) -> None:
        base = ideal()

        def at(
            lateral: float = 0.0, radial: float = 0.0, dish: float = 0.0, share: float = 1.0, tighter: float = 1.0
        ) -> tuple[float, float]:
            wave = np.cos(2 * np.radians(base.figures.angles_deg)) / 2
            tension = base.tension_n * share
            tension[REAR.index_of["L9"]] *= tighter
            state = replace(base, dish_mm=dish, tension_n=tension)
            state.__dict__["figures"] = replace(base.figures, lateral_mm=wave * lateral, radial_mm=wave * radial)
            return suggested_limit_turns(state, SOUND), suggested_step_turns(state, SOUND)

        # Half a millimetre and ± 20 % are allowed: a share of 0.6 and of 1.2 of that are the borders.
        fine, usual = 1 / 16, 1 / 8
        cases = (
            ({}, 0.25, fine), ({"lateral": 0.29}, 0.25, fine), ({"lateral": 0.31}, 0.5, fine), ({"lateral": 0.59}, 0.5, fine),
            ({"lateral": 0.61}, 1.0, usual), ({"radial": 0.31}, 0.5, fine), ({"radial": 0.61}, 1.0, usual),
            ({"dish": -0.31}, 0.5, fine), ({"dish": 0.61}, 1.0, usual), ({"share": 1.07}, 0.25, fine),
            ({"share": 1.09}, 0.5, usual), ({"share": 0.91}, 0.5, usual), ({"share": 0.79}, 1.0, usual),
            ({"share": 1.21}, 1.0, usual),
            # The mean of the side goes up by an eighteenth of it.
            ({"tighter": 1.12}, 0.25, fine), ({"tighter": 1.135}, 0.5, fine), ({"tighter": 0.74}, 1.0, usual),
            ({"tighter": 1.25}, 0.5, fine), ({"tighter": 1.27}, 1.0, usual),
        )  # fmt: skip
        for what, limit, step in cases:
            with self.subTest(what):
                self.assertEqual(at(**what), (limit, step))

    def test_options_at_their_borders(self) -> None:
        for good in (
            {"limit_turns": 0.125}, {"limit_turns": 2.0}, {"target_share": 0.1}, {"target_share": 1.0}, {"chance": 0.5},
            {"chance": 0.99}, {"nipples": 1}, {"step_turns": 0.25}, {"step_turns": 0.0625},
            {"mode": "local", "between": ("R1", "R3")},
        ):  # fmt: skip
            PlanOptions(**good)  # type: ignore[arg-type]
        for field, bad in (
            ("limit_turns", {"limit_turns": 0.12}), ("limit_turns", {"limit_turns": 2.01}),
            ("target_share", {"target_share": 0.09}),
            ("target_share", {"target_share": 1.01}), ("chance", {"chance": 0.49}),
            ("chance", {"chance": 0.995}), ("nipples", {"nipples": 0}),
            ("step_turns", {"step_turns": 0.3}), ("between", {"mode": "local"}), ("between", {"between": ("R1", "R3")}),
            ("mode", {"mode": "sideways"}),
        ):  # fmt: skip
            with self.subTest(bad), self.assertRaises(BadReading) as caught:
                PlanOptions(**bad)  # type: ignore[arg-type]
            self.assertEqual(caught.exception.field, field)

    def test_a_stretch_goes_round_the_valve(self) -> None:
        names = [str(name) for name in REAR.names]

        def inside(first: int, last: int) -> list[int]:
            return [int(i) for i in np.flatnonzero(stretch(REAR, names[first], names[last]))]

        self.assertEqual(inside(3, 6), [3, 4, 5, 6])
        self.assertEqual(inside(34, 1), [0, 1, 34, 35])
        self.assertEqual(inside(7, 7), [7])

    def test_floors_and_caps_in_every_mode(self) -> None:
        """No spoke ends above the rim's limit less its doubt unless it stood there, nor below a fifth of its target; on the way
        none passes the limit; only what a mode allows is turned."""
        rng = np.random.default_rng(9)
        targets = side_targets_n(REAR)
        floor = np.array([0.2 * targets[name.side] for name in REAR.names])
        cap = REAR.rim.tension_cap_n
        for slack, mode in ((s, m) for m in MODES for s in (0.0, 1.0, -0.9)):
            state = estimate_state(influence(REAR), read_fully(used_wheel(REAR, rng, 0.35, slack_turns=slack), rng))
            between = ("R3", "R8") if mode == "local" else None
            options = PlanOptions(mode=mode, between=between, limit_turns=1.0, untouchable=frozenset({"R5"}))
            plan = make_plan(state, options)
            now, after = state.tension_n, plan.after.tension_n
            with self.subTest(mode, slack=slack):
                doubt_n = 0.0 if mode == "ride_home" else 1.645 * state.tension_sd_n
                upper = np.maximum(cap - doubt_n, np.minimum(now, cap))
                share = plan.options.target_share
                self.assertTrue(np.all(after <= np.maximum(upper, now) + 1e-6), "a spoke was lifted above the limit")
                self.assertTrue(np.all(after >= np.minimum(share * floor, now) - 1e-6), "a spoke was eased below its floor")
                outside_before = np.maximum(now - upper, 0).sum() + np.maximum(share * floor - now, 0).sum()
                outside_after = np.maximum(after - upper, 0).sum() + np.maximum(share * floor - after, 0).sum()
                self.assertLessEqual(outside_after, outside_before + 0.05)
                if now.max() <= cap:
                    self.assertLessEqual(after.max(), cap + 1e-6)
                self.assertEqual(plan.turns[REAR.index_of["R5"]], 0)
                self.assertLessEqual(np.abs(plan.turns).max(), 1.0)
                if mode == "tighten_only":
                    self.assertGreaterEqual(plan.turns.min(), 0)
                if mode == "ease_only":
                    self.assertLessEqual(plan.turns.max(), 0)
                if between:
                    self.assertFalse(np.any(plan.turns[~stretch(REAR, *between)]))
                steps = plan.turns / plan.options.step_turns
                np.testing.assert_allclose(steps, np.rint(steps), atol=1e-9)
                # One move after another, the highest tension is what the plan says it is.
                walked = now.copy()
                highest, at = walked.max(), int(np.argmax(walked))
                for move in plan.moves:
                    # On the way, too, none passes the limit, nor does one above it rise from where it stood.
                    # Where no order avoids that, it is said, and by no more than is allowed for.
                    room_n = 0.5 + (max(YIELDS_N) if "No order keeps" in plan.caution else 0.0)
                    self.assertTrue(np.all(walked <= np.maximum(cap, now) + room_n + 1e-6))
                    walked = walked + state.influence.tension_n[:, REAR.index_of[move.spoke]] * move.turns
                    if walked.max() > highest:
                        highest, at = walked.max(), int(np.argmax(walked))
                self.assertAlmostEqual(plan.worst_tension_n, highest, 4)
                self.assertEqual(plan.worst_spoke, str(REAR.names[at]))
                np.testing.assert_allclose(walked, after, atol=1e-6)
                tighter = int((plan.turns > 0).sum())
                if plan.reason.startswith("To "):
                    # A lap: what every nipple of a side is turned, and each that is turned otherwise by its name.
                    self.assertEqual(mode, "build")
                    usual = {s: float(np.median(plan.turns[REAR.on_side(s)])) for s in Side}
                    for name, turn in zip(REAR.names, plan.turns, strict=True):
                        self.assertEqual(turn != usual[name.side], re.search(rf"\b{name}\b", plan.reason) is not None, name)
                elif plan.moves:
                    self.assertIn(f"{tighter} tighter and {plan.nipples - tighter} easier", plan.reason)
                sums = {str(name): 0.0 for name in REAR.names}
                for move in plan.moves:
                    sums[move.spoke] += move.turns
                np.testing.assert_allclose(list(sums.values()), plan.turns, atol=1e-9)

    def test_the_limits_that_the_search_keeps(self) -> None:
        """Floors at a fifth of each side's target, less on the way up; caps 2.2 standard deviations of reading, meter, hand and
        stiffness below the limit, at most 7 %; what stands in between goes no higher, what stands above comes below."""
        base = ideal()
        targets, cap = side_targets_n(REAR), REAR.rim.tension_cap_n
        state = with_tension(base, R9=cap - 5, R11=cap + 50)
        for share in (1.0, 0.5):
            search = Shortest(state, PlanOptions(target_share=share), 0.5)
            np.testing.assert_allclose(search.floor_n, [share * 0.2 * targets[name.side] for name in REAR.names])
            margin = search.margin_n
            self.assertTrue(np.all((margin > 0) & (margin <= 0.07 * cap + 1e-9)))
            expected = cap - margin
            expected[REAR.index_of["R9"]] = cap - 5
            np.testing.assert_allclose(search.sparse.bounds.cap_n, expected)
            np.testing.assert_allclose((search.lowest, search.highest), ([-0.5] * 36, [0.5] * 36))
        # The meter's own scale, three per cent of the limit, is always in the margin.
        known = replace(state, doubt=Doubt(np.zeros(3), 0.0, 0.03, 1e-9 * np.eye(3)))
        self.assertGreaterEqual(Shortest(known, PlanOptions(), 0.5).margin_n.min(), min(2.2 * 0.03, 0.07) * cap - 1e-6)
        missing = without_spokes(state, frozenset({"R5"}))
        self.assertEqual(Shortest(missing, PlanOptions(), 0.5).floor_n[REAR.index_of["R5"]], -np.inf)

    def test_how_far_and_which_way_a_mode_may_turn(self) -> None:
        state = ideal()
        for mode, lowest, highest in (("balanced", -0.5, 0.5), ("tighten_only", 0, 0.5), ("ease_only", -0.5, 0)):
            search = Shortest(state, PlanOptions(mode=mode), 0.5)
            self.assertEqual((search.lowest[3], search.highest[3]), (lowest, highest), mode)
        self.assertEqual(make_plan(state, PlanOptions(mode="build")).limit_turns, 1.5)
        self.assertEqual(make_plan(state, PlanOptions(mode="build", limit_turns=0.5)).limit_turns, 0.5)
        self.assertEqual(make_plan(state).limit_turns, suggested_limit_turns(state, SOUND))

    def test_a_ride_home_with_a_spoke_missing_keeps_floors_and_caps(self) -> None:
        targets = side_targets_n(REAR)
        for seed, gone in ((1, "R5"), (2, "L9"), (3, "R18"), (4, "L1")):
            rng = np.random.default_rng(seed)
            full = read_fully(used_wheel(REAR, rng, 0.3), rng)
            state = without_spokes(estimate_state(influence(REAR), full), frozenset({gone}))
            place = REAR.index_of[gone]
            there = np.arange(36) != place
            tension = state.tension_n.copy()
            tension[place] = 0.0
            state = replace(state, tension_n=tension)
            plan = make_plan(state, PlanOptions(mode="ride_home", untouchable=frozenset({gone})))
            floor = np.array([0.2 * targets[name.side] for name in REAR.names])
            now, after = state.tension_n[there], plan.after.tension_n[there]
            with self.subTest(gone=gone):
                self.assertTrue(np.all(after >= np.minimum(floor[there], now) - 1e-6))
                self.assertTrue(np.all(after <= np.maximum(REAR.rim.tension_cap_n, now) + 1e-6))
                self.assertGreater(len(plan.moves), 0)

    def test_what_stands_above_the_limit_comes_down_where_any_step_brings_it_down(self) -> None:
        """Also where straightness is at its best already: on a dented rim whose spokes pull unevenly."""
        wheel = ALL["bladed-rear-24"]
        cap, over = wheel.rim.tension_cap_n, 0
        for seed in (3, 4, 8, 26, 36):
            rng = np.random.default_rng(seed)
            virtual = used_wheel(wheel, rng, 0.3).dented(140, 24, 0.9, 1.7)
            for _ in range(4):
                state = estimate_state(influence(wheel), read_fully(virtual, rng))
                plan = make_plan(state)
                if state.tension_n.max() > cap + 5:
                    over += 1
                    with self.subTest(seed=seed, highest_n=round(state.tension_n.max())):
                        self.assertLess(plan.after.tension_n.max(), max(cap + 1, state.tension_n.max() - 5))
                virtual = virtual.turned(plan.turns)
        self.assertGreater(over, 4)


class Walks(unittest.TestCase):
    """Three spokes that push each other: each tightened adds 100 N to itself and takes 40 N from the next."""

    def setUp(self) -> None:
        self.effect = np.array([[100.0, 0.0, -40.0], [-40.0, 100.0, 0.0], [0.0, -40.0, 100.0]])
        self.now = np.full(3, 900.0)

    def walk(self, counts: list[int], most) -> tuple[list[tuple[int, int]], int] | None:  # type: ignore[no-untyped-def]
        found = safe_walk(self.now, self.effect, np.array(counts), np.asarray(most, dtype=float))
        return (list(found.turns), found.laps) if found else None

    def test_from_the_valve_where_nothing_is_in_the_way(self) -> None:
        self.assertEqual(self.walk([1, 1, 1], np.full(3, 1000.0)), ([(0, 1), (1, 1), (2, 1)], 1))

    def test_who_would_pass_the_limit_waits_for_the_next_lap(self) -> None:
        """The first would stand at 1000 where 990 are allowed, until the last has eased it by 40."""
        self.assertEqual(self.walk([1, 0, 1], np.full(3, 1000.5) - [10.5, 0, 0]), ([(2, 1), (0, 1)], 2))

    def test_turns_are_made_in_parts_where_whole_ones_would_pass(self) -> None:
        """Two spokes, each of which takes 40 N off the other: two steps of one need 1100 at once, one after the other 1060."""
        found = safe_walk(np.full(2, 900.0), np.array([[100.0, -40.0], [-40.0, 100.0]]), np.array([2, 2]), np.full(2, 1061.0))
        assert found is not None
        # After one step of the first the other may make both of its own.
        self.assertEqual([steps for _, steps in found.turns], [1, 2, 1])
        self.assertEqual((found.turns[0][0], found.turns[1][0]), (found.turns[2][0], 1 - found.turns[0][0]))

    def test_none_where_no_order_keeps_below(self) -> None:
        self.assertIsNone(self.walk([2, 0, 0], np.full(3, 1000.0)))
        self.assertIsNotNone(self.walk([1, 0, 0], np.full(3, 1000.0)))
        self.assertEqual(self.walk([0, 0, 0], np.full(3, 1000.0)), ([], 1))

    def test_the_careful_walk_takes_what_leaves_most_room(self) -> None:
        """Laps are counted by how often it passes the valve."""
        found = _careful_walk(self.now, self.effect, np.array([1, -1, 1]), np.full(3, 1041.0))
        assert found is not None
        places = [i for i, _ in found.turns]
        self.assertEqual(places[0], 1)
        self.assertEqual(found.laps, 1 + sum(b < a for a, b in itertools.pairwise(places)))
        self.assertIsNone(_careful_walk(self.now, self.effect, np.array([2, 0, 0]), np.full(3, 1001.0)))

    def test_what_stands_above_may_stay_there_and_rise_no_further(self) -> None:
        np.testing.assert_allclose(ceiling(np.array([900.0, 1010.0]), np.full(2, 1000.0)), [1000, 1010.5])

    def test_tensions_along_the_walk(self) -> None:
        walk = walk_tensions(self.now, self.effect, [(2, -2.0), (0, 1.0)])
        np.testing.assert_allclose(walk, [[900, 900, 900], [980, 900, 700], [1080, 860, 700]])

    def test_given_turns_are_walked_in_sixteenths(self) -> None:
        state = ideal()
        turns = np.zeros(36)
        turns[3], turns[8] = 0.25, -3 / 16
        plan = plan_of_turns(state, PlanOptions(), turns)
        self.assertEqual({m.spoke: m.turns for m in plan.moves}, {str(REAR.names[3]): 0.25, str(REAR.names[8]): -3 / 16})
        self.assertEqual(plan.limit_turns, 0.25)
        self.assertEqual(plan.options.step_turns, 1 / 16)
        self.assertEqual({m.word for m in plan.moves}, {"tighten", "ease"})


class Weighing(unittest.TestCase):
    """The objective by its words: each departure over its unit, squared and added up."""

    def by_hand(self, state: WheelState, tier: Tier, weights: tuple[float, ...], share: float = 1.0) -> float:
        wheel = state.wheel
        lateral, radial, dish, even, mean = weights
        n = wheel.spoke_count
        total = np.sum((lateral * state.lateral_mm / (tier.lateral_mm / 4)) ** 2)
        total += np.sum((radial * state.radial_mm / (tier.radial_mm / 4)) ** 2)
        total += n * (dish * state.dish_mm / (tier.dish_mm / 2)) ** 2
        targets = side_targets_n(wheel)
        for side in Side:
            mine = state.tension_n[wheel.on_side(side)]
            unit = 0.4 * tier.tension_percent / 100 * targets[side]
            total += np.sum((even * (mine - mine.mean()) / unit) ** 2)
        tight = tight_spokes(wheel)
        target = wheel.rim.tension_target_n
        total += n * (mean * (state.tension_n[tight].mean() - share * target) / (0.05 * target)) ** 2
        return float(total)

    def test_every_mode(self) -> None:
        """Weights of lateral, radial, dish, evenness and mean by mode; common practice, no source."""
        weights = {
            "balanced": (1, 1, 1, 1, 1), "local": (1, 1, 1, 1, 1), "build": (1, 1, 1, 1, 1),
            "tighten_only": (1, 1, 1, 1, 0.3), "ease_only": (1, 1, 1, 1, 0.3), "straight_first": (1, 0.3, 1, 0.35, 0.35),
            "round_first": (0.3, 1, 0.3, 0.35, 0.35), "ride_home": (1, 0.4, 0.5, 0.1, 0.0),
        }  # fmt: skip
        self.assertEqual(set(weights), set(MODES))
        rng = np.random.default_rng(3)
        for wheel in (REAR, SYMMETRIC):
            state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.3), rng))
            turns = np.zeros(wheel.spoke_count)
            turns[4], turns[9] = 0.25, -0.5
            moved = predict(state, turns)
            after = replace(
                state, tension_n=moved.tension_n, lateral_mm=moved.lateral_mm, radial_mm=moved.radial_mm, dish_mm=moved.dish_mm
            )
            for mode, row in weights.items():
                for share in (1.0, 0.5):
                    quadratic = objective(state, FINE, mode, share)
                    with self.subTest(mode, share=share, spokes=wheel.spoke_count):
                        before_n = self.by_hand(state, FINE, row, share)
                        self.assertAlmostEqual(quadratic.value(np.zeros(wheel.spoke_count)) / before_n, 1, 6)
                        self.assertAlmostEqual(quadratic.value(turns) / self.by_hand(after, FINE, row, share), 1, 6)

    def test_sides_alike_have_one_mean(self) -> None:
        self.assertTrue(tight_spokes(SYMMETRIC).all())
        np.testing.assert_array_equal(tight_spokes(REAR), REAR.on_side(Side.RIGHT))


class InWords(unittest.TestCase):
    def test_what_is_out_comes_worst_first(self) -> None:
        base = ideal()

        def said(**figures: object) -> str:
            state = replace(base, **{k: v for k, v in figures.items() if k not in ("lateral", "radial")})  # type: ignore[arg-type]
            wave = np.cos(2 * np.radians(base.figures.angles_deg - 100)) / 2
            trace = replace(
                base.figures,
                lateral_mm=wave * float(figures.get("lateral", 0)),
                radial_mm=wave * float(figures.get("radial", 0)),
            )  # type: ignore[arg-type]
            state.__dict__["figures"] = trace
            return headline(state, SOUND)

        self.assertIn("Inside", said())
        self.assertIn("Inside", said(lateral=0.5, radial=0.5, dish_mm=0.5))
        self.assertIn("lateral 0.6 mm", said(lateral=0.6))
        self.assertIn("radial 0.6 mm", said(radial=0.6))
        self.assertIn("0.6 mm to the right", said(dish_mm=0.6))
        self.assertIn("0.6 mm to the left", said(dish_mm=-0.6))
        aside = said(lateral=0.75, dish_mm=0.9, tension_n=base.tension_n * 0.85)
        # 1.8 of the dish, 1.5 of the lateral; the mean is 15 % off, half as far again as a tenth, and comes between or
        # beside them.
        self.assertLess(aside.index("to the right"), aside.index("lateral"))
        self.assertIn("15 % below", aside)
        low = said(lateral=0.6, tension_n=base.tension_n * 0.86)
        self.assertLess(low.index("below target"), low.index("lateral"))
        both = said(lateral=0.9, radial=1.4, dish_mm=0.7)
        self.assertLess(both.index("radial"), both.index("lateral"))
        self.assertLess(both.index("lateral"), both.index("to the right"))
        uneven = with_tension(base, R4=1.45 * base.tension_n[base.wheel.index_of["R4"]])
        wave = np.cos(2 * np.radians(base.figures.angles_deg - 100)) / 2
        uneven.__dict__["figures"] = replace(base.figures, lateral_mm=1.5 * wave)
        told = headline(uneven, SOUND)
        self.assertLess(told.index("lateral"), told.index("R4"), told)
        tight = base.tension_n[base.wheel.index_of["R4"]]
        self.assertIn("R4 is 28 % too tight", headline(with_tension(base, R4=1.3 * tight), SOUND))
        self.assertIn("R4 is 29 % too slack", headline(with_tension(base, R4=0.7 * tight), SOUND))
        self.assertIn("11 % below target", said(tension_n=base.tension_n * 0.89))
        self.assertIn("11 % above target", said(tension_n=base.tension_n * 1.11))
        self.assertIn("Inside", said(tension_n=base.tension_n * 0.91))
        self.assertIn("All slack", said(tension_n=base.tension_n * 0.09))
        self.assertNotIn("All slack", said(tension_n=base.tension_n * 0.11))

    def test_the_nearest_spoke_goes_round(self) -> None:
        state = ideal()
        half = 360 / 36 / 2
        for i, angle in (
            (0, REAR.angles_deg[0] + 4.9),
            (1, REAR.angles_deg[0] + 5.1),
            (35, REAR.angles_deg[35] + 4.9),
            (0, REAR.angles_deg[35] + 5.1),
        ):
            self.assertEqual(nearest_spoke(state, angle % 360), str(REAR.names[i]))
        self.assertEqual(half, 5.0)


if __name__ == "__main__":
    unittest.main()
