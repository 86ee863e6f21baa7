"""Quote, telephone script, approval and payment at the counter."""

from __future__ import annotations

from felloe.accounts.models import User
from felloe.repair.models import Decision, JobQuote, Payment
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect


class AtTheCounter(BrowserCase):
    def test_quoted_read_out_repeated_agreed_and_paid(self) -> None:
        job = self.job()
        person(self.shop, "pip", User.Role.DESK)
        page = self.open("pip", at=f"jobs/{job.pk}/decide")
        page.get_by_role("checkbox", name="True the wheel").check()
        quote = page.get_by_role("region", name="The quote")
        expect(quote).to_contain_text("True the wheel")
        quote.get_by_text("Add a line").click()
        quote.get_by_label("For what").fill("Inner tube")
        quote.get_by_label("Amount").fill("7,50")
        page.keyboard.press("Enter")
        expect(quote.get_by_role("row", name="Inner tube")).to_contain_text("7.50")
        self.assertEqual(JobQuote.objects.get().extras, [{"name": "Inner tube", "amount_minor": 750}])
        word = page.get_by_role("region", name="The customer's word")
        word.get_by_role("radio", name="by phone").click()
        script = word.get_by_text("please repeat these three digits").inner_text()
        digits = "".join(ch for ch in script if ch.isdigit())
        self.expected_refusals = ("422",)
        word.get_by_role("button", name="Approved").click()
        expect(word).to_contain_text("Read the words out")
        word.get_by_label("The digits they repeat").fill(digits)
        self.assertAccessible(page, "deciding by phone")
        word.get_by_role("button", name="Approved").click()
        expect(page.get_by_text("✓ Approved")).to_be_visible()
        made = Decision.objects.get()
        self.assertEqual((made.how, made.lines[-1]["total_minor"]), ("phone", 750))
        # Something is added afterwards: what was agreed no longer stands, and that is said.
        quote.get_by_role("button", name="take off: Inner tube").click()
        expect(page.get_by_text("The quote was changed after it was agreed: ask the customer again.")).to_be_visible()
        word.get_by_role("radio", name="at the counter").click()
        word.get_by_role("button", name="Approved").click()
        expect(page.get_by_text("✓ Approved")).to_have_count(2)
        expect(page.get_by_text("ask the customer again.")).to_have_count(0)
        self.to(page, f"jobs/{job.pk}")
        paid = page.get_by_role("region", name="Paid and open")
        expect(paid).to_contain_text("Open")
        paid.get_by_text("Note a payment").click()
        self.assertAccessible(page, "a job that is to be paid")
        paid.get_by_role("button", name="Note it").click()
        expect(paid).to_contain_text("Paid")
        self.eventually(
            lambda: [p.amount_minor for p in Payment.objects.all()], [Decision.objects.latest("created_at").price_minor]
        )
