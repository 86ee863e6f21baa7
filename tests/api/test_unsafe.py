"""What forbids riding is told of every open job at once, and work in vain is asked about first."""

from __future__ import annotations

from typing import Any

from felloe.bench.models import Plan
from felloe.queue.models import Job
from tests.api.shop import open_job
from tests.api.test_repair import RepairCase


class Unsafe(RepairCase):
    def told(self, client: Any = None) -> dict[str, list[str]]:
        return {row["job_id"]: row["why"] for row in self.get("unsafe", client=client).json()}

    def test_each_reason_marks_its_job_and_goes_with_it(self) -> None:
        self.assertEqual(self.told(), {})
        mark = self.mark("axle_broken")["marks"][0]["id"]
        self.assertEqual(list(self.told()), [str(self.job.pk)])
        # The wheel's next job inherits what stands on the wheel.
        second = open_job(self.bram, wheel_id=self.job.wheel_id, second=True)
        self.assertEqual(set(self.told()), {str(self.job.pk), str(second.pk)})
        self.post(self.url(f"marks/{mark}/end"), {"how": "mended", "note": "new axle fitted"})
        self.assertEqual(self.told(), {})
        self.post(self.url("refit"), {"step": "brake", "result": "wrong", "note": "lever to the bar"})
        self.assertIn("Found not right", self.told()[str(self.job.pk)][0])
        self.post(self.url("refit"), {"step": "brake", "result": "right"})
        self.assertEqual(self.told(), {})
        self.post(self.url("diagnosis/findings"), {"cause": "clamp_loose", "reason": "seen at once"})
        self.assertEqual(len(self.told()), 1)
        self.assertEqual(self.told(self.speak_for(self.stranger)), {})

    def test_harmless_marks_and_closed_jobs_are_not_told(self) -> None:
        self.mark("dent", "R5", measure_mm=0.5)
        self.assertEqual(self.told(), {})
        self.mark("crack", "R5")
        self.assertEqual(len(self.told()), 1)
        job = Job.objects.get(pk=self.job.pk)
        ended = self.post(self.url("ends"), {"version": job.version, "end": "beyond_repair", "reason": "cracked right through"})
        self.assertEqual(ended.status_code, 200, ended.content)
        self.assertEqual(self.told(), {})

    def test_a_plan_on_a_cracked_rim_asks_first(self) -> None:
        made = self.open_set("as_found")
        self.set = made
        self.read_all(lump_mm=0.8)
        self.mark("spoke_broken", "R2")
        self.assertEqual(self.post(f"reading-sets/{made}/plans", {}).status_code, 201)
        self.mark("crack", "R5")
        count = Plan.objects.count()
        for body in ({}, {"despite": " "}, {"dish_option": "half"}):
            self.assertProblem(self.post(f"reading-sets/{made}/plans", body), 422, "in_vain", "despite")
        self.assertProblem(self.post(f"reading-sets/{made}/plans", {"despite": "x"}), 422, "says_nothing", "despite")
        self.assertEqual(Plan.objects.count(), count)
        plan = self.post(f"reading-sets/{made}/plans", {"despite": "goes to the wall as a clock"}).json()
        self.assertTrue(plan["reason"].startswith("Planned all the same: goes to the wall as a clock."), plan["reason"])
