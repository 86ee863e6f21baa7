"""Instruments through HTTP: tables, calibration with drift, checks, and what they say of readings, then and later."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

import time_machine
from django.db import DatabaseError, transaction
from django.utils import timezone

from felloe.instruments.models import InstrumentCheck, MeterTable
from tests.api.shop import BenchCase, person

LOADS = [300.0, 500.0, 700.0, 900.0, 1100.0, 1300.0]
SHOWN = [17.5, 22.5, 25.5, 28.0, 30.0, 31.5]


class Instruments(BenchCase):
    def calibrate(self, keep: bool, shift: float = 0.0, **change: Any) -> Any:
        body = {"spoke_kind": "round 2.0", "readings": [s + shift for s in SHOWN], "loads_n": LOADS, "keep": keep, **change}
        return self.post(f"instruments/{self.meter}/calibrations", body)

    def advice(self) -> dict[str, Any]:
        return dict(self.get(f"reading-sets/{self.set}/advice").json())

    def test_a_calibration_is_looked_at_then_signed(self) -> None:
        before = MeterTable.objects.count()
        looked = self.calibrate(False).json()
        self.assertEqual((MeterTable.objects.count(), len(looked["points"]), len(looked["curve"])), (before, 6, 41))
        self.assertFalse(looked["drift"]["drifted"])
        self.calibrate(True)
        found = self.get(f"instruments/{self.meter}").json()
        self.assertEqual(found["standing"]["word"], "good")
        newest = next(t for t in found["tables"] if t["spoke_kind"] == "round 2.0")
        self.assertEqual((newest["source"], newest["by"]), ("calibrated", "Bram"))
        self.assertEqual(InstrumentCheck.objects.get().created_by, self.bram)

    def test_old_readings_keep_their_table_and_say_that_the_meter_drifted(self) -> None:
        self.post(f"instruments/{self.meter}/checks", {"passed": True, "note": "block"})
        first = self.read("tension", "R1", 28, "meter", meter=self.meter).json()["value"]
        self.assertEqual(self.advice()["doubts"], [])
        moved = self.calibrate(True, shift=-2.0).json()
        self.assertTrue(moved["drift"]["drifted"])
        second = self.read("tension", "R2", 28, "meter", meter=self.meter).json()["value"]
        self.assertGreater(second, first + 40)
        kept = next(r for r in self.get(f"reading-sets/{self.set}").json()["readings"] if r["spoke"] == "R1")
        self.assertEqual(kept["value"], first)
        self.assertIn("was calibrated anew since", self.advice()["doubts"][0])

    def test_an_overdue_meter_warns_on_what_it_took(self) -> None:
        self.post(f"instruments/{self.meter}/checks", {"passed": True, "note": "block"})
        with time_machine.travel(timezone.now() + timedelta(days=400)):
            client = self.speak_for(self.bram)
            body = {"kind": "tension", "spoke": "R1", "value": 28, "unit": "meter", "meter": self.meter}
            self.post(f"reading-sets/{self.set}/readings", body, client=client)
            doubts = self.get(f"reading-sets/{self.set}/advice", client).json()["doubts"]
        self.assertIn("its check fell due on", doubts[0])

    def test_a_failed_check_afterwards_warns_later_too(self) -> None:
        self.post(f"instruments/{self.meter}/checks", {"passed": True, "note": "block"})
        self.read("tension", "R1", 28, "meter", meter=self.meter)
        self.post(f"instruments/{self.meter}/checks", {"passed": False, "note": "block: 2 units off"})
        self.assertIn("failed its next check", self.advice()["doubts"][0])

    def test_a_dial_is_noted_with_what_it_read(self) -> None:
        dial = self.post("instruments", {"name": "Dial", "kind": "dial"}).json()
        self.assertEqual((dial["standing"]["word"], dial["check_every_days"]), ("never", 365))
        self.read("lateral", "R1", 0.2, instrument=dial["id"])
        self.assertIn("Dial, which took 1 reading here: never checked", self.advice()["doubts"][0])

    def test_refusals(self) -> None:
        self.assertProblem(self.calibrate(True, loads_n=LOADS[:3], readings=SHOWN[:3]), 422, "bad_table", "loads_n")
        self.assertProblem(self.calibrate(True, readings=SHOWN[::-1][:3] + SHOWN[:3]), 422, "bad_table", "readings")
        note = self.post(f"instruments/{self.meter}/checks", {"passed": True, "note": ""})
        self.assertProblem(note, 422, "reason_needed", "note")
        flip = {"first_mm": 1, "first_side": "R", "flipped_mm": 0, "flipped_side": "R"}
        self.assertProblem(self.post(f"instruments/{self.meter}/stand-checks", flip), 422, "no_stand")
        self.assertProblem(self.post("instruments", {"name": "S", "address": "example:1"}), 422, "bad_address", "address")
        self.assertProblem(self.post("instruments", {"name": "S", "address": "10.1.2.3:80"}), 422, "bad_address", "address")
        over = self.speak_for(self.stranger)
        self.assertEqual(self.get(f"instruments/{self.meter}", over).status_code, 404)
        desk = self.speak_for(person(self.shop, "pip", "desk"))
        body = {"spoke_kind": "round 2.0", "readings": SHOWN, "loads_n": LOADS, "keep": True}
        self.assertProblem(self.post(f"instruments/{self.meter}/calibrations", body, client=desk), 403, "not_permitted")
        with self.assertRaises(DatabaseError), transaction.atomic():
            MeterTable.objects.update(residual_n=1)

    def test_a_stand_and_what_it_says_of_dish_by_the_stand(self) -> None:
        stand = self.post("instruments", {"name": "Stand", "kind": "stand"}).json()["id"]
        flip = {"first_mm": 1.0, "first_side": "R", "flipped_mm": 0.2, "flipped_side": "R"}
        found = self.post(f"instruments/{stand}/stand-checks", flip).json()
        # A rim that is seen right of the middle both ways round: the stand points to the left of it.
        self.assertIn("points 0.6 mm to the left", found["checks"][0]["note"])
        dish = {"kind": "dish", "method": "stand", "offset_mm": 0.4, "side": "L"}
        made = self.post(f"reading-sets/{self.set}/readings", dish).json()
        # 0.4 mm left of where the stand points, which is 0.6 mm left.
        self.assertAlmostEqual(made["value"], -1.0)
        self.assertGreaterEqual(made["sd"], 0.5)

    def test_a_check_with_its_sides_changed_over_counts_for_nothing(self) -> None:
        """As such checks were kept once: nobody can tell any more which way they meant."""
        stand = self.post("instruments", {"name": "Stand", "kind": "stand"}).json()["id"]
        old = {"stand_error_mm": 0.6, "wheel_dish_mm": 0.4}
        InstrumentCheck.objects.create(
            shop=self.shop, instrument_id=stand, passed=True, note="0.6 to the right", figures=old, created_by=self.bram
        )
        found = next(i for i in self.get("instruments").json() if i["id"] == stand)
        self.assertEqual(found["standing"]["word"], "never")
        self.assertIn("check it again", found["standing"]["why"])
        dish = {"kind": "dish", "method": "stand", "offset_mm": 0.4, "side": "L"}
        self.assertAlmostEqual(self.post(f"reading-sets/{self.set}/readings", dish).json()["value"], -0.4)

    def test_a_table_derived_for_another_thickness(self) -> None:
        from felloe.core.components import Spoke
        from felloe.core.tension.three_point import BendingMeter

        meter = BendingMeter(100, -0.05, 2.6, 30, 1.2, 2.0)
        readings = [8.0 + 2 * i for i in range(13)]
        table = {
            "spoke_kind": "round 2.0",
            "readings": readings,
            "forces_n": [meter.tension_n(r, Spoke(2.0)) for r in readings],
        }
        made = self.post("instruments", {"name": "Bender", "tables": [table]}).json()
        body = {
            "table": made["tables"][0]["id"],
            "of": {"end_diameter_mm": 2.0, "middle_diameter_mm": 2.0},
            "to": {"end_diameter_mm": 2.0, "middle_diameter_mm": 1.5},
            "span_mm": 100,
            "mm_per_unit": -0.05,
            "keep": True,
        }
        path = f"instruments/{made['id']}/derived-tables"
        derived = self.post(path, body).json()
        self.assertEqual(derived["spoke_kind"], "round 1.5")
        tables = {t["spoke_kind"]: t for t in self.get(f"instruments/{made['id']}").json()["tables"]}
        self.assertEqual(tables["round 1.5"]["source"], "derived")
        self.assertGreater(tables["round 1.5"]["residual_n"], 2 * tables["round 2.0"]["residual_n"])
        again = {**body, "table": tables["round 1.5"]["id"], "of": body["to"]}
        self.assertProblem(self.post(path, again), 422, "bad_table", "table")
        self.assertProblem(self.post(path, {**body, "span_mm": 5}), 422, "bad_table", "span_mm")
        self.assertProblem(self.post(path, {**body, "mm_per_unit": 0.3}), 422, "bad_table", "mm_per_unit")

    def test_a_makers_chart_from_csv_all_or_nothing(self) -> None:
        def send(text: str, keep: str = "1") -> Any:
            return self.client.post(f"/api/v1/instruments/{self.meter}/chart?keep={keep}", text, content_type="text/csv")

        before = MeterTable.objects.count()
        self.assertProblem(send("reading;round 2.6;round 2.3\n1;2;9\n2;4;8\n3;3;7\n"), 422, "bad_table", "chart")
        self.assertProblem(send("force\n1\n2\n"), 422, "bad_csv")
        self.assertEqual(len(send("reading;round 2.6\n10;300\n20;700\n30;1200\n", "").json()), 1)
        self.assertEqual(MeterTable.objects.count(), before)
        self.assertEqual(send("reading;round 2.6\n10;300\n20;700\n30;1200\n").json()[0]["spoke_kind"], "round 2.6")
        self.assertEqual(MeterTable.objects.count(), before + 1)
