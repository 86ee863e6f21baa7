"""Components at their borders, lacing by plane geometry, stripping, replacing, gates, records: by hand."""

from __future__ import annotations

import json
import math
import unittest
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np

from felloe.core.bead_seats import BEAD_SEAT_DIAMETERS_MM, plausible_erd_mm
from felloe.core.components import Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.endings import Ground, check_reopening, ways_to_end
from felloe.core.errors import BadRecord, ImpossibleGeometry, TradeError
from felloe.core.hand_back import Facts, SaysNothing, check_reason, missing, requirements
from felloe.core.lacing.check import Seen, check_lacing
from felloe.core.lacing.crossings import bend_deg, bent, crossing_limit, crossings_table
from felloe.core.lacing.map import BadLacing, lacing_map
from felloe.core.lacing.pattern import flange_hole_angles_rad, lace
from felloe.core.lacing.replace import ReplaceFacts, neighbours, replace_steps
from felloe.core.lacing.strip import BadCount, StripFacts, check_count, side_places, slacken_laps, strip_steps, tally
from felloe.core.materials import MATERIALS
from felloe.core.naming import Side, hole_angles_deg, names_round_the_rim
from felloe.core.record import read_record, record_from_dict, record_to_dict, table_from_dict
from felloe.core.specification import wheel_to_dict
from felloe.core.spokes.length import length_at_mm, spoke_length_mm
from felloe.core.stages import StageRefused, check_move
from felloe.core.strict_fields import Fields, finite
from felloe.core.truing.tiers import FINE, SOUND
from felloe.core.units import kgf_from_newton, newton_from_kgf, turns_as_fraction
from tests.core.wheels import ALL, DISC_FRONT, REAR, SYMMETRIC, influence


class Borders(unittest.TestCase):
    def good_and_bad(self, make, field: str, good: tuple, bad: tuple) -> None:  # type: ignore[no-untyped-def, type-arg]
        for value in good:
            make(value)
        for value in (*bad, float("nan")):
            with self.subTest(field=field, value=value), self.assertRaises(ImpossibleGeometry) as caught:
                make(value)
            self.assertEqual(caught.exception.field, field)

    def test_rims(self) -> None:
        for field, good, bad in (
            ("erd_mm", (200, 680), (199.9, 680.1)), ("spoke_bed_offset_mm", (-8, 8), (-8.1, 8.1)), ("stagger_mm", (0, 8),
            (-0.1, 8.1)),
            ("centroid_depth_mm", (0, 60), (-0.1, 60.1)), ("ea_n", (1e5, 1e9), (9.9e4, 1.01e9)),
            ("ei_lat_nm2", (5, 20_000), (4.9, 20_001)),
            ("ei_rad_nm2", (5, 20_000), (4.9, 20_001)), ("gj_nm2", (1, 20_000), (0.9, 20_001)),
        ):  # fmt: skip
            self.good_and_bad(lambda v, f=field: Rim(**{"erd_mm": 598, f: v}), field, good, bad)
        self.good_and_bad(lambda v: Rim(598, target_n=v, cap_n=3000), "target_n", (200, 2500), (199, 2501))
        self.good_and_bad(lambda v: Rim(598, target_n=250, cap_n=v), "cap_n", (300, 3000), (299, 3001))
        with self.assertRaises(ImpossibleGeometry):
            Rim(598, target_n=1000, cap_n=999)
        Rim(598, target_n=1000, cap_n=1000)

    def test_bead_seats(self) -> None:
        """ISO 5775's diameters; an ERD lies 4 to 160 mm inside them (common practice, no source)."""
        for seat in (635, 630, 622, 590, 584, 571, 559, 547, 540, 520, 507, 451, 406, 355, 349, 305):
            low, high = plausible_erd_mm(seat)
            self.assertEqual((low, high), (seat - 160, seat - 4))
            Rim(max(low, 200), seat)
            Rim(high, seat)
            for bad in (low - 0.1, high + 0.1):
                with self.assertRaises(ImpossibleGeometry):
                    Rim(bad, seat)
        self.assertEqual(len(BEAD_SEAT_DIAMETERS_MM), 16)

    def test_usual_tensions(self) -> None:
        """Where no maker says: common practice, no source. A target alone sets the limit 15 % above; a limit alone
        holds it at nine
        tenths."""
        for material, target, cap in (("aluminium", 1000, 1200), ("carbon", 900, 1000), ("steel", 800, 1000)):
            rim = Rim(598, material=material)
            self.assertEqual((rim.tension_target_n, rim.tension_cap_n, rim.tension_is_default), (target, cap, True))
        self.assertAlmostEqual(Rim(598, target_n=700).tension_cap_n, 805)
        self.assertAlmostEqual(Rim(598, cap_n=1000).tension_target_n, 900)
        self.assertEqual(Rim(598, cap_n=1500).tension_target_n, 1000)
        both = Rim(598, target_n=900, cap_n=1300)
        self.assertEqual((both.tension_target_n, both.tension_cap_n, both.tension_is_default), (900, 1300, False))
        self.assertTrue(Rim(598, target_n=900).tension_is_default)

    def test_flanges_hubs_spokes(self) -> None:
        self.good_and_bad(lambda v: Flange(v, 20), "pitch_circle_mm", (15, 380), (14.9, 380.1))
        self.good_and_bad(lambda v: Flange(45, v), "center_to_flange_mm", (-5, 75), (-5.1, 75.1))
        self.good_and_bad(lambda v: Flange(45, 20, v), "hole_diameter_mm", (1.5, 4), (1.4, 4.1))
        self.good_and_bad(lambda v: Flange(45, 20, 2.6, v), "straight_pull_angle_deg", (0, 110), (-0.1, 110.1))
        self.good_and_bad(lambda v: Hub(v, Flange(45, 20), Flange(45, 20)), "old_mm", (60, 200), (59.9, 200.1))
        Hub(100, Flange(45, 50), Flange(45, 50))
        with self.assertRaises(ImpossibleGeometry):
            Hub(100, Flange(45, 20), Flange(45, 50.1))
        self.good_and_bad(lambda v: Spoke(v), "end_diameter_mm", (1.4, 3.5), (1.39, 3.51))
        self.good_and_bad(lambda v: Spoke(2.0, end_length_mm=v), "end_length_mm", (0, 80), (-1, 81))
        self.good_and_bad(lambda v: Spoke(2.0, v), "middle_diameter_mm", (1.2, 2.0), (1.19, 2.01))
        self.good_and_bad(
            lambda v: Spoke(2.0, blade_thickness_mm=v, blade_width_mm=4), "blade_thickness_mm", (0.5, 2.5), (0.49, 2.51)
        )
        self.good_and_bad(
            lambda v: Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=v), "blade_width_mm", (0.9, 8), (0.89, 8.1)
        )
        for bad in (
            {"material": "gold"},
            {"blade_thickness_mm": 0.9},
            {"blade_width_mm": 2.2},
            {"middle_diameter_mm": 1.8, "blade_thickness_mm": 0.9, "blade_width_mm": 2.2},
        ):
            with self.subTest(bad), self.assertRaises(ImpossibleGeometry):
                Spoke(2.0, **bad)  # type: ignore[arg-type]

    def test_sides_and_wheels(self) -> None:
        for count, crossings in ((4, 1), (32, 4), (5, 0), (8, 2), (12, 3), (16, 4)):
            SideLacing(count, crossings)
        for count, crossings in ((3, 0), (33, 0), (4, 2), (8, 3), (12, 4), (20, 5), (20, -1), (9, 1), (4.0, 0), (16, 1.0)):
            with self.subTest(count=count, crossings=crossings), self.assertRaises(ImpossibleGeometry):
                SideLacing(count, crossings)  # type: ignore[arg-type]
        self.good_and_bad(lambda v: SideLacing(16, 3, pitch_mm=v), "pitch_mm", (0.3, 1.0), (0.29, 1.01))
        self.good_and_bad(lambda v: replace(SYMMETRIC, dish_target_mm=v), "dish_target_mm", (-10, 10), (-30.1, 30.1))
        radial = {"right": SideLacing(8, 0), "left": SideLacing(8, 0)}
        self.assertEqual(replace(REAR, **radial).spoke_count, 16)
        replace(REAR, right=SideLacing(24, 0), left=SideLacing(24, 0))
        for count in (7, 25):
            with self.assertRaises(ImpossibleGeometry):
                replace(REAR, right=SideLacing(count, 0), left=SideLacing(count, 0))
        hub = Hub(130, Flange(237.9, 20), Flange(45, 36))
        small = Wheel(Rim(298), hub, SideLacing(18, 0), SideLacing(18, 0))
        for wide in (238, 239):
            with self.assertRaises(ImpossibleGeometry):
                replace(small, hub=replace(hub, right=Flange(wide, 20)))
        for lean, good in ((1.01, True), (1.0, False)):
            narrow = replace(REAR.hub, right=replace(REAR.hub.right, center_to_flange_mm=lean + REAR.rim.spoke_bed_offset_mm))
            if good:
                self.assertAlmostEqual(replace(REAR, hub=narrow).bracing_mm(Side.RIGHT), lean)
            else:
                with self.assertRaises(ImpossibleGeometry):
                    replace(REAR, hub=narrow)

    def test_bracing_by_sides(self) -> None:
        wheel = replace(REAR, rim=replace(REAR.rim, spoke_bed_offset_mm=2.0), dish_target_mm=1.0)
        self.assertAlmostEqual(wheel.bracing_mm(Side.RIGHT), REAR.hub.right.center_to_flange_mm - 3)
        self.assertAlmostEqual(wheel.bracing_mm(Side.LEFT), REAR.hub.left.center_to_flange_mm + 3)

    def test_a_rim_nobody_measured(self) -> None:
        """Stiffnesses of a common box rim, from memory."""
        rim = Rim(598)
        usual = Spoke()
        self.assertEqual(
            (usual.end_diameter_mm, usual.kind, usual.material, usual.end_length_mm), (2.0, "round 2.0", "stainless", 25)
        )
        self.assertAlmostEqual(Spoke(2.3).end_area_mm2, math.pi * 1.15**2)
        self.assertAlmostEqual(Spoke(2.3, 1.8).middle_area_mm2, math.pi * 0.9**2)
        self.assertEqual((rim.ea_n, rim.ei_lat_nm2, rim.ei_rad_nm2, rim.gj_nm2, rim.centroid_depth_mm), (6e6, 220, 150, 50, 6))

    def test_handbook_constants(self) -> None:
        """EN 1993-1-1 and -1-4 for steels, handbook values for the others, from memory."""
        found = {m.name: (m.youngs_modulus_mpa, m.poisson, m.density_kg_m3) for m in MATERIALS.values()}
        self.assertEqual(found["stainless"], (200_000, 0.30, 7900))
        self.assertEqual(found["carbon_steel"], (210_000, 0.30, 7850))
        self.assertEqual(found["titanium"], (110_000, 0.34, 4430))
        self.assertEqual(found["aluminium"], (70_000, 0.33, 2700))


class Counting(unittest.TestCase):
    def test_names_and_angles(self) -> None:
        self.assertEqual([str(n) for n in names_round_the_rim(2, 2, Side.LEFT)], ["L1", "R1", "L2", "R2"])
        self.assertEqual([str(n) for n in names_round_the_rim(4, 2, Side.RIGHT)], ["R1", "L1", "R2", "R3", "L2", "R4"])
        self.assertEqual([str(n) for n in names_round_the_rim(2, 4, Side.LEFT)], ["L1", "R1", "L2", "L3", "R2", "L4"])
        for pair in ((3, 2), (4, 3), (5, 2)):
            with self.assertRaises(ImpossibleGeometry):
                names_round_the_rim(*pair, Side.RIGHT)
        self.assertEqual(hole_angles_deg(4), (45, 135, 225, 315))

    def test_fractions_of_a_turn(self) -> None:
        words = [
            "0",
            "1/16",
            "1/8",
            "3/16",
            "1/4",
            "5/16",
            "3/8",
            "7/16",
            "1/2",
            "9/16",
            "5/8",
            "11/16",
            "3/4",
            "13/16",
            "7/8",
            "15/16",
            "1",
        ]
        self.assertEqual([turns_as_fraction(i / 16) for i in range(17)], words)
        self.assertEqual(
            (turns_as_fraction(-1.25), turns_as_fraction(2.0625), turns_as_fraction(0.125 + 1e-9)), ("1 1/4", "2 1/16", "1/8")
        )
        for bad in (0.1, 0.0626):
            with self.assertRaises(ValueError):
                turns_as_fraction(bad)
        self.assertAlmostEqual(newton_from_kgf(100), 980.665)
        self.assertAlmostEqual(kgf_from_newton(980.665), 100)


class Laced(unittest.TestCase):
    def test_points_in_space(self) -> None:
        """Rim seats on the ERD at their holes, staggered to their side; flange holes round by the crossings' share of
        a turn."""
        wheel = replace(REAR, rim=replace(REAR.rim, stagger_mm=1.5, spoke_bed_offset_mm=1.0), dish_target_mm=0.5)
        laced = lace(wheel)
        for i, name in enumerate(wheel.names):
            side, sign = name.side, 1 if name.side is Side.RIGHT else -1
            lacing, flange = wheel.side(side), wheel.hub.flange(side)
            angle = math.radians(wheel.angles_deg[i])
            seat = (wheel.rim.erd_mm / 2 * math.cos(angle), wheel.rim.erd_mm / 2 * math.sin(angle), 1.0 + sign * 1.5)
            np.testing.assert_allclose(laced.seat_mm[i], seat, atol=1e-9)
            ahead = 1 if name.number % 2 else -1
            hub = angle + ahead * 2 * math.pi * lacing.crossings / lacing.count
            radius = flange.pitch_circle_mm / 2
            hole = (radius * math.cos(hub), radius * math.sin(hub), sign * flange.center_to_flange_mm - 0.5)
            np.testing.assert_allclose(laced.hub_hole_mm[i], hole, atol=1e-9)
            self.assertEqual(laced.leans[i], ahead)
        np.testing.assert_allclose(np.linalg.norm(laced.toward_hub, axis=1), 1)
        np.testing.assert_allclose(laced.seat_mm + laced.span_mm[:, None] * laced.toward_hub, laced.hub_hole_mm)
        gaps = np.diff(flange_hole_angles_rad(wheel, Side.LEFT))
        np.testing.assert_allclose(gaps, 2 * math.pi / 18)

    def test_crossings_by_plane_geometry(self) -> None:
        self.assertEqual([crossing_limit(n) for n in (4, 8, 10, 12, 16, 18, 32, 9)], [1, 2, 2, 3, 4, 4, 4, 0])
        for wheel in (REAR, DISC_FRONT):
            for side in Side:
                for row in crossings_table(wheel, side):
                    if not row.possible:
                        self.assertIsNone(row.length_mm)
                        continue
                    lacing = wheel.side(side)
                    laced_side = SideLacing(lacing.count, row.crossings, lacing.spoke, lacing.pitch_mm)
                    turned = replace(wheel, right=laced_side) if side is Side.RIGHT else replace(wheel, left=laced_side)
                    laced = lace(turned)
                    i = next(k for k, name in enumerate(turned.names) if name.side is side)
                    hole, seat = laced.hub_hole_mm[i, :2], laced.seat_mm[i, :2]
                    way = (seat - hole) / np.linalg.norm(seat - hole)
                    out = hole / np.linalg.norm(hole)
                    with self.subTest(side=side, crossings=row.crossings):
                        # Sine of the angle between spoke and flange radius, by the cross product.
                        self.assertAlmostEqual(row.pull, abs(out[0] * way[1] - out[1] * way[0]), 9)
                        inward = -seat / np.linalg.norm(seat)
                        self.assertAlmostEqual(row.bend_deg or 0, math.degrees(math.acos(min(1, float(-way @ inward)))), 5)
                        # Along the spoke in small steps: how near the other heads of the flange come.
                        others = [laced.hub_hole_mm[k, :2] for k, n in enumerate(turned.names) if n.side is side and k != i]
                        steps = hole + np.linspace(0, 60, 6001)[:, None] * way
                        near = min(float(np.linalg.norm(steps - other, axis=1).min()) for other in others)
                        wire = lacing.spoke.end_diameter_mm
                        self.assertAlmostEqual(row.room_mm or 0, near - wire * 1.9 / 2 - wire / 2, 3)

    def test_bends_at_the_nipple(self) -> None:
        self.assertEqual((bent(7.5), bent(0)), ("", ""))
        self.assertIn("bend the spokes", bent(7.51))
        self.assertIn("bend the spokes", bent(10.0))
        self.assertIn("not good", bent(10.01))
        self.assertEqual(bend_deg(replace(REAR, right=SideLacing(18, 0)), Side.RIGHT), 0)

    def test_the_map_s_places(self) -> None:
        plan = lacing_map(REAR)
        self.assertEqual([place.order for place in plan.places], list(range(1, 37)))
        self.assertEqual(
            {place.spoke for place in plan.places if place.beside_valve}, {str(REAR.names[0]), str(REAR.names[35])}
        )
        for place in plan.places:
            self.assertEqual(str(REAR.names[place.rim_hole - 1]), place.spoke)
        self.assertEqual([s.every for s in plan.sets], [4, 4, 4, 4])
        self.assertEqual([s.number for s in plan.sets], [1, 2, 3, 4])
        self.assertEqual([bool(s.before) for s in plan.sets], [False, False, True, False])
        self.assertIn("clockwise", plan.sets[2].before)
        self.assertNotIn("anticlockwise", plan.sets[2].before)
        leading = lacing_map(REAR, {Side.RIGHT: "leading", Side.LEFT: "leading"})
        self.assertIn("anticlockwise", next(s.before for s in leading.sets if s.before))
        mixed = lacing_map(REAR, {Side.RIGHT: "leading"})
        self.assertEqual([s.side for s in mixed.sets], [Side.RIGHT, Side.RIGHT, Side.LEFT, Side.LEFT])
        one_cross = replace(REAR, right=SideLacing(18, 1), left=SideLacing(18, 1))
        for place in lacing_map(one_cross).places:
            self.assertEqual([word for _, word in place.crosses], ["over" if place.head == "in" else "under"])
        for place in plan.places:
            usual, woven = ("over", "under") if place.head == "in" else ("under", "over")
            self.assertEqual([word for _, word in place.crosses], [usual] * (len(place.crosses) - 1) + [woven])


class Looked(unittest.TestCase):
    """Bayes' rule over whole sides by hand: e⁻⁴ for a side's error, a glance wrong six times in a hundred, a spoke
    alone three."""

    def setUp(self) -> None:
        self.plan = lacing_map(REAR)

    def look(self, spoke: str, turned: bool = False, **what) -> Seen:  # type: ignore[no-untyped-def]
        lean = self.plan.by_spoke[spoke].lean
        other = {"trailing": "leading", "leading": "trailing"}[lean]
        return Seen(spoke, lean=other if turned else lean, **what)

    def test_leans_of_one_side(self) -> None:
        for turned in (1, 2, 3, 4):
            seen = [self.look(f"R{i + 1}", i < turned) for i in range(4)]
            right, wrong = (0.97 * a + 0.03 * (b + 2 * a) / 3 for a, b in ((0.94, 0.06), (0.06, 0.94)))
            as_planned = right ** (4 - turned) * wrong**turned
            reversed_ = math.exp(-4) * right**turned * wrong ** (4 - turned)
            found = check_lacing(self.plan, seen)
            best = max(as_planned, reversed_) / (as_planned + reversed_)
            with self.subTest(turned=turned):
                self.assertAlmostEqual(found.chance, best, 3)
                self.assertEqual(found.right.reversed, reversed_ > as_planned)
                self.assertEqual(len(found.also), int(min(as_planned, reversed_) / (as_planned + reversed_) >= 0.05))

    def test_heads_and_counts(self) -> None:
        def head(spoke: str, turned: bool) -> Seen:
            is_in = self.plan.by_spoke[spoke].head == "in"
            return Seen(spoke, head="in" if is_in is not turned else "out")

        right, wrong = (0.97 * a + 0.03 * (b + 2 * a) / 3 for a, b in ((0.94, 0.06), (0.06, 0.94)))
        found = check_lacing(self.plan, [head(f"R{i}", True) for i in (1, 2, 3)])
        odds = math.exp(-4) * right**3 / wrong**3
        self.assertTrue(found.right.heads_swapped)
        self.assertAlmostEqual(found.chance, odds / (1 + odds), 3)
        # Crossings counted: right eight or nine times in ten, off by one in twenty either way, by more hardly ever.
        seen = [Seen(f"R{i}", crosses=2) for i in (1, 2, 3)]
        found = check_lacing(self.plan, seen)
        alone = {0: 0.89, 1: 0.05, 2: 0.005}
        weights = []
        for crossings in range(5):
            value = alone[min(abs(2 - crossings), 2)]
            one = 0.97 * value + 0.03 * (2 * value + 0.2) / 3
            cost = 1.0 if crossings == 3 else math.exp(-4)
            weights.append(cost * one**3)
        self.assertEqual(found.right.crossings, 2)
        self.assertAlmostEqual(found.chance, weights[2] / sum(weights), 5)

    def test_how_they_reach(self) -> None:
        """As planned a spoke has no surplus; holes counted one too far ahead are a shifted side."""
        found = check_lacing(self.plan, [Seen("L1", reach="right"), Seen("L2", reach="right")])
        np.testing.assert_allclose(found.surplus_mm, 0, atol=0.02)
        self.assertEqual(found.errors, ())
        self.assertFalse(found.sure)
        shifted = check_lacing(
            self.plan,
            [
                Seen("L1", flange_hole=self.plan.by_spoke["L1"].flange_hole % 18 + 1),
                Seen("L4", flange_hole=self.plan.by_spoke["L4"].flange_hole % 18 + 1),
                Seen("L7", flange_hole=self.plan.by_spoke["L7"].flange_hole % 18 + 1),
            ],
        )
        self.assertEqual(shifted.left.shift, 1)
        self.assertIn("1 flange hole too far ahead", shifted.errors[0].what)

    def test_a_side_moved_on_by_its_holes(self) -> None:
        """Right holes are seen 94 times in a hundred, any other of the side's holes as rarely; a shift by two is a
        rarer mistake
        by the root of two."""
        for shift in (-2, -1, 1, 2):
            seen = [Seen(f"L{i}", flange_hole=(self.plan.by_spoke[f"L{i}"].flange_hole - 1 + shift) % 18 + 1) for i in (1, 4)]
            found = check_lacing(self.plan, seen)
            weight = {s: math.exp(-4 * abs(s) ** 0.5) * (0.06 / 18) ** 2 for s in range(-2, 3)}
            weight[shift] *= (0.94 / (0.06 / 18)) ** 2
            with self.subTest(shift=shift):
                self.assertEqual(found.left.shift, shift)
                self.assertAlmostEqual(found.chance, weight[shift] / sum(weight.values()), 3)

    def test_one_spoke_in_a_wrong_hole(self) -> None:
        """Needs what its lead from there needs: two holes further round are 40° on a side of eighteen."""
        seen = [Seen(f"R{i}", flange_hole=self.plan.by_spoke[f"R{i}"].flange_hole) for i in (1, 2, 3, 5)]
        wrong = self.plan.by_spoke["R4"].flange_hole
        found = check_lacing(self.plan, [*seen, Seen("R4", flange_hole=(wrong + 1) % 18 + 1), self.look("R6")])
        self.assertEqual([(e.key, e.spoke) for e in found.errors], [("flange_hole", "R4")])
        lead = -REAR.lead_angle_rad(Side.RIGHT) + 2 * 2 * math.pi / 18
        need = float(length_at_mm(REAR, Side.RIGHT, np.array(lead)))
        self.assertAlmostEqual(found.needed_mm[REAR.index_of["R4"]], need, delta=0.5)
        self.assertAlmostEqual(found.surplus_mm[REAR.index_of["R4"]], spoke_length_mm(REAR, Side.RIGHT) - need, delta=0.5)

    def test_felt_reach_by_the_normal(self) -> None:
        """Barely reaching begins a millimetre and a half short, felt to 1.2 mm: a side laced 2-cross with spokes for
        3-cross."""
        planned = spoke_length_mm(REAR, Side.LEFT)
        surplus = {c: planned - spoke_length_mm(replace(REAR, left=SideLacing(18, c)), Side.LEFT) for c in range(5)}
        self.assertGreater(surplus[2], 5)
        found = check_lacing(self.plan, [Seen("L1", reach="slack", crosses=2), Seen("L4", reach="slack", crosses=2)])
        self.assertEqual(found.left.crossings, 2)
        self.assertAlmostEqual(found.surplus_mm[REAR.index_of["L1"]], surplus[2], delta=0.3)
        lone = check_lacing(self.plan, [Seen("R1", reach="short")])
        self.assertFalse(lone.sure)

    def test_why_a_side_cannot_be_crossed_so(self) -> None:
        rows = crossings_table(replace(REAR, right=SideLacing(10, 2), left=SideLacing(10, 2)), Side.RIGHT)
        self.assertEqual([row.possible for row in rows], [True, True, True, False, False])
        self.assertIn("at most 2-cross", rows[3].why)
        odd = crossings_table(replace(REAR, right=SideLacing(9, 0), left=SideLacing(9, 0)), Side.RIGHT)
        self.assertIn("in pairs", odd[1].why)

    def test_heads_of_radial_sides(self) -> None:
        radial = replace(REAR, right=SideLacing(18, 0), left=SideLacing(18, 0))
        plan = lacing_map(radial, {Side.RIGHT: "all", Side.LEFT: "none"})
        self.assertEqual({p.head for p in plan.places if p.side is Side.RIGHT}, {"out"})
        self.assertEqual({p.head for p in plan.places if p.side is Side.LEFT}, {"in"})
        self.assertEqual([s.every for s in plan.sets], [2, 2])

    def test_heads_touch_on_a_small_flange(self) -> None:
        small = replace(REAR, hub=replace(REAR.hub, right=replace(REAR.hub.right, pitch_circle_mm=26.0)))
        rows = crossings_table(small, Side.RIGHT)
        self.assertTrue(any((row.room_mm or 0) < 0 for row in rows if row.possible))
        for row in rows:
            if row.possible:
                self.assertEqual("touches" in row.why, (row.room_mm or 0) < 0)

    def test_one_spoke_wrong_alone(self) -> None:
        seen = [self.look(f"R{i}", i == 4, crosses=3, head=self.plan.by_spoke[f"R{i}"].head) for i in range(1, 7)]
        found = check_lacing(self.plan, seen)
        self.assertEqual([(e.key, e.spoke) for e in found.errors], [("lean", "R4")])
        # Over one instead of three it needs what a 1-cross spoke needs; the other way round it needs no other length.
        few = [self.look(f"R{i}", False, crosses=1 if i == 4 else 3) for i in range(1, 7)]
        alone = check_lacing(self.plan, few)
        i, like = REAR.index_of["R4"], REAR.index_of["R2"]
        one_cross = spoke_length_mm(replace(REAR, right=SideLacing(18, 1)), Side.RIGHT)
        self.assertAlmostEqual(alone.needed_mm[i], one_cross, delta=0.2)
        self.assertAlmostEqual(alone.needed_mm[like], spoke_length_mm(REAR, Side.RIGHT), delta=0.3)
        self.assertAlmostEqual(found.needed_mm[i], found.needed_mm[like], 6)
        both = [
            *seen,
            *(
                self.look(
                    f"L{i}",
                    False,
                    crosses=3,
                    head=self.plan.by_spoke[f"L{i}"].head,
                    flange_hole=self.plan.by_spoke[f"L{i}"].flange_hole,
                )
                for i in (1, 2)
            ),
        ]
        self.assertFalse(check_lacing(self.plan, both).sure)
        whole = [*both, *(Seen(f"R{i}", flange_hole=self.plan.by_spoke[f"R{i}"].flange_hole) for i in (1, 2))]
        self.assertTrue(check_lacing(self.plan, whole).sure)
        for bad in ([], [Seen("R1")], [Seen("R19", lean="trailing")]):
            with self.assertRaises(BadLacing):
                check_lacing(self.plan, bad)
        for bad_look in ({"lean": "up"}, {"head": "left"}, {"reach": "well"}, {"crosses": -1}, {"crosses": 7}):
            with self.assertRaises(BadLacing):
                Seen("R1", **bad_look)
        Seen("R1", crosses=0)
        Seen("R1", crosses=6)


class Apart(unittest.TestCase):
    def test_laps_until_slack(self) -> None:
        inf = influence(REAR)
        fall = inf.tension_n @ np.full(36, 0.25)
        drop = [float(fall[REAR.on_side(side)].mean()) for side in (Side.RIGHT, Side.LEFT)]
        laps = slacken_laps(inf, 1000, 600)
        right, left = 1000.0, 600.0
        for k, lap in enumerate(laps, start=1):
            self.assertGreater(max(right, left), 60)
            right, left = max(0, right - drop[0]), max(0, left - drop[1])
            self.assertEqual((lap.number, lap.turns), (k, 0.25))
            self.assertAlmostEqual(lap.right_n, right)
            self.assertAlmostEqual(lap.left_n, left)
        self.assertLessEqual(max(right, left), 60)
        self.assertEqual((slacken_laps(inf, 60, 60), len(slacken_laps(inf, 61, 0))), ((), 1))
        self.assertEqual(len(slacken_laps(inf, 3000, 600, 0.01)), 24)

    def test_steps_by_the_wheel(self) -> None:
        def keys(**facts: bool) -> list[str]:
            return [step.key for step in strip_steps(REAR, StripFacts(**{"rear": False, "disc": False, **facts}), 5)]

        usual = ["tyre", "oil", "slacken", "count", "shake"]
        self.assertEqual(keys(), usual)
        for fact, step in (("rear", "sprockets"), ("disc", "rotor"), ("closed_rim", "captive"), ("keep_spokes", "keep")):
            self.assertEqual(sorted(keys(**{fact: True})), sorted([*usual, step]), fact)
        self.assertEqual(sorted(keys(cut=True)), sorted([*usual, "eyes", "cut"]))
        said = {s.key: s for s in strip_steps(REAR, StripFacts(False, False, glued=True, washers=True, cut=True), 5)}
        self.assertIn("glued", said["tyre"].why)
        self.assertIn("5 laps", said["slacken"].what)
        self.assertIn("washers", said["count"].what)
        self.assertIn("Washers", said["cut"].why)
        plain = {s.key: s for s in strip_steps(REAR, StripFacts(False, False, cut=True), 5)}
        self.assertEqual(plain["tyre"].why, "")
        self.assertNotIn("washers", plain["count"].what)
        self.assertNotIn("Washers", plain["cut"].why)

    def test_counted_out_and_in(self) -> None:
        self.assertIn("None counted out yet; 36", tally(REAR, "nipple", True, []).word)
        for counts, word in (
            ([("out", 30)], "6 nipples still in the rim"), ([("out", 36)], "All nipples are out"), ([("out", 36),
            ("in", 10)], "26 nipples to go"),
            ([("out", 36), ("in", 36)], "All 36 nipples are in"), ([("out", 36), ("in", 38)], "2 nipples too many"),
            ([("out", 40), ("out", -4)], "All nipples are out"),
        ):  # fmt: skip
            self.assertIn(word, tally(REAR, "nipple", True, counts).word)
        self.assertEqual(tally(REAR, "washer", False, []).still_in, 0)
        check_count(REAR, "nipple", True, [], "out", 36)
        check_count(REAR, "washer", False, [], "in", 72)
        check_count(REAR, "nipple", True, [("out", 5)], "out", -5)
        for kind, had, before, way, count in (
            ("bolt", True, [], "out", 1), ("nipple", True, [], "up", 1), ("nipple", True, [], "out", 0),
            ("nipple", True, [("in", 40)], "out", 73),
            ("nipple", True, [], "out", 37), ("washer", False, [], "out", 1), ("nipple", True, [("out", 5)], "out", -6),
            ("nipple", True, [], "in", -1),
        ):  # fmt: skip
            with self.subTest(kind=kind, before=before, way=way, count=count), self.assertRaises(BadCount):
                check_count(REAR, kind, had, before, way, count)
        self.assertEqual(side_places(REAR, ["R1", "R5", "L2"]), {Side.RIGHT: 2, Side.LEFT: 1})

    def test_single_spokes(self) -> None:
        def steps(spoke: str = "L3", wheel: Wheel = REAR, **facts) -> dict[str, tuple[str, str]]:  # type: ignore[no-untyped-def]
            return {
                s.key: (s.what, s.why)
                for s in replace_steps(wheel, spoke, ReplaceFacts(**{"rear": False, "disc": False, **facts}))
            }

        usual = {"off", "nipple_out", "measure", "through", "nipple_in", "tension", "true"}
        self.assertEqual(set(steps()), usual)
        self.assertEqual(set(steps("R3", rear=True)), usual | {"sprockets"})
        self.assertEqual(set(steps("L3", rear=True)), usual)
        self.assertEqual(set(steps("L3", disc=True)), usual | {"rotor"})
        self.assertEqual(set(steps("R3", disc=True)), usual)
        for place in ("elbow", "middle", "thread"):
            self.assertEqual(set(steps(broke_at=place)), usual | {"pieces"})
        self.assertEqual(set(steps(broke_at="rim")), usual)
        straight = replace(
            REAR,
            hub=replace(
                REAR.hub,
                right=replace(REAR.hub.right, straight_pull_angle_deg=40.0),
                left=replace(REAR.hub.left, straight_pull_angle_deg=40.0),
            ),
        )
        self.assertEqual(set(steps("R3", straight, rear=True)), usual)
        self.assertIn("in line", steps("R3", straight)["through"][1])
        self.assertIn("magnet", steps(closed_rim=True)["nipple_out"][1])
        self.assertNotIn("magnet", steps()["nipple_out"][1])
        words = {tyre: steps(tyre=tyre)["off"][1] for tyre in ("glued", "tubeless", "")}
        self.assertIn("glued", words["glued"])
        self.assertIn("Tubeless", words["tubeless"])
        self.assertIn("sharp holes", words[""])
        blade = replace(REAR, left=replace(REAR.left, spoke=Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=2.2)))
        self.assertIn("blade", steps("L3", blade)["tension"][1])
        self.assertIn("Overshoot", steps("R3", blade)["tension"][1])
        for crossings, word in ((0, "Radial"), (1, "across 1 of"), (2, "outermost")):
            laced = replace(REAR, left=SideLacing(18, crossings))
            self.assertIn(word, " ".join(steps("L3", laced)["through"]))
        self.assertNotIn("outermost", steps("L3", replace(REAR, left=SideLacing(18, 1)))["through"][0])
        with self.assertRaises(BadLacing):
            steps("L19")

    def test_neighbours(self) -> None:
        tension = np.arange(36.0)
        found = neighbours(REAR, "R1", list(tension), {"R18"})
        self.assertEqual(found.spokes, ("R17", "R2"))
        self.assertAlmostEqual(found.tension_n or 0, (tension[REAR.index_of["R17"]] + tension[REAR.index_of["R2"]]) / 2)
        self.assertEqual(neighbours(REAR, "L18", None).spokes, ("L17", "L1"))
        self.assertIsNone(neighbours(REAR, "L18", None).tension_n)
        one = neighbours(REAR, "R1", list(tension), {f"R{i}" for i in range(1, 19) if i != 5})
        self.assertEqual((one.spokes, one.tension_n), (("R5",), tension[REAR.index_of["R5"]]))
        self.assertEqual(neighbours(REAR, "R1", list(tension), {f"R{i}" for i in range(1, 19)}).spokes, ())


class Gates(unittest.TestCase):
    READY = Facts(True, True, measured=True, mean_share=1.0, highest_n=1100, cap_n=1200)

    def short_of(self, **changes) -> list[str]:  # type: ignore[no-untyped-def]
        return [r.key for r in missing(requirements(replace(self.READY, **changes)))]

    def test_each_alone(self) -> None:
        self.assertEqual(self.short_of(), [])
        for changes, key in (
            ({"decided": False}, "agreed"), ({"refused": True}, "agreed"), ({"undone": ("x",)}, "agreed"),
            ({"measured": False}, "measured"),
            ({"unmeasured": ("dish",)}, "measured"), ({"unsure": ("x",)}, "measured"), ({"outside": ("dish",)}, "inside"),
            ({"known": False}, "inside"),
            ({"mean_share": None}, "tension"), ({"mean_share": 1.201}, "tension"), ({"mean_share": 0.799}, "tension"),
            ({"highest_n": None}, "limit"),
            ({"cap_n": None}, "limit"), ({"highest_n": 1200.1}, "limit"), ({"open_steps": 1}, "refit"),
            ({"wrong_steps": ("brake",)}, "safe"), ({"unsafe": ("crack",)}, "safe"),
        ):  # fmt: skip
            with self.subTest(changes):
                self.assertEqual(self.short_of(**changes), [key])
                found = next(r for r in requirements(replace(self.READY, **changes)) if r.key == key)
                self.assertTrue(found.missing)
        for fine in ({"mean_share": 1.2}, {"mean_share": 0.8}, {"highest_n": 1200}):
            self.assertEqual(self.short_of(**fine), [])
        self.assertEqual(self.short_of(mean_share=1.09, mean_within=0.1), [])
        self.assertEqual(self.short_of(mean_share=1.11, mean_within=0.1), ["tension"])
        names = [r.key for r in requirements(self.READY)]
        self.assertEqual(names, ["agreed", "measured", "inside", "tension", "limit", "refit", "safe"])
        who = {r.key: r.waived_by for r in requirements(self.READY)}
        self.assertEqual({k for k, v in who.items() if v == "owner"}, {"limit", "refit", "safe"})
        where = {r.key for r in requirements(self.READY) if r.answered == "sign_off"}
        self.assertEqual(where, {"measured", "inside", "tension"})

    def test_reasons(self) -> None:
        self.assertEqual(check_reason("  two words ", "reason"), "two words")
        for bad in ("", ".", "word", "a b", "12 34", "x1 y2"):
            with self.assertRaises(SaysNothing):
                check_reason(bad, "reason")

    def test_stages(self) -> None:
        check_move("true", "settle", "")
        check_move("true", "as_left", "no need here")
        check_move("true", "parts", "one more broke")
        check_move("as_left", "refit", "", ("decide",))
        check_move("as_left", "refit", "was left out", ("as_left",))
        for current, to, reason, undone in (
            ("true", "as_left", "", ()), ("true", "parts", " ", ()), ("true", "true", "why not so", ()),
            ("done", "true", "again please", ()),
            ("true", "nowhere", "any reason here", ()), ("as_left", "refit", "", ("as_left",)),
        ):  # fmt: skip
            with self.subTest(current=current, to=to), self.assertRaises(StageRefused):
                check_move(current, to, reason, undone)
        with self.assertRaises(SaysNothing):
            check_move("true", "as_left", ".", ())

    def test_ends(self) -> None:
        def way(key: str, **ground):  # type: ignore[no-untyped-def]
            return next(w for w in ways_to_end(Ground(**ground)) if w.key == key)

        self.assertEqual([bool(way("not_fetched", quiet_days=d).barred) for d in (89, 90)], [True, False])
        for unsafe, worked, label in (((), False, False), (("crack",), False, True), ((), True, True)):
            self.assertEqual(way("not_fetched", unsafe=unsafe, worked=worked).not_to_ride, label)
            self.assertEqual(way("declined", unsafe=unsafe, worked=worked, refused=True).not_to_ride, label)
        self.assertTrue(way("declined", unsafe=("crack",), refused=True).barred)
        self.assertFalse(way("declined", unsafe=("crack",), refused=True, warned=True).barred)
        self.assertIn("brake rubs", way("no_fault", cause="Brake rubs", elsewhere=True).words)
        self.assertNotIn("brake rubs", way("no_fault", cause="Brake rubs").words)
        check_reopening(30, 30, None)
        for ago, again in ((31, None), (0, 7)):
            with self.assertRaises(TradeError):
                check_reopening(ago, 30, again)


class Records(unittest.TestCase):
    def record(self, **more) -> dict:  # type: ignore[no-untyped-def, type-arg]
        return {"format": "felloe-wheel-record", "version": 1, "wheel": wheel_to_dict(REAR), **more}

    def test_numbers(self) -> None:
        self.assertEqual((finite(3, "x"), finite(-2.5, "x")), (3.0, -2.5))
        for bad in (True, "3", None, float("inf"), float("nan"), 10**400):
            with self.assertRaises(BadRecord):
                finite(bad, "x")
        fields = Fields({"a": 1e-3, "b": 9.9e-4, "c": 2.0, "d": 2.5, "e": "x" * 500, "f": "x" * 501, "g": [1, 2], "h": 3})
        self.assertEqual(
            (fields.sd("a"), fields.integer("c"), len(fields.text("e")), fields.sd("z", None), fields.integer("z", 7)),
            (1e-3, 2, 500, None, 7),
        )
        for read in (
            lambda: fields.sd("b"),
            lambda: fields.integer("d"),
            lambda: fields.text("f"),
            lambda: list(fields.items("g", 1)),
            lambda: list(fields.items("h", 9)),
            lambda: fields.number("zz"),
        ):
            with self.assertRaises(BadRecord):
                read()
        self.assertEqual([item for _, item in Fields({"g": [1, 2]}, "p").items("g", 2)], [1, 2])
        self.assertEqual([path for path, _ in Fields({"g": [1, 2]}, "p").items("g", 2)], ["p.g.0", "p.g.1"])

    def test_dish_in_every_way(self) -> None:
        ways = [
            ({"method": "direct", "dish_mm": 0.7}, 0.7), ({"method": "gauge", "gap_mm": 1.0, "gap_side": "L"}, -0.5),
            ({"method": "stand", "offset_mm": 0.4, "side": "R"}, 0.4),
            ({"method": "flip", "clearance_right_way_mm": 3.0, "clearance_flipped_mm": 5.0}, 1.0),
        ]  # fmt: skip
        found = record_from_dict(
            self.record(reading_sets=[{"id": "a", "stage": "as_found", "dish": [dish for dish, _ in ways]}])
        )
        self.assertEqual([round(d.dish_mm, 6) for d in found.sets[0].readings.dish], [value for _, value in ways])

    def test_limits(self) -> None:
        for bad in (
            {"format": "x"}, {"version": 3}, {"label": "x" * 201}, {"extra": 1}, {"targets": {"tier": "best"}},
            {"targets": {"tier": "fine", "x": 1}},
            {"reading_sets": [{"id": "a", "stage": "as_found"}] * 2}, {"plans": [{"id": "p", "reading_set": "none"}]},
        ):  # fmt: skip
            with self.subTest(list(bad)), self.assertRaises(BadRecord):
                record_from_dict({**self.record(), **bad})
        self.assertEqual(record_from_dict(self.record(label="x" * 200, targets={"tier": "fine"})).tier, FINE)
        self.assertEqual(record_from_dict(self.record()).tier, SOUND)
        for data in (b"\xff", b"{", b" " * 60_000_000):
            with self.assertRaises(BadRecord):
                read_record(data)
        table = table_from_dict({"spoke_kind": "x", "readings": [1, 2, 3], "forces_n": [1, 2, 3]})
        self.assertEqual((table.resolution, table.residual_n), (0.5, 20.0))

    def test_plans_and_times(self) -> None:
        plan = {
            "id": "p", "reading_set": "a", "made_at": "2026-03-01T10:00:00+00:00", "reason": "r",
            "moves": [{"spoke": "R1", "turns": 0.5, "done_turns": 0.25}, {"spoke": "L2", "turns": -0.5}],
        }  # fmt: skip
        base = self.record(reading_sets=[{"id": "a", "stage": "as_found"}], plans=[plan])
        found = record_from_dict(base).plans[0]
        self.assertEqual(
            (found.made_at, found.turns, found.done_turns),
            (datetime(2026, 3, 1, 10, tzinfo=UTC), {"R1": 0.5, "L2": -0.5}, {"R1": 0.25}),
        )
        again = record_to_dict(record_from_dict(base))
        self.assertEqual(again["plans"], [plan])
        self.assertEqual(record_from_dict(json.loads(json.dumps(again))).plans, record_from_dict(base).plans)
        for made_at in ("yesterday", "2026-03-01T10:00:00", "x" * 41):
            with self.assertRaises(BadRecord):
                record_from_dict({**base, "plans": [{**plan, "made_at": made_at}]})

    def test_every_kind_of_wheel_out_and_in(self) -> None:
        for wheel in (
            *ALL.values(),
            replace(REAR, dish_target_mm=2.0, rim=replace(REAR.rim, stagger_mm=1.0, target_n=900, cap_n=1100)),
        ):
            self.assertEqual(
                record_from_dict({**self.record(), "wheel": json.loads(json.dumps(wheel_to_dict(wheel)))}).wheel, wheel
            )


if __name__ == "__main__":
    unittest.main()
