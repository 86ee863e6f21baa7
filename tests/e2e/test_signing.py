"""The page that checks a report: taken away as a file, opened without a server or a network, and never fooled."""

from __future__ import annotations

import tempfile
from pathlib import Path

from playwright.sync_api import Page

from felloe.report.issued import signed_pdf
from felloe.signing.services import change_key, keys_of
from tests.e2e.bench import BrowserCase, expect


class CheckingPage(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.place = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def taken_away(self) -> Page:
        """The page as the shop gives it away, opened from a disk, with the network cut."""
        page = self.open(at="shop")
        with page.expect_download() as saved:
            page.get_by_role("link", name="The page that checks a report").click()
        kept = self.place / "check-report.html"
        saved.value.save_as(kept)
        away = page.context.browser.new_context(locale="en-GB", offline=True)  # type: ignore[union-attr]
        self.addCleanup(away.close)
        sheet = away.new_page()
        errors: list[str] = []
        sheet.on("pageerror", lambda error: errors.append(str(error)))
        self.addCleanup(lambda: self.assertEqual(errors, []))
        sheet.goto(kept.as_uri())
        return sheet

    def drop(self, sheet: Page, data: bytes) -> None:
        sheet.get_by_label("Choose a file").set_input_files(
            [{"name": "report.pdf", "mimeType": "application/pdf", "buffer": data}]
        )

    def test_without_the_shop(self) -> None:
        job = self.job()
        pdf = signed_pdf(self.bram, job.pk, "de")
        sheet = self.taken_away()
        self.assertAccessible(sheet, "the page that checks a report")
        said = sheet.get_by_role("status")
        expect(sheet.locator("#digits li")).to_have_text(keys_of(self.bram).keys[0].fingerprint)
        self.drop(sheet, pdf)
        expect(said).to_contain_text("Genuine")
        expect(sheet.get_by_text(f"tag {job.number}")).to_be_visible()
        for changed in (pdf[:500] + bytes([pdf[500] ^ 1]) + pdf[501:], pdf + b"%", pdf[:-40]):
            self.drop(sheet, changed)
            expect(said).to_contain_text("Not as it was signed")
            self.drop(sheet, pdf)
            expect(said).to_contain_text("Genuine")
        self.drop(sheet, b"%PDF-1.7\n%%EOF\n")
        expect(said).to_contain_text("no signature")

        # A key that follows is known through the one before it; one that somebody else had vouches for nothing.
        change_key(self.bram, keys_of(self.bram).keys[0].key, "followed")
        self.drop(sheet, signed_pdf(self.bram, job.pk, "en"))
        expect(said).to_contain_text("Genuine")
        change_key(self.bram, keys_of(self.bram).keys[0].key, "stolen")
        self.drop(sheet, signed_pdf(self.bram, job.pk, "en"))
        expect(said).to_contain_text("not signed with a key of")

    def test_the_owner_gives_up_a_key(self) -> None:
        self.bram.role = "owner"
        self.bram.save()
        job = self.job()
        signed_pdf(self.bram, job.pk, "en")
        page = self.open(at="shop")
        part = page.get_by_role("region", name="Signed reports")
        expect(part.get_by_role("listitem")).to_have_count(1)
        part.get_by_role("button", name="Give up this key").click()
        box = page.get_by_role("dialog")
        box.get_by_role("radio", name="In other hands").click()
        expect(box).to_contain_text("everything it ever signed unsure")
        box.get_by_role("button", name="Give it up").click()
        expect(part.get_by_role("listitem")).to_have_count(2)
        expect(part).to_contain_text("in other hands: what it signed may be forged")
