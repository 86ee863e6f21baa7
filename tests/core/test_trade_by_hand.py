"""Suspicions, refit, the road, frames, promises, gauges, hang tests, slips and verdicts, at their borders and by hand.

Limits and words of the trade: common practice, no source, as the core says.
"""

from __future__ import annotations

import itertools
import math
import unittest
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np

from felloe.core.components import Hub, Spoke
from felloe.core.errors import BadReading, ImpossibleGeometry
from felloe.core.measuring.slips import Entry, near_misses, slips
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.learning import RimFactors, learn
from felloe.core.mechanics.readings import Readings, TensionReading, entered_deviation_mm, entered_force_n
from felloe.core.mechanics.rim_section import box_section, deflection_mm, hang_test
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.refit.checklist import BikeFacts, refit_steps
from felloe.core.refit.road_advice import road_card
from felloe.core.refit.spare_card import spare_card
from felloe.core.runout.frame_gauge import frame_error
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.suspicions import suspicions
from felloe.core.spokes.twist import thread_torque_nmm, torsion_constant_mm4, twist_turns
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.curve import Reach, own_bend, straight_against_even, to_customer, verdict
from felloe.core.truing.tiers import FINE, RACE, ROADWORTHY, SOUND
from felloe.core.wire_gauges import nearest_gauge
from tests.core.wheels import ALL, DISC_FRONT, REAR, influence, read_fully

NOW = datetime(2026, 3, 2, 12, tzinfo=UTC)


class Suspected(unittest.TestCase):
    def fields(self, wheel) -> set[str]:  # type: ignore[no-untyped-def]
        return {found.field for found in suspicions(wheel)}

    def flange(self, side: str, **changes: float):  # type: ignore[no-untyped-def]
        return replace(REAR, hub=replace(REAR.hub, **{side: replace(getattr(REAR.hub, side), **changes)}))

    def test_borders(self) -> None:
        self.assertEqual(self.fields(REAR), set())
        for erd, told in ((612.0, False), (612.5, True)):
            rim = replace(REAR.rim, bead_seat_mm=622, erd_mm=erd)
            self.assertEqual("rim.erd_mm" in self.fields(replace(REAR, rim=rim)), told)
        self.assertNotIn("rim.erd_mm", self.fields(replace(REAR, rim=replace(REAR.rim, bead_seat_mm=None))))
        for count, told in ((18, False), (17, True), (15, True)):
            sides = {side: replace(getattr(REAR, side), count=count, crossings=0) for side in ("right", "left")}
            self.assertEqual("right.count" in self.fields(replace(REAR, **sides)), told)
        for old, told in (
            (131.0, False),
            (129.0, False),
            (122.9, True),
            (131.1, False),
            (133.2, True),
            (138.0, True),
            (136.0, False),
            (136.1, True),
        ):
            hub = replace(REAR.hub, old_mm=old)
            self.assertEqual("hub.old_mm" in self.fields(replace(REAR, hub=hub)), told, old)
        for usual in (
            70,
            74,
            91,
            100,
            104,
            110,
            112,
            114,
            117,
            119,
            120,
            126,
            127,
            130,
            132,
            135,
            141,
            142,
            145,
            148,
            150,
            157,
            160,
        ):
            for off in (-1.0, 1.0):
                hub = Hub(
                    usual + off, replace(REAR.hub.right, center_to_flange_mm=30), replace(REAR.hub.left, center_to_flange_mm=30)
                )
                self.assertNotIn("hub.old_mm", self.fields(replace(REAR, hub=hub)), usual)
        for aside, told in ((8.0, False), (7.9, True)):
            self.assertEqual(
                "hub.right.center_to_flange_mm" in self.fields(self.flange("right", center_to_flange_mm=aside)), told
            )
        for circle, told in ((26.0, False), (25.9, True)):
            self.assertEqual("hub.right.pitch_circle_mm" in self.fields(self.flange("right", pitch_circle_mm=circle)), told)
        left = REAR.hub.left.pitch_circle_mm
        for ratio, told in ((1.69, False), (1.71, True), (1 / 1.69, False), (1 / 1.71, True)):
            self.assertEqual(
                "hub.left.pitch_circle_mm" in self.fields(self.flange("right", pitch_circle_mm=left * ratio)), told
            )
        for hole, told in ((2.11, False), (2.09, True), (2.89, False), (2.91, True)):
            self.assertEqual("hub.right.hole_diameter_mm" in self.fields(self.flange("right", hole_diameter_mm=hole)), told)
        self.assertNotIn(
            "hub.right.hole_diameter_mm", self.fields(self.flange("right", hole_diameter_mm=3.5, straight_pull_angle_deg=60.0))
        )

    def test_a_bed_offset_the_wrong_way(self) -> None:
        """Toward the nearer flange by a millimetre or more, on a hub whose flanges stand 4 mm apart or more."""
        nearer = 1 if REAR.hub.right.center_to_flange_mm < REAR.hub.left.center_to_flange_mm else -1
        for offset, told in ((1.0 * nearer, True), (0.9 * nearer, False), (-2.0 * nearer, False), (2.0 * nearer, True)):
            rim = replace(REAR.rim, spoke_bed_offset_mm=offset)
            self.assertEqual("rim.spoke_bed_offset_mm" in self.fields(replace(REAR, rim=rim)), told)
        for gap, told in ((4.0, True), (3.9, False)):
            hub = replace(
                REAR.hub,
                right=replace(REAR.hub.right, center_to_flange_mm=30.0),
                left=replace(REAR.hub.left, center_to_flange_mm=30.0 + gap),
            )
            wheel = replace(REAR, hub=hub, rim=replace(REAR.rim, spoke_bed_offset_mm=2.0))
            self.assertEqual("rim.spoke_bed_offset_mm" in self.fields(wheel), told)

    def test_a_side_so_slack_that_nipples_unwind(self) -> None:
        targets = side_targets_n(REAR)
        for loose, told in ((450.5, False), (449.5, True)):
            scaled = replace(REAR.rim, target_n=REAR.rim.tension_target_n * loose / min(targets.values()), cap_n=3000)
            self.assertEqual("tension" in self.fields(replace(REAR, rim=scaled)), told)

    def test_wire_gauges(self) -> None:
        """BS 3737: 12 to 16 SWG are 2.642, 2.337, 2.032, 1.829 and 1.626 mm; the trade says 2.6, 2.3, 2.0, 1.8 and 1.6."""
        for exact, trade, number in ((2.642, 2.6, 12), (2.337, 2.3, 13), (2.032, 2.0, 14), (1.829, 1.8, 15), (1.626, 1.6, 16)):
            for diameter in (exact, trade, exact + 0.059, trade - 0.059):
                self.assertEqual(nearest_gauge(diameter), number)
            self.assertIsNone(nearest_gauge(exact + 0.061))
            self.assertIsNone(nearest_gauge(trade - 0.061))


class Refitted(unittest.TestCase):
    def keys(self, **facts) -> list[str]:  # type: ignore[no-untyped-def]
        return [step.key for step in refit_steps(BikeFacts(**{**self.PLAIN, **facts}))]

    PLAIN = {"rear": False, "brake": "rim", "axle": "quick", "dropout": "vertical", "tyre": "tubed"}

    def text(self, key: str, **facts) -> str:  # type: ignore[no-untyped-def]
        return next(step.text for step in refit_steps(BikeFacts(**{**self.PLAIN, **facts})) if step.key == key)

    def test_steps(self) -> None:
        usual = ["spoke_ends", "tyre", "axle_home", "clamped", "brake", "spin", "play", "test_ride"]
        self.assertEqual(self.keys(), usual)
        self.assertEqual(set(self.keys(directional=True)) - set(usual), {"direction"})
        self.assertEqual(set(self.keys(brake="disc")) - set(usual), {"rotor_clean"})
        self.assertEqual(set(self.keys(rear=True)) - set(usual), {"chain"})
        self.assertEqual(set(self.keys(rear=True, hub_gear=True)) - set(usual), {"reaction_arm"})
        self.assertEqual(self.keys(hub_gear=True), usual)
        self.assertEqual(self.keys(with_bike=False), ["spoke_ends", "tyre", "tell_fitter"])

    def test_axles_and_tyres(self) -> None:
        for facts, word in (
            ({"dropout": "through"}, "threaded by hand"), ({"axle": "through"}, "threaded by hand"),
            ({"dropout": "horizontal"}, "stop screws"), ({}, "Bike on the ground"),
        ):  # fmt: skip
            self.assertIn(word, self.text("axle_home", **facts))
        for axle, word in (("through", "Axle to"), ("nuts", "both nuts"), ("quick", "Lever")):
            self.assertIn(word, self.text("clamped", axle=axle))
        self.assertIn("12 N·m", self.text("clamped", axle="through", axle_torque_nm=12))
        self.assertIn("look it up", self.text("clamped", axle="through"))
        for tyre, word in (("tubeless", "ten minutes"), ("glued", "rolled off"), ("tubed", "Tube not nipped")):
            self.assertIn(word, self.text("tyre", tyre=tyre))

    def test_the_road(self) -> None:
        for trouble, carbon, spokes, rideable in (
            ("hit", True, 36, False), ("hit", False, 36, True), ("several_broken", False, 36, False),
            ("rim_cracked", False, 36, False),
            ("broken_spoke", False, 24, True), ("broken_spoke", False, 23, False), ("broken_spoke", True, 36, False),
            ("loose_spokes", True, 36, True),
            ("axle_loose", True, 36, True), ("wobbles", True, 36, True),
        ):  # fmt: skip
            card = road_card(trouble, False, False, carbon, spokes)
            with self.subTest(trouble=trouble, carbon=carbon, spokes=spokes):
                self.assertEqual(card.ride, rideable)
                if not rideable:
                    self.assertEqual((card.km, card.km_h), (0, 0))

    def test_spares_as_laced_or_as_computed(self) -> None:
        targets = side_targets_n(REAR)
        wheels = [("rear", REAR, True), ("front", DISC_FRONT, False)]
        card = spare_card(wheels, {("front", Side.LEFT): 283.0})
        found = {(line.position, line.side): line for line in card.spokes}
        self.assertEqual(found["front", Side.LEFT].length_mm, 283.0)
        self.assertTrue(found["front", Side.LEFT].measured)
        self.assertFalse(found["front", Side.RIGHT].measured)
        right = spoke_length_mm(REAR, Side.RIGHT) - stretch_mm(REAR, Side.RIGHT, targets[Side.RIGHT])
        self.assertEqual(found["rear", Side.RIGHT].length_mm, math.floor(right - 0.5 + 0.5))
        self.assertEqual(
            {k: line.carry for k, line in found.items()},
            {("rear", Side.RIGHT): 2, ("rear", Side.LEFT): 1, ("front", Side.RIGHT): 1, ("front", Side.LEFT): 1},
        )
        self.assertTrue(any("5 nipples" in line for line in card.carry))
        self.assertTrue(any("sprockets" in line for line in card.carry))
        self.assertEqual(len(card.mind), 3)
        front = spare_card([("front", DISC_FRONT, True)], {})
        self.assertFalse(any("sprockets" in line for line in front.carry))
        self.assertEqual(len(front.mind), 2)


class Framed(unittest.TestCase):
    def test_advice(self) -> None:
        for gap, material, advice in (
            (4.0, "steel", "leave"), (4.1, "steel", "set"), (4.1, "aluminium", "refer"), (4.1, "carbon", "refer"),
            (4.1, "titanium", "refer"),
            (4.1, "unknown", "refer"), (0.0, "unknown", "leave"),
        ):  # fmt: skip
            found = frame_error(0.0, gap, material, "rear", 300)
            self.assertEqual(found.advice, advice)
        self.assertIn("Find out the material", frame_error(0, 8, "unknown", "rear", 300).why)
        self.assertIn("never bent", frame_error(0, 8, "carbon", "rear", 300).why)

    def test_where_it_lies(self) -> None:
        right = frame_error(0.0, 6.0, "steel", "rear", 300)
        self.assertEqual((right.offset_mm, right.toward, right.each_stay_mm, right.sd_mm), (3.0, Side.RIGHT, 3.0, 0.25))
        np.testing.assert_allclose(right.at_rim_mm, (3 * (1 - 300 / 430), 3.0))
        left = frame_error(6.0, 0.0, "steel", "front", 300)
        self.assertEqual((left.offset_mm, left.toward), (-3.0, Side.LEFT))
        np.testing.assert_allclose(left.at_rim_mm, (-3 * (1 - 300 / 370), -3.0))
        self.assertIsNone(frame_error(0.0, 0.0, "steel", "front", 300).toward)
        self.assertIs(frame_error(0.5, 0.0, "steel", "front", 300).toward, Side.LEFT)
        np.testing.assert_allclose(frame_error(0.0, 6.0, "steel", "rear", 300, 500).at_rim_mm[0], 3 * 0.4)
        for bad in ((0.1, 0.1), (-0.1, 0), (0, 40.1), (float("nan"), 0)):
            with self.assertRaises(BadReading):
                frame_error(*bad, "steel", "rear", 300)
        frame_error(0.0, 40.0, "steel", "rear", 300, 700)
        for stay in (300, 700.1, float("nan")):
            with self.assertRaises(BadReading):
                frame_error(0.0, 1.0, "steel", "rear", 300, stay)


class Screws(unittest.TestCase):
    def test_torque_and_twist(self) -> None:
        """Raising and lowering torque of a power screw (Shigley), with the thread's flank angle; a bar's twist is T·L/(G·J)."""
        for friction in (0.1, 0.2):
            lead = math.atan(0.4536 / (math.pi * 2.0))
            rub = math.atan(friction / math.cos(math.radians(30)))
            self.assertAlmostEqual(thread_torque_nmm(1000, 0.4536, 2.0, True, friction), 1000 * math.tan(lead + rub), 6)
            self.assertAlmostEqual(thread_torque_nmm(1000, 0.4536, 2.0, False, friction), 1000 * math.tan(rub - lead), 6)
        self.assertEqual(thread_torque_nmm(1000, 0.4536, 2.0, False, 0.001), 0)
        butted = Spoke(2.0, 1.6)
        ends, middle = torsion_constant_mm4(butted)
        self.assertAlmostEqual(ends, math.pi * 2.0**4 / 32)
        self.assertAlmostEqual(middle, math.pi * 1.6**4 / 32)
        torque = thread_torque_nmm(1000, 0.4536, 2.0, True, 0.15)
        shear = 200_000 / 2.6
        turned = torque / shear * (50 / ends + 240 / middle) / (2 * math.pi)
        self.assertAlmostEqual(twist_turns(butted, 290, 0.4536, 1000, True), turned, 9)
        self.assertAlmostEqual(twist_turns(butted, 40, 0.4536, 1000, True), torque / shear * 40 / ends / (2 * math.pi), 9)


class Hung(unittest.TestCase):
    def test_a_weight_bends_a_known_rim(self) -> None:
        """What a stiffer rim gives is found again as its factor; a gram-force's worth is 9.80665 mN."""
        small = ALL["small-front-20"]
        for factor, sideways in ((1.4, False), (0.7, True)):
            rim = small.rim
            stiff = replace(
                small,
                rim=replace(
                    rim, ei_lat_nm2=rim.ei_lat_nm2 * factor, ei_rad_nm2=rim.ei_rad_nm2 * factor, gj_nm2=rim.gj_nm2 * factor
                ),
            )
            measured = deflection_mm(influence_of(stiff), 90.0, 10.0, sideways)
            found = hang_test(small, 90.0, 10.0, measured, sideways)
            self.assertAlmostEqual(found.factor, factor, 3)
            self.assertAlmostEqual(found.predicted_mm, deflection_mm(influence_of(small), 90.0, 10.0, sideways), 6)
            self.assertAlmostEqual(found.rim.gj_nm2, stiff.rim.gj_nm2, delta=0.01 * stiff.rim.gj_nm2)
            # A tenth of the dial's standard deviation more moves the factor by a tenth of its own.
            more = hang_test(small, 90.0, 10.0, measured + 0.002, sideways)
            self.assertAlmostEqual(abs(math.log(more.factor / found.factor)) / found.log_sd, 0.1, delta=0.015)
            self.assertAlmostEqual(hang_test(small, 90.0, 10.0, measured, sideways, 0.04).log_sd, 2 * found.log_sd)
        self.assertAlmostEqual(
            deflection_mm(influence(small), 90.0, 20.0, True), 2 * deflection_mm(influence(small), 90.0, 10.0, True)
        )
        force = np.zeros(6 * 20)
        hole = 4
        angle = influence(small).lacing.rim_angle_rad[hole]
        force[6 * hole] = math.cos(angle) * 98.0665
        force[6 * hole + 1] = math.sin(angle) * 98.0665
        moved = influence(small).response_to(force)
        outward = math.cos(angle) * moved[6 * hole] + math.sin(angle) * moved[6 * hole + 1]
        self.assertAlmostEqual(deflection_mm(influence(small), math.degrees(angle), 10.0, False), outward, 9)
        for mass, gave in ((0.9, 1.0), (60.1, 1.0), (10, 0.0), (10, 20.1), (10, 15.0), (10, 0.001)):
            with self.assertRaises(ImpossibleGeometry):
                hang_test(small, 90.0, mass, gave, True)
        light = deflection_mm(influence(small), 90.0, 1.0, True)
        self.assertAlmostEqual(hang_test(small, 90.0, 1.0, light, True).factor, 1, 3)
        heavy = deflection_mm(influence(small), 90.0, 60.0, False)
        self.assertAlmostEqual(hang_test(small, 90.0, 60.0, heavy, False).factor, 1, 3)

    def test_boxes(self) -> None:
        for good in ((8, 6, 0.4), (80, 120, 6)):
            box_section(*good, "steel")
        for field, bad in (
            ("width_mm", (7.9, 20, 1)), ("width_mm", (80.1, 20, 1)), ("height_mm", (20, 5.9, 1)),
            ("height_mm", (20, 121, 1)), ("wall_mm", (20, 20, 0.39)),
            ("wall_mm", (20, 20, 6.1)), ("wall_mm", (8, 20, 4)), ("wall_mm", (20, 8, 4)), ("material", (20, 20, 1)),
        ):  # fmt: skip
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry) as caught:
                box_section(*bad, "gold" if field == "material" else "steel")
            self.assertEqual(caught.exception.field, field)
        box = box_section(20, 10, 1, "aluminium")
        self.assertAlmostEqual(box.ea_n, 70_000 * (200 - 18 * 8))
        self.assertAlmostEqual(box.ei_lat_nm2, 70_000 * (10 * 20**3 - 8 * 18**3) / 12 * 1e-6)
        self.assertAlmostEqual(box.ei_rad_nm2, 70_000 * (20 * 10**3 - 18 * 8**3) / 12 * 1e-6)
        self.assertAlmostEqual(box.gj_nm2, 26_000 * 4 * (19 * 9) ** 2 / (2 * (19 + 9)) * 1e-6)
        self.assertEqual(box.spread, 0.25)
        self.assertEqual(
            {m: box_section(20, 10, 1, m).ea_n / 56 for m in ("steel", "carbon")}, {"steel": 210_000, "carbon": 50_000}
        )


class Learnt(unittest.TestCase):
    def test_a_stiffer_rim_is_learnt_from_what_moved(self) -> None:
        """Changes made by a rim of known factors, with no noise: they are found; the same pass twice leaves less doubt."""
        wheel = ALL["small-front-20"]
        truth = RimFactors(1.3, 0.8, 1.2)
        rng = np.random.default_rng(1)
        turns = np.round(rng.normal(0, 0.5, 20) * 8) / 8
        before = read_fully(VirtualWheel.ideal(wheel), rng, 0.0, 0.0)
        inf = influence_of(truth.applied(wheel))
        angles = np.array(wheel.angles_deg)
        after = Readings(
            [replace(r, tension_n=r.tension_n + float(inf.tension_n[i] @ turns)) for i, r in enumerate(before.tension)],
            [
                replace(r, deviation_mm=r.deviation_mm + float(m) + 4.0)
                for r, m in zip(before.lateral, inf.lateral_at(angles) @ turns, strict=True)
            ],
            [
                replace(r, deviation_mm=r.deviation_mm + float(m) - 2.0)
                for r, m in zip(before.radial, inf.radial_at(angles) @ turns, strict=True)
            ],
            [replace(r, dish_mm=r.dish_mm + float(inf.lateral_mm.mean(axis=0) @ turns)) for r in before.dish],
        )
        found = learn(wheel, before, after, turns)
        assert found is not None
        self.assertEqual(found.changes, 61)
        self.assertEqual(found.shirkers, ())
        self.assertLess(found.misfit_after, found.misfit_before)
        self.assertLess(found.misfit_after, 0.2)
        self.assertAlmostEqual(found.factors.ei_lat, 1.3, delta=0.12)
        self.assertLess(found.factors.log_sd[0], 0.22)
        again = learn(wheel, before, after, turns, found.factors)
        assert again is not None
        self.assertLess(again.factors.log_sd[0], found.factors.log_sd[0])
        known = learn(truth.applied(wheel), before, after, turns)
        assert known is not None
        self.assertLess(known.misfit_before, 0.02)
        self.assertAlmostEqual(known.factors.ei_lat, 1, 2)
        # Seven places teach nothing, eight do; nor does a pass without a turn.
        eight = Readings(before.tension[:8]), Readings(after.tension[:8])
        self.assertIsNotNone(learn(wheel, *eight, turns))
        self.assertIsNone(learn(wheel, Readings(before.tension[:7]), eight[1], turns))
        self.assertIsNone(learn(wheel, before, after, np.zeros(20)))
        # What was carried stands in groups of its own and is no change.
        carried = replace(after, lateral=[replace(r, group=1) for r in after.lateral])
        other = learn(wheel, before, carried, turns)
        assert other is not None
        self.assertEqual(other.changes, 41)

    def test_a_nipple_that_did_half_its_turn(self) -> None:
        wheel = ALL["small-front-20"]
        rng = np.random.default_rng(1)
        before = read_fully(VirtualWheel.ideal(wheel), rng, 0.0, 0.0)
        inf = influence(wheel)
        turns = np.zeros(20)
        turns[[2, 5, 11]] = 1.0, -1.0, 0.75
        for share, named in ((0.3, True), (0.0, True), (0.85, False), (1.0, False)):
            done = turns.copy()
            done[5] *= share
            after = Readings(
                [replace(r, tension_n=r.tension_n + float(inf.tension_n[i] @ done)) for i, r in enumerate(before.tension)],
                [
                    replace(r, deviation_mm=r.deviation_mm + float(inf.lateral_mm[i] @ done))
                    for i, r in enumerate(before.lateral)
                ],
            )
            found = learn(wheel, before, after, turns)
            assert found is not None
            with self.subTest(share=share):
                self.assertEqual([s.spoke for s in found.shirkers], [str(wheel.names[5])] if named else [])
                if named:
                    self.assertAlmostEqual(found.shirkers[0].share, share, delta=0.12)


class Slipped(unittest.TestCase):
    def test_numbers_that_one_key_turns_into_another(self) -> None:
        """A digit left out or added, two exchanged, the point moved, the other sign: by listing."""
        found = set(near_misses(12.5))
        for value in (1.5, 2.5, 12.0, 125.0, 21.5, 1.25, 0.125, 112.5, 12.55, 12.05, -12.5):
            self.assertIn(value, found)
        self.assertNotIn(12.5, found)
        self.assertEqual(list(near_misses(12.5)), sorted(found))
        negative = near_misses(-0.4)
        self.assertIn(0.4, negative)
        self.assertIn(-4.0, negative)
        self.assertNotIn(4.0, negative)
        self.assertIn(90.0, near_misses(900))
        self.assertIn(9000.0, near_misses(900))
        self.assertIn(9.0, near_misses(900))

    def asked(self, readings: Readings) -> tuple:  # type: ignore[type-arg]
        entries = [Entry("tension", r.spoke, r.tension_n, lambda v: entered_force_n(v, "N")) for r in readings.tension]
        wheel = REAR
        for kind in ("lateral", "radial"):
            entries += [
                Entry(kind, str(n), r.deviation_mm, entered_deviation_mm)
                for n, r in zip(wheel.names, getattr(readings, kind), strict=False)
            ]
        return slips(influence(REAR), readings, entries)

    def test_a_side_moved_round_and_what_it_is_called(self) -> None:
        rng = np.random.default_rng(22)
        clean = read_fully(used_wheel(REAR, rng, 0.3), rng, 10.0)
        clean = replace(clean, lateral=[replace(r, deviation_mm=r.deviation_mm - 3) for r in clean.lateral])
        by_name = {r.spoke: r.tension_n for r in clean.tension}

        def moved(side: str, way: int) -> Readings:
            """Each of a side has the figure of the one `way` on; 0: counted from the other end."""
            names = [f"{side}{i}" for i in range(1, 19)]
            other = {n: names[(k + way) % 18] if way else names[17 - k] for k, n in enumerate(names)}
            return replace(clean, tension=[replace(r, tension_n=by_name[other.get(r.spoke, r.spoke)]) for r in clean.tension])

        for side, word in (("R", "right"), ("L", "left")):
            for way, kind, place in ((1, "shifted", "after"), (-1, "shifted", "before"), (0, "turned_round", "")):
                found = self.asked(moved(side, way))
                with self.subTest(side=side, way=way):
                    self.assertEqual(found[0].kind, kind)
                    self.assertIn(word, found[0].what)
                    self.assertIn(place, found[0].mending)
                    self.assertEqual(len(found[0].places), 18)

    def test_one_of_each_kind_with_its_mending(self) -> None:
        rng = np.random.default_rng(21)
        clean = read_fully(used_wheel(REAR, rng, 0.15), rng, 15.0)
        clean = replace(
            clean,
            tension=[replace(r, tension_n=float(round(r.tension_n))) for r in clean.tension],
            lateral=[replace(r, deviation_mm=round(r.deviation_mm - 3.0, 2)) for r in clean.lateral],
            radial=[replace(r, deviation_mm=round(r.deviation_mm + 1.0, 2)) for r in clean.radial],
        )
        self.assertEqual(self.asked(clean), ())
        tension = list(clean.tension)
        true = tension[6].tension_n
        tension[6] = replace(tension[6], tension_n=true * 10 if true < 490 else float(str(int(true))[:-1]))
        found = self.asked(replace(clean, tension=tension))
        self.assertEqual((found[0].kind, found[0].places), ("digit", (("tension", tension[6].spoke),)))
        self.assertAlmostEqual(found[0].instead["tension", tension[6].spoke], true, delta=60)
        far = [replace(r, tension_n=r.tension_n + 431) if i == 9 else r for i, r in enumerate(clean.tension)]
        found = self.asked(replace(clean, tension=far))
        self.assertEqual([p for s in found for p in s.places], [("tension", far[9].spoke)])
        few = Readings(clean.tension[:7])
        self.assertEqual(slips(influence(REAR), few, []), ())


class Curves(unittest.TestCase):
    def test_what_the_programme_says_is_what_its_turns_do(self) -> None:
        """Runouts and dish of the best point, from its own turns; every limit kept; the share is the worst of the three."""
        rng = np.random.default_rng(12)
        wheel = ALL["small-front-20"]
        state = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.3), rng))
        inf = influence(wheel)
        slack = replace(state, tension_n=state.tension_n * 0.75)
        raised = Reach(slack, SOUND).best(slack, 20.0)
        assert raised is not None
        tight = (slack.tension_n + inf.tension_n @ raised.turns)[wheel.on_side(tight_side(wheel))].mean()
        self.assertGreaterEqual(tight, 0.92 * wheel.rim.tension_target_n - 1e-3)
        for spread in (6.0, 15.0):
            point = Reach(state, SOUND).best(state, spread)
            assert point is not None
            moved = inf.displacement @ point.turns
            lateral_op, radial_op = inf.figure_operators
            lateral = (state.figures.lateral_mm + lateral_op @ moved)[::2]
            radial = (state.figures.radial_mm + radial_op @ moved)[::2]
            self.assertAlmostEqual(point.lateral_tir_mm, np.ptp(lateral), 6)
            self.assertAlmostEqual(point.radial_tir_mm, np.ptp(radial), 6)
            dish = state.dish_mm + float(inf.lateral_mm.mean(axis=0) @ point.turns)
            self.assertAlmostEqual(point.dish_mm, dish, 6)
            worst = max(np.ptp(lateral) / 0.5, np.ptp(radial) / 0.5, abs(dish) / 0.5)
            self.assertAlmostEqual(point.ratio, worst, 4)
            tension = state.tension_n + inf.tension_n @ point.turns
            for side in Side:
                mine = tension[wheel.on_side(side)]
                self.assertLessEqual(np.abs(mine / mine.mean() - 1).max(), spread / 100 + 1e-6)
            self.assertLessEqual(tension.max(), wheel.rim.tension_cap_n + 1e-6)
            tight = tension[wheel.on_side(tight_side(wheel))].mean()
            self.assertLessEqual(abs(tight / wheel.rim.tension_target_n - 1), 0.08 + 1e-6)
            self.assertLessEqual(np.abs(point.turns).max(), 4 + 1e-9)
        spreads = [point.spread_percent for point in straight_against_even(state, SOUND)]
        self.assertEqual(spreads, [s for s in (3.0, 6.0, 10.0, 15.0, 20.0, 25.0, 35.0) if s in spreads])
        self.assertGreaterEqual(len(spreads), 5)

    def test_verdicts_in_words(self) -> None:
        rng = np.random.default_rng(3)
        wheel = ALL["small-front-20"]
        sound = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.2), rng))
        good = verdict(sound, SOUND, np.random.default_rng(0), 6)
        self.assertTrue(good.can)
        self.assertEqual((good.best_tier, good.chance), (SOUND, 7 / 8))
        self.assertIn("can be trued: turning", to_customer(good, []))
        self.assertIn("can be trued: turning", to_customer(replace(good, chance=0.75), []))
        self.assertIn("most likely", to_customer(replace(good, chance=0.74), []))
        bent = estimate_state(influence(wheel), read_fully(used_wheel(wheel, rng, 0.2).dented(100, 14, 0.0, 7.0), rng))
        bad = verdict(bent, FINE, np.random.default_rng(0), 4)
        self.assertFalse(bad.can)
        words = to_customer(bad, [("R1",)])
        self.assertIn("in one place", words)
        self.assertIn("in more than one place", to_customer(bad, [("R1",), ("L3",)]))
        self.assertNotIn("place", to_customer(bad, []).split(".")[0])
        self.assertIn("further than spokes", to_customer(replace(bad, best_tier=None), []))
        self.assertIn("usable", to_customer(replace(bad, best_tier=ROADWORTHY), []))
        self.assertNotIn("swing", to_customer(replace(bad, at_tier=None), []))

    def test_a_rim_s_own_bend_is_found_where_it_was_made(self) -> None:
        for angle, inward, sideways, word in (
            (140.0, 0.0, 4.0, "right"),
            (140.0, 0.0, -4.0, "left"),
            (3.0, 3.5, 0.0, "inward"),
            (250.0, -3.5, 0.0, "outward"),
        ):
            rng = np.random.default_rng(4)
            virtual = used_wheel(REAR, rng, 0.1).dented(angle, 9, inward, sideways)
            state = estimate_state(influence(REAR), read_fully(virtual, rng, 10.0))
            found = own_bend(state, ROADWORTHY)
            assert found is not None
            with self.subTest(angle=angle, word=word):
                self.assertIn(word, found.why)
                near = {str(REAR.names[i]) for i, a in enumerate(REAR.angles_deg) if abs((a - angle + 180) % 360 - 180) < 6}
                self.assertTrue(near & set(found.spokes), (near, found.spokes))
                self.assertLess(len(found.spokes), 9)
                places = [REAR.index_of[name] for name in found.spokes]
                self.assertTrue(all((b - a) % 36 == 1 for a, b in itertools.pairwise(places)))
                size = found.lateral_mm if sideways else found.radial_mm
                self.assertEqual(np.sign(size), np.sign(sideways or -inward))
        for sideways, word in ((1.1, "right"), (-1.1, "left")):
            little = used_wheel(REAR, np.random.default_rng(4), 0.05).dented(140, 9, 0.0, sideways)
            found = own_bend(estimate_state(influence(REAR), read_fully(little, np.random.default_rng(5), 5.0)), RACE)
            assert found is not None
            self.assertLess(abs(found.lateral_mm), 1)
            self.assertIn(word, found.why)
        straight = estimate_state(influence(REAR), read_fully(VirtualWheel.ideal(REAR), np.random.default_rng(1), 5.0))
        self.assertIsNone(own_bend(straight, SOUND))


class Sparse(unittest.TestCase):
    def test_one_reading_is_no_ground(self) -> None:
        state = estimate_state(influence(REAR), Readings([TensionReading("R1", 900)]))
        self.assertTrue(np.all(np.isfinite(state.tension_n)))


if __name__ == "__main__":
    unittest.main()
