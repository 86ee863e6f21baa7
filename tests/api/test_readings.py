"""Readings: saved as entered, mended without loss, refused at their place, never doubled."""

import uuid

from django.db import DatabaseError, connection, transaction

from felloe.bench.models import Reading, ReadingSet
from tests.api.shop import BenchCase, open_job, specification


class Entering(BenchCase):
    def test_units_people_think_in(self) -> None:
        self.assertAlmostEqual(self.read("tension", "R1", 900).json()["value"], 900)
        self.assertAlmostEqual(self.read("tension", "R2", 100, "kgf").json()["value"], 980.665)
        by_meter = self.read("tension", "R3", 28, "meter", meter=self.meter).json()
        self.assertTrue(800 < by_meter["value"] < 1100)
        self.assertEqual(by_meter["entered"]["value"], 28)
        self.assertEqual(by_meter["by"], "Bram")
        self.assertEqual(self.read("lateral", "l4", -0.35).json()["spoke"], "L4")

    def test_dish_is_said_by_side_not_by_sign(self) -> None:
        path = f"reading-sets/{self.set}/readings"
        gauge = self.post(path, {"kind": "dish", "method": "gauge", "gap_mm": 1.0, "gap_side": "L"}).json()
        self.assertAlmostEqual(gauge["value"], -0.5)
        flip = {"kind": "dish", "method": "flip", "clearance_right_way_mm": 3.0, "clearance_flipped_mm": 4.4}
        self.assertAlmostEqual(self.post(path, flip).json()["value"], 0.7)
        self.assertProblem(self.post(path, {"kind": "dish", "method": "gauge", "gap_mm": 1}), 422, "bad_reading", "gap_side")

    def test_mending_keeps_the_old_value(self) -> None:
        self.read("tension", "R1", 900)
        self.assertEqual(self.read("tension", "R1", 950).json()["revision"], 2)
        current = self.get(f"reading-sets/{self.set}").json()["readings"]
        self.assertEqual([(r["spoke"], r["value"]) for r in current], [("R1", 950)])
        history = self.get(f"reading-sets/{self.set}/history?kind=tension&spoke=R1").json()
        self.assertEqual([r["value"] for r in history], [900, 950])

    def test_taking_back(self) -> None:
        self.read("tension", "R1", 900)
        self.assertEqual(self.post(f"reading-sets/{self.set}/withdraw", {"kind": "tension", "spoke": "R1"}).status_code, 204)
        self.assertEqual(self.get(f"reading-sets/{self.set}").json()["readings"], [])
        self.assertEqual(Reading.objects.count(), 2)
        self.assertEqual(self.read("tension", "R1", 910).json()["revision"], 3)

    def test_the_database_itself_refuses_change(self) -> None:
        self.read("tension", "R1", 900)
        for statement in ("UPDATE bench_reading SET value = 1", "DELETE FROM bench_reading"):
            with self.subTest(statement), self.assertRaises(DatabaseError), transaction.atomic(), connection.cursor() as cursor:
                cursor.execute(statement)

    def test_a_set_that_a_tablet_named_is_begun_once_under_that_name(self) -> None:
        name = str(uuid.uuid4())
        body = {"stage": "after_pass", "set_id": name}
        made = self.post(f"jobs/{self.job.pk}/reading-sets", body, key="first")
        self.assertEqual((made.status_code, made.json()["id"]), (201, name))
        self.assertEqual(self.post(f"jobs/{self.job.pk}/reading-sets", body, key="first").json()["id"], name)
        for taken in (name, str(self.set)):
            again = self.post(f"jobs/{self.job.pk}/reading-sets", {**body, "set_id": taken})
            self.assertEqual((again.status_code, again.json()["type"]), (409, "urn:felloe:problem:set_there"))
        self.assertEqual(ReadingSet.objects.filter(job=self.job).count(), 2)

    def test_sent_twice_is_saved_once(self) -> None:
        body = {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"}
        answers = [self.post(f"reading-sets/{self.set}/readings", body, key="same") for _ in range(3)]
        self.assertEqual(len({a.json()["id"] for a in answers}), 1)
        self.assertEqual(Reading.objects.count(), 1)


class Refusing(BenchCase):
    def test_each_with_its_field_and_nothing_saved(self) -> None:
        path = f"reading-sets/{self.set}/readings"
        tension = {"kind": "tension", "spoke": "R1", "value": 900, "unit": "N"}
        cases = [
            (422, "unknown_spoke", "spoke", {**tension, "spoke": "R19"}),
            (422, "unknown_spoke", "", {**tension, "spoke": "banana"[:8]}),
            (422, "bad_reading", "value", {**tension, "value": -3}),
            (422, "bad_reading", "value", {**tension, "value": 9000}),
            (400, "invalid_input", "value", {**tension, "value": "many"}),
            (400, "invalid_input", "kind", {**tension, "kind": "colour"}),
            (400, "invalid_input", "unit", {**tension, "unit": "mm"}),
            (400, "invalid_input", "meter", {**tension, "unit": "meter"}),
            (422, "outside_calibration", "reading", {**tension, "unit": "meter", "meter": self.meter, "value": 99}),
            (422, "bad_reading", "value", {"kind": "lateral", "spoke": "R1", "value": 45, "unit": "mm"}),
            (422, "bad_reading", "value", {"kind": "lateral", "spoke": "R1", "unit": "mm"}),
        ]
        for status, code, field, body in cases:
            with self.subTest(body):
                self.assertProblem(self.post(path, body), status, code, field)
        self.assertEqual(Reading.objects.count(), 0)

    def test_a_spoke_that_the_meter_has_no_table_for(self) -> None:
        stout = specification("rim-brake-rear-36")
        for side in ("right", "left"):
            stout[side]["spoke"] = {"end_diameter_mm": 2.3}
        wheel = {"position": "rear", "kind": "", "specification": stout}
        job = open_job(self.bram, wheel=wheel)
        made = self.post(f"jobs/{job.pk}/reading-sets", {"stage": "as_found"}).json()["id"]
        body = {"kind": "tension", "spoke": "R1", "value": 20, "unit": "meter", "meter": self.meter}
        response = self.post(f"reading-sets/{made}/readings", body)
        self.assertProblem(response, 422, "no_table_for_spoke", "meter")
        self.assertIn("enter the force itself", response.json()["detail"])
        self.assertIn("round 2.3", response.json()["detail"])

    def test_not_a_number(self) -> None:
        raw = '{"kind": "tension", "spoke": "R1", "value": NaN, "unit": "N"}'
        response = self.client.post(f"/api/v1/reading-sets/{self.set}/readings", raw, content_type="application/json")
        self.assertEqual(response.status_code, 400)

    def test_a_bad_meter_table(self) -> None:
        table = {"spoke_kind": "round 2.0", "readings": [1, 2, 2], "forces_n": [1, 2, 3]}
        self.assertProblem(self.post("instruments", {"name": "X", "tables": [table]}), 422, "bad_table", "tables.0.readings")
        self.assertEqual(len(self.get("meters").json()), 1)


class State(BenchCase):
    def test_nothing_measured_says_so(self) -> None:
        state = self.get(f"reading-sets/{self.set}/state").json()
        self.assertIn("Nothing measured yet", state["headline"])
        self.assertTrue(all(not c["measured"] for c in state["checks"]))
        self.assertTrue(all(s["measured_n"] is None for s in state["spokes"]))

    def test_full_readings_come_back(self) -> None:
        self.read_all(lump_mm=1.2)
        state = self.get(f"reading-sets/{self.set}/state").json()
        self.assertEqual(len(state["spokes"]), 36)
        self.assertTrue(all(c["measured"] for c in state["checks"]))
        self.assertAlmostEqual(state["lateral_tir_mm"], 1.2, delta=0.15)
        self.assertFalse(state["checks"][0]["met"])
        self.assertIn("leans right round", state["headline"])
        self.assertEqual(len(state["trace"]["angle_deg"]), 144)
        r9 = next(s for s in state["spokes"] if s["name"] == "R9")
        self.assertEqual(r9["measured_n"], 1000)
        self.assertFalse(state["ratio"]["warns"])

    def test_wrong_ratio_warns(self) -> None:
        self.read_all(tension_left=700)
        self.assertTrue(self.get(f"reading-sets/{self.set}/state").json()["ratio"]["warns"])
