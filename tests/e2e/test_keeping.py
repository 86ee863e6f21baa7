"""What a shop keeps: a customer's data, a wheel from another shop, patterns, changes, the calendar, backups."""

from __future__ import annotations

from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.customers.models import Customer
from felloe.portable.services import customer_bundle
from felloe.queue.models import Job
from felloe.upkeep.models import BackupRun
from felloe.wheels.models import Pattern
from tests.api.shop import open_job, person
from tests.e2e.bench import BrowserCase, expect


class Keeping(BrowserCase):
    def owner(self) -> User:
        return person(self.shop, "odile", "owner")

    def test_consent_own_copy_and_erasure(self) -> None:
        self.owner()
        self.expected_refusals = ("422",)
        job = self.job()
        customer = job.wheel.bike.customer
        page = self.open("odile", at=f"customers/{customer.pk}")
        part = page.get_by_role("region", name="Their data")
        expect(part.get_by_text("not asked, so no")).to_have_count(2)
        part.get_by_label("Photos of their wheels").get_by_role("radio", name="Yes").click()
        expect(part.get_by_text("yes, ")).to_be_visible()
        self.assertAccessible(page, "a customer's data")
        with page.expect_download() as saved:
            part.get_by_role("link", name="All that is kept of them").click()
        self.assertEqual(saved.value.suggested_filename, "customer-copy.zip")
        part.get_by_role("button", name="Erase this customer").click()
        box = page.get_by_role("dialog")
        expect(box.get_by_role("alert")).to_contain_text(str(job.number))
        box.get_by_role("button", name="Keep them").click()
        Job.objects.filter(pk=job.pk).update(stage="done", handed_back_at=timezone.now(), ended_as="repaired")
        part.get_by_role("button", name="Erase this customer").click()
        box.get_by_label("Type their name").fill("Somebody else")
        box.get_by_role("button", name="Erase for good").click()
        expect(box).to_contain_text("This is not their name")
        box.get_by_label("Type their name").fill(customer.name)
        box.get_by_role("button", name="Erase for good").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("(erased)")
        self.assertEqual(Customer.objects.get(pk=customer.pk).name, "(erased)")

    def test_a_customer_from_another_shop(self) -> None:
        elsewhere = person(Shop.objects.create(name="Elsewhere"), "stranger")
        job = open_job(elsewhere)
        data = customer_bundle(elsewhere, job.wheel.bike.customer_id)
        self.expected_refusals = ("422",)
        page = self.open(at="customers")
        page.get_by_role("button", name="Take in from another shop").click()
        box = page.get_by_role("dialog")
        box.get_by_label("The file").set_input_files([{"name": "c.zip", "mimeType": "application/zip", "buffer": data[:-50]}])
        box.get_by_role("button", name="Look what is in it").click()
        expect(box).to_contain_text("no zip that can be read")
        box.get_by_label("The file").set_input_files([{"name": "c.zip", "mimeType": "application/zip", "buffer": data}])
        box.get_by_role("button", name="Look what is in it").click()
        expect(box.get_by_role("region", name="What it would bring")).to_contain_text("new customers")
        self.assertEqual(Customer.objects.filter(shop=self.shop).count(), 0)
        box.get_by_role("button", name="Take it in").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Invented Customer")

    def test_patterns_changes_calendar_and_backups(self) -> None:
        self.owner()
        job = self.job()
        page = self.open("odile", at=f"jobs/{job.pk}/parts")
        page.get_by_role("button", name="Keep as a pattern").click()
        box = page.get_by_role("dialog")
        box.get_by_label("Name").fill("Ferry folder")
        box.get_by_role("button", name="Keep it").click()
        expect(box).to_be_hidden()
        self.assertEqual(Pattern.objects.get().name, "Ferry folder")
        BackupRun.objects.create(at=timezone.now(), good=True, file="x", bytes=12_000_000, seconds=3, copied=True)
        self.to(page, "shop")
        expect(page.get_by_role("region", name="Patterns")).to_contain_text("Ferry folder")
        expect(page.get_by_role("region", name="Backups")).to_contain_text("second place")
        calendar = page.get_by_role("region", name="Promises in a calendar")
        calendar.get_by_role("button", name="Make an address").click()
        expect(calendar.get_by_text("/calendar/")).to_be_visible()
        page.get_by_label("Telephone").fill("0700 555 010")
        page.get_by_role("button", name="Save the shop").click()
        changes = page.get_by_role("region", name="Changes")
        expect(changes).to_contain_text("“0700 555 010”")
        self.assertAccessible(page, "what a shop keeps")
        for width in (1280, 1024, 390):
            page.set_viewport_size({"width": width, "height": 800})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)
