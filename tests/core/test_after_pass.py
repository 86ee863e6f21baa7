"""What a pass did beside what was foreseen, and where a rim is bent of itself."""

import unittest

import numpy as np

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.learning import learn
from felloe.core.mechanics.readings import Readings
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.after_pass import compare_pass
from felloe.core.truing.curve import own_bend, to_customer, verdict
from felloe.core.truing.plan import make_plan
from felloe.core.truing.prediction import predict
from felloe.core.truing.tiers import SOUND
from tests.core.wheels import ALL, REAR, influence, read_fully


class Compared(unittest.TestCase):
    def setUp(self) -> None:
        self.rng = np.random.default_rng(12)
        self.virtual = used_wheel(REAR, self.rng, 0.3)
        self.before = read_fully(self.virtual, self.rng)
        self.state = estimate_state(influence(REAR), self.before)
        self.turns = make_plan(self.state).turns

    def after(self, virtual: VirtualWheel):
        readings = read_fully(virtual, self.rng)
        learnt = learn(REAR, self.before, readings, self.turns)
        state = estimate_state(influence(REAR), readings)
        return compare_pass(predict(self.state, self.turns), state, readings, learnt)

    def test_a_pass_that_was_made_is_as_foreseen(self) -> None:
        found = self.after(self.virtual.turned(self.turns))
        self.assertTrue(found.as_foreseen)
        self.assertIn("did what was foreseen", found.said)

    def test_a_pass_that_was_not_made_is_not_and_a_nipple_that_slipped_is_named(self) -> None:
        found = self.after(self.virtual)
        self.assertFalse(found.as_foreseen)
        worst = int(np.argmax(np.abs(self.turns)))
        slipped = self.turns.copy()
        slipped[worst] = 0.0
        self.assertIn(f"{REAR.names[worst]} did", self.after(self.virtual.turned(slipped)).said)

    def test_nothing_read_says_so(self) -> None:
        found = compare_pass(predict(self.state, self.turns), self.state, Readings(), None)
        self.assertIsNone(found.tension_rms_n)
        self.assertEqual(found.said, "Nothing measured since the pass.")


class OwnBend(unittest.TestCase):
    def test_the_dent_lies_in_the_stretch_that_is_named(self) -> None:
        """Over kinds, places and ways: the hole nearest to the dent is among the named ones."""
        for seed, key in enumerate(("rim-brake-rear-36", "disc-rear-32", "disc-front-28", "bladed-rear-24")):
            wheel, rng = ALL[key], np.random.default_rng(seed)
            angle = float(rng.uniform(0, 360))
            sideways, inward = ((3.0, 0.0), (0.0, 3.0))[seed % 2]
            virtual = used_wheel(wheel, rng, 0.2).dented(angle, 12, inward, sideways)
            state = estimate_state(influence(wheel), read_fully(virtual, rng))
            found = own_bend(state, SOUND)
            nearest = round(angle / 360 * wheel.spoke_count - 0.5) % wheel.spoke_count
            with self.subTest(key):
                self.assertIsNotNone(found)
                near = {str(wheel.names[(nearest + i) % wheel.spoke_count]) for i in (-1, 0, 1)}
                self.assertTrue(near & set(found.spokes), f"{found.spokes} for {near}")
                self.assertLess(len(found.spokes), wheel.spoke_count / 3)
                self.assertIn("right" if sideways else "inward", found.why)

    def test_a_sound_rim_has_none_and_the_customer_hears_it(self) -> None:
        rng = np.random.default_rng(2)
        state = estimate_state(influence(REAR), read_fully(VirtualWheel.ideal(REAR).turned(rng.normal(0, 0.2, 36)), rng))
        self.assertIsNone(own_bend(state, SOUND))
        self.assertIn("can be trued", to_customer(verdict(state, SOUND, np.random.default_rng(1)), []))
        bent = used_wheel(REAR, rng, 0.2).dented(100, 12, 0.0, 6.0)
        state = estimate_state(influence(REAR), read_fully(bent, rng))
        self.assertIn("new rim", to_customer(verdict(state, SOUND, np.random.default_rng(1), draws=2), [("R5", "L5")]))
