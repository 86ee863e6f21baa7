"""A job ends otherwise than by a repair, is taken up again, and a cracked rim is seen wherever the wheel goes."""

from __future__ import annotations

from playwright.sync_api import expect

from felloe.condition import services as condition
from felloe.queue.models import Job
from tests.api.shop import person
from tests.e2e.bench import BrowserCase


class Ends(BrowserCase):
    def test_cancelled_at_the_desk_and_taken_up_again(self) -> None:
        job = self.job()
        person(self.shop, "pip", "desk")
        page = self.open("pip", at=f"jobs/{job.pk}")
        page.get_by_role("button", name="End without a repair").click()
        dialog = page.get_by_role("dialog")
        # What is not open says why; what is for others says for whom.
        expect(dialog.get_by_label("Repair declined")).to_be_disabled()
        expect(dialog.get_by_text("it was not refused")).to_be_visible()
        expect(dialog.get_by_text("For a mechanic or the owner.")).to_be_visible()
        dialog.get_by_label("Cancelled before any work").check()
        dialog.get_by_label("Why, in a few words").fill("x")
        self.expected_refusals = ("422",)
        dialog.get_by_role("button", name="End the job").click()
        expect(dialog.get_by_text("somebody else understands")).to_be_visible()
        dialog.get_by_label("Why, in a few words").fill("customer bought a new wheel")
        dialog.get_by_role("button", name="End the job").click()
        expect(page.get_by_text("Ended: cancelled")).to_be_visible()
        self.assertEqual(Job.objects.get().ended_as, "cancelled")
        self.to(page, "")
        expect(page.get_by_text("cancelled,")).to_be_visible()
        self.to(page, f"jobs/{job.pk}/tag")
        expect(page.get_by_text("customer bought a new wheel")).to_be_visible()
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="Take it up again").click()
        page.get_by_label("Why, in a few words").fill("the new one does not fit")
        page.get_by_role("button", name="Take it up", exact=True).click()
        expect(page.get_by_role("button", name="End without a repair")).to_be_visible()
        self.assertEqual((Job.objects.get().stage, Job.objects.get().ended_as), ("take_in", ""))

    def test_a_stage_with_nothing_noted_asks_why(self) -> None:
        job = self.job()
        Job.objects.filter(pk=job.pk).update(stage="as_found")
        page = self.open()
        self.expected_refusals = ("422",)
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="On to decide").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_text("Nothing is noted yet at “Measure as found”")).to_be_visible()
        self.assertEqual(Job.objects.get().stage, "as_found")
        dialog.get_by_label("Why").fill("came without any tension")
        dialog.get_by_role("button", name="Go there").click()
        expect(page.get_by_role("button", name="On to get parts")).to_be_visible()
        self.assertEqual(Job.objects.get().stage, "decide")

    def test_a_crack_is_seen_everywhere_and_truing_it_asks_first(self) -> None:
        job = self.job()
        virtual = self.virtual()
        made = self.fill(job, "as_found", virtual)
        condition.add_mark(self.bram, job.pk, {"kind": "crack", "spoke": "R3"})
        page = self.open()
        self.expected_refusals = ("422",)
        for path in ("parts", "lacing", "spokes", "tag", f"readings/{made.pk}", f"state/{made.pk}", "decide", ""):
            self.to(page, f"jobs/{job.pk}/{path}")
            expect(page.get_by_text("Not to be ridden", exact=True).first).to_be_visible()
            expect(page.get_by_text("Crack at R3").first).to_be_visible()
        self.to(page, "")
        expect(page.get_by_text("not to ride")).to_be_visible()
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_role("button", name="Work out the plan").click()
        expect(page.get_by_text("Truing makes no sense on it.")).to_be_visible()
        page.get_by_label("Why it is planned all the same").fill("only to ride it to the wall")
        page.get_by_role("button", name="Work out the plan").click()
        expect(page.get_by_role("heading", name="Plan for sound")).to_be_visible()
        expect(page.get_by_text("Planned all the same: only to ride it to the wall").first).to_be_visible()
