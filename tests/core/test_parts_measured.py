"""Measuring parts, lengths in their nipples, old spokes, the kit."""

import math
import unittest
from dataclasses import replace

from felloe.core.components import THREAD_PITCH_MM, Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.errors import ImpossibleGeometry, TradeError
from felloe.core.lacing.crossings import crossing_limit, crossings_table
from felloe.core.naming import Side
from felloe.core.spokes.fit import WINDOW_MM, BadLength, candidates, fit, rounded_mm
from felloe.core.spokes.kit import Kit, KitSpoke, check_kit, spares
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.spokes.measuring import (
    BadMeasure,
    Rods,
    bed_offset,
    erd_by_rods,
    erd_from_inside,
    locknut_to_flange,
    pitch_circle,
)
from felloe.core.spokes.nipple import Nipple
from felloe.core.spokes.old_spokes import check_old_length, read_old_spokes, thread_in_nipple
from felloe.core.spokes.suspicions import suspicions
from felloe.core.spokes.swap import swap
from felloe.core.spokes.uncertainty import checked_sds, known_length
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.core.wheels import REAR


class Rims(unittest.TestCase):
    def test_worked_example_of_two_rods(self) -> None:
        """Common practice, no source: two 185 mm spokes and a gap of 21.3 mm make 391.3 mm."""
        self.assertAlmostEqual(erd_by_rods([Rods(185, 185, 21.3)], 20).value_mm, 391.3)

    def test_more_diameters_are_surer_and_a_spread_is_doubted(self) -> None:
        one = erd_by_rods([Rods(290, 290, 20)], 36)
        three = erd_by_rods([Rods(290, 290, 20), Rods(290, 290, 20.2), Rods(290, 290, 19.9)], 36)
        self.assertLess(three.sd_mm, one.sd_mm)
        self.assertTrue(one.doubts)
        self.assertEqual(three.doubts, ())
        oval = erd_by_rods([Rods(290, 290, 20), Rods(290, 290, 21.2)], 36)
        self.assertAlmostEqual(oval.spread_mm, 1.2)
        self.assertIn("differ by 1.2 mm", oval.doubts[0])
        self.assertGreater(oval.sd_mm, three.sd_mm)

    def test_holes_that_are_not_opposite_and_stagger(self) -> None:
        wide = erd_by_rods([Rods(290, 290, 20)], 36, 17)
        self.assertGreater(wide.value_mm, 600)
        staggered = erd_by_rods([Rods(290, 290, 20)], 18, 9, stagger_mm=5)
        self.assertAlmostEqual(staggered.value_mm, (600**2 - 10**2) ** 0.5)
        with self.assertRaises(BadMeasure):
            erd_by_rods([Rods(290, 290, 20)], 36, 36)
        with self.assertRaises(BadMeasure):
            erd_by_rods([], 36)
        with self.assertRaises(ImpossibleGeometry):
            erd_by_rods([Rods(390, 390, 200)], 36)

    def test_inside_measure(self) -> None:
        self.assertAlmostEqual(erd_from_inside(590, 2.5, 2.0).value_mm, 599)

    def test_worked_example_of_the_bed(self) -> None:
        """Common practice, no source: 11.05 and 8.75 mm to the edges make 1.15 mm."""
        self.assertAlmostEqual(bed_offset(11.05, 8.75).value_mm, 1.15)
        self.assertAlmostEqual(bed_offset(8.75, 11.05).value_mm, -1.15)
        with self.assertRaises(BadMeasure):
            bed_offset(40, 10)

    def test_flange_both_ways(self) -> None:
        self.assertAlmostEqual(pitch_circle(42.4, None, 2.6).value_mm, 45)
        both = pitch_circle(42.4, 47.8, 2.6)
        self.assertAlmostEqual(both.value_mm, 45.1)
        self.assertEqual(both.doubts, ())
        self.assertTrue(pitch_circle(42.4, 49, 2.6).doubts)
        self.assertAlmostEqual(locknut_to_flange(27.0, 3.0).value_mm, 28.5)


class Suspicious(unittest.TestCase):
    def test_generic_kinds_raise_none(self) -> None:
        for key, kind in WHEEL_KINDS.items():
            with self.subTest(key):
                self.assertEqual(suspicions(kind.wheel), ())

    def test_each_is_caught_where_it_stands(self) -> None:
        odd = {
            "hub.old_mm": replace(REAR, hub=replace(REAR.hub, old_mm=138)),
            "hub.right.pitch_circle_mm": replace(
                REAR, hub=replace(REAR.hub, right=replace(REAR.hub.right, pitch_circle_mm=22.5))
            ),
            "hub.right.hole_diameter_mm": replace(REAR, right=SideLacing(18, 3, Spoke(2.6))),
            "rim.spoke_bed_offset_mm": replace(REAR, rim=replace(REAR.rim, spoke_bed_offset_mm=2.5)),
            "rim.erd_mm": replace(REAR, rim=replace(REAR.rim, erd_mm=615)),
        }
        for field, wheel in odd.items():
            with self.subTest(field):
                self.assertIn(field, [s.field for s in suspicions(wheel)])


class Lengths(unittest.TestCase):
    def test_a_straight_pull_hub_has_no_elbow(self) -> None:
        drawn = replace(REAR.hub.right, straight_pull_angle_deg=60.0)
        wheel = replace(REAR, hub=replace(REAR.hub, right=drawn))
        elbow = REAR.hub.right.hole_diameter_mm / 2
        self.assertAlmostEqual(spoke_length_mm(wheel, Side.RIGHT), spoke_length_mm(REAR, Side.RIGHT) + elbow)
        self.assertNotIn("hub.right.hole_diameter_mm", dict(known_length(wheel, Side.RIGHT, checked_sds({}, True)).shares))

    def test_sixteen_right_eight_left(self) -> None:
        """Rim holes in pairs 15° apart, an evenly drilled flange: each hole lies 3.75° farther round than 2π·c/m."""
        wheel = WHEEL_KINDS["rear-24-two-to-one"].wheel
        self.assertAlmostEqual(math.degrees(wheel.lead_angle_rad(Side.RIGHT)), 71.25)
        self.assertEqual(wheel.lead_angle_rad(Side.LEFT), 0)

    def test_candidates_and_their_verdicts(self) -> None:
        """The window of common practice: 0 to 1 mm below the slot; the head begins 2 mm below it."""
        said = {f.length_mm: f.verdict for f in candidates(291.13, 0.6, 1.0)}
        expected = {
            288: "head_unsupported", 289: "short", 290: "fits", 291: "in_slot", 292: "thread_runs_out", 293: "thread_runs_out",
        }  # fmt: skip
        self.assertEqual({k: said[k] for k in expected}, expected)
        long_thread = fit(292.5, 291.13, 0.6, thread_length_mm=12)
        self.assertEqual(long_thread.verdict, "proud")
        self.assertIn("1.0 mm proud", long_thread.why)

    def test_rounding_keeps_the_end_in_the_window_on_one_millimetre_steps(self) -> None:
        for tenth in range(40):
            needed = 290 + tenth / 10
            for school in ("nearest", "down"):
                end = fit(rounded_mm(needed, 0.6, 1.0, school), needed, 0.6).end_mm
                self.assertTrue(WINDOW_MM[0] - 1e-6 <= end <= WINDOW_MM[1] + 1e-6, (needed, school, end))
            self.assertLessEqual(fit(rounded_mm(needed, 0.6, 2.0, "down"), needed, 0.6).end_mm, 1e-6)
        for bad in ({"step_mm": 0.7}, {"step_mm": 1.0, "school": "up"}):
            with self.assertRaises(BadLength):
                rounded_mm(290, 0.6, **bad)

    def test_uncertainty_is_refused_where_it_cannot_be(self) -> None:
        with self.assertRaises(BadMeasure) as refused:
            checked_sds({"rim.erd_mm": -1}, True)
        self.assertEqual(refused.exception.field, "rim.erd_mm")
        with self.assertRaises(BadMeasure):
            checked_sds({"rim.colour": 1}, True)
        self.assertGreater(checked_sds({}, False)["rim.erd_mm"], checked_sds({}, True)["rim.erd_mm"])

    def test_crossing_limits(self) -> None:
        """Common practice, no source: a quarter of the spokes of a side, and 4 at most."""
        self.assertEqual([crossing_limit(m) for m in (20, 18, 16, 14, 12, 10, 8)], [4, 4, 4, 3, 3, 2, 2])
        rows = crossings_table(REAR, Side.RIGHT)
        lengths = [row.length_mm for row in rows if row.length_mm is not None]
        self.assertEqual(lengths, sorted(lengths))
        self.assertEqual(
            [row.possible for row in crossings_table(WHEEL_KINDS["small-front-20"].wheel, Side.LEFT)], [True] * 3 + [False] * 2
        )
        self.assertAlmostEqual(rows[3].length_mm or 0, spoke_length_mm(REAR, Side.RIGHT))

    def test_swap_of_rim_and_hub(self) -> None:
        bigger = replace(REAR, rim=replace(REAR.rim, erd_mm=REAR.rim.erd_mm + 0.4))
        self.assertEqual(swap(REAR, bigger).advice, "as_they_are")
        mirrored = Wheel(REAR.rim, Hub(130, REAR.hub.left, REAR.hub.right), REAR.right, REAR.left)
        self.assertEqual(swap(REAR, mirrored).advice, "change_sides")
        other = replace(REAR, rim=Rim(590, 622))
        found = swap(REAR, other)
        self.assertEqual(found.advice, "new")
        self.assertLess(found.sides[0].change_mm, -6)
        short = swap(REAR, bigger, {Side.RIGHT: [290, 286], Side.LEFT: [292, 292]})
        self.assertEqual(short.advice, "one_side")
        self.assertTrue(any("differ by 4 mm" in c for c in short.cautions))


class OldSpokes(unittest.TestCase):
    def test_mixed_and_short_lengths_explain_broken_nipples(self) -> None:
        right, left = read_old_spokes(REAR, {"R1": 290, "R2": 287, "R7": 290, "L3": 293})
        self.assertTrue(right.rebuild)
        self.assertAlmostEqual(right.spread_mm, 3)
        self.assertIn("Rebuild the right side", right.explains[0])
        self.assertIn("R2", right.explains[1])
        self.assertFalse(left.rebuild)
        for bad in ({"R19": 290}, {"R1": 190}):
            with self.assertRaises(BadLength):
                check_old_length(REAR, *next(iter(bad.items())))
        # A wheel that was counted or measured anew since is judged as it stands, and nothing is refused.
        self.assertEqual(read_old_spokes(REAR, {"R19": 290}), ())
        self.assertEqual(read_old_spokes(REAR, {"R1": 240})[0].fits["R1"].verdict, "head_unsupported")

    def test_thread_in_nipple(self) -> None:
        self.assertIn("belongs", thread_in_nipple(1.5).why)
        deep = thread_in_nipple(4.2)
        self.assertAlmostEqual(deep.missing_mm, 3.2)
        self.assertIn("3 mm longer", deep.why)
        with self.assertRaises(ImpossibleGeometry):
            thread_in_nipple(14)


def good_kit() -> Kit:
    right, left = KitSpoke(290, 2.0, THREAD_PITCH_MM, count=20), KitSpoke(292, 2.0, THREAD_PITCH_MM, count=20)
    return Kit({Side.RIGHT: right, Side.LEFT: left}, Nipple(), 40, 4.4, 3.3, measured_one=True)


class TheKit(unittest.TestCase):
    def test_a_good_kit_breaks_no_rule(self) -> None:
        self.assertEqual([r.key for r in check_kit(REAR, good_kit()) if not r.holds], [])

    def test_each_trap_is_caught_by_its_rule(self) -> None:
        kit = good_kit()

        def right(**change: object) -> Kit:
            return replace(kit, spokes={**kit.spokes, Side.RIGHT: replace(kit.spokes[Side.RIGHT], **change)})

        carbon = replace(REAR, rim=replace(REAR.rim, material="carbon"))
        straight = replace(REAR, hub=replace(REAR.hub, right=Flange(45, 17.5, 2.6, 60.0)))
        traps = {
            "thread": [
                (REAR, right(end_diameter_mm=2.3)),
                (REAR, right(pitch_mm=0.47)),
                (REAR, replace(kit, nipple=Nipple(for_thread_mm=1.8))),
            ],
            "length": [(REAR, right(length_mm=287)), (REAR, right(length_mm=294))],
            "flange_hole": [(REAR, right(end_diameter_mm=2.6)), (REAR, right(end_diameter_mm=1.6))],
            "elbow": [(REAR, right(elbow=False)), (straight, kit)],
            "enough": [(REAR, right(count=15)), (REAR, right(count=18))],
            "rim_hole": [(REAR, replace(kit, rim_hole_mm=4.0)), (REAR, replace(kit, rim_hole_mm=5.5))],
            "key": [(REAR, replace(kit, key_mm=3.45)), (REAR, replace(kit, key_mm=3.2))],
            "washers": [(REAR, replace(kit, rim_had_washers=True)), (REAR, replace(kit, washers="old"))],
            "washer_fits": [(REAR, replace(kit, washers="new", washer_count=40, washer_for_mm=mm)) for mm in (3.5, 4.6)],
            "carbon": [(carbon, replace(kit, nipple=Nipple(material="aluminium")))],
            "corrosion": [(REAR, replace(kit, nipple=Nipple(material="aluminium"), wet_or_salt=True))],
            "nipples": [(REAR, replace(kit, nipple_count=33)), (REAR, replace(kit, washers="new", washer_count=30))],
            "measure_one": [(REAR, replace(kit, measured_one=False))],
        }
        for key, cases in traps.items():
            for wheel, bad in cases:
                with self.subTest(key):
                    broken = [r for r in check_kit(wheel, bad) if not r.holds]
                    self.assertIn(key, [r.key for r in broken])
                    self.assertTrue(all(r.reason and r.found for r in broken))

    def test_a_single_spoke_needs_one_and_a_spare(self) -> None:
        kit = replace(good_kit(), places={Side.RIGHT: 1, Side.LEFT: 0}, nipple_count=1)
        self.assertEqual([r.key for r in check_kit(REAR, kit) if not r.holds], [])
        self.assertEqual([spares(n) for n in (0, 1, 7, 8, 18)], [0, 1, 1, 2, 2])
        self.assertNotIn(Side.LEFT, [r.side for r in check_kit(REAR, kit)])


class Bounds(unittest.TestCase):
    def test_bad_input_names_its_field(self) -> None:
        bad = {
            "first_mm": lambda: Rods(10, 185, 20),
            "key_mm": lambda: replace(good_kit(), key_mm=30),
            "material": lambda: Nipple(material="cheese"),
            "hole_mm": lambda: pitch_circle(40, None, 9),
        }
        for field, make in bad.items():
            with self.subTest(field), self.assertRaises(TradeError) as refused:
                make()
            self.assertEqual(refused.exception.field, field)
