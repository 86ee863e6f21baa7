"""Dialogs, menus and single screens: what they catch, and what axe says of them. Screens as such: test_forms."""

from __future__ import annotations

from felloe.bench.services import entering, plans
from tests.e2e.bench import BrowserCase, expect


class Screens(BrowserCase):
    def worked_job(self):
        job = self.job()
        self.meter()
        virtual = self.virtual()
        made = self.fill(job, "as_found", virtual)
        plan = plans.add_plan(self.bram, made.pk, {})
        return job, made, plan

    def test_axe_on_dialogs_and_menus(self) -> None:
        job, made, _ = self.worked_job()
        page = self.open(at=f"jobs/{job.pk}")
        page.get_by_role("button", name="Change").click()
        self.assertAccessible(page, "change")
        page.keyboard.press("Escape")
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        self.assertAccessible(page, "plan options")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Bram: settings").click()
        self.assertAccessible(page, "menu")

    def test_sign_in_is_accessible_and_says_what_is_wrong(self) -> None:
        from tests.browser import context

        made = context()
        self.addCleanup(made.close)
        page = made.new_page()
        page.goto(self.live_server_url)
        page.get_by_label("Name").fill("bram")
        page.get_by_label("Password").fill("wrong")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("do not go together")
        self.assertAccessible(page, "sign in")

    def test_the_strip_is_walked_by_arrows_and_shows_its_figures(self) -> None:
        job, made, _ = self.worked_job()
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        chosen = page.get_by_role("radio", checked=True)
        chosen.focus()
        before = chosen.get_attribute("aria-label")
        page.keyboard.press("ArrowRight")
        after = page.get_by_role("radio", checked=True).get_attribute("aria-label")
        self.assertNotEqual(before, after)
        expect(page.locator("dl").get_by_text(after.split(":")[0], exact=True)).to_be_visible()


class Parts(BrowserCase):
    def test_an_impossible_number_is_caught_where_it_stands(self) -> None:
        job = self.job()
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/parts")
        erd = page.get_by_label("ERD", exact=True)
        erd.fill("90")
        expect(page.get_by_text("ERD must lie between 200 and 680 mm; found 90")).to_be_visible()
        expect(erd).to_have_attribute("aria-invalid", "true")
        expect(page.get_by_role("button", name="Save the wheel")).to_be_disabled()
        erd.fill("387")
        expect(page.get_by_text("ERD must lie between")).to_have_count(0)
        page.get_by_role("button", name="Save the wheel").click()
        expect(page.get_by_text("measured", exact=False).first).to_be_visible()
        job.wheel.refresh_from_db()
        self.assertEqual((job.wheel.specification["rim"]["erd_mm"], job.wheel.measured), (387, True))

    def test_both_schools_give_one_wheel(self) -> None:
        job = self.job("rim-brake-rear-36")
        page = self.open(at=f"jobs/{job.pk}/parts")
        expect(page.get_by_role("cell", name="291.1")).to_be_visible()
        page.get_by_role("radio", name="from the locknut").click()
        expect(page.get_by_label("Right locknut to flange", exact=True)).to_have_value("47.5")
        expect(page.get_by_role("cell", name="291.1")).to_be_visible()

    def test_a_record_from_a_file(self) -> None:
        from pathlib import Path

        example = Path(__file__).resolve().parents[2] / "docs" / "formats" / "examples" / "rear-32-full.json"
        job = self.job()
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/parts")
        picker = page.get_by_label("Or take a wheel record from a file")
        picker.set_input_files({"name": "bad.json", "mimeType": "application/json", "buffer": b"{"})
        expect(page.get_by_text("this is not JSON in UTF-8")).to_be_visible()
        picker.set_input_files(str(example))
        expect(page.get_by_text("32 spokes, measured")).to_be_visible()
        expect(page.get_by_text("As found, set 1:")).to_be_visible()


class Dish(BrowserCase):
    def test_dish_alone_becomes_a_plan(self) -> None:
        job = self.job("rim-brake-front-32")
        made = self.fill(job, "as_found", self.virtual("rim-brake-front-32"))
        gap = {"kind": "dish", "method": "gauge", "gap_mm": 1.6, "gap_side": "R"}
        entering.save_reading(self.bram, made.pk, gap)
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Dish alone").click()
        expect(page.get_by_text("was the hub apart?")).to_be_visible()
        self.assertAccessible(page, "dish alone")
        page.get_by_role("listitem").filter(has_text="Half and half").get_by_role("button").click()
        expect(page.get_by_role("heading", name="Plan for sound")).to_be_visible()
        expect(page.get_by_text("0 of 32", exact=True)).to_be_visible()
