"""The owner's page of figures, in a shop with a few finished wheels and in one with none."""

from __future__ import annotations

from datetime import timedelta
from pathlib import Path

from django.utils import timezone

from felloe.accounts.models import User
from felloe.queue.models import Job, StageTime
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect


class Numbers(BrowserCase):
    def test_drawn_and_as_a_file(self) -> None:
        person(self.shop, "odile", User.Role.OWNER)
        page = self.open("odile")
        page.get_by_role("button", name="Odile: settings").click()
        page.get_by_role("menuitem", name="How the shop did").click()
        expect(page.get_by_text("No wheel was made ready in these days.")).to_be_visible()
        now = timezone.now()
        for days, kept in ((3, True), (10, True), (11, False)):
            job = self.job()
            at = now - timedelta(days=days)
            promise = at + timedelta(hours=1 if kept else -1)
            left = {"ready_at": at, "handed_back_at": at, "stage": "done", "ended_as": "repaired"}
            Job.objects.filter(pk=job.pk).update(created_at=at - timedelta(days=2), promised_at=promise, **left)
            StageTime.objects.create(
                shop=self.shop, job=job, stage="true", tier="sound", taken_min=40, usual_min=25, estimated_min=25
            )
        page.reload()
        expect(page.get_by_text("67 %")).to_be_visible()
        expect(page.get_by_role("img", name="Promises kept and days until ready, by week")).to_be_visible()
        expect(page.get_by_role("region", name="Estimated and taken")).to_contain_text("1.60 ×")
        self.assertAccessible(page, "the owner's figures")
        for size in ((1024, 768), (390, 844)):
            page.set_viewport_size({"width": size[0], "height": size[1]})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size[0])
        with page.expect_download() as loading:
            page.get_by_role("link", name="These figures as CSV").click()
        self.assertIn("promises_kept", Path(loading.value.path()).read_text())

    def test_who_is_no_owner_sees_no_way_there(self) -> None:
        page = self.open("bram")
        page.get_by_role("button", name="Bram: settings").click()
        expect(page.get_by_role("menuitem", name="How the shop did")).to_have_count(0)
        self.expected_refusals = ("403",)
        self.to(page, "numbers")
        expect(page.get_by_role("alert")).to_be_visible()
