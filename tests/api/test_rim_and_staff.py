"""The rim's stiffness by section and by a hung weight, likely causes at the counter, and who works here."""

from __future__ import annotations

from typing import Any

from felloe.accounts.models import User
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.rim_section import deflection_mm
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.api.shop import REAR, ShopCase, person, specification


class RimSection(ShopCase):
    def section(self, **change: Any) -> Any:
        return self.post("rim-section", {"width_mm": 20, "height_mm": 20, "wall_mm": 1.5, "material": "aluminium", **change})

    def test_a_square_box_against_the_handbook(self) -> None:
        """Box 20 × 20 × 1.5 by hand: A = 20² − 17² = 111 mm², I = (20⁴ − 17⁴)/12 = 6373.25 mm⁴, and by Bredt's second formula
        (thin closed section, any handbook of strength of materials) J = 4·(18.5²)²·1.5/(4·18.5) = 9497.4 mm⁴."""
        found = self.section().json()
        self.assertAlmostEqual(found["ei_lat_nm2"], found["ei_rad_nm2"])
        young = found["ea_n"] / 111
        self.assertTrue(69_000 <= young <= 72_000, "aluminium, 69 to 72 GPa")
        self.assertAlmostEqual(found["ei_lat_nm2"], young * 6373.25e-6, places=3)
        # G = E / 2(1 + ν) with ν near 0.33.
        self.assertAlmostEqual(found["gj_nm2"], young / 2.66 * 9497.4e-6, delta=0.03 * found["gj_nm2"])

    def test_wide_is_stiff_sideways_and_high_is_stiff_in_plane(self) -> None:
        wide, high = self.section(width_mm=30).json(), self.section(height_mm=30).json()
        self.assertGreater(wide["ei_lat_nm2"], wide["ei_rad_nm2"])
        self.assertAlmostEqual(wide["ei_lat_nm2"], high["ei_rad_nm2"])
        self.assertAlmostEqual(wide["gj_nm2"], high["gj_nm2"])

    def test_sections_that_cannot_be(self) -> None:
        for field, value in (("width_mm", 7), ("height_mm", 121), ("wall_mm", 0.3), ("wall_mm", 6)):
            width = {"width_mm": 12, "height_mm": 12} if (field, value) == ("wall_mm", 6) else {}
            self.assertProblem(self.section(**width, **{field: value}), 422, "impossible_geometry", field)
        self.assertProblem(self.section(material="wood"), 400, "invalid_input", "material")


class HangTest(ShopCase):
    def hang(self, measured_mm: float, mass_kg: float = 10, **change: Any) -> Any:
        body = {
            "specification": specification(), "mass_kg": mass_kg, "measured_mm": measured_mm, "sideways": False, **change
        }  # fmt: skip
        return self.post("rim-hang-test", body)

    def foretold(self, sideways: bool = False) -> float:
        return deflection_mm(influence_of(WHEEL_KINDS[REAR].wheel), 180, 10, sideways)

    def test_a_rim_that_gives_way_as_foretold_is_as_stiff_as_was_thought(self) -> None:
        for sideways in (False, True):
            foretold = self.foretold(sideways)
            found = self.hang(foretold, sideways=sideways).json()
            self.assertAlmostEqual(found["factor"], 1, places=3)
            self.assertAlmostEqual(found["predicted_mm"], foretold, places=6)
            self.assertAlmostEqual(found["ei_lat_nm2"], specification()["rim"]["ei_lat_nm2"], delta=0.01 * found["ei_lat_nm2"])

    def test_what_gives_way_more_is_softer(self) -> None:
        foretold = self.foretold()
        soft, stiff = self.hang(foretold * 1.1).json(), self.hang(foretold * 0.9).json()
        self.assertLess(soft["factor"], 1)
        self.assertGreater(stiff["factor"], 1)

    def test_twice_the_weight_and_twice_the_way_say_the_same(self) -> None:
        foretold = self.foretold()
        once, twice = self.hang(foretold * 1.1), self.hang(foretold * 2.2, mass_kg=20)
        self.assertAlmostEqual(once.json()["factor"], twice.json()["factor"], places=3)
        self.assertLess(twice.json()["spread"], once.json()["spread"])

    def test_what_no_rim_gives_is_refused_at_its_field(self) -> None:
        self.assertProblem(self.hang(0.3, mass_kg=0.5), 422, "impossible_geometry", "mass_kg")
        self.assertProblem(self.hang(0), 422, "impossible_geometry", "measured_mm")
        self.assertProblem(self.hang(19), 422, "impossible_geometry", "measured_mm")
        wrong = specification()
        wrong["rim"]["erd_mm"] = 10
        refused = self.hang(0.3, specification=wrong)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("specification.rim", refused.json()["errors"][0]["field"])


class Staff(ShopCase):
    def test_the_people_of_this_shop_and_no_other(self) -> None:
        person(self.shop, "odile", User.Role.OWNER)
        gone = person(self.shop, "gone")
        gone.is_active = False
        gone.save()
        names = {p["name"] for p in self.get("staff").json()}
        self.assertEqual(names, {"Bram", "Ines", "Odile"})
        self.assertEqual({p["name"] for p in self.get("staff", client=self.speak_for(self.stranger)).json()}, {"Stranger"})
