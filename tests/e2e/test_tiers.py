"""The shop's own tiers and words in the browser: the owner sets them, the bench holds a job to them."""

from __future__ import annotations

from playwright.sync_api import Page

from felloe.accounts.models import Shop
from felloe.core.truing.tiers import SOUND
from felloe.queue.models import Job, ShopTier
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect


class Tiers(BrowserCase):
    def owner(self) -> Page:
        person(self.shop, "odile", "owner")
        return self.open("odile")

    def test_a_tier_of_the_shops_own_from_its_list_to_a_job(self) -> None:
        job = self.job()
        page = self.owner()
        self.to(page, "shop")
        page.get_by_role("button", name="Add a tier …").click()
        page.get_by_role("dialog").get_by_label("Name", exact=True).fill("touring")
        for label, figure in (("Lateral, mm", "0,4"), ("Radial, mm", "0.4"), ("Dish either way, mm", "5")):
            page.get_by_label(label).fill(figure)
        page.get_by_label("Tension ±, % of the side’s mean").fill("18")
        self.expected_refusals = ("422",)
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        # What cannot be is said at its place, and nothing that was typed is lost.
        expect(page.get_by_text("Dish must lie between 0.05 and 2 mm; found 5")).to_be_visible()
        self.assertFalse(ShopTier.objects.exists())
        page.get_by_label("Dish either way, mm").fill("0.5")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_role("row", name="Touring 0.4 / 0.4 / 0.5 18")).to_be_visible()

        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="Change").click()
        page.get_by_label("Tier").select_option("touring")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_text("touring", exact=True)).to_be_visible()
        self.assertEqual(Job.objects.get().tolerance.figures, (0.4, 0.4, 0.5, 18.0))

    def test_an_open_job_keeps_its_figures_until_somebody_says_otherwise(self) -> None:
        job = self.job()
        page = self.owner()
        self.to(page, "shop")
        page.get_by_role("button", name="Change Sound").click()
        page.get_by_label("Tension ±, % of the side’s mean").fill("16")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_role("row", name="Sound 0.5 / 0.5 / 0.5 16")).to_be_visible()
        self.to(page, f"jobs/{job.pk}")
        page.get_by_role("button", name="Change").click()
        expect(page.get_by_label("Tier").locator("option:checked")).to_contain_text("±20 %")
        page.get_by_label("Complaint, in the customer's words").fill("hops")
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_text("“hops”").first).to_be_visible()
        self.assertEqual(Job.objects.get().tolerance, SOUND)
        page.get_by_role("button", name="Change").click()
        page.get_by_role("checkbox", name="Hold it to the shop’s figures of today").check()
        page.get_by_role("dialog").get_by_role("button", name="Save").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertEqual(Job.objects.get().tier_tension_percent, 16)

    def test_only_the_owner_finds_something_to_press(self) -> None:
        page = self.open(at="shop")
        expect(page.get_by_role("row", name="Sound 0.5 / 0.5 / 0.5 20")).to_be_visible()
        expect(page.get_by_role("button", name="Add a tier …")).to_have_count(0)

    def test_the_shops_words_stand_on_the_tag(self) -> None:
        job = self.job()
        page = self.owner()
        self.to(page, "shop")
        page.get_by_label("Deutsch").fill("Wir sind am blauen Kran.")
        page.get_by_label("New customers are written to in").select_option("Deutsch")
        page.get_by_label("At the foot of every tag").fill("Keep this tag.")
        page.get_by_role("button", name="Save the shop").click()
        expect(page.get_by_text("Saved.")).to_be_visible()
        shop = Shop.objects.get(pk=self.shop.pk)
        self.assertEqual((shop.letter_texts, shop.language), ({"de": "Wir sind am blauen Kran."}, "de"))
        self.to(page, f"jobs/{job.pk}/tag")
        expect(page.get_by_text("Keep this tag.")).to_be_visible()
