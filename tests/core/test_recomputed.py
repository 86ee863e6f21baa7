"""Figures and verdicts recomputed by other means: simulation, geometry in space, sums of slices, definitions."""

from __future__ import annotations

import json
import math
import unittest
from dataclasses import replace
from datetime import date
from pathlib import Path

import numpy as np
from scipy.optimize import brentq

from felloe.core.components import Flange, Hub, ImpossibleGeometry, Rim, SideLacing, Spoke, Wheel
from felloe.core.diagnosis.breakage import Break, pattern_of
from felloe.core.errors import BadReading, BadRecord, BadTable
from felloe.core.record import read_record
from felloe.core.runout.traces import turn_trace
from felloe.core.spokes.measuring import Rods, diameter_of_chord_mm, erd_by_rods, pitch_circle
from felloe.core.spokes.old_spokes import thread_in_nipple
from felloe.core.spokes.suspicions import suspicions
from felloe.core.stock.ordering import minimum_by_use
from felloe.core.stock.parts import ATTRIBUTES
from felloe.core.stock.substitutes import Stocked, Wanted, offers
from felloe.core.tension.meter import MeterTable
from felloe.core.truing.tiers import Tier
from felloe.core.wheel_kinds import WHEEL_KINDS

EXAMPLE = Path(__file__).resolve().parents[2] / "docs" / "formats" / "examples" / "rear-32-full.json"
WHEEL = WHEEL_KINDS["rim-brake-rear-36"].wheel


class Nipples(unittest.TestCase):
    def test_nothing_that_goes_in_is_never_where_it_belongs(self) -> None:
        self.assertIn("Nothing went in", thread_in_nipple(0).why)
        self.assertIn("into the slot", thread_in_nipple(0.5).why)
        self.assertIn("where it belongs", thread_in_nipple(1.5).why)

    def test_half_a_millimetre_is_a_longer_spoke(self) -> None:
        # Slot 1 mm deep: 5.5 mm of thread in means 4.5 mm missing.
        for depth_mm, longer in ((5.5, "5 mm longer"), (6.5, "6 mm longer"), (6.4, "5 mm longer")):
            with self.subTest(depth_mm=depth_mm):
                self.assertIn(longer, thread_in_nipple(depth_mm).why)


class Substitutes(unittest.TestCase):
    def test_another_wire_grows_by_its_own_stretch(self) -> None:
        plain, thin = Spoke(2.0), Spoke(2.0, middle_diameter_mm=1.5)
        tension_n, needed_mm = 1000.0, 290.0

        def grown_mm(wire: Spoke) -> float:
            # By slices of a tenth of a millimetre, thick within its end length of either end; steel of 200 GPa (EN 1993-1-4).
            places = np.arange(0.05, needed_mm, 0.1)
            thick = (places < wire.end_length_mm) | (places > needed_mm - wire.end_length_mm)
            middle = wire.middle_diameter_mm or wire.end_diameter_mm
            area = np.pi / 4 * np.where(thick, wire.end_diameter_mm, middle) ** 2
            return float(np.sum(tension_n * 0.1 / (wire.elastic.youngs_modulus_mpa * area)))

        wanted = Wanted(needed_mm, grown_mm(plain), plain, 18, sd_mm=0.3)
        attributes = {"length_mm": 289.0, "end_diameter_mm": 2.0, "middle_diameter_mm": 1.5}
        (found,) = offers(wanted, [Stocked("thin", "Thin 289", attributes, 40)], can_cut=False)
        self.assertAlmostEqual(found.fit.end_mm, 289.0 + grown_mm(thin) - needed_mm, 2)
        self.assertGreater(grown_mm(thin) - grown_mm(plain), 0.2)


class Turns(unittest.TestCase):
    def test_half_a_turn_is_no_whole_one(self) -> None:
        half = list(np.linspace(0, 180, 120))
        with self.assertRaises(BadReading) as found:
            turn_trace(half, [0.1] * 120)
        self.assertIn("all the way round", found.exception.message)
        with self.assertRaises(BadReading):
            turn_trace([a % 360 for a in np.linspace(200, 440, 120)], [0.1] * 120)
        self.assertGreater(len(turn_trace(list(np.linspace(0, 359, 120)), [0.1] * 120).points), 60)


class Stock(unittest.TestCase):
    def test_the_minimum_keeps_what_it_promises(self) -> None:
        """Simulated lead times: takes as a Poisson process, sizes as seen. None runs out oftener than one in twenty."""
        rng = np.random.default_rng(5)
        for taken, days, lead in (([1, 1, 2, 36, 36], 90, 10), ([18] * 6, 60, 7), ([1] * 40, 90, 14), ([32, 1, 1, 1], 90, 21)):
            with self.subTest(taken=taken[:5]):
                kept = minimum_by_use(taken, days, lead)
                takes = rng.poisson(len(taken) * lead / days, 40_000)
                used = np.array([rng.choice(taken, n).sum() for n in takes])
                self.assertGreaterEqual(float(np.mean(used <= kept)), 0.945)
                # And no more than it takes: one less of the smallest size would not do.
                self.assertLess(float(np.mean(used <= kept - 1)), 0.955)

    def test_every_attribute_of_every_part_has_its_label(self) -> None:
        for kind, attributes in ATTRIBUTES.items():
            for attribute in attributes:
                self.assertTrue(attribute.label, (kind, attribute.name))

    def test_nothing_used_needs_nothing(self) -> None:
        self.assertEqual(minimum_by_use([], 90, 10), 0)
        self.assertEqual(minimum_by_use([0, -2], 90, 10), 0)


class Breaks(unittest.TestCase):
    def test_two_breaks_are_not_called_one(self) -> None:
        far = [Break("R1", "elbow", date(2024, 1, 5)), Break("L9", "elbow", date(2026, 3, 5))]
        pattern = pattern_of(WHEEL, True, far)
        assert pattern is not None
        self.assertNotIn("One break", " ".join(pattern.reasons))
        self.assertIn("2 breaks", " ".join(pattern.reasons))

    def test_an_even_wheel_has_no_looser_side(self) -> None:
        even = Wheel(Rim(600), Hub(100, Flange(45, 30), Flange(45, 30)), SideLacing(16, 3), SideLacing(16, 3))
        pattern = pattern_of(even, False, [Break("L3", "elbow", date(2026, 3, 5))])
        assert pattern is not None
        self.assertNotIn("looser", " ".join(s.why for s in pattern.suspects))


class Dimensions(unittest.TestCase):
    def test_rods_in_holes_that_do_not_face_each_other(self) -> None:
        """The chord of two points on a circle, turned back by bisection: how far an error along the rods carries."""
        for count, apart in ((36, 18), (36, 12), (33, 16), (24, 5)):
            with self.subTest(count=count, apart=apart):

                def chord(diameter: float, count: int = count, apart: int = apart) -> float:
                    turn = 2 * math.pi * apart / count
                    x, y = diameter / 2 * math.cos(turn), diameter / 2 * math.sin(turn)
                    return math.hypot(diameter / 2 - x, y)

                across = chord(600.0)
                moved = brentq(lambda d, wanted=across + 0.01: chord(d) - wanted, 400, 900) - 600.0
                facing = erd_by_rods([Rods(300, 290, 10.0)], count if count % 2 == 0 else 36)
                found = erd_by_rods([Rods(across / 2, across / 2, 0.0)], count, apart)
                self.assertAlmostEqual(found.value_mm, 600.0, 3)
                self.assertAlmostEqual(found.sd_mm / facing.sd_mm, moved / 0.01, 2)
                self.assertAlmostEqual(diameter_of_chord_mm(across, count, apart), 600.0, 3)

    def test_two_ways_that_disagree_are_known_no_better_than_that(self) -> None:
        # Inner edges 42.4 + 2.6 = 45.0, outer 49.0 - 2.6 = 46.4: 1.4 mm apart.
        self.assertGreaterEqual(pitch_circle(42.4, 49.0, 2.6).sd_mm, 0.69)
        self.assertLess(pitch_circle(42.4, 47.6, 2.6).sd_mm, 0.3)


class Refusals(unittest.TestCase):
    def test_tables_and_tiers_take_no_nonsense(self) -> None:
        good = ("round 2.0", (1.0, 2.0, 3.0), (100.0, 200.0, 300.0))
        for bad in ({"resolution": math.nan}, {"residual_n": math.nan}, {"resolution": math.inf}):
            with self.subTest(bad), self.assertRaises(BadTable):
                MeterTable(*good, **bad)
        for field in ("lateral_mm", "radial_mm", "dish_mm", "tension_percent"):
            for value in (math.nan, -0.5, 0.0, math.inf):
                with self.subTest(field=field, value=value), self.assertRaises(ImpossibleGeometry):
                    replace(Tier("own", 0.5, 0.5, 0.5, 20), **{field: value})

    def test_a_record_of_figures_beyond_sense_is_refused_at_their_place(self) -> None:
        plain = json.loads(EXAMPLE.read_text(encoding="utf-8"))
        read_record(json.dumps(plain).encode())
        for value in (10**400, -(10**400)):
            broken = json.loads(json.dumps(plain))
            broken["wheel"]["rim"]["erd_mm"] = value
            with self.subTest(value=str(value)[:5]), self.assertRaises(BadRecord) as found:
                read_record(json.dumps(broken).encode())
            self.assertTrue(found.exception.field.endswith("rim.erd_mm"))
        broken = json.loads(json.dumps(plain))
        first = next(s for s in broken["reading_sets"] if s.get("lateral"))
        first["lateral"][0]["sd_mm"] = 1e-9
        with self.assertRaises(BadRecord) as found:
            read_record(json.dumps(broken).encode())
        self.assertTrue(found.exception.field.endswith("sd_mm"))


class Limits(unittest.TestCase):
    def test_a_rim_s_default_follows_its_material_and_its_maker(self) -> None:
        alloy, carbon = Rim(600), Rim(600, material="carbon")
        self.assertEqual((alloy.tension_target_n, alloy.tension_cap_n), (1000, 1200))
        self.assertLess(carbon.tension_cap_n, alloy.tension_cap_n)
        self.assertTrue(carbon.tension_is_default)
        # A maker who asks for 500 N does not allow 1200.
        self.assertAlmostEqual(Rim(600, target_n=500).tension_cap_n, 575)
        self.assertAlmostEqual(Rim(600, target_n=1300).tension_cap_n, 1495)
        self.assertEqual(Rim(600, target_n=500, cap_n=900).tension_cap_n, 900)

    def test_a_side_that_stays_slack_is_advised_on(self) -> None:
        dished = Wheel(Rim(600), Hub(130, Flange(45, 16), Flange(45, 40)), SideLacing(16, 3), SideLacing(16, 3))
        said = " ".join(s.why for s in suspicions(dished))
        self.assertIn("nipples unwind", said)
        self.assertIn("left", said)
        even = Wheel(Rim(600), Hub(100, Flange(45, 30), Flange(45, 30)), SideLacing(16, 3), SideLacing(16, 3))
        self.assertNotIn("unwind", " ".join(s.why for s in suspicions(even)))
