"""Surely inside: what is called sure is inside on wheels that the estimate does not know, and what is not says what to read."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.measuring.sampling import quick_look
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.mechanics.readings import Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.tension.evenness import side_evenness
from felloe.core.truing.headline import headline
from felloe.core.truing.sign_off import SignOffCheck, check_sign_off, figures_of
from felloe.core.truing.sureness import _after, _widest, unsure_figures
from felloe.core.truing.tiers import FINE, ROADWORTHY, SOUND, Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.core.test_local_damage import KINDS, influence, read

FRONT = "rim-brake-front-32"


def quick(whole: Readings, names: set[str], kind: str) -> Readings:
    wheel = WHEEL_KINDS[kind].wheel
    angles = {round(wheel.angles_deg[wheel.index_of[name]], 2) for name in names}
    return Readings(
        [r for r in whole.tension if r.spoke in names],
        [r for r in whole.lateral if round(r.angle_deg, 2) in angles],
        [r for r in whole.radial if round(r.angle_deg, 2) in angles],
        whole.dish,
    )


def even_wheel(kind: str, seed: int, nipple: float = 0.05) -> tuple[Readings, WheelState]:
    rng = np.random.default_rng(seed)
    whole = read(used_wheel(WHEEL_KINDS[kind].wheel, rng, nipple), rng)
    return whole, estimate_state(influence(kind), whole)


def check(state: WheelState, whole: Readings) -> SignOffCheck:
    return check_sign_off(SOUND, None, state, whole, True, True)


class Sure(unittest.TestCase):
    def test_what_is_called_sure_is_inside_on_the_true_wheel(self) -> None:
        """60 wheels near their limits: of those called surely inside in runout at least 95 % truly are."""
        rng = np.random.default_rng(8)
        sure, right = 0, 0
        for number in range(60):
            kind = KINDS[number % len(KINDS)]
            virtual = used_wheel(WHEEL_KINDS[kind].wheel, rng, rng.uniform(0.03, 0.12))
            state = estimate_state(influence(kind), read(virtual, rng))
            angles = state.influence.figure_angles_deg
            for figure, true in (
                ("lateral", np.ptp(virtual.lateral_mm(angles))),
                ("radial", np.ptp(virtual.radial_mm(angles))),
            ):
                shown = state.figures.lateral_tir_mm if figure == "lateral" else state.figures.radial_tir_mm
                # The limit lies where the doubt is: just above what is shown.
                limit = shown + float(rng.uniform(0, 0.12))
                tier = Tier("sound", limit, limit, 0.5, 100) if limit >= 0.01 else SOUND
                if not any(u.figure == figure for u in unsure_figures(state, tier, 1.0)):
                    sure += 1
                    right += bool(true <= limit)
        self.assertGreater(sure, 30)
        self.assertGreaterEqual(right / sure, 0.95)

    def test_a_quick_look_is_not_sure_and_says_how_to_be(self) -> None:
        for seed in range(5):
            whole, state = even_wheel(FRONT, seed)
            self.assertEqual(unsure_figures(state, ROADWORTHY, 0.25), ())
            few = quick(whole, set(quick_look(state.wheel)), FRONT)
            looked = unsure_figures(estimate_state(influence(FRONT), few), SOUND, 0.2)
            self.assertTrue({u.figure for u in looked} & {"lateral", "radial"})
            self.assertTrue({u.figure for u in looked} & {"tension", "highest_tension"})
            for unsure in looked:
                self.assertGreater(unsure.bound, unsure.limit)
                self.assertTrue(unsure.said)

    def test_the_readings_it_names_settle_it(self) -> None:
        """A stretch of spokes left out: those that are named lie in it, and reading them, no more, makes the wheel sure."""
        asked, settled = 0, 0
        names = [str(n) for n in WHEEL_KINDS[FRONT].wheel.names]
        for seed in range(16):
            whole, state = even_wheel(FRONT, seed)
            if unsure_figures(state, SOUND, 0.2) or any(c.value > c.limit for c in check(state, whole).checks):
                continue
            for first in (3, 14, 25):
                left_out = set(names[first : first + 4])
                partly = quick(whole, set(names) - left_out, FRONT)
                found = unsure_figures(estimate_state(influence(FRONT), partly), SOUND, 0.2)
                named = {spoke for unsure in found for _, spoke in unsure.settle}
                if not named:
                    continue
                asked += 1
                self.assertTrue(named & left_out, (named, left_out))
                again = quick(whole, set(names) - left_out | named, FRONT)
                settled += not unsure_figures(estimate_state(influence(FRONT), again), SOUND, 0.2)
        self.assertGreater(asked, 5)
        self.assertGreaterEqual(settled / asked, 0.7)

    def test_what_is_outside_is_not_unsure(self) -> None:
        _, state = even_wheel(FRONT, 1, nipple=0.8)
        outside = {c.figure for c in check_sign_off(FINE, None, state, Readings(), True, True).checks if not c.met}
        self.assertTrue(outside)
        self.assertFalse(outside & {u.figure for u in unsure_figures(state, FINE, 0.15)})

    def test_dish_by_its_standard_deviation(self) -> None:
        _, state = even_wheel(FRONT, 2)
        for dish, sd, expected in ((0.45, 0.05, True), (0.40, 0.05, False), (0.55, 0.05, False), (-0.45, 0.05, True)):
            found = unsure_figures(replace(state, dish_mm=dish, dish_sd_mm=sd), SOUND, 1.0)
            self.assertEqual("dish" in {u.figure for u in found}, expected, dish)

    def test_near_the_rim_s_limit(self) -> None:
        _, state = even_wheel(FRONT, 3)
        cap = state.wheel.rim.tension_cap_n
        near = state.tension_n.copy()
        near[5] = cap - 5
        found = {u.figure: u for u in unsure_figures(replace(state, tension_n=near), Tier("sound", 9, 9, 9, 100), 1.0)}
        self.assertEqual(set(found), {"highest_tension"})
        self.assertEqual(found["highest_tension"].settle, (("tension", str(state.wheel.names[5])),))

    def test_sign_off_asks_for_it(self) -> None:
        whole, _ = even_wheel(FRONT, 0)
        wheel = WHEEL_KINDS[FRONT].wheel
        few = quick(whole, {str(n) for n in wheel.names if n.number % 2}, FRONT)
        check = check_sign_off(SOUND, None, estimate_state(influence(FRONT), few), few, True, True)
        self.assertEqual(check.not_measured, ())
        self.assertIn("sureness", check.short_of)
        self.assertTrue(check.needs_reason)


class Reckoning(unittest.TestCase):
    def test_a_reading_narrows_as_two_measurements_do(self) -> None:
        """Variance 4 read with a standard deviation of 0.5: 1/(1/4 + 1/0.25) = 0.2353 (GUM, from memory)."""
        after = _after(np.diag([4.0, 9.0]), np.array([1.0, 0.0]), 0.5)
        np.testing.assert_allclose(after, np.diag([1 / (1 / 4 + 1 / 0.25), 9.0]), atol=1e-12)
        both = _after(np.array([[2.0, 1.0], [1.0, 2.0]]), np.array([1.0, 0.0]), 1e-9)
        np.testing.assert_allclose(both, [[0, 0], [0, 1.5]], atol=1e-6)

    def test_the_widest_pair_counts_what_two_places_share(self) -> None:
        """Values 0 and 1, each ± 1: apart by 1 + 1.645·√2 where independent, by 1 where they move together."""
        values = np.array([0.0, 1.0])
        self.assertAlmostEqual(_widest(values, np.eye(2))[0], 1 + 1.6449 * 2**0.5, places=6)
        self.assertAlmostEqual(_widest(values, np.ones((2, 2)))[0], 1.0, places=6)
        self.assertEqual(set(_widest(values, np.eye(2))[1:]), {0, 1})

    def test_the_mean_by_its_own_bound(self) -> None:
        _, state = even_wheel(FRONT, 5)
        target = state.wheel.rim.tension_target_n
        for share, unsure in ((1.0, False), (0.805, True), (0.7, False)):
            scaled = state.tension_n * share * target / float(state.tension_n[state.present(Side.RIGHT)].mean())
            found = {u.figure for u in unsure_figures(replace(state, tension_n=scaled), Tier("sound", 9, 9, 9, 100), 0.2)}
            self.assertEqual("mean_tension" in found, unsure, share)


class Broken(unittest.TestCase):
    def test_a_broken_spoke_counts_in_no_mean_and_no_evenness(self) -> None:
        wheel = WHEEL_KINDS[FRONT].wheel
        tension = [1000.0] * 32
        tension[wheel.index_of["R5"]] = 0.0
        with_it = side_evenness(wheel, tension, Side.RIGHT, 20)
        without = side_evenness(wheel, tension, Side.RIGHT, 20, {"R5"})
        self.assertAlmostEqual(with_it.mean_n, 937.5)
        self.assertEqual((without.mean_n, without.sd_n, without.outside, without.count), (1000.0, 0.0, (), 15))
        nothing = side_evenness(wheel, tension, Side.RIGHT, 20, {f"R{k}" for k in range(1, 17)})
        self.assertEqual((nothing.count, nothing.mean_n, nothing.spread_percent), (0, 0.0, 0.0))

    def test_figures_and_headline_leave_it_out_and_say_so(self) -> None:
        whole, _ = even_wheel(FRONT, 4)
        slack = [r if r.spoke != "R5" else TensionReading("R5", 0.0, 10.0) for r in whole.tension]
        state = estimate_state(influence(FRONT), replace(whole, tension=slack))
        marked = replace(state, broken=frozenset({"R5"}))
        self.assertGreater(figures_of(state).worst_spread_percent, 50)
        self.assertLess(figures_of(marked).worst_spread_percent, 50)
        self.assertGreater(figures_of(marked).right_mean_n, figures_of(state).right_mean_n + 30)
        self.assertIn("R5 carries nothing", headline(marked, SOUND))
        self.assertNotIn("R5 is", headline(marked, SOUND))

    def test_an_all_slack_wheel_has_one_sentence_that_makes_sense(self) -> None:
        wheel = WHEEL_KINDS[FRONT].wheel
        readings = Readings(
            [TensionReading(str(n), 20.0) for n in wheel.names], [RunoutReading(float(a), 0.0) for a in wheel.angles_deg]
        )
        said = headline(estimate_state(influence(FRONT), readings), SOUND)
        self.assertTrue(said.startswith("All slack"), said)
        self.assertNotIn("%", said)
