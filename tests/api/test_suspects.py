"""Slips are told with the reading; plans say when they rest on what was mended; breaks date a set; idle plans hold nothing."""

from __future__ import annotations

from typing import Any

import numpy as np

from felloe.bench.models import Plan, PlanMove, Reading, ReadingSet
from felloe.bench.services import plans
from felloe.bench.services.learning import before_of
from felloe.bench.services.readings import wheel_of
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.api.shop import REAR
from tests.api.test_repair import RepairCase


class SuspectCase(RepairCase):
    def setUp(self) -> None:
        super().setUp()
        self.set = self.open_set("as_found")

    def fill(self, set_id: str, seed: int = 3, **instead: float) -> None:
        """A whole set of a used wheel; `instead` is typed at R- and L-spokes' tension."""
        rng = np.random.default_rng(seed)
        virtual = used_wheel(WHEEL_KINDS[REAR].wheel, rng, 0.25)
        angles = np.array(virtual.wheel.angles_deg)
        lateral, radial = dial_mm(virtual.lateral_mm(angles), rng), dial_mm(virtual.radial_mm(angles), rng)
        entries = []
        for i, name in enumerate(map(str, virtual.wheel.names)):
            shown = instead.get(name, float(5 * round(virtual.tension_n[i] / 5)))
            for kind, value, unit in (("tension", shown, "N"), ("lateral", lateral[i], "mm"), ("radial", radial[i], "mm")):
                body = {"kind": kind, "spoke": name, "value": float(value), "unit": unit}
                entries.append({"key": f"{kind}-{name}-{seed}-{set_id}", "entry": body})
        for start in range(0, len(entries), 60):
            made = self.post(f"reading-sets/{set_id}/entries", {"entries": entries[start : start + 60]})
            self.assertEqual(made.status_code, 200, made.content)
            self.assertEqual([one["refusal"] for one in made.json()["results"] if one["refusal"]], [])

    def slips(self) -> list[dict[str, Any]]:
        return list(self.get(f"reading-sets/{self.set}/advice").json()["slips"])

    def plan(self) -> dict[str, Any]:
        made = self.post(f"reading-sets/{self.set}/plans", {})
        self.assertEqual(made.status_code, 201, made.content)
        return dict(made.json())


class Slips(SuspectCase):
    def test_a_slip_is_told_where_it_is_and_never_mended_by_itself(self) -> None:
        self.fill(self.set, R5=98.0)
        (slip,) = self.slips()
        self.assertEqual(slip["kind"], "digit")
        self.assertEqual([(p["kind"], p["spoke"]) for p in slip["places"]], [("tension", "R5")])
        self.assertGreater(slip["places"][0]["instead"], 500)
        row = Reading.objects.get(reading_set=self.set, kind="tension", spoke="R5")
        self.assertEqual((row.value, row.revision), (98.0, 1))
        instead = slip["places"][0]["instead"]
        body = {"kind": "tension", "spoke": "R5", "value": instead, "unit": "N"}
        self.post(f"reading-sets/{self.set}/readings", body)
        self.assertEqual(self.slips(), [])

    def test_a_clean_set_and_an_empty_one_are_left_alone(self) -> None:
        self.assertEqual(self.slips(), [])
        self.fill(self.set)
        self.assertEqual(self.slips(), [])

    def test_what_was_read_stands_beside_the_estimate(self) -> None:
        self.fill(self.set, R5=98.0)
        state = self.get(f"reading-sets/{self.set}/state").json()
        r5 = next(s for s in state["spokes"] if s["name"] == "R5")
        self.assertEqual(r5["measured_n"], 98.0)
        self.assertIsNotNone(r5["read_lateral_mm"])
        self.assertLess(abs(r5["read_lateral_mm"] - r5["lateral_mm"]), 0.15)


class Plans(SuspectCase):
    def test_a_plan_made_from_readings_mended_since_says_so(self) -> None:
        self.fill(self.set)
        plan = self.plan()
        self.assertEqual(plan["outdated"], "")
        self.read("tension", "R9", 900)
        told = self.get(f"plans/{plan['id']}").json()["outdated"]
        self.assertIn("tension R9", told)
        self.assertIn("Make a new one", told)
        self.assertEqual(self.plan()["outdated"], "")

    def test_a_spoke_that_broke_since_dates_plan_and_readings(self) -> None:
        self.fill(self.set)
        plan = self.plan()
        self.mark("spoke_broken", "R2")
        self.assertIn("R2 broke since", self.get(f"plans/{plan['id']}").json()["outdated"])
        state = self.get(f"reading-sets/{self.set}/state").json()
        self.assertIn("Read before R2 broke", state["headline"])
        r2 = next(s for s in state["spokes"] if s["name"] == "R2")
        self.assertTrue(r2["broken"])
        self.assertIsNone(r2["measured_n"])

    def test_readings_as_left_from_before_a_break_are_not_as_left(self) -> None:
        left = self.open_set("as_left")
        self.fill(left)
        reading_set = ReadingSet.objects.get(pk=left)
        self.assertTrue(plans.is_as_left(reading_set.job, reading_set))
        self.mark("spoke_broken", "R2")
        self.assertFalse(plans.is_as_left(reading_set.job, reading_set))

    def test_a_plan_that_nobody_worked_does_not_hold_readings_back(self) -> None:
        self.fill(self.set)
        idle, worked = self.plan(), self.plan()
        later = ReadingSet.objects.get(pk=self.open_set("after_pass"))
        wheel = wheel_of(later)

        def sure() -> bool:
            before = before_of(later, wheel)
            assert before is not None
            return before.sure

        self.assertTrue(sure())
        # Worked in part: perhaps more was turned than was ticked.
        first = worked["moves"][0]["spoke"]
        self.client.put(f"/api/v1/plans/{worked['id']}/moves/{first}", {"state": "done"}, format="json")
        self.assertFalse(sure())
        for move in worked["moves"]:
            self.client.put(f"/api/v1/plans/{worked['id']}/moves/{move['spoke']}", {"state": "done"}, format="json")
        self.assertTrue(sure())
        self.assertEqual(PlanMove.objects.filter(plan=idle["id"]).exclude(state="todo").count(), 0)
        self.assertEqual(Plan.objects.count(), 2)


class Sure(SuspectCase):
    def test_half_of_the_readings_is_not_sure_enough_and_says_what_would_be(self) -> None:
        self.set = self.open_set("as_left")
        for i in range(1, 19, 2):
            for side, tension in (("R", 1000), ("L", 482)):
                self.read("tension", f"{side}{i}", tension)
                self.read("lateral", f"{side}{i}", 0.0, "mm")
                self.read("radial", f"{side}{i}", 0.0, "mm")
        self.post(f"reading-sets/{self.set}/readings", {"kind": "dish", "method": "gauge", "gap_mm": 0.0, "gap_side": "R"})
        found = {r["key"]: r for r in self.get(self.url("requirements")).json()}
        self.assertFalse(found["measured"]["met"])
        self.assertIn("Not sure enough", found["measured"]["missing"])
        self.assertIn("sureness", self.get(self.url("comparison")).json()["short_of"])
        self.assertProblem(
            self.post(self.url("sign-off"), {"version": self.version(), "reason": ""}), 422, "reason_needed", "reason"
        )
