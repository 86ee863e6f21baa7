"""The rim's stiffness from its section against handbook formulas, and from a hung weight against the frame package's ring."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from felloe.core.errors import ImpossibleGeometry
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.rim_section import box_section, deflection_mm, hang_test
from felloe.core.units import KGF_N
from tests.core.wheels import ALL, REAR
from tests.outside.frame import frame_of, orient_rim


class Section(unittest.TestCase):
    def test_a_square_tube_by_the_handbook(self) -> None:
        """Square tube 20 × 20 × 1: I = (a^4 - b^4)/12; Bredt J = t (a - t)^3 (Roark, torsion of thin closed tubes)."""
        found = box_section(20, 20, 1, "aluminium")
        second_moment = (20**4 - 18**4) / 12
        self.assertAlmostEqual(found.ei_lat_nm2, 70_000 * second_moment * 1e-6)
        self.assertAlmostEqual(found.ei_rad_nm2, found.ei_lat_nm2)
        self.assertAlmostEqual(found.gj_nm2, 26_000 * 1 * 19**3 * 1e-6)
        self.assertAlmostEqual(found.ea_n, 70_000 * (400 - 324))

    def test_bredt_is_the_limit_of_a_thin_round_tube(self) -> None:
        """For any thin closed tube J < Ip; for the box it stays below the polar moment of its walls."""
        found = box_section(24, 18, 1.2, "steel")
        polar = (found.ei_lat_nm2 + found.ei_rad_nm2) / 210_000 * 81_000
        self.assertLess(found.gj_nm2, polar)

    def test_the_generic_kinds_lie_where_a_box_of_their_size_does(self) -> None:
        """The closed part of a common rim, 18 × 12 × 1.2 mm: within a factor of two of the kinds (from memory)."""
        found = box_section(18, 12, 1.2, "aluminium")
        rim = ALL["rim-brake-rear-36"].rim
        for name in ("ei_lat_nm2", "ei_rad_nm2", "ea_n"):
            self.assertTrue(0.5 < getattr(found, name) / getattr(rim, name) < 2, name)

    def test_refusals(self) -> None:
        for field, args in (
            ("width_mm", (2, 18, 1, "steel")),
            ("wall_mm", (10, 10, 5, "steel")),
            ("material", (20, 18, 1, "wood")),
        ):
            with self.subTest(field), self.assertRaises(ImpossibleGeometry) as caught:
                box_section(*args)
            self.assertEqual(caught.exception.field, field)


class Hanging(unittest.TestCase):
    def test_a_factor_is_found_again(self) -> None:
        for sideways in (True, False):
            for factor in (0.7, 1.0, 1.6):
                rim = REAR.rim
                stiff = replace(
                    rim, ei_lat_nm2=rim.ei_lat_nm2 * factor, ei_rad_nm2=rim.ei_rad_nm2 * factor, gj_nm2=rim.gj_nm2 * factor
                )
                moved = deflection_mm(influence_of(replace(REAR, rim=stiff)), 180, 10, sideways)
                found = hang_test(REAR, 180, 10, moved, sideways)
                self.assertAlmostEqual(found.factor, factor, delta=0.01)
                self.assertAlmostEqual(found.rim.ei_lat_nm2, stiff.ei_lat_nm2, delta=0.02 * stiff.ei_lat_nm2)

    def test_against_the_frame_package(self) -> None:
        """A force in plane on one node of the same ring and spokes in PyNiteFEA moves it as far."""
        model = frame_of(REAR)
        orient_rim(model, 36)
        influence = influence_of(REAR, tensioned=False)
        theta = influence.lacing.rim_angle_rad[0]
        force = 10 * KGF_N
        model.add_node_load("n0", "FX", force * np.cos(theta))
        model.add_node_load("n0", "FY", force * np.sin(theta))
        model.analyze_linear()
        node = model.nodes["n0"]
        moved = node.DX["Combo 1"] * np.cos(theta) + node.DY["Combo 1"] * np.sin(theta)
        ours = deflection_mm(influence, REAR.angles_deg[0], 10, sideways=False)
        self.assertAlmostEqual(ours / moved, 1, delta=0.01)

    def test_what_no_rim_gives(self) -> None:
        for mass, moved, field in ((10, 15.0, "measured_mm"), (500, 1.0, "mass_kg"), (10, 0.0, "measured_mm")):
            with self.subTest(mass=mass, moved=moved), self.assertRaises(ImpossibleGeometry) as caught:
                hang_test(REAR, 180, mass, moved, True)
            self.assertEqual(caught.exception.field, field)
