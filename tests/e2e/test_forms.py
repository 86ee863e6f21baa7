"""Every screen in every form: measured for what overflows, is cut, too small to touch or to read, and looked at by axe."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

from playwright.sync_api import Page

from felloe.accounts.models import User
from felloe.bench.services import live, plans, readings
from felloe.fleet import services as fleet
from felloe.practice import services as practice
from felloe.queue import services as queue
from tests.api.shop import job_values, person
from tests.browser import axe_violations
from tests.e2e.bench import MEASURE, BrowserCase, expect, figure

KIND = "rim-brake-rear-36"
#: 640×400 is 1280×800 at a zoom of 200 %.
FORMS = {"desk": (1280, 800), "tablet": (1024, 768), "wide": (1920, 1080), "phone": (390, 844), "zoomed": (640, 400)}
AT_A_TABLE = ("desk", "tablet", "wide")
POLICY = "() => document.addEventListener('securitypolicyviolation', e => console.error('policy ' + e.violatedDirective))"
#: Drawings follow their place in the frame after the next.
SETTLED = "() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done))))"
#: What paper shows: the background and the letters of the page, as brightness from 0 to 255.
PAPER = """() => ["backgroundColor", "color"].map((what) => {
  const at = what === "color" ? document.body : document.documentElement;
  const [r, g, b] = getComputedStyle(at)[what].match(/[\\d.]+/g).map(Number);
  return Math.round(0.299 * r + 0.587 * g + 0.114 * b);
})"""


class FormsCase(BrowserCase):
    def measured(self, page: Page, path: str, words: str, bench: bool = False, more: Callable[[], None] | None = None) -> None:
        """The screen at `path` in each form; at the bench a finger is oily, and nothing is scrolled to at a table."""
        with self.subTest(path):
            page.set_viewport_size({"width": 1280, "height": 800})
            self.to(page, path)
            page.get_by_text(words).first.wait_for()
            page.wait_for_load_state("networkidle")
            if more:
                more()
        self.look(page, path, bench)

    def look(self, page: Page, path: str, bench: bool) -> None:
        for form, (width, height) in FORMS.items():
            with self.subTest(path, form=form):
                page.set_viewport_size({"width": width, "height": height})
                # Drawings follow their place in the frame after the next.
                page.evaluate(
                    "() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done))))"
                )
                first = form in AT_A_TABLE or (bench and form == "phone")
                asked = {"bench": 48 if bench else 44, "letters": 12, "first": first}
                self.assertEqual(page.evaluate(MEASURE, asked), [])
                if bench and form in AT_A_TABLE:
                    self.assertLessEqual(page.evaluate("document.documentElement.scrollHeight"), height)
                # In light on the phone, in dark on the desk: each screen's words and colours once in each scheme.
                if form == "phone":
                    self.assertEqual(axe_violations(page), [])
        page.set_viewport_size({"width": 1280, "height": 800})
        page.emulate_media(color_scheme="dark")
        with self.subTest(path, form="dark"):
            self.assertEqual(axe_violations(page), [])
            page.emulate_media(media="print")
            self.assertEqual([value > 127 for value in page.evaluate(PAPER)], [True, False])
        page.emulate_media(media="screen", color_scheme="light")

    def tablet(self) -> Page:
        page = self.open("odile")
        page.evaluate(POLICY)
        return page

    def setUp(self) -> None:
        super().setUp()
        person(self.shop, "odile", "owner")
        self.worked = self.job(KIND)
        self.meter()
        self.made = self.fill(self.worked, "as_found", self.virtual(KIND))
        self.at = f"jobs/{self.worked.pk}"


class AtTheBench(FormsCase):
    def test_reading(self) -> None:
        page = self.tablet()
        other = readings.open_set(self.bram, self.worked.pk, "as_left")
        path = f"{self.at}/readings/{other.pk}"
        self.measured(page, path, "tension of", bench=True)
        size = page.evaluate("() => parseFloat(getComputedStyle(document.querySelector('#figure')).fontSize)")
        self.assertGreaterEqual(size, 40)
        self.measured(page, f"{self.at}/readings/{self.made.pk}", "tension of", bench=True)

        def ways() -> None:
            figure(page, "tension of R1").focus()
            page.keyboard.press("/")
            page.get_by_role("group", name="Other ways, by digit").wait_for()

        def dish() -> None:
            ways()
            page.keyboard.press("/")
            page.get_by_text("Gap at the locknut").wait_for()

        self.measured(page, path, "tension of", bench=True, more=ways)
        self.measured(page, path, "tension of", bench=True, more=dish)

    def test_planning_and_turning(self) -> None:
        plan = plans.add_plan(self.bram, self.made.pk, {})
        page = self.tablet()
        self.measured(page, f"{self.at}/state/{self.made.pk}", "State: as found", bench=True)
        self.measured(page, f"{self.at}/plan/{plan.pk}", "Plan for sound", bench=True)
        second = self.job(KIND)
        begun = live.begin(self.bram, self.fill(second, "as_found", self.virtual(KIND)).pk, {})
        self.measured(page, f"jobs/{second.pk}/live/{begun.plan_id}", "Live, to", bench=True)

    def test_building(self) -> None:
        page = self.tablet()
        for path, words in (
            ("lacing", "of 36 in"),
            ("strip", "Slacken"),
            ("condition", "What was found"),
            ("replace", "spoke"),
        ):
            self.measured(page, f"{self.at}/{path}", words, bench=path != "condition")


class OfAJob(FormsCase):
    def test_from_the_hook_to_the_report(self) -> None:
        page = self.tablet()
        for path, words in {
            "": "History",
            "/parts": "What follows",
            "/checks": "Ask something else",
            "/decide": "Leave it as it is",
            "/refit": "steps open",
        }.items():
            self.measured(page, f"{self.at}{path}", words)

    def test_from_the_kit_to_the_signature(self) -> None:
        page = self.tablet()
        for path, words in {
            "/tag": "back to the job",
            "/spokes": "In the bins",
            "/lacing/card": "Lacing card",
            "/sign-off": "As left, for sound",
        }.items():
            self.measured(page, f"{self.at}{path}", words)
        self.measured(page, f"wheels/{self.worked.wheel_id}/history", "Bram")


class OfTheShop(FormsCase):
    def test_the_day(self) -> None:
        other = self.job()
        queue.change_job(self.bram, other.pk, 1, {"waiting_on": "parts"})
        page = self.tablet()
        for path, words in {
            "": "Bram",
            "take-in": "Take in a wheel",
            "stock": "Stock",
            "instruments": "Bench meter A",
            "prices": "Prices",
            "road-advice": "road",
            "nowhere/at/all": "There is no page here",
        }.items():
            self.measured(page, path, words)

    def test_people_and_figures(self) -> None:
        customer = self.worked.wheel.bike.customer
        asked = {"name": "Nurse bikes", "customer_id": customer.pk, "text": "asset\nN1\nN2\nN3", "complaint": "yearly check"}
        lot = fleet.open_lot(self.bram, {**asked, "brake": "rim", "use": "commuting", "wheel": job_values(KIND)["wheel"]})
        page = self.tablet()
        for path, words in {
            "customers": "Invented Customer",
            f"customers/{customer.pk}": "Invented Customer",
            "lots": "Nurse bikes",
            f"lots/{lot.pk}": "N3",
            f"lots/{lot.pk}/labels": "back to the lot",
            "numbers": "How the shop did",
            "letters": "etters",
            "account": "Second factor",
            "shop": "Shop and staff",
        }.items():
            self.measured(page, path, words)


class Windowed(FormsCase):
    def test_a_phone_shows_a_window_of_the_rim_with_the_whole_above_it(self) -> None:
        page = self.open(width=390, height=844, at=f"{self.at}/state/{self.made.pk}")
        chosen = page.get_by_role("radio", checked=True)
        chosen.wait_for()
        columns = page.get_by_role("radiogroup", name="Spokes round the rim").get_by_role("radio")
        self.assertEqual(columns.count(), 36)
        self.assertGreaterEqual(columns.first.bounding_box()["width"], 44)
        expect(chosen).to_be_in_viewport()
        # The arrows walk on, and the window follows.
        chosen.focus()
        for _ in range(12):
            page.keyboard.press("ArrowRight")
        expect(page.get_by_role("radio", checked=True)).to_be_in_viewport()
        # A finger on the whole brings another part of it.
        whole = page.locator("svg.touch-none").bounding_box()
        page.mouse.click(whole["x"] + 4, whole["y"] + 20)
        expect(columns.first).to_be_in_viewport()
        page.mouse.click(whole["x"] + whole["width"] - 4, whole["y"] + 20)
        expect(columns.last).to_be_in_viewport()
        expect(columns.first).not_to_be_in_viewport()
        # What is touched in the window is the spoke in work.
        columns.last.click()
        expect(columns.last).to_have_attribute("aria-checked", "true")

    def test_the_device_s_scheme_is_followed_until_somebody_chooses(self) -> None:
        page = self.open()

        def dark() -> bool:
            return page.evaluate(PAPER)[0] < 127

        self.assertFalse(dark())
        page.emulate_media(color_scheme="dark")
        self.assertTrue(dark())
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Light bench").click()
        self.assertFalse(dark())
        page.reload()
        page.get_by_role("link", name="The rail").wait_for()
        self.assertFalse(dark())
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Dark bench").click()
        page.emulate_media(color_scheme="light")
        self.assertTrue(dark())
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Light or dark as the device").click()
        self.assertFalse(dark())


class AtPractice(FormsCase):
    def test_ladder_lesson_stand_and_marks(self) -> None:
        page = self.tablet()
        odile = User.objects.get(username="odile")

        def begun(exercise: str, **values: Any) -> str:
            asked = {"exercise": exercise, "kind": "", "faults": [], "mode": "meter", "tier": "sound", "anew": False, **values}
            return str(practice.begin(odile, asked, 3).pk)

        def act(run: str, what: str, **values: Any) -> None:
            deed = {"spoke": "", "turns": 0.0, "held": True, "fault": "", "hole": None, "over": False, **values}
            practice.act(odile, uuid.UUID(run), {"what": what, **deed})

        self.measured(page, "practice", "The whole rim stands to one side")
        self.measured(page, "practice/lessons/lump", "Both sides, the whole arc")
        met, judged, found, laced, planned = (
            begun(name) for name in ("lump-and-hop", "one-lump", "find-the-fault", "lace-it-right", "by-the-plan")
        )
        for run in (met, found, planned):
            act(run, "look")
            act(run, "squeeze", spoke="R1")
        act(planned, "plan")
        for run in (met, found, planned):
            self.measured(page, f"practice/{run}", "dials round", bench=True)
        self.measured(page, f"practice/{judged}", "pointers closer", bench=True)
        self.measured(page, f"practice/{laced}", "into which rim hole")
        act(judged, "turn", spoke="R3", turns=0.5)

        def told() -> None:
            page.keyboard.press("Enter")
            page.get_by_text("best plan").first.wait_for()

        self.measured(page, f"practice/{judged}", "pointers closer", more=told)
        act(judged, "end")
        self.measured(page, f"practice/{judged}", "What was wrong")
