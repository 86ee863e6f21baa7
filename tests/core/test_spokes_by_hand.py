"""Spokes in their nipples, kits, measures and old spokes, worked out by hand. What the core calls common practice has
no source."""

from __future__ import annotations

import math
import unittest
from dataclasses import replace

from scipy.stats import norm

from felloe.core.components import Wheel
from felloe.core.errors import ImpossibleGeometry, TradeError
from felloe.core.naming import Side
from felloe.core.spokes.fit import BadLength, candidates, fit, mixed, rounded_mm
from felloe.core.spokes.kit import Kit, KitSpoke, Rule, check_kit, spares
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.measuring import (
    BadMeasure,
    Rods,
    bed_offset,
    diameter_of_chord_mm,
    erd_by_rods,
    erd_from_inside,
    locknut_to_flange,
    pitch_circle,
)
from felloe.core.spokes.nipple import Nipple
from felloe.core.spokes.old_spokes import check_old_length, read_old_spokes, thread_in_nipple
from felloe.core.spokes.swap import swap
from felloe.core.spokes.uncertainty import KnownLength, checked_sds, known_length, with_old_spokes
from felloe.core.tension.statics import side_targets_n
from tests.core.wheels import ALL, DISC_FRONT, REAR

BOTH = (Side.RIGHT, Side.LEFT)


class InTheNipple(unittest.TestCase):
    """A usual nipple: 12 mm, head 3 mm, slot 1 mm, 8.5 mm threaded below it; a spoke's thread is 9.5 mm. So the thread runs out
    and the end stands proud beyond +1.0; the window is −1 to 0, the head's base at −2."""

    def test_verdicts_at_their_borders(self) -> None:
        for end, verdict in (
            (1.01, "thread_runs_out"), (1.0, "in_slot"), (0.01, "in_slot"), (0.0, "fits"), (-1.0, "fits"), (-1.01, "short"),
            (-2.0, "short"), (-2.01, "head_unsupported"),
        ):  # fmt: skip
            found = fit(290 + end, 290.4, 0.4)
            with self.subTest(end=end):
                self.assertAlmostEqual(found.end_mm, end)
                self.assertEqual(found.verdict, verdict)
                self.assertEqual(found.usable, verdict in ("fits", "short", "in_slot"))
                self.assertEqual(found.told, "fits" if found.usable else "does_not_fit")
                self.assertEqual(found.chance, float(found.usable))
        # A longer thread stands proud before it runs out; a deeper slot takes more.
        self.assertEqual(fit(291.1, 290, 0, thread_length_mm=11).verdict, "proud")
        self.assertEqual(fit(291.4, 290, 0, nipple=Nipple(slot_mm=1.5), thread_length_mm=11).verdict, "in_slot")
        self.assertEqual(fit(287.6, 290, 0, nipple=Nipple(head_mm=3.5)).verdict, "short")

    def test_the_chance_is_the_normal_s_between_head_and_face(self) -> None:
        for end, sd in ((0.3, 0.5), (-2.4, 0.8), (-0.5, 2.0), (1.9, 1.0)):
            found = fit(290 + end, 290, 0, sd)
            self.assertAlmostEqual(found.chance, float(norm.cdf(1.0, end, sd) - norm.cdf(-2.0, end, sd)), 9)
        shorter = fit(290, 290, 0, 0.4, thread_length_mm=8.7)
        self.assertAlmostEqual(shorter.chance, float(norm.cdf(0.2, 0, 0.4) - norm.cdf(-2.0, 0, 0.4)), 9)

    def test_a_guess_refuses_only_what_it_surely_refuses(self) -> None:
        """From a standard deviation of 1 mm on it is a guess; sure is 95 %, of fitting or of not."""
        self.assertEqual(fit(292.5, 290, 0, 0.99).told, "does_not_fit")
        self.assertEqual(fit(292.5, 290, 0, 1.0).told, "cannot_tell")
        self.assertTrue(fit(292.5, 290, 0, 1.0).usable)
        self.assertIn("Cannot be told", fit(292.5, 290, 0, 1.0).why)
        edge = 1.0 + float(norm.ppf(0.95))
        self.assertEqual(fit(290 + edge - 0.01, 290, 0, 1.0).told, "cannot_tell")
        self.assertEqual(fit(290 + edge + 0.01, 290, 0, 1.0).told, "does_not_fit")
        wide = Nipple(head_mm=6.0)
        self.assertEqual(fit(288, 290, 0, 1.0, wide).told, "fits")
        self.assertEqual(fit(286.4, 290, 0, 1.0, wide).told, "cannot_tell")

    def test_rounding(self) -> None:
        """Nearest to the middle of the window, half a millimetre below the bottom; down is never above the bottom."""
        for needed, step, nearest, down in (
            (290.4, 1.0, 290, 290), (290.0, 1.0, 290, 290), (290.99, 1.0, 290, 290), (291.0, 1.0, 291, 291),
            (290.4, 2.0, 290, 290),
            (291.4, 2.0, 290, 290), (291.5, 2.0, 292, 290), (290.4, 0.5, 290, 290), (290.8, 0.5, 290.5, 290.5),
        ):  # fmt: skip
            with self.subTest(needed=needed, step=step):
                self.assertEqual(rounded_mm(needed, 0.0, step), nearest)
                self.assertEqual(rounded_mm(needed, 0.0, step, "down"), down)
        self.assertEqual(rounded_mm(290.4, 0.9, 1.0), 289)
        for bad in ((290.0, 0.0, 0.7, "down"), (290.0, 0.0, 1.0, "up")):
            with self.assertRaises(BadLength):
                rounded_mm(*bad)

    def test_candidates_lie_round_the_middle(self) -> None:
        self.assertEqual([c.length_mm for c in candidates(290.4, 0)], [287, 288, 289, 290, 291, 292, 293])
        self.assertEqual([c.length_mm for c in candidates(290.4, 0, 2.0)], [286, 288, 290, 292, 294])
        self.assertEqual(len(candidates(290.4, 0, 0.5)), 13)
        self.assertEqual(candidates(290.4, 0.2, sd_mm=0.6)[0].sd_mm, 0.6)
        self.assertEqual((mixed([288, 290.5, 289]), mixed([])), (2.5, 0))


class Kits(unittest.TestCase):
    def kit(self, wheel: Wheel = REAR, **changes) -> Kit:  # type: ignore[no-untyped-def]
        spokes = {}
        for side in BOTH:
            needed = spoke_length_mm(wheel, side) - stretch_mm(wheel, side, side_targets_n(wheel)[side])
            kind = wheel.side(side).spoke
            spokes[side] = KitSpoke(round(needed), kind.end_diameter_mm, 25.4 / 56, count=wheel.side(side).count + 2)
        usual = {
            "spokes": spokes, "nipple": Nipple(), "nipple_count": wheel.spoke_count + 4, "rim_hole_mm": 4.3, "key_mm": 3.25,
            "measured_one": True,
        }  # fmt: skip
        return Kit(**{**usual, **changes})

    def rule(self, key: str, wheel: Wheel = REAR, side: Side | None = None, **changes) -> Rule:  # type: ignore[no-untyped-def]
        rules = check_kit(wheel, self.kit(wheel, **changes))
        return next(rule for rule in rules if rule.key == key and (side is None or rule.side is side))

    def told(self, key: str, **changes) -> tuple[str, bool]:  # type: ignore[no-untyped-def]
        found = self.rule(key, **changes)
        return found.level, found.holds

    def with_spoke(self, side: Side = Side.RIGHT, wheel: Wheel = REAR, **changes) -> dict[Side, KitSpoke]:  # type: ignore[no-untyped-def]
        spokes = dict(self.kit(wheel).spokes)
        return {**spokes, side: replace(spokes[side], **changes)}

    def test_a_good_kit_holds_throughout(self) -> None:
        rules = check_kit(REAR, self.kit())
        self.assertTrue(all(rule.holds for rule in rules), [r.key for r in rules if not r.holds])
        keys = {rule.key for rule in rules}
        self.assertEqual(keys, {
            "thread", "length", "flange_hole", "elbow", "enough", "rim_hole", "key", "washers", "carbon", "corrosion",
            "nipples",
            "measure_one",
        })  # fmt: skip
        self.assertEqual(sum(rule.key == "thread" for rule in rules), 2)

    def test_broken_ones_come_first_and_stops_foremost(self) -> None:
        rules = check_kit(REAR, self.kit(key_mm=3.6, measured_one=False, spokes=self.with_spoke(count=18)))
        self.assertEqual(
            [(r.key, r.level) for r in rules if not r.holds], [("key", "stop"), ("measure_one", "caution"), ("enough", "note")]
        )
        self.assertEqual([r.holds for r in rules], sorted(r.holds for r in rules))
        levels = [("stop", "caution", "note").index(r.level) for r in rules if r.holds]
        self.assertEqual(levels, sorted(levels))

    def test_thread(self) -> None:
        """2.0 mm wire in a nipple for 2.0: 0.05 more is the same size by another caliper, 0.07 is another."""
        self.assertEqual(self.told("thread", spokes=self.with_spoke(end_diameter_mm=2.05)), ("stop", True))
        self.assertEqual(self.told("thread", spokes=self.with_spoke(end_diameter_mm=2.07)), ("stop", False))
        self.assertEqual(self.told("thread", spokes=self.with_spoke(end_diameter_mm=1.93)), ("stop", False))
        pitch = 25.4 / 56
        self.assertEqual(self.told("thread", spokes=self.with_spoke(pitch_mm=pitch + 0.0039)), ("stop", True))
        self.assertEqual(self.told("thread", spokes=self.with_spoke(pitch_mm=pitch + 0.0041)), ("stop", False))
        self.assertEqual(self.told("thread", spokes=self.with_spoke(pitch_mm=pitch - 0.0041)), ("stop", False))
        vague = Nipple(unknown=frozenset({"pitch_mm"}))
        self.assertEqual(self.told("thread", nipple=vague), ("caution", False))
        self.assertEqual(self.told("thread", nipple=vague, spokes=self.with_spoke(end_diameter_mm=2.3)), ("stop", False))

    def test_length_by_its_nipple_and_by_a_guess(self) -> None:
        right = self.kit().spokes[Side.RIGHT].length_mm
        self.assertEqual(self.told("length", spokes=self.with_spoke(length_mm=right + 3)), ("stop", False))
        self.assertEqual(
            self.told("length", spokes=self.with_spoke(length_mm=right + 3), needed_mm={Side.RIGHT: (right + 3.4, 0.5)}),
            ("stop", True),
        )
        guess = {Side.RIGHT: (right + 0.5, 2.0)}
        self.assertEqual(self.told("length", needed_mm=guess), ("caution", False))

    def test_holes_keys_and_washers(self) -> None:
        for wire, level, holds in ((2.49, "caution", True), (2.51, "stop", False)):
            self.assertEqual(self.told("flange_hole", spokes=self.with_spoke(end_diameter_mm=wire)), (level, holds))
        for hole, holds in ((2.89, True), (2.91, False)):
            hub = replace(REAR.hub, right=replace(REAR.hub.right, hole_diameter_mm=hole))
            self.assertEqual(self.rule("flange_hole", replace(REAR, hub=hub), Side.RIGHT).holds, holds)
        for hole, expected in (
            (4.09, ("stop", False)),
            (4.11, ("caution", True)),
            (4.9, ("caution", True)),
            (4.91, ("caution", False)),
        ):
            self.assertEqual(self.told("rim_hole", rim_hole_mm=hole), expected)
        self.assertEqual(self.told("rim_hole", rim_hole_mm=5.4, washers="new", washer_count=40), ("caution", True))
        self.assertEqual(self.told("rim_hole", rim_hole_mm=None), ("caution", False))
        self.assertEqual(self.told("rim_hole", nipple=Nipple(unknown=frozenset({"body_mm"}))), ("caution", False))
        for key, holds in ((3.22, False), (3.235, True), (3.36, True), (3.38, False)):
            self.assertEqual(self.told("key", key_mm=key), ("stop", holds))
        self.assertEqual(self.told("key", key_mm=None), ("caution", False))
        self.assertEqual(self.told("key", nipple=Nipple(unknown=frozenset({"key_mm"}))), ("caution", False))
        for had, washers, holds in (
            (False, "none", True),
            (True, "none", False),
            (True, "new", True),
            (False, "old", False),
            (True, "old", False),
        ):
            self.assertEqual(self.told("washers", rim_had_washers=had, washers=washers, washer_count=40), ("stop", holds))
        for width, holds in ((3.94, False), (3.96, True), (4.29, True), (4.31, False)):
            found = self.told("washer_fits", washers="new", washer_count=40, washer_for_mm=width)
            self.assertEqual(found, ("stop", holds))
        for washers, width in (("new", None), ("none", 4.1)):
            keys = {r.key for r in check_kit(REAR, self.kit(washers=washers, washer_count=40, washer_for_mm=width))}
            self.assertNotIn("washer_fits", keys)

    def test_elbows_and_straight_pull(self) -> None:
        self.assertEqual(self.told("elbow", spokes=self.with_spoke(elbow=False)), ("stop", False))
        hub = replace(
            REAR.hub,
            right=replace(REAR.hub.right, straight_pull_angle_deg=10.0),
            left=replace(REAR.hub.left, straight_pull_angle_deg=10.0),
        )
        straight = replace(REAR, hub=hub)
        found = [r.holds for r in check_kit(straight, self.kit(REAR)) if r.key == "elbow"]
        self.assertEqual(found, [False, False])

    def test_carbon_and_salt(self) -> None:
        carbon = replace(REAR, rim=replace(REAR.rim, material="carbon"))
        alloy = Nipple(material="aluminium")
        for wheel, nipple, washers, holds in (
            (carbon, alloy, "none", False), (carbon, alloy, "new", True), (carbon, Nipple(), "none", True),
            (REAR, alloy, "none", True),
        ):  # fmt: skip
            self.assertEqual(self.rule("carbon", wheel, nipple=nipple, washers=washers, washer_count=40).holds, holds)
        for nipple, wet, holds in ((alloy, True, False), (alloy, False, True), (Nipple(), True, True)):
            self.assertEqual(self.told("corrosion", nipple=nipple, wet_or_salt=wet), ("caution", holds))

    def test_enough_of_each(self) -> None:
        self.assertEqual([spares(n) for n in (0, 1, 7, 8, 36)], [0, 1, 1, 2, 2])
        for count, expected in ((17, ("stop", False)), (18, ("note", False)), (19, ("note", False)), (20, ("note", True))):
            self.assertEqual(self.told("enough", spokes=self.with_spoke(count=count)), expected)
        one = {Side.RIGHT: 1, Side.LEFT: 0}
        for count, expected in ((0, ("stop", False)), (1, ("note", False)), (2, ("note", True))):
            self.assertEqual(self.told("enough", places=one, spokes=self.with_spoke(count=count)), expected)
        # A side on which nothing is placed is not judged.
        self.assertEqual({r.side for r in check_kit(REAR, self.kit(places=one)) if r.side}, {Side.RIGHT})
        for count, holds in ((35, False), (36, True)):
            self.assertEqual(self.told("nipples", nipple_count=count), ("stop", holds))
        for count, holds in ((35, False), (36, True)):
            self.assertEqual(self.told("nipples", washers="new", washer_count=count), ("stop", holds))
        self.assertEqual(self.told("nipples", places=one, nipple_count=1), ("stop", True))
        self.assertEqual(self.told("measure_one", measured_one=False), ("caution", False))

    def test_measures_that_cannot_be(self) -> None:
        KitSpoke(60, 1.4, 0.3)
        KitSpoke(350, 3.5, 1.0)
        for bad in ((59, 2, 0.45), (351, 2, 0.45), (290, 1.39, 0.45), (290, 3.51, 0.45), (290, 2, 0.29), (290, 2, 1.01)):
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry):
                KitSpoke(*bad)
        for good in ({"rim_hole_mm": 3}, {"rim_hole_mm": 12}, {"key_mm": 2.5}, {"key_mm": 7}):
            self.kit(**good)
        for bad_kit in ({"rim_hole_mm": 2.9}, {"rim_hole_mm": 12.1}, {"key_mm": 2.4}, {"key_mm": 7.1}):
            with self.subTest(bad_kit), self.assertRaises(ImpossibleGeometry):
                self.kit(**bad_kit)
        for field, low, high in (
            ("length_mm", 8, 20),
            ("for_thread_mm", 1.4, 3.5),
            ("pitch_mm", 0.3, 1.0),
            ("key_mm", 2.5, 7),
            ("body_mm", 2.5, 8),
        ):
            Nipple(**{field: low})
            Nipple(**{field: high})
            for value in (low - 0.01, high + 0.01):
                with self.subTest(field=field, value=value), self.assertRaises(ImpossibleGeometry) as caught:
                    Nipple(**{field: value})
                self.assertEqual(caught.exception.field, field)
        with self.assertRaises(ImpossibleGeometry):
            Nipple(material="gold")

    def test_a_usual_nipple(self) -> None:
        """12 mm long, head 3 mm, slot 1 mm; from memory."""
        self.assertEqual((Nipple().head_base_mm, Nipple().foot_mm, Nipple(length_mm=14).foot_mm), (-2, -11, -13))


class Measured(unittest.TestCase):
    def test_a_chord_is_the_sine_of_half_its_angle(self) -> None:
        self.assertAlmostEqual(diameter_of_chord_mm(600, 36, 18), 600)
        self.assertAlmostEqual(diameter_of_chord_mm(600 * math.sin(math.radians(80)), 36, 16), 600)
        self.assertAlmostEqual(diameter_of_chord_mm(math.hypot(600, 6), 36, 18, 6.0), 600)
        self.assertAlmostEqual(diameter_of_chord_mm(math.hypot(600, 6), 36, 18, -6.0), 600)
        for bad in ((600, 36, 0, 0), (600, 36, 36, 0), (600, 36, 18, 600), (600, 36, 18, -601)):
            with self.assertRaises(BadMeasure):
                diameter_of_chord_mm(*bad)
        diameter_of_chord_mm(600, 36, 35)

    def test_erd_from_several_diameters(self) -> None:
        one = erd_by_rods([Rods(250, 250, 98)], 36)
        self.assertAlmostEqual(one.value_mm, 598)
        self.assertAlmostEqual(one.sd_mm, math.hypot(0.4, 0.25))
        self.assertEqual((one.spread_mm, len(one.doubts)), (0, 1))
        two = erd_by_rods([Rods(250, 250, 98), Rods(250, 250, 99)], 36)
        self.assertAlmostEqual(two.value_mm, 598.5)
        # Scatter of two values 1 mm apart is 0.707; over two, 0.5; with the rods' common error 0.559.
        self.assertAlmostEqual(two.sd_mm, math.hypot(0.5, 0.25))
        self.assertEqual((two.spread_mm, two.doubts), (1.0, ()))
        far = erd_by_rods([Rods(250, 250, 98), Rods(250, 250, 99.1)], 36)
        self.assertEqual(len(far.doubts), 1)
        alike = erd_by_rods([Rods(250, 250, 98)] * 4, 36)
        self.assertAlmostEqual(alike.sd_mm, math.hypot(0.2, 0.25))
        # An odd number of holes: the two nearest to opposite, an error grown by the sine.
        odd = erd_by_rods([Rods(250, 250, 98)], 35)
        sine = math.sin(math.pi * 17 / 35)
        self.assertAlmostEqual(odd.value_mm, 598 / sine)
        self.assertAlmostEqual(odd.sd_mm, math.hypot(0.4, 0.25) / sine, 4)
        # Staggered holes lie on opposite sides when an odd number apart: 2 × 3 mm sideways.
        self.assertAlmostEqual(
            erd_by_rods([Rods(250, 250, 98)], 36, 17, 3.0).value_mm, math.sqrt(598**2 - 36) / math.sin(math.pi * 17 / 36)
        )
        self.assertAlmostEqual(erd_by_rods([Rods(250, 250, 98)], 36, 18, 3.0).value_mm, 598)
        # However the holes lie, an error along the rods grows as the diameter does with them.
        for apart, stagger in ((17, 3.0), (15, 4.0), (16, 0.0)):
            little = erd_by_rods([Rods(250, 250, 98)], 36, apart, stagger)
            grows = (erd_by_rods([Rods(250, 250, 98.001)], 36, apart, stagger).value_mm - little.value_mm) / 0.001
            self.assertAlmostEqual(little.sd_mm, grows * math.hypot(0.4, 0.25), 4)
        self.assertAlmostEqual(erd_by_rods([Rods(60, 60, 80)], 36).value_mm, 200)
        self.assertAlmostEqual(erd_by_rods([Rods(300, 300, 80)], 36).value_mm, 680)
        for count in (12, 60):
            erd_by_rods([Rods(250, 250, 98)], count)
        for rods, count in (([], 36), ([Rods(250, 250, 98)], 11), ([Rods(250, 250, 98)], 61)):
            with self.assertRaises(BadMeasure):
                erd_by_rods(rods, count)
        for rods in (Rods(60, 60, 79), Rods(300, 300, 81)):
            with self.assertRaises(ImpossibleGeometry):
                erd_by_rods([rods], 36)
        for good in ((50, 400, 500), (400, 50, -100)):
            self.assertEqual(Rods(*good).across_mm, sum(good))
        for bad in ((49, 250, 90), (250, 401, 90), (250, 250, -101), (250, 250, 501)):
            with self.assertRaises(ImpossibleGeometry):
                Rods(*bad)

    def test_other_ways(self) -> None:
        inside = erd_from_inside(570, 1.5, 2.5)
        self.assertAlmostEqual(inside.value_mm, 578)
        self.assertAlmostEqual(inside.sd_mm, math.sqrt(0.5**2 + 4 * 2 * 0.15**2))
        self.assertEqual(len(inside.doubts), 1)
        for good in ((180, 12, 6), (670, 0.3, 0), (195, 0.3, 6)):
            erd_from_inside(*good)
        for bad in (
            (179, 12, 6),
            (671, 0.3, 0),
            (570, 0.29, 2),
            (570, 12.1, 2),
            (570, 1, -0.1),
            (570, 1, 6.1),
            (199, 0.3, 0),
            (670, 4, 1.1),
        ):
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry):
                erd_from_inside(*bad)
        offset = bed_offset(14.0, 9.0)
        self.assertAlmostEqual(offset.value_mm, 2.5)
        self.assertAlmostEqual(offset.sd_mm, 0.1 / math.sqrt(2))
        self.assertEqual([len(bed_offset(a, 10.0).doubts) for a in (10.0, 10.1, 10.2, 9.8, 10.21)], [0, 1, 1, 1, 0])
        self.assertAlmostEqual(bed_offset(1, 17).value_mm, -8)
        for bad in ((0.9, 10), (61, 60), (60, 43.9), (1, 17.1)):
            with self.subTest(bad), self.assertRaises(TradeError):
                bed_offset(*bad)
        self.assertEqual((pitch_circle(42.4, None, 2.6).value_mm, pitch_circle(None, 47.6, 2.6).value_mm), (45.0, 45.0))
        self.assertAlmostEqual(pitch_circle(42.4, None, 2.6).sd_mm, 0.1 * math.sqrt(2))
        both = pitch_circle(42.4, 47.8, 2.6)
        self.assertAlmostEqual(both.value_mm, 45.1)
        self.assertAlmostEqual(both.sd_mm, 0.1)
        self.assertEqual(both.doubts, ())
        apart = pitch_circle(42.4, 48.2, 2.6)
        self.assertAlmostEqual(apart.sd_mm, 0.3)
        self.assertEqual((len(apart.doubts), len(pitch_circle(42.4, 48.05, 2.6).doubts)), (1, 0))
        with self.assertRaises(BadMeasure):
            pitch_circle(None, None, 2.6)
        for bad in ((40, None, 1.4), (40, None, 4.1), (13, None, 1.9), (378, None, 2.1)):
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry):
                pitch_circle(*bad)
        flange = locknut_to_flange(30, 3)
        self.assertEqual(flange.value_mm, 31.5)
        self.assertAlmostEqual(flange.sd_mm, math.hypot(0.2, 0.05))
        for good in ((0, 1), (120, 12)):
            locknut_to_flange(*good)
        for bad in ((-0.1, 3), (120.1, 3), (30, 0.9), (30, 12.1)):
            with self.assertRaises(ImpossibleGeometry):
                locknut_to_flange(*bad)


class Known(unittest.TestCase):
    def test_each_dimension_by_a_small_change(self) -> None:
        """The variance against differences: each dimension moved a little and the length computed anew."""
        staggered = replace(REAR, rim=replace(REAR.rim, stagger_mm=2.0, spoke_bed_offset_mm=1.5))
        for wheel in (REAR, DISC_FRONT, staggered):
            for side in BOTH:
                sds = checked_sds({}, True)
                variance = 0.0
                parts = {}
                word = side.word
                for name, sd in sds.items():
                    low, high = (self.changed(wheel, name, step) for step in (-1e-4, 1e-4))
                    if low is None or high is None or (name.startswith("hub.") and word not in name) or name == "hub.old_mm":
                        continue
                    slope = (spoke_length_mm(high, side) - spoke_length_mm(low, side)) / 2e-4
                    if name == "rim.stagger_mm" and wheel.rim.stagger_mm == 0:
                        continue
                    parts[name] = (slope * sd) ** 2
                    variance += parts[name]
                found = known_length(wheel, side, sds)
                with self.subTest(side=word, stagger=wheel.rim.stagger_mm):
                    self.assertAlmostEqual(found.sd_mm, math.sqrt(variance), 5)
                    for name, share in found.shares:
                        self.assertAlmostEqual(share, parts[name] / variance, 4)
                    self.assertEqual([s for _, s in found.shares], sorted((s for _, s in found.shares), reverse=True))

    def changed(self, wheel: Wheel, name: str, by: float) -> Wheel | None:
        part, _, rest = name.partition(".")
        if part == "rim":
            value = getattr(wheel.rim, rest) + by
            return (
                replace(wheel, rim=replace(wheel.rim, **{rest: value})) if value >= 0 or rest == "spoke_bed_offset_mm" else None
            )
        if rest == "old_mm":
            return replace(wheel, hub=replace(wheel.hub, old_mm=wheel.hub.old_mm + by))
        side, _, field = rest.partition(".")
        flange = getattr(wheel.hub, side)
        return replace(wheel, hub=replace(wheel.hub, **{side: replace(flange, **{field: getattr(flange, field) + by})}))

    def test_from_the_locknut_half_the_hub_s_width_errs_too(self) -> None:
        side = Side.RIGHT
        by_centre = known_length(REAR, side, checked_sds({"hub.right.center_to_flange_mm": 0.5}, True))
        locknut = checked_sds({"hub.right.locknut_to_flange_mm": 0.3, "hub.old_mm": 0.8}, True)
        # Flange and half the width together: the root of 0.3² and 0.4².
        self.assertAlmostEqual(known_length(REAR, side, locknut).sd_mm, by_centre.sd_mm, 9)
        names = [name for name, _ in known_length(REAR, side, locknut).shares]
        self.assertIn("hub.right.locknut_to_flange_mm", names)
        self.assertIn("hub.old_mm", names)
        self.assertNotIn("hub.right.center_to_flange_mm", names)

    def test_usual_uncertainties(self) -> None:
        """Rods and caliper, and of a kind only; common practice, no source."""
        measured, kind = checked_sds({}, True), checked_sds({}, False)
        for name, values in {
            "rim.erd_mm": (0.5, 4.0), "rim.spoke_bed_offset_mm": (0.1, 0.5), "rim.stagger_mm": (0.2, 0.2),
            "hub.old_mm": (0.2, 0.5),
            "hub.right.pitch_circle_mm": (0.2, 3.0), "hub.left.pitch_circle_mm": (0.2, 3.0),
            "hub.right.center_to_flange_mm": (0.3, 1.5),
            "hub.left.center_to_flange_mm": (0.3, 1.5), "hub.right.hole_diameter_mm": (0.1, 0.1),
            "hub.left.hole_diameter_mm": (0.1, 0.1),
        }.items():  # fmt: skip
            self.assertEqual((measured[name], kind[name]), values, name)
        self.assertEqual(checked_sds({"rim.erd_mm": 0}, True)["rim.erd_mm"], 0)
        self.assertEqual(checked_sds({"rim.erd_mm": 20}, True)["rim.erd_mm"], 20)
        for bad in ({"rim.erd_mm": -0.1}, {"rim.erd_mm": 20.1}, {"rim.erd_mm": True}, {"rim.erd_mm": "1"}, {"rim.colour": 1.0}):
            with self.subTest(bad), self.assertRaises(BadMeasure):
                checked_sds(bad, True)  # type: ignore[arg-type]

    def test_joined_with_the_ruler_as_two_measurements_are(self) -> None:
        """Inverse variances add up. The old spoke's end stood half a millimetre below the slot's bottom, ± 1.2."""
        guess = KnownLength(290.0, 2.0, (("rim.erd_mm", 1.0),))
        found = with_old_spokes(guess, [286.0], 0.4)
        needed, variance = 286.0 + 0.4 + 0.5, 1.2**2
        precision = 1 / 4 + 1 / variance
        self.assertAlmostEqual(found.length_mm, (290 / 4 + needed / variance) / precision)
        self.assertAlmostEqual(found.sd_mm, precision**-0.5)
        self.assertAlmostEqual(dict(found.shares)["old_spokes"], 1 / variance / precision)
        self.assertAlmostEqual(sum(share for _, share in found.shares), 1)
        self.assertEqual(found.shares[0][0], "old_spokes")
        # Lengths 2 mm apart add half of that.
        wide = with_old_spokes(guess, [285.0, 287.0], 0.4)
        precision = 1 / 4 + 1 / (variance + 1)
        self.assertAlmostEqual(wide.sd_mm, precision**-0.5)
        self.assertAlmostEqual(wide.length_mm, (290 / 4 + needed / (variance + 1)) / precision)
        self.assertIs(with_old_spokes(guess, [], 0.4), guess)


class Old(unittest.TestCase):
    def lengths(self, **off: float) -> dict[str, float]:
        found = {}
        for name, by in off.items():
            side = Side.RIGHT if name[0] == "R" else Side.LEFT
            needed = spoke_length_mm(REAR, side) - stretch_mm(REAR, side, side_targets_n(REAR)[side])
            found[name] = needed + by
        return found

    def test_by_side_with_what_it_explains(self) -> None:
        found = read_old_spokes(REAR, self.lengths(R1=-0.5, R3=-1.5, R5=-0.7, L2=-2.6))
        self.assertEqual([(s.side, s.count) for s in found], [(Side.RIGHT, 3), (Side.LEFT, 1)])
        right, left = found
        self.assertAlmostEqual(right.spread_mm, 1.0)
        self.assertAlmostEqual(right.middle_mm, self.lengths(R5=-0.7)["R5"])
        self.assertFalse(right.rebuild)
        self.assertIn("R3", right.explains[0])
        self.assertNotIn("R5", right.explains[0])
        self.assertTrue(left.rebuild)
        self.assertIn("L2", left.explains[0])
        self.assertEqual(read_old_spokes(REAR, {"R99": 280.0}), ())
        five = self.lengths(R1=-0.1, R2=-0.3, R3=-0.5, R4=-0.7, R5=-0.9)
        self.assertAlmostEqual(read_old_spokes(REAR, five)[0].middle_mm, five["R3"])

    def test_mixed_beyond_two_millimetres(self) -> None:
        for apart, due in ((2.0, False), (2.05, True)):
            side = read_old_spokes(REAR, self.lengths(R1=0.95 - apart, R3=0.95))[0]
            with self.subTest(apart=apart):
                self.assertEqual(side.rebuild, due)
                self.assertEqual(any("Mixed" in line for line in side.explains), due)

    def test_too_long_and_too_short(self) -> None:
        long = read_old_spokes(REAR, self.lengths(R2=1.2, R9=1.3))[0]
        self.assertTrue(any("Too long: R2, R9" in line for line in long.explains))
        both = read_old_spokes(REAR, self.lengths(R2=-2.3, R9=-1.4))[0]
        self.assertFalse(any("short side" in line for line in both.explains))
        # By a guess nothing is held against a spoke.
        vague = read_old_spokes(REAR, self.lengths(R2=-2.3), sds_mm={Side.RIGHT: 2.0})[0]
        self.assertEqual((vague.explains, vague.rebuild), ((), False))

    def test_a_length_that_none_of_its_spokes_can_have_had(self) -> None:
        needed = spoke_length_mm(REAR, Side.RIGHT)
        check_old_length(REAR, "R1", needed + 30)
        check_old_length(REAR, "R1", needed - 30)
        for name, length in (("R1", needed + 30.1), ("R1", needed - 30.1), ("R19", needed)):
            with self.assertRaises(BadLength):
                check_old_length(REAR, name, length)

    def test_a_spare_thread_in_the_nipple(self) -> None:
        """Depth counts from the face; the slot's bottom lies 1 mm in, the head's base 3 mm."""
        for depth, end, missing, word in (
            (0.0, 1.0, 0.0, "Nothing went in"), (0.24, 0.76, 0.0, "Nothing went in"), (0.25, 0.75, 0.0, "into the slot"),
            (0.99, 0.01, 0, "into the slot"),
            (1.0, 0.0, 0.0, "where it belongs"), (2.0, -1.0, 1.0, "where it belongs"), (2.1, -1.1, 1.1, "step longer would"),
            (3.0, -2.0, 2.0, "step longer would"), (3.1, -2.1, 2.1, "A spoke 2 mm longer"),
            (3.5, -2.5, 2.5, "A spoke 3 mm longer"),
            (12.0, -11.0, 11.0, "A spoke 11 mm longer"),
        ):  # fmt: skip
            found = thread_in_nipple(depth)
            with self.subTest(depth=depth):
                self.assertAlmostEqual(found.end_mm, end)
                self.assertAlmostEqual(found.missing_mm, missing)
                self.assertIn(word, found.why)
        for bad in (-0.1, 12.1):
            with self.assertRaises(ImpossibleGeometry):
                thread_in_nipple(bad)


class Swapped(unittest.TestCase):
    """Wheels whose sides need lengths 3 mm apart, made by moving the flanges."""

    def rim(self, wheel: Wheel, by: float) -> Wheel:
        return replace(wheel, rim=replace(wheel.rim, erd_mm=wheel.rim.erd_mm + by))

    def old(self, wheel: Wheel, right: float = -0.5, left: float = -0.5) -> dict[Side, list[float]]:
        found = {}
        for side, by in ((Side.RIGHT, right), (Side.LEFT, left)):
            found[side] = [spoke_length_mm(wheel, side) - stretch_mm(wheel, side, side_targets_n(wheel)[side]) + by]
        return found

    def test_as_they_are(self) -> None:
        found = swap(REAR, REAR, self.old(REAR))
        self.assertEqual(found.advice, "as_they_are")
        self.assertEqual([side.change_mm for side in found.sides], [0, 0])
        self.assertEqual([side.side for side in found.sides], [Side.RIGHT, Side.LEFT])
        self.assertEqual(len(found.cautions), 1)
        self.assertEqual(swap(REAR, REAR).advice, "as_they_are")
        # Without a measured spoke it is as long as the old wheel needed it unstretched.
        drawn = swap(REAR, REAR).sides[0].own
        assert drawn is not None
        self.assertAlmostEqual(drawn.length_mm, self.old(REAR, 0.0)[Side.RIGHT][0])
        self.assertEqual(len(swap(REAR, REAR).cautions), 2)

    def test_new_ones_and_one_side(self) -> None:
        bigger = self.rim(REAR, 12.0)
        found = swap(REAR, bigger, self.old(REAR))
        self.assertEqual((found.advice, found.cautions), ("new", ()))
        for side in found.sides:
            self.assertAlmostEqual(side.change_mm, spoke_length_mm(bigger, side.side) - spoke_length_mm(REAR, side.side))
            self.assertGreater(side.change_mm, 5)
        self.assertEqual(swap(REAR, REAR, self.old(REAR, right=3.0)).advice, "one_side")
        self.assertIn("left", swap(REAR, REAR, self.old(REAR, right=3.0)).why)
        self.assertIn("right", swap(REAR, REAR, self.old(REAR, left=-3.0)).why)

    def test_changed_round(self) -> None:
        exchanged = self.old(REAR)
        exchanged = {Side.RIGHT: exchanged[Side.LEFT], Side.LEFT: exchanged[Side.RIGHT]}
        gap = abs(exchanged[Side.RIGHT][0] - exchanged[Side.LEFT][0])
        self.assertGreater(gap, 1.6, "the sides of this wheel must differ")
        self.assertEqual(
            swap(REAR, REAR, {Side.RIGHT: [exchanged[Side.RIGHT][0]], Side.LEFT: [exchanged[Side.LEFT][0]]}).advice,
            "change_sides",
        )
        other = replace(
            REAR, right=replace(REAR.right, spoke=replace(REAR.right.spoke, end_length_mm=REAR.right.spoke.end_length_mm + 1))
        )
        self.assertNotEqual(swap(other, other, exchanged).advice, "change_sides")

    def test_every_length_counts_and_none_is_no_length(self) -> None:
        known = self.old(REAR)
        mixed_up = {**known, Side.RIGHT: [known[Side.RIGHT][0], known[Side.RIGHT][0] + 3]}
        found = swap(REAR, REAR, mixed_up)
        self.assertEqual(found.advice, "one_side")
        self.assertTrue(any("differ by 3 mm" in line for line in found.cautions))
        self.assertEqual(swap(REAR, REAR, {Side.LEFT: known[Side.LEFT]}, measured=False).advice, "measure")
        self.assertIn("right", swap(REAR, REAR, {Side.LEFT: known[Side.LEFT]}, measured=False).why)
        few = ALL["rim-brake-front-32"]
        self.assertTrue(all(side.own is None for side in swap(few, REAR, self.old(few)).sides))


if __name__ == "__main__":
    unittest.main()
