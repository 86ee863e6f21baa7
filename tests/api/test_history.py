"""A wheel's history, and what became of it between two visits."""

from __future__ import annotations

from typing import Any

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from felloe.queue.models import Job
from tests.api.shop import BenchCase, job_values, person


class History(BenchCase):
    def leave(self, lump_mm: float = 0.0) -> None:
        self.agree_and_refit(self.job)
        self.set = self.open_set("as_left")
        self.read_all(lump_mm=lump_mm)
        version = Job.objects.get(pk=self.job.pk).version
        signed = self.post(f"jobs/{self.job.pk}/sign-off", {"version": version, "reason": "As it is."})
        self.assertEqual(signed.status_code, 201, signed.content)
        version = Job.objects.get(pk=self.job.pk).version
        gone = self.post(f"jobs/{self.job.pk}/hand-back", {"version": version})
        self.assertEqual(gone.status_code, 200, gone.content)

    def come_back(self) -> None:
        """The same wheel, taken in again."""
        wheel = self.job.wheel
        values = {**job_values(), "wheel_id": str(wheel.pk)}
        for part in ("customer", "bike", "wheel"):
            values.pop(part)
        answer = self.post("jobs", values)
        self.assertEqual(answer.status_code, 201, answer.content)
        self.job = Job.objects.get(pk=answer.json()["id"])
        self.assertEqual(self.job.wheel_id, wheel.pk)
        self.set = self.open_set()

    def comeback(self) -> Any:
        return self.get(f"jobs/{self.job.pk}/comeback").json()

    def test_a_first_visit_has_nothing_to_compare(self) -> None:
        self.read_all()
        found = self.comeback()
        self.assertEqual((found["left_set"], found["kind"]), (None, ""))

    def test_what_changed_since_it_left(self) -> None:
        self.read_all()
        self.leave()
        left = self.set
        self.come_back()
        found = self.comeback()
        self.assertEqual((found["left_set"], found["kind"]), (left, ""), "before anything was read it says how it left")
        self.read_all(tension_right=780, tension_left=376)
        found = self.comeback()
        self.assertEqual((found["kind"], found["whose"], found["sure"]), ("settled", "ours", True))
        self.assertIn("right -22 %", found["happened"])
        self.assertEqual(found["proposed"], "Proposed: ours.")
        self.assertAlmostEqual(sum(account["share"] for account in found["accounts"]), 1, delta=0.01)

    def test_one_that_left_with_nipples_turned_after_is_not_compared(self) -> None:
        self.read_all(lump_mm=1.2)
        self.agree_and_refit(self.job)
        self.set = self.open_set("as_left")
        self.read_all(lump_mm=0.8)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        self.put(f"plans/{plan['id']}/moves/{plan['moves'][0]['spoke']}", {"state": "done"})
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at="2026-01-01T12:00:00Z", ended_as="repaired")
        self.come_back()
        self.read_all()
        self.assertIsNone(self.comeback()["left_set"])

    def test_only_the_last_visit_counts(self) -> None:
        self.read_all()
        self.leave()
        self.come_back()
        # Nothing was measured this time: what it left with is not known.
        Job.objects.filter(pk=self.job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        self.come_back()
        self.read_all()
        self.assertIsNone(self.comeback()["left_set"])

    def test_everything_that_was(self) -> None:
        self.read_all(lump_mm=1.2)
        plan = self.post(f"reading-sets/{self.set}/plans", {}).json()
        for move in plan["moves"]:
            self.put(f"plans/{plan['id']}/moves/{move['spoke']}", {"state": "done"})
        self.leave(lump_mm=0.3)
        first = self.job
        self.come_back()
        self.post(f"jobs/{self.job.pk}/breaks", {"spoke": "R7", "place": "elbow", "noticed_on": "2026-11-20"})
        self.read_all()
        found = self.get(f"wheels/{self.job.wheel_id}/history").json()
        self.assertEqual([job["number"] for job in found["jobs"]], [self.job.number, first.number])
        now, then = found["jobs"]
        self.assertEqual([entry["stage"] for entry in then["sets"]], ["as_left", "as_found"])
        left, as_found = then["sets"]
        self.assertEqual(left["foreseen_lateral_mm"], plan["predicted"]["lateral_tir_mm"])
        self.assertIsNone(as_found["foreseen_lateral_mm"])
        comparison = self.get(f"jobs/{first.pk}/comparison").json()
        self.assertAlmostEqual(left["figures"]["right_mean_n"], comparison["as_left"]["right_mean_n"], delta=0.1)
        self.assertAlmostEqual(as_found["figures"]["lateral_tir_mm"], comparison["as_found"]["lateral_tir_mm"], delta=0.001)
        self.assertEqual((then["turned"], then["signed_by"], now["left_at"]), (len(plan["moves"]), "Bram", None))
        self.assertEqual([(gone["spoke"], gone["number"]) for gone in found["breaks"]], [("R7", self.job.number)])

    def test_another_shop_sees_nothing(self) -> None:
        away = self.speak_for(person(self.elsewhere, "away", "owner"))
        for path in (f"wheels/{self.job.wheel_id}/history", f"jobs/{self.job.pk}/comeback"):
            self.assertEqual(self.get(path, client=away).status_code, 404)

    def test_many_visits_cost_no_more_questions(self) -> None:
        counts = []
        for _ in range(2):
            for _ in range(2):
                self.leave()
                self.come_back()
            self.get(f"wheels/{self.job.wheel_id}/history")
            with CaptureQueriesContext(
                connection,
            ) as asked:
                self.get(f"wheels/{self.job.wheel_id}/history")
            counts.append((len(asked), Job.objects.filter(wheel=self.job.wheel_id).count()))
        (few, small), (many, large) = counts
        # Each set is looked at whether it still is what was worked out of it.
        self.assertLessEqual((many - few) / (large - small), 12)
