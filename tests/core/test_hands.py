"""Twist of spokes with their nipples, and hands that reckon with it."""

import unittest

import numpy as np

from felloe.core.components import Spoke
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.hands import Hand, settled, turn_nipples, worked
from felloe.core.spokes.twist import thread_torque_nmm, torsion_constant_mm4, twist_turns
from tests.core.wheels import ALL, REAR


class Screw(unittest.TestCase):
    def test_worked_example_of_a_square_thread(self) -> None:
        """Shigley, *Mechanical Engineering Design*, the chapter on power screws, first example (figures from memory): a
        square double thread, mean diameter 30 mm, lead 8 mm, friction 0.08, 6.4 kN: 15.94 N·m to raise, −0.466 to lower."""
        self.assertAlmostEqual(thread_torque_nmm(6400, 8, 30, True, 0.08, 0.0) / 1000, 15.94, places=2)
        self.assertEqual(thread_torque_nmm(6400, 8, 30, False, 0.08, 0.0), 0.0)

    def test_torsion_of_round_and_flat(self) -> None:
        """Roark: π d⁴/32; a square section has 0.1406 a⁴, a thin strip a third of w t³."""
        ends, middle = torsion_constant_mm4(Spoke(2.0, middle_diameter_mm=1.5))
        self.assertAlmostEqual(ends, np.pi / 2)
        self.assertAlmostEqual(middle / ends, 0.75**4)
        _, square = torsion_constant_mm4(Spoke(2.0, blade_thickness_mm=1.5, blade_width_mm=1.5))
        self.assertAlmostEqual(square, 0.1406 * 1.5**4, delta=0.002 * 1.5**4)
        _, strip = torsion_constant_mm4(Spoke(2.0, blade_thickness_mm=0.5, blade_width_mm=8))
        self.assertAlmostEqual(strip / (8 * 0.5**3 / 3), 0.96, delta=0.01)

    def test_twist_by_hand(self) -> None:
        """A plain 2.0 spoke of 200 mm: φ = M L/(G J), worked by hand for 200 GPa and Poisson 0.3."""
        torque = thread_torque_nmm(1000, 25.4 / 56, 2.0, True, 0.15)
        expected = torque * 200 / (200_000 / 2.6 * np.pi / 2) / (2 * np.pi)
        self.assertAlmostEqual(twist_turns(Spoke(2.0), 200, 25.4 / 56, 1000, True), expected)

    def test_thinner_tighter_and_longer_twist_further_and_easing_less(self) -> None:
        pitch = 25.4 / 56
        plain = twist_turns(Spoke(2.0), 270, pitch, 1000, True)
        self.assertGreater(twist_turns(Spoke(2.0, middle_diameter_mm=1.5), 270, pitch, 1000, True), plain)
        self.assertGreater(twist_turns(Spoke(2.0), 270, pitch, 1200, True), plain)
        self.assertGreater(twist_turns(Spoke(2.0), 300, pitch, 1000, True), plain)
        self.assertLess(twist_turns(Spoke(2.0), 270, pitch, 1000, False), plain)
        self.assertEqual(twist_turns(Spoke(2.0), 270, pitch, 0, True), 0)


class OnTheWheel(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = np.random.default_rng(4)
        self.virtual = used_wheel(REAR, self.rng, 0.25)
        self.oiled = np.full(36, 0.15)

    def test_a_small_turn_only_twists_and_settling_lets_it_through(self) -> None:
        turned = turn_nipples(self.virtual, np.full(36, 1 / 64), self.oiled)
        np.testing.assert_allclose(turned.turns, self.virtual.turns, atol=1e-12)
        np.testing.assert_allclose(turned.twist_turns, 1 / 64)
        free = settled(turned)
        np.testing.assert_allclose(free.turns, self.virtual.turns + 1 / 64)
        np.testing.assert_allclose(free.twist_turns, 0)

    def test_going_past_and_back_leaves_no_twist(self) -> None:
        """With the friction as reckoned with, the thread moves by just what was asked, and nothing is left to settle."""
        asked = self.rng.choice([-0.25, 0.0, 0.25, 0.5], 36)
        after = worked(self.virtual, asked, Hand(self.oiled, miss=0.0, settles=0.0), self.rng)
        # Easing under way changes the tension, and with it the twist, a little.
        np.testing.assert_allclose(after.turns - self.virtual.turns, asked, atol=0.03)
        np.testing.assert_allclose(after.twist_turns, 0, atol=0.03)
        careless = worked(self.virtual, asked, Hand(self.oiled, miss=0.0, goes_past=False, settles=0.0), self.rng)
        lost = np.abs(careless.turns - self.virtual.turns - asked)
        self.assertGreater(lost[asked > 0].min(), 0.01)
        self.assertGreater(lost.max(), 0.05)

    def test_what_is_not_turned_keeps_its_twist(self) -> None:
        first = turn_nipples(self.virtual, np.full(36, 0.5), self.oiled)
        only = np.zeros(36)
        only[3] = -0.5
        again = turn_nipples(first, only, self.oiled)
        np.testing.assert_allclose(np.delete(again.twist_turns, 3), np.delete(first.twist_turns, 3))
        self.assertLess(again.twist_turns[3], 0)

    def test_a_held_blade_hardly_twists(self) -> None:
        virtual = used_wheel(ALL["bladed-front-20"], self.rng, 0.1)
        turned = turn_nipples(virtual, np.full(20, 0.5), np.full(20, 0.15))
        self.assertLess(turned.twist_turns.max(), 0.05)

    def test_hands_drawn_from_one_seed_are_the_same(self) -> None:
        one, two = (Hand.drawn(self.virtual, np.random.default_rng(9)) for _ in range(2))
        np.testing.assert_array_equal(one.friction, two.friction)
        self.assertTrue(np.all((one.friction > 0.05) & (one.friction < 0.3)))
