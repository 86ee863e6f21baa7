"""Turns tried by hand on the strip, and the schools in the plan maker."""

from __future__ import annotations

import re

from felloe.bench.models import Plan
from tests.e2e.bench import BrowserCase, expect


class WhatIf(BrowserCase):
    def test_tried_by_keys_and_nothing_kept(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open()
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="What if").click()
        bar = page.get_by_role("region", name="What if")
        expect(bar).to_contain_text("as it is")
        page.keyboard.press("+")
        page.keyboard.press("+")
        expect(bar).to_contain_text("tighten")
        expect(bar.get_by_role("status", name="It would measure")).to_contain_text("lateral")
        first = bar.get_by_role("status", name="It would measure").inner_text()
        page.get_by_role("button", name="Tighten by an eighth").click()
        expect(bar.get_by_role("status", name="It would measure")).not_to_have_text(first)
        self.assertAccessible(page, "what if")
        page.get_by_role("button", name="All back").click()
        expect(bar).to_contain_text("as it is")
        page.get_by_role("button", name="Enough").click()
        expect(bar).to_have_count(0)
        self.assertEqual(Plan.objects.count(), 0)

    def test_a_school_is_chosen_with_its_reason(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open()
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_label("School").select_option(label="Tighten only")
        expect(page.get_by_text("For a wheel whose tension is low")).to_be_visible()
        self.assertAccessible(page, "plan maker")
        page.get_by_role("button", name="Work out the plan").click()
        page.wait_for_url(re.compile("/plan/"))
        self.assertEqual(Plan.objects.get().mode, "tighten_only")
