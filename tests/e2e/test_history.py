"""A wheel that was here before: how it left lies behind today's readings, and its history is one step away."""

from __future__ import annotations

from datetime import timedelta

import time_machine
from django.utils import timezone

from felloe.bench.services import plans
from felloe.queue import services as queue
from felloe.queue.models import Job
from tests.api.shop import job_values
from tests.e2e.bench import BrowserCase, expect


class Histories(BrowserCase):
    def back_again(self) -> tuple[Job, Job]:
        """A wheel that left measured, and the job with which it is here again, read as found."""
        first = self.job()
        wheel = self.virtual()
        self.fill(first, "as_found", wheel)
        self.fill(first, "as_left", wheel)
        Job.objects.filter(pk=first.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        values = {"wheel_id": first.wheel_id, "complaint": "rubs again"}
        again = queue.open_job(self.bram, {**{k: v for k, v in job_values().items() if k == "complaint"}, **values})
        self.fill(again, "as_found", wheel.dented(90, 12, 0.8, 2.4))
        return first, again

    def test_the_last_visit_is_there_from_the_start(self) -> None:
        first, again = self.back_again()
        page = self.open(at=f"jobs/{again.pk}")
        panel = page.get_by_role("region", name="Since it left")
        expect(panel).to_contain_text(f"It left as job {first.number}")
        expect(panel).to_contain_text("the rim itself stands")
        page.get_by_role("link", name="All that is known of this wheel").click()
        expect(page.get_by_role("heading", level=1)).to_contain_text("wheel")
        for number in (first.number, again.number):
            expect(page.get_by_role("article", name=f"Job {number}")).to_be_visible()
        self.assertAccessible(page, "a wheel's history")
        # Any two sets over one another: the oldest dark, the newest behind it.
        page.get_by_role("article", name=f"Job {first.number}").get_by_role("button", name="Draw set 1 dark").click()
        over = page.get_by_role("region", name="Two sets over one another")
        expect(over).to_contain_text(f"● {first.number} as found")
        for width, height in ((1280, 800), (1024, 768), (390, 844)):
            page.set_viewport_size({"width": width, "height": height})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)

    def test_how_it_left_lies_behind_the_readings(self) -> None:
        first, again = self.back_again()
        page = self.open(at=f"jobs/{again.pk}/state/{again.reading_sets.get().pk}")
        expect(page.get_by_text(f"thin line: as it left, job {first.number}")).to_be_visible()

    def test_an_interrupted_plan_asks_for_two_readings(self) -> None:
        job = self.job()
        with time_machine.travel(timezone.now() - timedelta(hours=3)):
            self.fill(job, "as_found", self.virtual())
            plan = plans.add_plan(self.bram, job.reading_sets.get().pk, {})
            moves = plans.moves_of(plan)
            self.assertGreater(len(moves), 2)
            plans.mark_move(self.bram, plan.pk, moves[0].key, "done", None)
        page = self.open(at=f"jobs/{job.pk}/plan/{plan.pk}")
        form = page.get_by_role("form", name="Before going on")
        expect(form).to_contain_text(f"Left at {moves[0].key} by Bram")
        expect(form).to_contain_text(f"Next is {moves[1].key}")
        boxes = form.get_by_role("textbox")
        expect(boxes).to_have_count(2)
        boxes.nth(0).fill("4")
        boxes.nth(1).fill("-4")
        form.get_by_role("button", name="As it was left?").click()
        expect(page.get_by_text("Not as it was left")).to_be_visible()
        expect(form).to_be_hidden()
        # It bars nothing: the nipple's card is still there.
        expect(page.get_by_role("button", name="Done")).to_be_visible()
