"""Taking in, condition, deciding, refit and the counter, by keyboard and by touch."""

from __future__ import annotations

import io
import re

from PIL import Image
from playwright.sync_api import Page

from felloe.accounts.models import User
from felloe.condition.models import ConditionMark, FrameCheck, SpokeBreak
from felloe.queue.models import Job, Photo, Signature
from felloe.records.services import ending
from felloe.repair.models import Decision, RefitAnswer
from felloe.repair.services import prices
from tests.api.shop import open_job, person
from tests.e2e.bench import BrowserCase, expect
from tests.e2e.test_slice import tab_to

PRICES = {"labour_hour": 6000, "spoke": 100, "nipple": 20, "rim": 5000, "rim_tape": 400, "hub_parts": 1500, "axle": 1000}


class Counter(BrowserCase):
    def test_a_known_wheel_is_taken_in_by_few_keys(self) -> None:
        """A known customer's wheel in under sixty keys besides the complaint's own words: well under a minute."""
        before = open_job(self.bram)
        ending.end_job(self.bram, before.pk, before.version, "cancelled", "it came back on the same day")
        page = self.open(at="take-in")
        page.get_by_role("textbox", name="Customer", exact=True).wait_for()
        keys = 0

        def press(*names: str) -> None:
            nonlocal keys
            for name in names:
                page.keyboard.press(name)
                keys += 1

        press(*"Inv")
        page.get_by_role("button", name="Invented Customer").wait_for()
        press("Tab", "Enter")
        page.get_by_label("Seen before").wait_for()
        page.get_by_label("Seen before").focus()
        press("ArrowDown", "ArrowUp")
        for _ in range(30):
            if page.evaluate("document.activeElement.closest('div')?.textContent ?? ''").startswith("What is wrong"):
                break
            press("Tab")
        page.keyboard.type("rubs the left pad")
        press("Tab", "Enter")
        expect(page.get_by_text("Probably:")).to_be_visible()
        self.assertAccessible(page, "take in")
        page.get_by_label("What is wrong").focus()
        press("Enter")
        page.wait_for_url(re.compile("/jobs/[0-9a-f-]+$"))
        self.assertLess(keys, 60)
        job = Job.objects.order_by("number").last()
        assert job is not None
        self.assertEqual((job.complaint, job.complaint_tags), ("rubs the left pad", ["rubs"]))

    def test_photo_signature_and_tag(self) -> None:
        job = open_job(self.bram)
        page = self.open(at=f"jobs/{job.pk}")
        out = io.BytesIO()
        Image.new("RGB", (60, 40), (90, 120, 140)).save(out, "PNG")
        picture = {"name": "rim.png", "mimeType": "image/png", "buffer": out.getvalue()}
        page.get_by_label("Photo of the wheel").set_input_files(files=[picture])  # type: ignore[list-item]
        self.eventually(Photo.objects.count, 1)
        page.get_by_role("button", name="Photo 1").click()
        expect(page.get_by_role("dialog").get_by_role("img")).to_be_visible()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Sign", exact=True).click()
        pad = page.get_by_role("img", name=re.compile("Pad to sign on"))
        box = pad.bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 40, box["y"] + 60)
        page.mouse.down()
        page.mouse.move(box["x"] + 160, box["y"] + 90, steps=6)
        page.mouse.up()
        page.get_by_role("button", name="Keep it").click()
        expect(page.get_by_text("Brought by Invented Customer")).to_be_visible()
        self.assertGreater(len(Signature.objects.get().strokes[0]), 3)
        page.get_by_role("link", name="Tag to print").click()
        expect(page.get_by_role("img", name="Code that opens the job")).to_be_visible()
        self.assertAccessible(page, "tag")

    def test_a_file_that_is_no_photo(self) -> None:
        self.expected_refusals = ("422",)
        job = open_job(self.bram)
        page = self.open(at=f"jobs/{job.pk}")
        wrong = {"name": "rim.png", "mimeType": "image/png", "buffer": b"not a picture"}
        page.get_by_label("Photo of the wheel").set_input_files(files=[wrong])  # type: ignore[list-item]
        expect(page.get_by_role("alert")).to_contain_text("no JPEG, PNG or WebP")


class Condition(BrowserCase):
    def test_noted_by_keyboard_judged_and_ended(self) -> None:
        job = open_job(self.bram)
        page = self.open(at=f"jobs/{job.pk}/condition")
        page.get_by_label("What", exact=True).focus()
        page.keyboard.type("Rim: crack")
        tab_to(page, "At spoke")
        page.keyboard.press("ControlOrMeta+a")
        page.keyboard.type("r7")
        page.keyboard.press("Enter")
        found = page.get_by_role("list", name="Found")
        expect(found).to_contain_text("Crack at R7")
        expect(found).to_contain_text("not to be ridden")
        self.assertEqual(ConditionMark.objects.get().spoke, "R7")
        self.assertAccessible(page, "condition")
        page.get_by_role("button", name=re.compile("No longer so")).click()
        page.get_by_label("What was done").fill("new rim")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Nothing noted yet")).to_be_visible()

    def test_a_slip_is_told_at_its_field(self) -> None:
        self.expected_refusals = ("422",)
        job = open_job(self.bram)
        page = self.open(at=f"jobs/{job.pk}/condition")
        page.get_by_label("At spoke").fill("R99")
        page.get_by_label("Depth, mm").fill("1,4")
        page.get_by_role("button", name="Record it").click()
        expect(page.get_by_text("this wheel has no spoke R99")).to_be_visible()
        page.get_by_label("At spoke").fill("L2")
        page.get_by_role("button", name="Record it").click()
        expect(page.get_by_text("1.4 mm deep: a rim brake grabs")).to_be_visible()

    def test_touching_the_rim_breaks_and_frame(self) -> None:
        job = open_job(self.bram)
        page = self.open(at=f"jobs/{job.pk}/condition")
        page.locator("svg path:has(title:text-is('L4'))").click()
        expect(page.get_by_label("At spoke")).to_have_value("L4")
        page.get_by_role("radio", name="Breaks").click()
        page.get_by_role("radio", name="in the middle").click()
        page.get_by_role("button", name="Record the break").click()
        expect(page.get_by_text("Replace this one spoke")).to_be_visible()
        self.assertEqual((SpokeBreak.objects.get().spoke, SpokeBreak.objects.get().place), ("L4", "middle"))
        self.assertAccessible(page, "breaks")
        page.get_by_role("radio", name="Frame").click()
        # Whether it is steel nobody has said: not known until then, and nothing is judged without a figure.
        expect(page.get_by_label("The frame is of")).to_have_value("unknown")
        expect(page.get_by_role("button", name="Judge it")).to_be_disabled()
        page.get_by_label("The frame is of").select_option("steel")
        page.get_by_label("Gap, mm").fill("6")
        page.keyboard.press("Enter")
        expect(page.get_by_text("each stay 3.0 mm to the left")).to_be_visible()
        self.assertEqual(FrameCheck.objects.get().gap_left_mm, 6)
        self.assertAccessible(page, "frame")


class DecideAndRefit(BrowserCase):
    def test_from_options_to_a_word_by_keyboard(self) -> None:
        prices.set_prices(person(self.shop, "odile", User.Role.OWNER), 1, "EUR", PRICES)
        job = self.job()
        self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/decide")
        expect(page.get_by_role("checkbox", name="True the wheel")).to_be_checked()
        expect(page.get_by_role("img", name=re.compile("Least runout"))).to_be_visible()
        self.assertAccessible(page, "decide")
        page.get_by_role("checkbox", name="Overhaul the hub").focus()
        page.keyboard.press("Space")
        expect(page.get_by_role("region", name="The quote")).to_contain_text("Overhaul the hub")
        tab_to(page, "Approved", most=30)
        page.keyboard.press("Enter")
        expect(page.get_by_text("✓ Approved: True the wheel and Overhaul the hub")).to_be_visible()
        self.assertEqual(Decision.objects.get().chosen, ["true", "hub_overhaul"])

    def test_refit_by_keyboard_and_what_is_not_right_stops_the_wheel(self) -> None:
        self.expected_refusals = ("409",)
        job = self.job()
        self.fill(job, "as_left", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/refit")
        steps = page.get_by_role("list", name="Refit steps").get_by_role("listitem")
        expect(steps.first).to_be_visible()
        total = steps.count()
        self.assertAccessible(page, "refit")
        tab_to(page, "Not right", most=30)
        page.keyboard.press("Enter")
        page.keyboard.type("L3 stands proud")
        page.keyboard.press("Enter")
        expect(steps.first).to_contain_text("not right: L3 stands proud")
        self.stopped_at_hand_back(page, job)
        self.to(page, f"jobs/{job.pk}/refit")
        for i in range(total):
            steps.nth(i).get_by_role("button", name=re.compile("^Right")).press("Enter")
            self.eventually(lambda wanted=i + 2: RefitAnswer.objects.count(), i + 2)
        expect(page.get_by_text("Every step is right.")).to_be_visible()
        page.get_by_role("button", name="Note the day").click()
        expect(page.get_by_text("Noted with the job.")).to_be_visible()

    def stopped_at_hand_back(self, page: Page, job: Job) -> None:
        self.to(page, f"jobs/{job.pk}/sign-off")
        expect(page.get_by_text("Judged unsafe")).to_be_visible()
        reason = page.get_by_label(re.compile("Why does it leave like this"))
        if reason.count():
            reason.fill("as agreed with the customer")
        page.get_by_role("button", name="Sign off", exact=True).click()
        page.get_by_role("button", name="Hand it back, not to be ridden").click()
        expect(page.get_by_role("alert")).to_contain_text("Only the owner can let it go")

    def test_road_card_and_prices(self) -> None:
        person(self.shop, "odile", User.Role.OWNER)
        page = self.open("odile", at="road-advice")
        expect(page.get_by_text("Ride on: at most 15 km, 15 km/h")).to_be_visible()
        page.get_by_role("radio", name="rim cracked").click()
        expect(page.get_by_text("Do not ride. Walk, or be fetched.")).to_be_visible()
        self.assertAccessible(page, "road advice")
        self.to(page, "prices")
        page.get_by_label("Labour, per hour").fill("54,50")
        page.keyboard.press("Enter")
        expect(page.get_by_label("Labour, per hour")).to_have_value("54.50")
        self.shop.refresh_from_db()
        self.assertEqual(self.shop.prices_minor["labour_hour"], 5450)
        self.assertAccessible(page, "prices")
