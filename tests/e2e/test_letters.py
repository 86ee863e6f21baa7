"""From the question at the desk to the customer's word on their own telephone, in their language."""

from __future__ import annotations

import re

from felloe.customers.models import Customer
from felloe.links.models import CustomerLink
from felloe.messages.models import Message
from felloe.repair.models import Decision
from tests.browser import axe_violations, browser
from tests.e2e.bench import BrowserCase, expect


class ByLink(BrowserCase):
    def test_asked_opened_agreed(self) -> None:
        job = self.job()
        Customer.objects.update(language="de", email="ola@example.org", phone="0700 900 144", prefers="email")
        page = self.open(at=f"jobs/{job.pk}/decide")
        page.get_by_role("checkbox", name="True the wheel").check()
        expect(page.get_by_role("region", name="The quote")).to_contain_text("True the wheel")
        page.get_by_role("button", name="Ask by link").click()
        expect(page.get_by_text("The link is made")).to_be_visible()
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="Tell the customer").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("blockquote")).to_contain_text("Laufrad zentrieren")
        self.assertAccessible(page, "telling the customer")
        expect(dialog.get_by_role("link", name="Call 0700 900 144")).to_have_attribute("href", "tel:0700900144")
        address = dialog.get_by_role("link", name="look at it").get_attribute("href") or ""
        dialog.get_by_role("button", name="Send to ola@example.org").click()
        expect(dialog).to_have_count(0)
        self.eventually(lambda: list(Message.objects.values_list("kind", "state")), [("ask", "queued")])
        self.to(page, "letters")
        expect(page.get_by_text("waits to be sent")).to_be_visible()
        self.assertAccessible(page, "letters")

        phone = browser().new_context(viewport={"width": 390, "height": 844}, java_script_enabled=False)
        theirs = phone.new_page()
        theirs.goto(address)
        expect(theirs.get_by_role("heading", level=1)).to_contain_text(str(job.number))
        expect(theirs.get_by_text("Unser Vorschlag: Laufrad zentrieren.")).to_be_visible()
        theirs.get_by_label("Ihr Name").fill("Ola Brix")
        theirs.get_by_role("button", name="Einverstanden", exact=True).click()
        expect(theirs.get_by_text("Sie haben zugesagt.")).to_be_visible()
        self.assertEqual(phone.cookies(), [])
        phone.close()
        self.assertEqual(Decision.objects.get().by_whom, "Ola Brix")
        self.to(page, f"jobs/{job.pk}/decide")
        expect(page.get_by_text("by the link that was sent")).to_be_visible()

    def test_the_customers_page_is_accessible_and_fits_a_telephone(self) -> None:
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/decide")
        page.get_by_role("checkbox", name="True the wheel").check()
        expect(page.get_by_role("region", name="The quote")).to_contain_text("True the wheel")
        page.get_by_role("button", name="Ask by link").click()
        expect(page.get_by_text("The link is made")).to_be_visible()
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="Tell the customer").click()
        address = page.get_by_role("link", name="look at it").get_attribute("href") or ""
        for scheme in ("light", "dark"):
            phone = browser().new_context(viewport={"width": 390, "height": 844}, color_scheme=scheme)
            theirs = phone.new_page()
            theirs.goto(address)
            expect(theirs.get_by_role("button", name="I agree", exact=True)).to_be_visible()
            self.assertEqual(axe_violations(theirs), [], scheme)
            self.assertLessEqual(theirs.evaluate("document.documentElement.scrollWidth"), 390)
            heights = theirs.evaluate(
                "[...document.querySelectorAll('button, input')].map(e => e.getBoundingClientRect().height)"
            )
            self.assertGreaterEqual(min(heights), 44)
            phone.close()
        page.get_by_role("button", name="close it").click()
        expect(page.get_by_text(re.compile("with the question, closed"))).to_be_visible()
        self.assertEqual(CustomerLink.objects.get().revoked_by, self.bram)
