"""Small turns of a shop's day in the browser: a wheel seen before, units, skipping, signing off short."""

from __future__ import annotations

import re

from felloe.accounts.models import User
from felloe.bench.models import PlanMove
from felloe.bench.services import plans, readings
from felloe.customers import services as customers
from felloe.queue.models import Job
from felloe.records.models import SignOff
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect


def holding(text: str) -> re.Pattern[str]:
    """A pattern for an attribute that holds `text`."""
    return re.compile(re.escape(text))


class Day(BrowserCase):
    def test_a_wheel_seen_before_fills_itself_in(self) -> None:
        first = self.job()
        page = self.open(at="take-in")
        page.get_by_role("textbox", name="Customer", exact=True).fill("Invented")
        page.get_by_role("button", name="Invented Customer").click()
        expect(page.get_by_label("Bike", exact=True)).to_have_value(str(first.wheel.bike_id))
        # The button that was pressed is gone; the choice goes on at the bike, and the only wheel is proposed.
        expect(page.get_by_label("Bike", exact=True)).to_be_focused()
        expect(page.get_by_label("Seen before")).to_have_value(str(first.wheel_id))
        page.get_by_label("What is wrong, in the customer's words").fill("again")
        page.get_by_role("button", name="creaks or pings").click()
        self.expected_refusals = ("409",)
        # The button goes down when dates and causes come in above it.
        expect(page.get_by_role("group", name="Dates with their chance").get_by_role("button").first).to_be_visible()
        expect(page.get_by_text("Probably:")).to_be_visible()
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_text(f"Job {first.number} is open on this wheel")).to_be_visible()
        self.assertEqual(Job.objects.count(), 1)
        page.get_by_role("button", name="Open a second job on this wheel").click()
        expect(page.get_by_text("“again”")).to_be_visible()
        made = Job.objects.order_by("-number").first()
        self.assertEqual((made.wheel_id, made.complaint_tags), (first.wheel_id, ["creaks"]))

    def test_the_kind_follows_place_and_brake_and_none_is_taken_for_granted(self) -> None:
        page = self.open(at="take-in")
        page.get_by_role("textbox", name="Customer", exact=True).fill("Nobody Known")
        page.get_by_label("Which bike").fill("Bike")
        page.get_by_label("What is wrong, in the customer's words").fill("rubs")
        kinds = page.get_by_label("Starts as")
        expect(kinds).to_have_value("")
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_text("Choose what the wheel starts as.")).to_be_visible()
        self.assertEqual(Job.objects.count(), 0)
        kinds.select_option("rim-brake-rear-36")
        page.get_by_role("radio", name="disc brake").click()
        expect(kinds).to_have_value("")
        page.get_by_role("radio", name="front").click()
        expect(kinds.locator("option[value='disc-front-28']")).to_have_count(1)
        for other in ("disc-rear-32", "rim-brake-front-32"):
            expect(kinds.locator(f"option[value='{other}']")).to_have_count(0)
        kinds.select_option("disc-front-28")
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_text("“rubs”")).to_be_visible()
        wheel = Job.objects.get().wheel
        self.assertEqual((wheel.kind, wheel.position), ("disc-front-28", "front"))

    def test_missing_words_are_named_and_nothing_is_lost(self) -> None:
        customers.add_customer(self.bram, {"name": "Maud"})
        page = self.open(at="take-in")
        page.get_by_role("textbox", name="Customer", exact=True).fill("Nobody Known")
        page.get_by_label("Which bike").fill("Bike")
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_role("heading", name="Take in a wheel")).to_be_visible()
        expect(page.get_by_label("Which bike")).to_have_value("Bike")
        self.assertEqual(Job.objects.count(), 0)

    def test_forces_in_the_unit_of_the_person(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        expect(page.get_by_role("radio", name="R1:")).to_have_attribute("aria-label", holding(" N measured"))
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Show forces in kgf").click()
        expect(page.get_by_role("radio", name="R1:")).to_have_attribute("aria-label", holding(" kgf measured"))

    def test_skipping_a_stage_says_why(self) -> None:
        job = self.job()
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}")
        page.get_by_role("button", name="True", exact=True).click()
        page.get_by_role("button", name="Go there").click()
        expect(page.get_by_text("needs a reason")).to_be_visible()
        page.get_by_label("Why").fill("only a loose spoke")
        page.get_by_role("button", name="Go there").click()
        expect(page.locator('[aria-current="step"]')).to_contain_text("True")
        expect(page.get_by_text("only a loose spoke")).to_be_visible()

    def test_a_nipple_skipped_undone_and_turned_otherwise(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        plan = plans.add_plan(self.bram, made.pk, {})
        first = plan.moves.order_by("place").first()
        page = self.open(at=f"jobs/{job.pk}/plan/{plan.pk}")
        page.get_by_label(f"Nipple 1 of {plan.moves.count()}: {first.spoke}").wait_for()
        page.keyboard.press("0")
        expect(page.get_by_text("leave", exact=True)).to_be_visible()
        page.keyboard.press("Enter")
        self.eventually(lambda: PlanMove.objects.get(pk=first.pk).state, "skipped")
        page.keyboard.press("ArrowLeft")
        page.keyboard.press("Backspace")
        self.eventually(lambda: PlanMove.objects.get(pk=first.pk).state, "todo")

    def test_signing_off_short_of_the_tier_needs_words(self) -> None:
        job = self.job()
        self.fill(job, "as_found", self.virtual())
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/sign-off")
        page.get_by_role("button", name="Sign off", exact=True).click()
        expect(page.get_by_text("say why").first).to_be_visible()
        self.assertEqual(SignOff.objects.count(), 0)
        page.get_by_role("textbox").fill("Customer wants it back today")
        page.get_by_role("button", name="Sign off", exact=True).click()
        expect(page.get_by_text("“Customer wants it back today”")).to_be_visible()
        # A mechanic does not let it go with its steps open: once they are answered, there is nothing more to say.
        expect(page.get_by_text("steps are not answered")).to_be_visible()
        self.agree_and_refit(job)
        page.reload()
        # One spoke stands above the rim's limit: that is the owner's alone.
        expect(page.get_by_text("above the rim's 1200 N")).to_be_visible()
        expect(page.get_by_label("Why it leaves all the same")).to_have_count(0)
        person(self.shop, "odile", User.Role.OWNER)
        owner = self.open("odile", at=f"jobs/{job.pk}/sign-off")
        owner.get_by_label("Why it leaves all the same").fill("Rim maker was asked and allows it")
        owner.get_by_role("button", name="Hand it back all the same").click()
        self.eventually(lambda: Job.objects.get().stage, "done")

    def test_no_readings_no_sign_off_but_a_sentence(self) -> None:
        job = self.job()
        readings.open_set(self.bram, job.pk, "as_found")
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/sign-off")
        expect(page.get_by_text("Nothing has been measured on this job yet")).to_be_visible()
