"""A guess never overrules the ruler: lengths from a generic kind, old spokes, swaps, and figures that nobody gave.

Expected figures are worked out by hand in each test, from the window of 0 to 1 mm below the slot's bottom (common practice, no
source) and from the weighting of two measurements by their variances (GUM, JCGM 100:2008, from memory).
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from felloe.core.components import Hub, Rim, Wheel
from felloe.core.errors import TradeError
from felloe.core.naming import Side
from felloe.core.spokes.fit import CANNOT_TELL, DOES_FIT, DOES_NOT_FIT, fit
from felloe.core.spokes.kit import CAUTION, STOP, Kit, KitSpoke, Rule, check_kit
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.spokes.old_spokes import read_old_spokes
from felloe.core.spokes.swap import swap
from felloe.core.spokes.uncertainty import OF_ITS_KIND_SD_MM, KnownLength, known_length, with_old_spokes
from felloe.core.stock.parts import nipple_of
from felloe.core.tension.statics import side_targets_n
from felloe.core.wheel_kinds import WHEEL_KINDS

REAR = WHEEL_KINDS["rim-brake-rear-36"].wheel


class Told(unittest.TestCase):
    def test_a_measured_wheel_is_judged_as_ever(self) -> None:
        for length, verdict, told in (
            (289.5, "fits", DOES_FIT),
            (288.5, "short", DOES_FIT),
            (287.0, "head_unsupported", DOES_NOT_FIT),
            (290.8, "in_slot", DOES_FIT),
            (292.5, "thread_runs_out", DOES_NOT_FIT),
        ):
            with self.subTest(length):
                found = fit(length, 290.0, 0.0, 0.4)
                self.assertEqual((found.verdict, found.told, found.usable), (verdict, told, told == DOES_FIT))

    def test_a_guess_refuses_only_what_it_surely_refuses(self) -> None:
        """Between the head's base (−2) and the thread's end (+1): 3 mm wide, so ± 2 mm can never be sure of a fit."""
        for length in (285.0, 286.0, 288.0, 289.5, 291.0, 293.5):
            with self.subTest(length):
                found = fit(length, 290.0, 0.0, 2.0)
                self.assertEqual(found.told, CANNOT_TELL)
                self.assertTrue(found.usable)
                self.assertIn("Cannot be told until the ERD is measured", found.why)
        for length in (282.0, 297.0):
            with self.subTest(length):
                found = fit(length, 290.0, 0.0, 2.0)
                self.assertEqual((found.told, found.usable), (DOES_NOT_FIT, False))
                self.assertNotIn("Cannot be told", found.why)

    def test_the_chance_is_that_of_a_normal_law(self) -> None:
        """Table of the normal distribution: within −2…+1 of a value at 0 with sd 1, Φ(1) − Φ(−2) = 0.8186."""
        self.assertAlmostEqual(fit(290.0, 290.0, 0.0, 1.0).chance, 0.8186, places=3)


class Ruler(unittest.TestCase):
    def test_the_ruler_outweighs_a_guess_and_bows_to_a_measured_rim(self) -> None:
        """Guess 289 ± 2, ruler 286 with its end in the middle of the window (needs 286.5): weight 4/(4 + 1.44) = 0.735."""
        guess = KnownLength(289.0, 2.0, (("rim.erd_mm", 1.0),))
        joined = with_old_spokes(guess, [286.0, 286.0], 0.0)
        self.assertAlmostEqual(joined.length_mm, 289 + (286.5 - 289) * 4 / 5.44, places=6)
        self.assertAlmostEqual(joined.sd_mm, (4 * 1.44 / 5.44) ** 0.5, places=6)
        self.assertEqual(joined.shares[0][0], "old_spokes")
        self.assertAlmostEqual(sum(share for _, share in joined.shares), 1.0)
        sure = with_old_spokes(KnownLength(289.0, 0.3, (("rim.erd_mm", 1.0),)), [286.0], 0.0)
        self.assertLess(abs(sure.length_mm - 289.0), 0.2)

    def test_without_a_ruler_nothing_changes_and_mixed_lengths_count_for_less(self) -> None:
        guess = KnownLength(289.0, 2.0, ())
        self.assertIs(with_old_spokes(guess, [], 0.0), guess)
        alike = with_old_spokes(guess, [286.0, 286.0], 0.0)
        mixed = with_old_spokes(guess, [284.0, 288.0], 0.0)
        self.assertLess(abs(mixed.length_mm - 289), abs(alike.length_mm - 289))
        self.assertGreater(mixed.sd_mm, alike.sd_mm)

    def test_stretch_belongs_to_the_old_spoke(self) -> None:
        guess = KnownLength(289.0, 2.0, ())
        self.assertAlmostEqual(
            with_old_spokes(guess, [286.0], 0.8).length_mm - with_old_spokes(guess, [286.0], 0.0).length_mm, 0.8 * 4 / 5.44
        )

    def test_an_old_spoke_that_held_is_not_refused_on_a_generic_kind(self) -> None:
        known = known_length(REAR, Side.RIGHT, OF_ITS_KIND_SD_MM)
        self.assertGreater(known.sd_mm, 1.5)
        stretch = stretch_mm(REAR, Side.RIGHT, side_targets_n(REAR)[Side.RIGHT])
        for off in (-3.0, -1.5, 1.5, 3.0):
            old = round(known.length_mm - stretch + off, 1)
            joined = with_old_spokes(known, [old], stretch)
            self.assertTrue(fit(old, joined.length_mm, stretch, joined.sd_mm).usable, off)


class OldSpokes(unittest.TestCase):
    def test_every_length_is_judged_and_a_guess_accuses_none(self) -> None:
        exact = read_old_spokes(REAR, {"R1": 290, "R2": 287, "R7": 290})
        self.assertEqual(set(exact[0].fits), {"R1", "R2", "R7"})
        self.assertTrue(exact[0].rebuild)
        near = {"R1": exact[0].needed_mm - 2.5, "R2": exact[0].needed_mm - 2.5}
        self.assertTrue(read_old_spokes(REAR, near)[0].rebuild)
        guessed = read_old_spokes(REAR, near, None, {Side.RIGHT: 2.0, Side.LEFT: 2.0})
        self.assertFalse(guessed[0].rebuild)
        self.assertEqual(guessed[0].explains, ())
        self.assertTrue(all(f.told == CANNOT_TELL for f in guessed[0].fits.values()))

    def test_mixed_lengths_need_no_dimension(self) -> None:
        found = read_old_spokes(REAR, {"R1": 288, "R2": 292}, None, {Side.RIGHT: 2.0})
        self.assertTrue(found[0].rebuild)
        self.assertIn("Mixed lengths", found[0].explains[0])


class Swaps(unittest.TestCase):
    def setUp(self) -> None:
        self.bigger = replace(REAR, rim=replace(REAR.rim, erd_mm=REAR.rim.erd_mm + 0.4))
        self.fits = {s: spoke_length_mm(REAR, s) - stretch_mm(REAR, s, side_targets_n(REAR)[s]) - 0.3 for s in Side}

    def test_the_longest_is_judged_as_the_shortest(self) -> None:
        for lengths in ([0.0, 6.0], [0.0, -6.0]):
            mine = {s: [self.fits[s] + d for d in lengths] for s in Side}
            self.assertEqual(swap(REAR, self.bigger, mine).advice, "new", lengths)
        self.assertEqual(swap(REAR, self.bigger, {s: [self.fits[s]] for s in Side}).advice, "as_they_are")

    def test_a_side_without_a_log_is_not_assumed_on_a_guess(self) -> None:
        one = {Side.RIGHT: [self.fits[Side.RIGHT]]}
        found = swap(REAR, self.bigger, one, measured=False)
        self.assertEqual(found.advice, "measure")
        self.assertIn("left", found.why)
        self.assertIsNone(found.sides[1].own)
        self.assertEqual(swap(REAR, self.bigger, {}, measured=False).advice, "measure")
        self.assertEqual(swap(REAR, self.bigger, one, measured=True).advice, "as_they_are")


def kit(nipple: Nipple | None = None, **change: object) -> Kit:
    lengths = {s: spoke_length_mm(REAR, s) - stretch_mm(REAR, s, side_targets_n(REAR)[s]) - 0.4 for s in Side}
    spokes = {s: KitSpoke(lengths[s], 2.0, REAR.right.pitch_mm, True, 20) for s in Side}
    values: dict[str, object] = {"rim_hole_mm": 4.4, "key_mm": 3.3, "measured_one": True, **change}
    return Kit(spokes, nipple or Nipple(), 40, **values)  # type: ignore[arg-type]


class Blanks(unittest.TestCase):
    def rules(self, laid: Kit) -> dict[str, Rule]:
        return {rule.key: rule for rule in check_kit(REAR, laid)}

    def test_a_full_kit_holds(self) -> None:
        self.assertTrue(all(rule.holds for rule in check_kit(REAR, kit())))

    def test_what_nobody_measured_passes_no_rule(self) -> None:
        for name, rule in (("rim_hole_mm", "rim_hole"), ("key_mm", "key")):
            with self.subTest(name):
                found = self.rules(kit(**{name: None}))[rule]
                self.assertEqual((found.holds, found.level), (False, CAUTION))

    def test_a_nipple_for_another_thread_has_no_common_measures(self) -> None:
        """12 gauge is 2.6 mm: its body and flats are not those of 14 gauge."""
        big = nipple_of({"for_thread_mm": 2.6, "length_mm": 12})
        self.assertEqual(big.unknown, {"body_mm", "key_mm", "pitch_mm"})
        self.assertEqual(nipple_of({"for_thread_mm": 2.0}).unknown, frozenset())
        self.assertEqual(nipple_of({}).unknown, frozenset())
        self.assertEqual(
            nipple_of({"for_thread_mm": 2.6, "body_mm": 5.0, "key_mm": 3.9, "pitch_mm": 0.454}).unknown, frozenset()
        )
        found = self.rules(kit(big))
        self.assertFalse(found["thread"].holds)
        self.assertFalse(found["rim_hole"].holds)
        self.assertFalse(found["key"].holds)
        self.assertIn("not known", found["key"].found)

    def test_a_measured_misfit_still_stops(self) -> None:
        self.assertEqual(
            (self.rules(kit(rim_hole_mm=4.0))["rim_hole"].level, self.rules(kit(key_mm=3.5))["key"].level), (STOP, STOP)
        )

    def test_a_length_that_a_guess_cannot_tell_cautions_and_does_not_stop(self) -> None:
        laid = kit()
        off = {s: (spoke_length_mm(REAR, s) + 2.5, 2.0) for s in Side}
        found = self.rules(replace(laid, needed_mm=off))["length"]
        self.assertEqual((found.holds, found.level), (False, CAUTION))
        sure = self.rules(replace(laid, needed_mm={s: (value, 0.3) for s, (value, _) in off.items()}))["length"]
        self.assertEqual((sure.holds, sure.level), (False, STOP))

    def test_impossible_figures_are_refused_as_before(self) -> None:
        for change in ({"rim_hole_mm": 1.0}, {"key_mm": 9.0}):
            with self.subTest(change), self.assertRaises(TradeError):
                kit(**change)


class Shapes(unittest.TestCase):
    def test_another_rim_is_another_wheel(self) -> None:
        """The helper wheels above are what they are taken for."""
        other = Wheel(Rim(590, 622), Hub(130, REAR.hub.left, REAR.hub.right), REAR.right, REAR.left)
        self.assertNotAlmostEqual(spoke_length_mm(other, Side.RIGHT), spoke_length_mm(REAR, Side.RIGHT), places=0)
