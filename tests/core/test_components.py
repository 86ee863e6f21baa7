"""Components refuse what cannot be, at the field where it stands."""

import unittest
from dataclasses import replace

from felloe.core.components import Flange, Hub, Rim, SideLacing, Spoke, Wheel
from felloe.core.errors import ImpossibleGeometry
from tests.core.wheels import REAR


class Refusals(unittest.TestCase):
    def refused(self, field: str, make) -> None:
        with self.assertRaises(ImpossibleGeometry) as caught:
            make()
        self.assertEqual(caught.exception.field, field, caught.exception.message)

    def test_each_at_its_field(self) -> None:
        self.refused("erd_mm", lambda: Rim(30))
        self.refused("erd_mm", lambda: Rim(float("nan")))
        self.refused("erd_mm", lambda: Rim(618, 559))
        self.refused("bead_seat_mm", lambda: Rim(600, 623))
        self.refused("target_n", lambda: Rim(600, target_n=1300, cap_n=1100))
        self.refused("old_mm", lambda: Hub(20, Flange(45, 20), Flange(45, 20)))
        self.refused("right.center_to_flange_mm", lambda: Hub(100, Flange(45, 60), Flange(45, 20)))
        self.refused("blade_width_mm", lambda: Spoke(2.0, blade_thickness_mm=0.9))
        self.refused("middle_diameter_mm", lambda: Spoke(2.0, middle_diameter_mm=2.3))
        self.refused("crossings", lambda: SideLacing(18, 5))
        self.refused("crossings", lambda: SideLacing(10, 3))
        self.refused("crossings", lambda: SideLacing(9, 2))

    def test_wheel_as_a_whole(self) -> None:
        inside_out = Hub(130, Flange(45, 0.5), Flange(45, 36))
        self.refused("hub.right.center_to_flange_mm", lambda: replace(REAR, hub=inside_out))
        self.refused("spokes", lambda: replace(REAR, right=SideLacing(6, 0), left=SideLacing(6, 0)))
        self.refused(
            "hub.right.pitch_circle_mm",
            lambda: Wheel(Rim(280), Hub(130, Flange(260, 20), Flange(260, 36)), SideLacing(18, 3), SideLacing(18, 3)),
        )

    def test_message_says_expected_and_found(self) -> None:
        with self.assertRaisesRegex(ImpossibleGeometry, "between 200 and 680 mm; found 30"):
            Rim(30)


class Spokes(unittest.TestCase):
    def test_kind_names_what_the_meter_touches(self) -> None:
        self.assertEqual(Spoke(2.0).kind, "round 2.0")
        self.assertEqual(Spoke(2.0, middle_diameter_mm=1.8).kind, "round 1.8")
        self.assertEqual(Spoke(2.0, blade_thickness_mm=0.9, blade_width_mm=2.2).kind, "blade 0.9x2.2")

    def test_stiffness_of_a_plain_spoke_is_ea_over_l(self) -> None:
        # E = 200 GPa (EN 1993-1-4, from memory), A = π mm² for 2.0 mm.
        self.assertAlmostEqual(Spoke(2.0).axial_stiffness_n_mm(290), 200_000 * 3.14159265 / 290, places=3)

    def test_butted_lies_between_thick_and_thin(self) -> None:
        thick, thin = Spoke(2.0).axial_stiffness_n_mm(290), Spoke(1.8).axial_stiffness_n_mm(290)
        butted = Spoke(2.0, middle_diameter_mm=1.8).axial_stiffness_n_mm(290)
        self.assertTrue(thin < butted < thick)
        by_series = 1 / (50 / (200_000 * 3.14159265) + 240 / (200_000 * 2.54469005))
        self.assertAlmostEqual(butted, by_series, places=3)

    def test_blade_as_wide_as_thick_is_round(self) -> None:
        blade = Spoke(2.0, blade_thickness_mm=1.8, blade_width_mm=1.8)
        self.assertAlmostEqual(blade.middle_area_mm2, Spoke(1.8).middle_area_mm2)


class Hubs(unittest.TestCase):
    def test_both_schools_of_measuring_agree(self) -> None:
        from_locknuts = Hub.from_locknuts(130, Flange(45, 47.5), Flange(45, 28.5))
        self.assertAlmostEqual(from_locknuts.right.center_to_flange_mm, 17.5)
        self.assertAlmostEqual(from_locknuts.left.center_to_flange_mm, 36.5)

    def test_rim_offset_shifts_the_sides_against_each_other(self) -> None:
        wheel = replace(REAR, rim=replace(REAR.rim, spoke_bed_offset_mm=-2.5))
        from felloe.core.naming import Side

        self.assertAlmostEqual(wheel.bracing_mm(Side.RIGHT), 20.0)
        self.assertAlmostEqual(wheel.bracing_mm(Side.LEFT), 34.0)
