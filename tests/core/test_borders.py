"""Rules at their borders: promises, refit, the road card, frame gauge, evenness, sureness, kit. Figures are common practice, no
source, unless marked; each expected value is worked out by hand in its test.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import UTC, datetime

import numpy as np

from felloe.core.diagnosis.checks import CHECKS
from felloe.core.diagnosis.history import WheelFacts, asked_of, factors
from felloe.core.errors import TradeError
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.prior import free_shape_displacements
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.refit.checklist import BikeFacts, recheck_after, refit_steps
from felloe.core.refit.road_advice import TROUBLES, road_card
from felloe.core.runout.frame_gauge import frame_error
from felloe.core.stock.parts import nipple_of
from felloe.core.tension.evenness import side_evenness
from felloe.core.truing.headline import headline
from felloe.core.truing.tiers import SOUND
from felloe.core.wheel_kinds import WHEEL_KINDS

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)
FRONT = WHEEL_KINDS["rim-brake-front-32"].wheel


class Refit(unittest.TestCase):
    def text(self, key: str, **facts: object) -> str:
        return next(s.text for s in refit_steps(BikeFacts(**{"brake": "rim", "rear": False, **facts})) if s.key == key)  # type: ignore[arg-type]

    def test_torque_borders(self) -> None:
        for torque in (1, 80):
            BikeFacts("disc", True, axle_torque_nm=torque)
        for torque in (0.9, 80.1):
            with self.assertRaises(TradeError):
                BikeFacts("disc", True, axle_torque_nm=torque)

    def test_each_brake_has_its_own_step(self) -> None:
        told = {brake: self.text("brake", brake=brake) for brake in ("rim", "disc", "hub")}
        self.assertIn("Rotor", told["disc"])
        self.assertIn("Brake arm", told["hub"])
        self.assertIn("Pads meet the rim", told["rim"])
        self.assertNotIn("rotor_clean", {s.key for s in refit_steps(BikeFacts("rim", False))})
        self.assertIn("rotor_clean", {s.key for s in refit_steps(BikeFacts("disc", False))})

    def test_only_the_test_ride_may_be_left_out(self) -> None:
        steps = refit_steps(BikeFacts("disc", True, directional=True))
        self.assertEqual([s.key for s in steps if not s.must], ["test_ride"])

    def test_rear_and_hub_gear(self) -> None:
        keys = [{s.key for s in refit_steps(BikeFacts("hub", rear, hub_gear=gear))} & {"chain", "reaction_arm"}
                for rear, gear in ((True, False), (True, True), (False, True))]  # fmt: skip
        self.assertEqual(keys, [{"chain"}, {"reaction_arm"}, set()])

    def test_days_until_it_is_looked_at_again(self) -> None:
        table = {
            ("everyday", False): 180, ("everyday", True): 30, ("cargo", False): 60, ("cargo", True): 14, ("tandem", True): 14,
        }  # fmt: skip
        for (use, new), days in table.items():
            self.assertEqual(recheck_after(use, new, False).days, days, (use, new))
            self.assertEqual(recheck_after(use, new, True).days, 2)
        self.assertIn("sooner", recheck_after("cargo", True, False).why)
        self.assertNotIn("sooner", recheck_after("sport", True, False).why)


class Road(unittest.TestCase):
    def test_how_far_and_how_fast(self) -> None:
        table = {"axle_loose": (10, 15), "broken_spoke": (15, 15), "loose_spokes": (20, 20), "hit": (10, 15)}
        for trouble in TROUBLES:
            card, loaded = road_card(trouble, True, False, False, 32), road_card(trouble, True, True, False, 32)
            if not card.ride:
                self.assertIn("Walk it", card.steps[1])
                continue
            km, km_h = table.get(trouble, (20, 15))
            self.assertIn(f"at most {km} km, not faster than {km_h} km/h", card.steps[-1], trouble)
            self.assertIn(f"at most {km // 2} km", loaded.steps[-1], trouble)
            self.assertIn("load", loaded.steps[1].lower())

    def test_few_spokes_forgive_nothing(self) -> None:
        self.assertFalse(road_card("broken_spoke", True, False, False, 23).ride)
        self.assertTrue(road_card("broken_spoke", True, False, False, 24).ride)
        self.assertFalse(road_card("broken_spoke", True, False, True, 36).ride)

    def test_the_look_along_the_rim_is_for_a_hit_alone(self) -> None:
        for trouble in TROUBLES:
            card = road_card(trouble, False, False, False, 36)
            if card.ride:
                self.assertEqual(any("Look along the rim" in step for step in card.steps), trouble == "hit", trouble)

    def test_the_brake_is_opened_only_where_it_is_on_the_rim(self) -> None:
        for rim_brake in (True, False):
            steps = road_card("broken_spoke", rim_brake, False, False, 36).steps
            self.assertEqual(any("release" in step for step in steps), rim_brake)


class Frame(unittest.TestCase):
    def test_stays_between_the_rim_and_700(self) -> None:
        for stay in (300.1, 700.0):
            frame_error(0, 4, "steel", "rear", 300, stay)
        for stay in (300.0, 700.1, float("nan")):
            with self.assertRaises(TradeError):
                frame_error(0, 4, "steel", "rear", 300, stay)

    def test_gaps_between_0_and_40(self) -> None:
        frame_error(0, 40, "steel", "rear", 300)
        for gap in (-0.1, 40.1, float("inf")):
            with self.assertRaises(TradeError):
                frame_error(0, gap, "steel", "rear", 300)

    def test_a_frame_is_behind_and_a_fork_in_front(self) -> None:
        for end, word in (("rear", "frame"), ("front", "fork")):
            self.assertIn(word, frame_error(0, 0, "steel", end, 300).why)
            self.assertIn(word, frame_error(0, 12, "unknown", end, 300).why)

    def test_half_the_gap_and_the_way_it_swings(self) -> None:
        """6 mm at the left: 3 mm to the right; with stays of 400 and a rim of 300 the brake sees a quarter: 0.75 mm."""
        found = frame_error(0, 6, "steel", "rear", 300, 400)
        self.assertEqual((found.offset_mm, found.toward, found.each_stay_mm), (3, Side.RIGHT, 3))
        self.assertAlmostEqual(found.at_rim_mm[0], 0.75)
        self.assertAlmostEqual(found.at_rim_mm[1], 3.0)


class Even(unittest.TestCase):
    def test_against_numpy_and_at_the_band_s_edge(self) -> None:
        tension = [1000.0] * 32
        names = [str(n) for n in FRONT.names]
        tension[names.index("R3")] = 1200.0
        found = side_evenness(FRONT, tension, Side.RIGHT, 18.5)
        mine = [t for t, n in zip(tension, names, strict=True) if n[0] == "R"]
        self.assertAlmostEqual(found.mean_n, float(np.mean(mine)))
        self.assertAlmostEqual(found.sd_n, float(np.std(mine, ddof=1)))
        self.assertEqual((found.min_n, found.max_n, found.worst_spoke, found.count), (1000.0, 1200.0, "R3", 16))
        edge = found.spread_percent
        self.assertEqual(side_evenness(FRONT, tension, Side.RIGHT, edge).outside, ())
        self.assertEqual(side_evenness(FRONT, tension, Side.RIGHT, edge - 0.01).outside, ("R3",))

    def test_one_left_has_no_scatter_and_none_no_figures(self) -> None:
        names = [str(n) for n in FRONT.names if n.side is Side.RIGHT]
        one = side_evenness(FRONT, [900.0] * 32, Side.RIGHT, 20, names[1:])
        self.assertEqual((one.count, one.mean_n, one.sd_n), (1, 900.0, 0.0))
        none = side_evenness(FRONT, [900.0] * 32, Side.RIGHT, 20, names)
        self.assertEqual((none.count, none.mean_n, none.sd_n, none.min_n, none.max_n, none.worst_percent), (0, 0, 0, 0, 0, 0))
        self.assertEqual((none.worst_spoke, none.outside), ("", ()))
        with self.assertRaises(ValueError):
            side_evenness(FRONT, [900.0] * 31, Side.RIGHT, 20)


class Headlines(unittest.TestCase):
    def read(self, radial: float, tension: float) -> str:
        wheel = FRONT
        lump = [radial if str(n) in ("R5", "L5", "R6") else 0.0 for n in wheel.names]
        readings = Readings(
            [TensionReading(str(n), tension) for n in wheel.names],
            [RunoutReading(float(a), 0.0) for a in wheel.angles_deg],
            [RunoutReading(float(a), v) for a, v in zip(wheel.angles_deg, lump, strict=True)],
            [DishReading(0.0)],
        )
        return headline(estimate_state(influence_of(wheel), readings), SOUND)

    def test_a_hop_stands_out_and_a_flat_lies_in(self) -> None:
        target = FRONT.rim.tension_target_n
        self.assertIn("a hop at", self.read(1.2, target).lower())
        self.assertIn("a flat at", self.read(-1.2, target).lower())

    def test_slack_begins_below_a_tenth_of_the_target(self) -> None:
        target = FRONT.rim.tension_target_n
        self.assertTrue(self.read(0.0, 0.05 * target).startswith("All slack"))
        self.assertFalse(self.read(0.0, 0.2 * target).startswith("All slack"))


class Diagnosing(unittest.TestCase):
    def test_place_brake_and_axle_shut_out_their_own_checks_only(self) -> None:
        for facts, shut in (
            (WheelFacts(front=True), {"slot_hidden", "stop_screws"}),
            (WheelFacts(), set()),
            (WheelFacts(brake="rim"), {"rotor"}),
            (WheelFacts(brake="disc"), {"pads_alike", "brake_track"}),
            (WheelFacts(brake="hub"), {"pads_alike", "brake_track", "rotor"}),
            (WheelFacts(axle="through"), {"drops_in", "stop_screws", "slot_hidden", "ends_proud", "flip"}),
            (WheelFacts(axle="nuts"), set()),
        ):
            with self.subTest(facts):
                self.assertEqual({key for key in CHECKS if not asked_of(facts, key)}, shut)

    def test_a_through_axle_makes_seats_unlikely_and_leaves_the_hub_alone(self) -> None:
        found = factors(WheelFacts(axle="through"))
        for cause, factor in (("axle_not_home", 0.1), ("hanger_overlap", 0.02), ("stop_screws", 0.02),
                              ("axle_ends_proud", 0.02),
                              ("axle_bent", 0.4), ("bearing_play", 1.0), ("off_dish", 1.0)):  # fmt: skip
            self.assertAlmostEqual(found[cause], factor, msg=cause)
        self.assertAlmostEqual(factors(WheelFacts(axle="nuts"))["axle_ends_proud"], 0.5)


class Parts(unittest.TestCase):
    def test_common_measures_are_those_of_the_common_wire(self) -> None:
        for wire, unknown in ((1.95, False), (2.05, False), (1.9, True), (2.1, True)):
            self.assertEqual(bool(nipple_of({"for_thread_mm": wire}).unknown), unknown, wire)


class FreeShapes(unittest.TestCase):
    def test_a_hop_stretches_nothing(self) -> None:
        """Inextensional: the radial wave u and the tangential one v obey dv/dθ = −u (Love), by finite differences."""
        found = influence_of(replace(FRONT))
        angles = found.lacing.rim_angle_rad
        _, radial = free_shape_displacements(found, [2, 3])
        for column, m in ((0, 2), (2, 3)):
            nodes = radial[:, column].reshape(-1, 6)
            outward = np.cos(angles) * nodes[:, 0] + np.sin(angles) * nodes[:, 1]
            along = -np.sin(angles) * nodes[:, 0] + np.cos(angles) * nodes[:, 1]
            np.testing.assert_allclose(outward, np.cos(m * angles), atol=1e-9)
            np.testing.assert_allclose(along, -np.sin(m * angles) / m, atol=1e-9)
