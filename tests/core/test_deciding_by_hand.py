"""Options, prices, stock and parts worked out by hand, at their borders. What the core calls common practice has no source."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from scipy.stats import poisson

from felloe.core.components import THREAD_PITCH_MM, Spoke
from felloe.core.decision.agreed import Bench, not_done
from felloe.core.decision.options import Case, RepairOption, repair_options, unsafe_reasons
from felloe.core.decision.prices import BadPrice, PriceList
from felloe.core.diagnosis.breakage import Pattern
from felloe.core.diagnosis.condition import Mark
from felloe.core.diagnosis.rim_damage import judge
from felloe.core.naming import Side
from felloe.core.runout.frame_gauge import frame_error
from felloe.core.stock.claims import Claim, NotEnough, check_take, covered, for_job, free
from felloe.core.stock.csv_parts import BadPartsFile, read_parts, write_parts
from felloe.core.stock.ordering import Bin, minimum_by_use, to_order
from felloe.core.stock.parts import ATTRIBUTES, BadPart, checked_attributes, hub_of, nipple_of, pitch_of, rim_of, spoke_of
from felloe.core.stock.substitutes import (
    Stocked,
    Wanted,
    check_stocked_length,
    name_of_spoke,
    offers,
    why_not_cut,
)
from felloe.core.truing.curve import CurvePoint, Verdict
from felloe.core.truing.tiers import FINE, RACE, ROADWORTHY, SOUND, Tier
from tests.core.wheels import REAR, SYMMETRIC

PRICES = PriceList(
    {"labour_hour": 6000, "spoke": 150, "nipple": 40, "rim": 5500, "rim_tape": 500, "hub_parts": 1200, "axle": 900}
)


def verdict(can: bool = True, chance: float = 0.9, best: Tier | None = SOUND, tir: float = 0.3) -> Verdict:
    point = CurvePoint(20.0, tir, 0.3, 0.0, 0.6, np.zeros(36))
    return Verdict(SOUND, can, chance, best, point, "by the curve")


class Options(unittest.TestCase):
    def of(self, **known) -> dict[str, RepairOption]:  # type: ignore[no-untyped-def]
        wheel = known.pop("wheel", REAR)
        return {o.key: o for o in repair_options(Case(wheel, known.pop("tier", SOUND), **known), PRICES)}

    def marks(self, *marks: tuple[str, str]) -> tuple:  # type: ignore[type-arg]
        return tuple(judge(Mark(kind, spoke), REAR, None, True) for kind, spoke in marks)

    def pattern(self, advice: str, side: Side | None = None) -> Pattern:
        return Pattern((), advice, side, ("as was said",))

    def test_minutes_by_the_bench(self) -> None:
        """Truing 20, 30, 45 or 75 minutes at 32 spokes, more with more; a spoke 6, the tyre 8, sprockets 6; taking apart 15 and
        lacing 40; a hub 35."""
        for tier, minutes in ((ROADWORTHY, 20), (SOUND, 30), (FINE, 45), (RACE, 75)):
            self.assertEqual(self.of(wheel=SYMMETRIC, tier=tier)["true"].minutes, minutes)
            self.assertEqual(self.of(tier=tier)["true"].minutes, round(minutes * 36 / 32))
        true = 30 * 36 / 32
        broken = self.marks(("spoke_broken", "L3"), ("spoke_kinked", "L5"), ("spoke_broken", "L3"))
        self.assertEqual(self.of(marks=broken)["replace"].minutes, round(8 + 2 * 6 + true))
        self.assertEqual(self.of(marks=broken, rear=True)["replace"].minutes, round(8 + 2 * 6 + true))
        behind = self.marks(("spoke_broken", "R3"), ("spoke_broken", "L3"))
        self.assertEqual(self.of(marks=behind, rear=True)["replace"].minutes, round(8 + 2 * 6 + 6 + true))
        self.assertEqual(self.of(marks=behind)["replace"].minutes, round(8 + 2 * 6 + true))
        side = self.of(pattern=self.pattern("side", Side.RIGHT), rear=True)["rebuild_side"]
        self.assertEqual(side.minutes, round(8 + 55 * 18 / 32 + true + 6))
        self.assertEqual(
            self.of(pattern=self.pattern("side", Side.LEFT), rear=True)["rebuild_side"].minutes, round(8 + 55 * 18 / 32 + true)
        )
        self.assertEqual(
            self.of(pattern=self.pattern("side", Side.RIGHT))["rebuild_side"].minutes, round(8 + 55 * 18 / 32 + true)
        )
        for key in ("rebuild", "new_rim"):
            self.assertEqual(self.of()[key].minutes, round(8 + 55 * 36 / 32 + true))
        self.assertEqual(self.of()["hub_overhaul"].minutes, 35)
        self.assertEqual(self.of()["leave"].minutes, 0)

    def test_parts_and_prices(self) -> None:
        found = self.of(marks=self.marks(("spoke_broken", "L3")), pattern=self.pattern("side", Side.LEFT))
        self.assertEqual(found["replace"].parts, {"spoke": 1, "nipple": 1, "rim_tape": 1})
        self.assertEqual(found["rebuild_side"].parts, {"spoke": 18, "nipple": 18, "rim_tape": 1})
        self.assertEqual(found["rebuild"].parts, {"spoke": 36, "nipple": 36, "rim_tape": 1})
        self.assertEqual(found["new_rim"].parts, {"rim": 1, "spoke": 36, "nipple": 36, "rim_tape": 1})
        self.assertEqual(found["hub_overhaul"].parts, {"hub_parts": 1})
        # By whole minutes, as they are shown and quoted.
        labour = 6000 * round(8 + 55 * 36 / 32 + 30 * 36 / 32) // 60
        self.assertEqual(found["rebuild"].price_minor, labour + 36 * 190 + 500)
        self.assertEqual(found["leave"].price_minor, 0)
        for marks, cause in (
            (self.marks(("axle_bent", "")), ""),
            (self.marks(("axle_broken", "")), ""),
            ((), "axle_bent"),
            ((), "axle_broken"),
        ):
            self.assertEqual(self.of(marks=marks, cause=cause)["hub_overhaul"].parts, {"hub_parts": 1, "axle": 1})
        dear = PriceList({"labour_hour": 6000})
        self.assertIsNone(dear.total(10, {"spoke": 1}))
        self.assertEqual(dear.total(10, {"spoke": 0}), 1000)
        self.assertEqual(PriceList({"spoke": 150}).total(0, {"spoke": 3}), 450)
        self.assertIsNone(PriceList({"spoke": 150}).total(1, {"spoke": 3}))
        PriceList({"spoke": 0, "rim": 10_000_000})
        for bad in ({"spoke": -1}, {"spoke": 10_000_001}, {"spoke": 1.5}, {"spoke": True}, {"frame": 1}):
            with self.subTest(bad), self.assertRaises(BadPrice):
                PriceList(bad)  # type: ignore[arg-type]

    def proposed(self, **known) -> set[str]:  # type: ignore[no-untyped-def]
        return {key for key, option in self.of(**known).items() if option.proposed}

    def test_what_is_proposed(self) -> None:
        self.assertEqual(self.proposed(inside_tier=True), {"leave"})
        self.assertEqual(self.proposed(inside_tier=False), {"true"})
        self.assertEqual(self.proposed(), set())
        self.assertEqual(self.proposed(inside_tier=True, rim_verdict=verdict(False)), {"new_rim"})
        self.assertEqual(self.proposed(marks=self.marks(("crack", "R3")), rim_verdict=verdict()), {"new_rim"})
        self.assertEqual(self.proposed(pattern=self.pattern("new_rim")), {"new_rim"})
        self.assertEqual(self.proposed(pattern=self.pattern("wheel"), marks=self.marks(("spoke_broken", "R3"))), {"rebuild"})
        self.assertEqual(
            self.proposed(pattern=self.pattern("side", Side.LEFT), marks=self.marks(("spoke_broken", "R3"))), {"rebuild_side"}
        )
        self.assertEqual(
            self.proposed(pattern=self.pattern("one_spoke", Side.LEFT), marks=self.marks(("spoke_broken", "R3"))), {"replace"}
        )
        self.assertEqual(self.proposed(marks=self.marks(("spoke_corroded", "R3")), inside_tier=True), {"replace"})
        for kind in ("hub_play", "hub_rough", "axle_bent", "flange_cracked"):
            self.assertEqual(self.proposed(marks=self.marks((kind, "")), inside_tier=True), {"hub_overhaul"}, kind)
        self.assertEqual(self.proposed(marks=self.marks(("face_marks", "")), inside_tier=True), {"leave"})
        for cause in ("bearing_play", "bearing_rough", "axle_bent", "axle_broken"):
            self.assertEqual(self.proposed(cause=cause, inside_tier=True), {"hub_overhaul"})
        self.assertEqual(self.proposed(cause="off_dish", inside_tier=True), {"leave"})
        bent = frame_error(0, 8, "steel", "rear", 300)
        self.assertEqual(self.proposed(frame=bent, inside_tier=False), {"frame", "true"})
        self.assertEqual(self.proposed(frame=frame_error(0, 3, "steel", "rear", 300), inside_tier=True), {"leave"})
        self.assertEqual(self.of(inside_tier=False, rim_verdict=verdict())["true"].why, "by the curve")
        self.assertIn("Outside the tier", self.of(inside_tier=False)["true"].why)
        self.assertIn("no parts", self.of(inside_tier=True)["true"].why)

    def test_what_is_barred_and_what_is_left_out(self) -> None:
        cracked = self.of(marks=self.marks(("crack", "R3"), ("spoke_broken", "L2")), pattern=self.pattern("side", Side.LEFT))
        barred = {key for key, option in cracked.items() if option.barred}
        self.assertEqual(barred, {"leave", "true", "replace", "rebuild_side", "rebuild"})
        self.assertIn("R3", cracked["true"].barred)
        self.assertIn("L2", self.of(marks=self.marks(("spoke_broken", "L2")))["true"].barred)
        self.assertEqual(
            {k for k, o in self.of(marks=self.marks(("flange_cracked", ""))).items() if o.barred}, {"leave", "hub_overhaul"}
        )
        self.assertEqual({k for k, o in self.of(pattern=self.pattern("new_rim")).items() if o.barred}, {"true", "rebuild"})
        self.assertEqual(set(self.of()), {"leave", "true", "rebuild", "new_rim", "hub_overhaul"})
        self.assertNotIn("rebuild_side", self.of(pattern=self.pattern("one_spoke", Side.LEFT)))
        self.assertNotIn("rebuild_side", self.of(pattern=self.pattern("wheel")))
        twice = self.marks(("crack", "R3"), ("crack", "R3"))
        self.assertEqual(len(unsafe_reasons(Case(REAR, SOUND, marks=twice))), 1)
        self.assertEqual(unsafe_reasons(Case(REAR, SOUND, marks=self.marks(("eyelet", "R3")))), ())

    def test_what_it_will_reach_and_how_surely(self) -> None:
        true = self.of(rim_verdict=verdict(chance=0.8))["true"]
        self.assertEqual((true.chance, self.of()["true"].chance), (0.8, None))
        self.assertIn("inside sound", true.result)
        self.assertIn("80 %", true.chance_why)
        only = self.of(rim_verdict=verdict(False, 0.1, ROADWORTHY))["true"]
        self.assertIn("only roadworthy", only.result)
        none = self.of(rim_verdict=verdict(False, 0.0, None, 2.4))["true"]
        self.assertIn("2.4 mm lateral stays", none.result)
        without = replace(verdict(False), at_tier=None)
        self.assertEqual(self.of(rim_verdict=without)["true"].result, "not to be had")
        for chance, expected in ((0.99, 0.95), (0.7, 0.7)):
            self.assertEqual(self.of(rim_verdict=verdict(chance=chance))["rebuild"].chance, expected)
        self.assertIsNone(self.of()["rebuild"].chance)
        self.assertEqual((self.of()["new_rim"].chance, self.of()["hub_overhaul"].chance), (0.95, 0.9))
        warned = self.of(marks=self.marks(("spoke_broken", "L3")), pattern=self.pattern("side", Side.LEFT))["replace"]
        self.assertIn("breaks soon", warned.why)
        self.assertNotIn("breaks soon", self.of(marks=self.marks(("spoke_broken", "L3")))["replace"].why)

    def test_done_by_what_the_bench_noted(self) -> None:
        ready = Bench(True, (), 36, 36, 18, ())
        every = ("replace", "rebuild", "new_rim", "rebuild_side", "hub_overhaul", "true", "leave", "frame")
        self.assertEqual(not_done(every, ready), ())
        for key, bench in (
            ("replace", replace(ready, to_replace=("R3",))), ("rebuild", replace(ready, laced=35)),
            ("new_rim", replace(ready, laced=35)),
            ("rebuild_side", replace(ready, laced=17)), ("hub_overhaul", replace(ready, hub=("play",))),
            ("true", replace(ready, as_left=False)),
        ):  # fmt: skip
            with self.subTest(key):
                self.assertEqual(len(not_done((key,), bench)), 1)
        self.assertEqual(not_done(("rebuild_side",), replace(ready, laced=18)), ())
        self.assertEqual(len(not_done(("rebuild",), replace(ready, laced=18))), 1)
        self.assertEqual(not_done(("rebuild",), Bench(True)), ())


class Bins(unittest.TestCase):
    def test_claims(self) -> None:
        claims = [Claim("a", 5), Claim("b", 4), Claim("a", 2)]
        self.assertEqual(covered(10, claims), {"a": 6, "b": 4})
        self.assertEqual(covered(6, claims), {"a": 5, "b": 1})
        self.assertEqual(covered(-3, claims), {"a": 0, "b": 0})
        self.assertEqual((free(10, claims), free(12, claims)), (-1, 1))
        self.assertEqual([for_job(10, claims, job) for job in "abc"], [6, 4, 0])
        self.assertEqual([for_job(14, claims, job) for job in "abc"], [10, 7, 3])
        check_take(10, claims, "b", 4, "x")
        for job, count in (("b", 5), ("c", 1), ("a", 0), ("a", -1)):
            with self.assertRaises(NotEnough):
                check_take(10, claims, job, count, "x")
        with self.assertRaises(NotEnough) as caught:
            check_take(10, claims, "b", 7, "x")
        self.assertIn("7 of the 10 are reserved", str(caught.exception))
        with self.assertRaises(NotEnough) as caught:
            check_take(3, [], "b", 7, "x")
        self.assertNotIn("reserved", str(caught.exception))

    def test_orders_in_whole_packs(self) -> None:
        bins = [
            Bin("a", "tern", 10, 4, 0, 6), Bin("b", "quay", 10, 5, 0, 6), Bin("c", "tern", 0, 20, 4, 10, 12), Bin("d",
            "quay", 3, 5, 1, 0),
            Bin("e", "quay", 5, 0, 0, 10, 4), Bin("g", "reed", 5, 7, 2, 3), Bin("f", "quay", 3, 6, 2, 0),
        ]  # fmt: skip
        found = to_order(bins)
        self.assertEqual(list(found), ["quay", "reed", "tern"])
        self.assertEqual([(line.key, line.count) for line in found["quay"]], [("b", 1), ("d", 1), ("e", 8), ("f", 1)])
        self.assertEqual([(line.key, line.count) for line in found["tern"]], [("c", 36)])
        why = {line.key: line.why for lines in found.values() for line in lines}
        self.assertEqual(why["c"], "16 wait for it")
        self.assertEqual((why["d"], why["f"]), ("1 waits for it", "1 waits for it"))
        self.assertEqual(why["g"], "below the minimum of 3")
        self.assertEqual((why["b"], why["e"]), ("below the minimum of 6", "below the minimum of 10"))

    def test_minimum_by_scipy_s_poisson(self) -> None:
        """Takes of one size are a Poisson count; of two sizes their sum, by convolution."""
        for takes, days, lead in ((20, 180, 7), (90, 180, 14), (3, 180, 7)):
            self.assertEqual(minimum_by_use([1] * takes, days, lead), int(poisson.ppf(0.95, takes * lead / days)))
            self.assertEqual(minimum_by_use([2] * takes, days, lead), 2 * int(poisson.ppf(0.95, takes * lead / days)))
        ones, threes = poisson.pmf(np.arange(60), 1.4), np.zeros(60)
        threes[::3] = poisson.pmf(np.arange(20), 0.7)
        total = np.cumsum(np.convolve(ones, threes)[:60])
        self.assertEqual(minimum_by_use([1] * 36 + [3] * 18, 180, 7), int(np.argmax(total >= 0.95)))
        self.assertEqual(minimum_by_use([1] * 36 + [3] * 18, 180, 7, 0.8), int(np.argmax(total >= 0.8)))
        self.assertEqual(
            (minimum_by_use([], 180), minimum_by_use([0, -2], 180), minimum_by_use([1], 0), minimum_by_use([1], -1)),
            (0, 0, 0, 0),
        )
        self.assertEqual(minimum_by_use([1], 1, 7), int(poisson.ppf(0.95, 7)))
        self.assertEqual(minimum_by_use([1] * 20, 180), minimum_by_use([1] * 20, 180, 7))
        self.assertEqual(minimum_by_use([50_000], 7, 7, 0.999), 20_001 - 1)


class Parts(unittest.TestCase):
    """Every number of every kind at both its borders; a part that is otherwise whole."""

    WHOLE = {
        "spoke": {"length_mm": 290, "end_diameter_mm": 2.0}, "nipple": {"for_thread_mm": 2.0}, "washer": {"body_mm": 4.0},
        "rim": {"erd_mm": 598, "holes": 36}, "tape": {}, "other": {},
        "hub": {
            "old_mm": 130, "right_pitch_circle_mm": 45, "left_pitch_circle_mm": 45, "right_center_to_flange_mm": 20,
            "left_center_to_flange_mm": 35, "right_holes": 18, "left_holes": 18,
        },
    }  # fmt: skip
    LIMITS = {
        "spoke": {"length_mm": (60, 350), "end_diameter_mm": (1.4, 3.5), "pitch_mm": (0.3, 1.0)},
        "nipple": {"length_mm": (8, 20), "for_thread_mm": (1.4, 3.5), "pitch_mm": (0.3, 1.0), "key_mm": (2.5, 7),
        "body_mm": (2.5, 8)},
        "washer": {"body_mm": (2.5, 8)},
        "rim": {
            "erd_mm": (200, 680), "holes": (12, 60), "spoke_bed_offset_mm": (-8, 8), "stagger_mm": (0, 8),
            "rim_hole_mm": (3, 12),
        },
        "hub": {
            "right_pitch_circle_mm": (15, 380), "left_pitch_circle_mm": (15, 380), "right_center_to_flange_mm": (-5, 65),
            "left_center_to_flange_mm": (-5, 65), "hole_diameter_mm": (1.5, 4), "right_holes": (4, 32), "left_holes": (4, 32),
            "straight_pull_angle_deg": (0, 110),
        },
        "tape": {"width_mm": (5, 80)},
    }  # fmt: skip

    def test_borders(self) -> None:
        for kind, limits in self.LIMITS.items():
            for name, (low, high) in limits.items():
                for value in (low, high):
                    checked_attributes(kind, {**self.WHOLE[kind], name: value})
                for value in (low - 0.01, high + 0.01):
                    with self.subTest(kind=kind, name=name, value=value), self.assertRaises(BadPart) as caught:
                        checked_attributes(kind, {**self.WHOLE[kind], name: value})
                    joint = name.endswith("center_to_flange_mm") and value > 0
                    self.assertEqual(caught.exception.field, "attributes" if joint else f"attributes.{name}")

    def test_borders_that_go_together(self) -> None:
        spoke = {"length_mm": 290, "end_diameter_mm": 3.5}
        for name, good, bad in (
            ("middle_diameter_mm", (1.2, 3.5), (1.19, 3.51)), ("blade_thickness_mm", (0.5, 2.5), (0.49, 2.51)),
            ("blade_width_mm", (2.5, 8), (8.1, 2.49)),
        ):  # fmt: skip
            more = {"blade_thickness_mm": {"blade_width_mm": 8}, "blade_width_mm": {"blade_thickness_mm": 2.5}}.get(name, {})
            for value in good:
                checked_attributes("spoke", {**spoke, **more, name: value})
            for value in bad:
                with self.subTest(name=name, value=value), self.assertRaises(BadPart):
                    checked_attributes("spoke", {**spoke, **more, name: value})
        narrow = {"length_mm": 290, "end_diameter_mm": 2.0, "blade_thickness_mm": 0.5}
        checked_attributes("spoke", {**narrow, "blade_width_mm": 0.5})
        with self.assertRaises(BadPart) as caught:
            checked_attributes("spoke", {**narrow, "blade_width_mm": 0.49})
        self.assertEqual(caught.exception.field, "attributes.blade_width_mm")
        rim = self.WHOLE["rim"]
        for name, good, bad in (("target_n", (200, 2500), (199, 2501)), ("cap_n", (300, 3000), (299, 3001))):
            for value in good:
                more = {"cap_n": 3000} if name == "target_n" else {"target_n": 200}
                checked_attributes("rim", {**rim, **more, name: value})
            for value in bad:
                with self.subTest(name=name, value=value), self.assertRaises(BadPart) as caught:
                    checked_attributes("rim", {**rim, name: value})
                self.assertEqual(caught.exception.field, f"attributes.{name}")
        for old in (60, 200):
            checked_attributes("hub", {**self.WHOLE["hub"], "old_mm": old, "left_center_to_flange_mm": 30})
        for old in (59.9, 200.1):
            with self.assertRaises(BadPart):
                checked_attributes("hub", {**self.WHOLE["hub"], "old_mm": old, "left_center_to_flange_mm": 29})
        checked_attributes("rim", {**rim, "bead_seat_mm": 622})
        for bead in (199, 701, 621):
            with self.assertRaises(BadPart):
                checked_attributes("rim", {**rim, "bead_seat_mm": bead})

    def test_what_each_needs_and_knows(self) -> None:
        needs = {kind: {a.name for a in attributes if a.required} for kind, attributes in ATTRIBUTES.items()}
        self.assertEqual(needs, {kind: set(whole) for kind, whole in self.WHOLE.items()})
        for kind, whole in self.WHOLE.items():
            for name in whole:
                with self.subTest(kind=kind, without=name), self.assertRaises(BadPart) as caught:
                    checked_attributes(kind, {k: v for k, v in whole.items() if k != name})
                self.assertEqual(caught.exception.field, f"attributes.{name}")
        spoke = self.WHOLE["spoke"]
        self.assertEqual(checked_attributes("spoke", {**spoke, "colour": "", "elbow": None}), spoke)
        self.assertEqual(checked_attributes("spoke", {**spoke, "colour": "x" * 40, "elbow": False})["elbow"], False)
        for bad in (
            {"colour": "x" * 41}, {"colour": 3}, {"elbow": "yes"}, {"elbow": 1}, {"material": "gold"}, {"weight": 3},
            {"length_mm": True},
            {"length_mm": "290"}, {"length_mm": float("nan")},
        ):  # fmt: skip
            with self.subTest(bad), self.assertRaises(BadPart):
                checked_attributes("spoke", {**spoke, **bad})
        with self.assertRaises(BadPart):
            checked_attributes("frame", {})

    def test_the_core_s_own(self) -> None:
        self.assertEqual(
            spoke_of({"length_mm": 290, "end_diameter_mm": 2.0, "middle_diameter_mm": 1.8, "colour": "black"}), Spoke(2.0, 1.8)
        )
        for wire, unknown in (
            (2.0, set()),
            (2.05, set()),
            (1.95, set()),
            (2.07, {"body_mm", "key_mm", "pitch_mm"}),
            (1.93, {"body_mm", "key_mm", "pitch_mm"}),
        ):
            self.assertEqual(set(nipple_of({"for_thread_mm": wire}).unknown), unknown)
        self.assertEqual(set(nipple_of({"for_thread_mm": 2.3, "key_mm": 3.4}).unknown), {"body_mm", "pitch_mm"})
        rim = rim_of({"erd_mm": 598, "holes": 36, "bead_seat_mm": 622.0, "cap_n": 1100, "stagger_mm": 1.5})
        self.assertEqual((rim.erd_mm, rim.bead_seat_mm, rim.cap_n, rim.stagger_mm, rim.target_n), (598, 622, 1100, 1.5, None))
        hub = hub_of(self.WHOLE["hub"])
        self.assertEqual(
            (hub.old_mm, hub.right.center_to_flange_mm, hub.left.center_to_flange_mm, hub.right.hole_diameter_mm),
            (130, 20, 35, 2.6),
        )
        self.assertEqual((pitch_of({}), pitch_of({"pitch_mm": 0.5})), (THREAD_PITCH_MM, 0.5))


class StandIns(unittest.TestCase):
    WANTED = Wanted(290.0, 0.5, Spoke(2.0), 4)

    def bin(self, key: str, length: float, count: int = 10, **more) -> Stocked:  # type: ignore[no-untyped-def]
        return Stocked(key, key, {"length_mm": length, "end_diameter_mm": 2.0, **more}, count)

    def test_best_first(self) -> None:
        """Enough, as it is, in the window, of the same wire, nearest to its middle: in that order."""
        stock = [
            self.bin("few", 289, 3), self.bin("cut", 296), self.bin("slot", 290), self.bin("other wire", 289,
            middle_diameter_mm=1.8),
            self.bin("best", 289), self.bin("off middle", 288.6),
        ]  # fmt: skip
        found = offers(self.WANTED, stock, True)
        self.assertEqual([o.key for o in found], ["best", "off middle", "other wire", "slot", "cut", "few"])
        self.assertEqual([o.enough for o in found], [True] * 5 + [False])
        cut = found[4]
        self.assertEqual((cut.how, cut.cut_to_mm), ("cut", 289.0))
        self.assertIn("Cut 7 mm off", cut.cautions[0])
        self.assertEqual(
            [o.key for o in offers(self.WANTED, stock, False)], ["best", "off middle", "other wire", "slot", "few"]
        )
        self.assertEqual(offers(self.WANTED, [self.bin("none", 289, 0)], True), ())
        self.assertTrue(offers(self.WANTED, [self.bin("four", 289, 4)], True)[0].enough)
        self.assertEqual(offers(self.WANTED, [self.bin("one", 289, 1)], True)[0].count, 1)

    def test_threads_and_heads_must_match(self) -> None:
        pitch = THREAD_PITCH_MM
        for more, served in (
            ({"end_diameter_mm": 2.05}, True), ({"end_diameter_mm": 2.07}, False), ({"end_diameter_mm": 1.93}, False),
            ({"pitch_mm": pitch + 0.0039}, True),
            ({"pitch_mm": pitch + 0.0041}, False), ({"pitch_mm": pitch - 0.0041}, False), ({"elbow": False}, False),
            ({"elbow": True}, True),
        ):  # fmt: skip
            with self.subTest(more):
                self.assertEqual(bool(offers(self.WANTED, [self.bin("x", 289, **more)], False)), served)
        straight = replace(self.WANTED, elbow=False)
        self.assertTrue(offers(straight, [self.bin("x", 289, elbow=False)], False))

    def test_another_wire_stretches_by_its_own_stiffness(self) -> None:
        """Hooke: half a millimetre of the plain wire is a pull of k/2; a thinner middle gives more."""
        thin = Spoke(2.0, 1.6)
        pull = 0.5 * Spoke(2.0).axial_stiffness_n_mm(290)
        found = offers(self.WANTED, [self.bin("thin", 289, middle_diameter_mm=1.6)], False)[0]
        self.assertAlmostEqual(found.fit.end_mm, 289 + pull / thin.axial_stiffness_n_mm(290) - 290, 9)
        self.assertTrue(any("Another middle" in line for line in found.cautions))
        other = offers(self.WANTED, [self.bin("steel", 289, material="carbon_steel")], False)[0]
        self.assertTrue(any("Another material" in line for line in other.cautions))
        slot = offers(self.WANTED, [self.bin("slot", 290)], False)[0]
        self.assertEqual(len(slot.cautions), 1)

    def test_what_can_be_cut(self) -> None:
        """New thread of 9.5 mm and what is cut off must fit on the thick end (25 mm), or on half of a plain spoke."""
        butted = {"length_mm": 300, "end_diameter_mm": 2.0, "middle_diameter_mm": 1.8}
        self.assertEqual(why_not_cut(butted, 300 - 15.5), "")
        self.assertNotEqual(why_not_cut(butted, 300 - 15.6), "")
        plain = {"length_mm": 300, "end_diameter_mm": 2.0}
        self.assertEqual(why_not_cut(plain, 300 - 140.5), "")
        self.assertNotEqual(why_not_cut(plain, 300 - 140.6), "")
        self.assertIn("only a longer", why_not_cut(plain, 300))
        check_stocked_length(plain, 300.005, False)
        check_stocked_length(plain, 290, True)
        for length, can_cut in ((290, False), (300.011, True), (299.989, False), (301, True)):
            with self.assertRaises(BadPart):
                check_stocked_length(plain, length, can_cut)

    def test_names(self) -> None:
        self.assertEqual(name_of_spoke({"length_mm": 290, "end_diameter_mm": 2.0}), "Spoke 290 mm, 2.0")
        self.assertEqual(
            name_of_spoke({"length_mm": 290, "end_diameter_mm": 2.0, "middle_diameter_mm": 1.8, "elbow": False}),
            "Spoke 290 mm, 2.0/1.8, straight",
        )
        blade = {"length_mm": 290, "end_diameter_mm": 2.0, "blade_thickness_mm": 0.9, "blade_width_mm": 2.2, "colour": "black"}
        self.assertEqual(name_of_spoke(blade), "Spoke 290 mm, 2.0, blade 0.9×2.2, black")


class Library(unittest.TestCase):
    HEAD = "kind,name,length_mm,end_diameter_mm,elbow,minimum,counted"

    def test_cells(self) -> None:
        rows = read_parts(f"{self.HEAD}\nspoke,a,290,2.0,yes,5,7\nspoke,b,290.5,2,0,,\n\nspoke,A,290,2.0,,,\n")
        self.assertEqual([r.line for r in rows], [2, 3, 5])
        self.assertEqual(
            (rows[0].values["attributes"], rows[0].values["minimum"], rows[0].counted),
            ({"length_mm": 290.0, "end_diameter_mm": 2.0, "elbow": True}, 5, 7),
        )
        self.assertEqual((rows[1].values["attributes"]["elbow"], rows[1].counted), (False, None))
        self.assertIn("twice", rows[2].wrong)
        for word, flag in (("yes", True), ("TRUE", True), ("1", True), ("no", False), ("False", False), ("0", False)):
            self.assertIs(read_parts(f"{self.HEAD}\nspoke,a,290,2,{word},,\n")[0].values["attributes"]["elbow"], flag)
        for row in (
            "spoke,,290,2,,,", f"spoke,{'x' * 81},290,2,,,", "gear,a,290,2,,,", "spoke,a,x,2,,,",
            "spoke,a,290,2,maybe,,", "spoke,a,290,2,,-1,",
            "spoke,a,290,2,,100001,", "spoke,a,290,2,,1.5,", "spoke,a,,2,,,",
        ):  # fmt: skip
            with self.subTest(row[:30]):
                self.assertTrue(read_parts(f"{self.HEAD}\n{row}\n")[0].wrong)
        self.assertEqual(read_parts(f"{self.HEAD}\nspoke,{'x' * 80},290,2,,100000,\n")[0].wrong, "")
        semicolons = read_parts(self.HEAD.replace(",", ";") + "\nspoke;a;290,5;2,0;;;\n")[0]
        self.assertEqual(semicolons.values["attributes"]["length_mm"], 290.5)
        self.assertTrue(read_parts(f'{self.HEAD}\nspoke,a,"290,5",2,,,\n')[0].wrong)

    def test_what_is_no_library(self) -> None:
        for text in (
            "", self.HEAD, "kind,name,colour of it\nspoke,a,b\n", "kind,length_mm\nspoke,290\n", "name\na\n",
            'kind,name\n"spoke,a\n',
            "kind,name\n" + "tape,a\n" * 5001, "kind,name\ntape," + "x" * 1_000_000 + "\n",
        ):  # fmt: skip
            with self.subTest(text[:30]), self.assertRaises(BadPartsFile):
                read_parts(text)
        # Filled up with blank lines, which count as no rows but as bytes.
        whole = "kind,name\ntape,a\n" + (" " * 99_999 + "\n") * 9
        self.assertEqual(len(read_parts(whole + " " * (1_000_000 - len(whole)))), 1)
        with self.assertRaises(BadPartsFile):
            read_parts(whole + " " * (1_000_001 - len(whole)))
        self.assertEqual(len(read_parts("\ufeffkind,name\n" + "".join(f"tape,t{i}\n" for i in range(5000)))), 5000)

    def test_out_and_in_keeps_everything(self) -> None:
        part = {
            "kind": "spoke",
            "name": "a",
            "bin": "B3",
            "minimum": 5,
            "pack": None,
            "counted": 7,
            "attributes": {"length_mm": 290.0, "end_diameter_mm": 2.0, "elbow": False},
        }
        row = read_parts(write_parts([part]))[0]
        self.assertEqual((row.wrong, row.counted, row.values["bin"], row.values["minimum"]), ("", 7, "B3", 5))
        self.assertEqual(row.values["attributes"], part["attributes"])
        narrow = read_parts("kind,name,length_mm,end_diameter_mm,colour\nspoke,a,291,2,\n")[0]
        known = {"length_mm": 290, "end_diameter_mm": 2.0, "colour": "black", "elbow": False}
        self.assertEqual(narrow.attributes_over(known), {"elbow": False, "length_mm": 291.0, "end_diameter_mm": 2.0})


if __name__ == "__main__":
    unittest.main()
