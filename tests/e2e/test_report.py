"""The report as a page: found from the job, read by everybody, on every width, and on paper."""

from __future__ import annotations

from tests.e2e.bench import BrowserCase, expect


class Report(BrowserCase):
    def test_from_the_job_to_the_sheet(self) -> None:
        job = self.job()
        self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}")
        with page.context.expect_page() as opened:
            page.get_by_role("link", name="report", exact=True).click()
        sheet = opened.value
        expect(sheet.get_by_role("heading", level=1)).to_contain_text(str(job.number))
        expect(sheet.get_by_role("row", name="lateral")).to_be_visible()
        self.assertAccessible(sheet, "a report")
        for width, height in ((1280, 800), (640, 400), (390, 844)):
            sheet.set_viewport_size({"width": width, "height": height})
            self.assertLessEqual(sheet.evaluate("document.documentElement.scrollWidth"), width)
        sheet.emulate_media(media="print")
        expect(sheet.get_by_role("link", name="As PDF")).to_be_hidden()
        sheet.close()
