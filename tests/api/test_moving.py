"""Stages follow the work: one at a time, said, undone with one tap, and never past what is not done."""

from __future__ import annotations

from typing import Any

from felloe.queue.models import Job, JobEvent
from tests.api.shop import BenchCase


class Moving(BenchCase):
    def stage(self) -> str:
        return Job.objects.get(pk=self.job.pk).stage

    def put_at(self, stage: str) -> None:
        Job.objects.filter(pk=self.job.pk).update(stage=stage)

    def by_itself(self) -> list[tuple[str, str]]:
        return list(JobEvent.objects.filter(job=self.job, kind="stage_self").values_list("from_stage", "to_stage"))

    def read_all(self) -> None:
        for i in range(1, 19):
            self.read("tension", f"R{i}", 1000 + 15 * (i % 4))
            self.read("tension", f"L{i}", 480 + 9 * (i % 5))
            self.read("lateral", f"R{i}", 0.1 * (i % 4))
            self.read("radial", f"R{i}", 0.05 * (i % 3))

    def dish(self) -> None:
        body = {"kind": "dish", "method": "gauge", "gap_mm": 0.2, "gap_side": "R"}
        self.assertEqual(self.post(f"reading-sets/{self.set}/readings", body).status_code, 201)

    def test_everything_read_moves_on_and_the_last_missing_reading_does_not(self) -> None:
        self.put_at("as_found")
        self.read_all()
        self.assertEqual(self.stage(), "as_found")
        self.dish()
        self.assertEqual(self.stage(), "decide")
        self.assertEqual(self.by_itself(), [("as_found", "decide")])

    def test_an_earlier_stage_is_never_passed_in_silence(self) -> None:
        self.put_at("identify")
        self.read_all()
        self.dish()
        self.assertEqual((self.stage(), self.by_itself()), ("identify", []))

    def plan(self) -> Any:
        self.read_all()
        return self.post(f"reading-sets/{self.set}/plans", {"tier": "race"}).json()

    def test_a_plan_worked_through_ends_truing_and_another_one_begins_it_again(self) -> None:
        plan = self.plan()
        self.put_at("true")
        names = [m["spoke"] for m in plan["moves"]]
        self.assertTrue(names)
        for name in names[:-1]:
            self.put(f"plans/{plan['id']}/moves/{name}", {"state": "done"})
        self.assertEqual(self.stage(), "true")
        self.put(f"plans/{plan['id']}/moves/{names[-1]}", {"state": "skipped"})
        self.assertEqual(self.stage(), "settle")
        # The same deed twice moves nothing twice.
        self.put(f"plans/{plan['id']}/moves/{names[-1]}", {"state": "done"})
        self.assertEqual(self.stage(), "settle")
        back = {"version": Job.objects.get(pk=self.job.pk).version, "to_stage": "true", "reason": "Not done yet after all"}
        self.assertEqual(self.post(f"jobs/{self.job.pk}/stage", back).json()["stage"], "true")

    def test_reading_as_left_ends_settling_and_not_truing(self) -> None:
        for before, after in (("true", "true"), ("settle", "as_left")):
            self.put_at(before)
            self.post(f"jobs/{self.job.pk}/reading-sets", {"stage": "as_left"})
            self.assertEqual(self.stage(), after)
