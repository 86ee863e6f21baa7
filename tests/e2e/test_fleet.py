"""A fleet's wheels in the browser: taken in from a list, sampled, agreed, set apart, labelled."""

from __future__ import annotations

from felloe.bench.services import entering, readings
from felloe.core.tension.statics import side_targets_n
from felloe.customers.models import Customer
from felloe.fleet.models import Lot, LotItem
from felloe.repair.models import Decision
from felloe.wheels.services import core_wheel
from tests.e2e.bench import BrowserCase, expect


class Fleet(BrowserCase):
    def test_from_the_list_to_the_word(self) -> None:
        Customer.objects.create(shop=self.shop, name="District nurses")
        page = self.open(at="lots")
        page.get_by_role("button", name="Take in a lot").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Whose").select_option("District nurses")
        dialog.get_by_label("What the lot is called").fill("Nurse bikes")
        dialog.get_by_label("What is asked for").fill("yearly check")
        dialog.get_by_label("Numbers", exact=True).fill("asset\nN1\nN2\nN2\nN3")
        expect(dialog.get_by_text("Twice in the list, taken once: N2.")).to_be_visible()
        self.assertAccessible(page, "taking in a lot")
        dialog.get_by_role("button", name="Open 3 jobs").click()
        page.get_by_role("heading", name="Nurse bikes").wait_for()
        self.assertEqual(LotItem.objects.count(), 3)
        expect(page.get_by_text("Not decided yet")).to_be_visible()
        self.assertAccessible(page, "a lot")
        page.get_by_role("checkbox", name="Pick N2").check()
        page.get_by_label("Set N2 apart: why").fill("rim cracked")
        page.keyboard.press("Enter")
        expect(page.get_by_role("listitem").filter(has_text="N2")).to_contain_text("rim cracked")
        page.get_by_label("What is agreed").select_option(label="true them, overhaul the hubs")
        page.get_by_role("button", name="Agreed for all").click()
        expect(page.get_by_text("2 done.")).to_be_visible()
        agreed = list(Decision.objects.filter(by_whom="District nurses").values_list("chosen", flat=True))
        self.assertEqual(agreed, [["true", "hub_overhaul"]] * 2)
        page.get_by_role("checkbox", name="Pick N1").check()
        page.get_by_role("button", name="Give back 1").click()
        expect(page.get_by_text("N1: Sign the wheel off first.")).to_be_visible()
        for width, height in ((1024, 768), (390, 844)):
            page.set_viewport_size({"width": width, "height": height})
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), width)
        page.get_by_role("link", name="Labels").click()
        expect(page.get_by_role("img", name="Code that opens job")).to_have_count(3)
        self.assertAccessible(page, "labels of a lot")

    def test_what_is_measured_moves_the_sample(self) -> None:
        self.shop.refresh_from_db()
        owner = Customer.objects.create(shop=self.shop, name="Nurses")
        lot = Lot.objects.create(shop=self.shop, name="Small lot", customer=owner)
        for place in range(1, 7):
            LotItem.objects.create(shop=self.shop, lot=lot, job=self.job(), place=place, asset_number=f"N{place}")
        for item in lot.items.all()[:3]:
            made = readings.open_set(self.bram, item.job_id, "as_found")
            entries = [
                {"kind": "tension", "spoke": f"{side.value}{i}", "value": round(target / 2), "unit": "N"}
                for side, target in side_targets_n(core_wheel(item.job.wheel)).items()
                for i in range(1, 5)
            ]
            entering.save_readings(self.bram, made.pk, entries)
        page = self.open(at=f"lots/{lot.pk}")
        expect(page.get_by_text("The lot is bad")).to_be_visible()
        expect(page.get_by_role("img", name="3 bad of 3 measured")).to_be_visible()
