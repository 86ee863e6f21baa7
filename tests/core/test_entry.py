"""What is entered at the bench, in the units that are kept; the figures against definitions, not against the code."""

from __future__ import annotations

import unittest

from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.measuring.entry import deviation_entered, dish_entered, spoke_on, tension_entered
from felloe.core.tension.meter import MeterTable
from felloe.core.wheel_kinds import WHEEL_KINDS

WHEEL = WHEEL_KINDS["rim-brake-rear-36"].wheel


class Entering(unittest.TestCase):
    def test_forces_in_every_unit(self) -> None:
        # Standard gravity 9.80665 m/s² and the pound 0.45359237 kg are exact by definition (3rd CGPM 1901; 1959 agreement).
        for value, unit, newton in ((1000, "N", 1000), (100, "kgf", 980.665), (200, "lbf", 200 * 0.45359237 * 9.80665)):
            with self.subTest(unit=unit):
                self.assertAlmostEqual(tension_entered(WHEEL, "R1", {"value": value, "unit": unit}, None)[0], newton, 6)

    def test_a_meter_s_unit_goes_through_its_table(self) -> None:
        table = MeterTable(WHEEL.right.spoke.kind, (10.0, 20.0, 30.0), (500.0, 1000.0, 1500.0), 0.5, 5.0)
        tension, sd = tension_entered(WHEEL, "R1", {"value": 20, "unit": "meter"}, table)
        self.assertAlmostEqual(tension, 1000, 6)
        self.assertGreater(sd, 5)

    def test_a_pitch_set_by_a_meter_counts_that_factor(self) -> None:
        plain = tension_entered(WHEEL, "R1", {"value": 300, "unit": "Hz"}, None)
        scaled = tension_entered(WHEEL, "R1", {"value": 300, "unit": "Hz", "pitch_factor": 1.25}, None)
        self.assertAlmostEqual(scaled[0], 1.25 * plain[0])
        self.assertLess(scaled[1], plain[1])

    def test_deviations(self) -> None:
        self.assertEqual(deviation_entered({"value": 0.5})[0], 0.5)
        # The inch is 25.4 mm by definition (1959 agreement).
        self.assertAlmostEqual(deviation_entered({"value": 0.02, "unit": "in"})[0], 0.508)

    def test_dish_three_ways(self) -> None:
        # A gap is twice the dish, since the gauge is turned over between its two readings (its geometry).
        self.assertAlmostEqual(abs(dish_entered({"gap_mm": 3.0, "gap_side": "R"}, 0).dish_mm), 1.5)
        flipped = {"method": "flip", "clearance_right_way_mm": 2.0, "clearance_flipped_mm": 5.0}
        self.assertAlmostEqual(abs(dish_entered(flipped, 0).dish_mm), 1.5)
        aside = {"method": "stand", "offset_mm": 1.5, "side": "R"}
        self.assertAlmostEqual(abs(dish_entered(aside, 0).dish_mm), 1.5)

    def test_what_is_missing_is_said_at_its_field(self) -> None:
        for entered, field in (
            ({}, "gap_mm"),
            ({"gap_mm": 1.0}, "gap_side"),
            ({"method": "flip", "clearance_right_way_mm": 1.0}, "clearance_flipped_mm"),
            ({"method": "stand", "side": "R"}, "offset_mm"),
        ):
            with self.subTest(field), self.assertRaises(BadReading) as found:
                dish_entered(entered, 0)
            self.assertEqual(found.exception.field, field)
        with self.assertRaises(BadReading) as found:
            tension_entered(WHEEL, "R1", {"unit": "N"}, None)
        self.assertEqual(found.exception.field, "value")

    def test_a_spoke_that_is_not_there(self) -> None:
        self.assertEqual(spoke_on(WHEEL, "r3"), "R3")
        with self.assertRaises(UnknownSpoke):
            spoke_on(WHEEL, "R19")
