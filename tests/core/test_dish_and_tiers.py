"""Dish without sign errors, tiers, sign-off."""

import unittest

import numpy as np

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.runout.dish import dish_from_flipping, dish_from_gauge
from felloe.core.runout.figures import total_indicator_reading_mm
from felloe.core.truing.headline import headline
from felloe.core.truing.sign_off import check_sign_off
from felloe.core.truing.tiers import FINE, RACE, ROADWORTHY, SOUND, TIERS, check_against, roadworthy_runout_mm
from tests.core.wheels import REAR, SYMMETRIC, influence, read_fully


class DishRules(unittest.TestCase):
    def test_rim_sits_half_the_gap_toward_the_gap(self) -> None:
        self.assertAlmostEqual(dish_from_gauge(1.0, Side.LEFT).dish_mm, -0.5)
        self.assertAlmostEqual(dish_from_gauge(1.0, Side.RIGHT).dish_mm, 0.5)

    def test_an_overlap_is_a_negative_gap(self) -> None:
        self.assertAlmostEqual(dish_from_gauge(-1.0, Side.LEFT).dish_mm, dish_from_gauge(1.0, Side.RIGHT).dish_mm)

    def test_gauge_by_construction(self) -> None:
        """Put a rim at a known place, hold the gauge as people do, and get the place back, its sign included."""
        half_width = 65.0
        for place in (-1.3, 0.0, 0.8):
            # On the right the pointer is set to the locknut: so far it stands out from the rim's plane.
            pointer = half_width - place
            # On the left the locknut stands half_width + place out from that plane.
            gap_on_left = pointer - (half_width + place)
            with self.subTest(place):
                self.assertAlmostEqual(dish_from_gauge(gap_on_left, Side.LEFT).dish_mm, place)

    def test_flipping(self) -> None:
        # A rim 0.7 right of the middle stands 0.7 nearer a pointer on the right, and 0.7 farther when flipped.
        self.assertAlmostEqual(dish_from_flipping(4 - 0.7, 4 + 0.7).dish_mm, 0.7)

    def test_impossible_values(self) -> None:
        for bad in (float("nan"), 400.0):
            with self.assertRaises(BadReading):
                dish_from_gauge(bad, Side.LEFT)
            with self.assertRaises(BadReading):
                dish_from_flipping(bad, 1.0)


class TierRules(unittest.TestCase):
    def test_figures_of_the_trade(self) -> None:
        """Common practice, no source."""
        self.assertEqual((ROADWORTHY.lateral_mm, ROADWORTHY.tension_percent), (1.0, 25))
        self.assertEqual((SOUND.lateral_mm, SOUND.tension_percent), (0.5, 20))
        self.assertEqual((FINE.lateral_mm, FINE.tension_percent), (0.3, 15))
        self.assertEqual((RACE.lateral_mm, RACE.tension_percent), (0.2, 10))
        self.assertEqual(list(TIERS), ["roadworthy", "sound", "fine", "race"])

    def test_iso_4210_runout(self) -> None:
        """ISO 4210-2, from memory: 1 mm with rim brakes, 2 mm otherwise."""
        self.assertEqual(roadworthy_runout_mm(rim_brake=True), 1.0)
        self.assertEqual(roadworthy_runout_mm(rim_brake=False), 2.0)

    def test_limits_are_met_when_touched(self) -> None:
        self.assertTrue(all(c.met for c in check_against(SOUND, 0.5, 0.5, -0.5, 20)))
        self.assertEqual(
            [c.figure for c in check_against(SOUND, 0.51, 0.5, 0.6, 21) if not c.met], ["lateral", "dish", "tension"]
        )

    def test_tir(self) -> None:
        self.assertAlmostEqual(total_indicator_reading_mm([0.2, -0.3, 0.1]), 0.5)


class SignOff(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(3)
        self.bad = read_fully(used_wheel(SYMMETRIC, rng, 0.6), rng)
        self.bad_state = estimate_state(influence(SYMMETRIC), self.bad)

    def test_a_wheel_far_out_needs_a_reason_and_is_not_roadworthy(self) -> None:
        check = check_sign_off(SOUND, None, self.bad_state, self.bad, rim_brake=True, as_left_read=True)
        self.assertTrue(check.needs_reason)
        self.assertIn("lateral", check.short_of)
        self.assertFalse(check.roadworthy)

    def test_what_was_not_measured_is_named(self) -> None:
        few = Readings(self.bad.tension[:3], self.bad.lateral, [], [])
        check = check_sign_off(SOUND, None, estimate_state(influence(SYMMETRIC), few), few, rim_brake=True, as_left_read=True)
        self.assertEqual(set(check.not_measured), {"tension", "radial", "dish"})

    def test_a_perfect_wheel_needs_none(self) -> None:
        angles = SYMMETRIC.angles_deg
        flat = [RunoutReading(a, 1.0, 0.02) for a in angles]
        readings = Readings([TensionReading(str(n), 1000) for n in SYMMETRIC.names], flat, flat, [DishReading(0.0)])
        state = estimate_state(influence(SYMMETRIC), readings)
        check = check_sign_off(FINE, None, state, readings, rim_brake=True, as_left_read=True)
        self.assertFalse(check.needs_reason)
        self.assertEqual(headline(state, FINE), "Inside fine: straight, round, centred and even.")

    def test_headline_names_the_slack_spoke(self) -> None:
        tension = [
            TensionReading(str(n), 300.0 if str(n) == "R6" else (1000.0 if n.side is Side.RIGHT else 482.0)) for n in REAR.names
        ]
        state = estimate_state(influence(REAR), Readings(tension=tension))
        text = headline(state, SOUND)
        self.assertRegex(text, "R6 is [0-9]+ % too slack for its side")
        self.assertTrue(text[0].isupper() and text.endswith("."))
