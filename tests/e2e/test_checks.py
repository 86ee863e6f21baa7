"""The checks by keyboard: digits answer, the cause is noted, a slip is mended."""

from __future__ import annotations

import re

from felloe.condition.models import CheckAnswer, Finding
from tests.api.shop import open_job
from tests.e2e.bench import BrowserCase, expect
from tests.e2e.test_slice import tab_to


class Checks(BrowserCase):
    def test_by_digits_to_a_cause(self) -> None:
        job = open_job(self.bram, complaint_tags=["off_side"])
        page = self.open(at=f"jobs/{job.pk}/checks")
        wanted = {"axle drop further": "1", "does it come near": "2", "Is the clamp firm": "1", "hanger hide": "2"}
        for _ in range(12):
            question = page.get_by_role("region", name="The next check")
            cause = page.get_by_text("Axle not home in the dropouts, because:")
            question.or_(cause).first.wait_for()
            if cause.is_visible():
                break
            text = question.get_by_role("heading").inner_text()
            before = CheckAnswer.objects.count()
            page.keyboard.press(next((digit for words, digit in wanted.items() if words in text), "0"))
            self.eventually(CheckAnswer.objects.count, before + 1)
            expect(question.get_by_role("heading", name=text, exact=True)).to_have_count(0)
        expect(page.get_by_text("Axle not home in the dropouts, because:")).to_be_visible()
        tab_to(page, "Note this cause", most=40)
        page.keyboard.press("Enter")
        expect(page.get_by_text("Axle not home in the dropouts, noted by Bram")).to_be_visible()
        self.assertEqual(Finding.objects.get().cause, "axle_not_home")

    def test_mending_and_overruling(self) -> None:
        job = open_job(self.bram, complaint_tags=["rubs"])
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/checks")
        page.get_by_label("Ask something else").select_option(
            label="Push the rim sideways at the top: does it knock? (on the bike, 0.3 min)"
        )
        page.get_by_role("button", name="1 it knocks").click()
        expect(page.get_by_role("region", name="Answered")).to_contain_text("it knocks")
        page.get_by_role("button", name=re.compile("answer again.*Push the rim")).click()
        page.get_by_role("button", name="2 no play").click()
        expect(page.get_by_role("region", name="Answered")).to_contain_text("no play")
        causes = page.get_by_role("region", name="Causes")
        causes.get_by_role("button", name="Brake off-centre").click()
        causes.get_by_role("button", name="Note this cause").click()
        expect(causes.get_by_text("say why in a few words")).to_be_visible()
        causes.get_by_label("Why this one, against the reckoning").fill("wobble seen")
        causes.get_by_role("button", name="Note this cause").click()
        expect(causes.get_by_text("against the reckoning: “wobble seen”")).to_be_visible()
