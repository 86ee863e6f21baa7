"""Practice in the browser: a wheel trued by keys alone, one found out by touch, one laced; told, marked, set."""

from __future__ import annotations

import re

import numpy as np
from playwright.sync_api import Page

from felloe.core.mechanics.influence import influence_of
from felloe.core.practice.compare import best_plan
from felloe.core.practice.exercises import LADDER
from felloe.core.practice.lacing_task import questions
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.practice.models import PracticeRun, PracticeTask
from felloe.practice.services.subjects import subject_of
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect

STAND = re.compile("^The stand, at ")


class Practised(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.wyn = person(self.shop, "wyn", "apprentice")

    def begin(self, name: str, who: str = "wyn") -> Page:
        page = self.open(who, at="practice")
        page.get_by_role("button", name=f"Begin: {name}").click()
        page.wait_for_url(re.compile("/practice/[0-9a-f-]{36}$"))
        return page

    @property
    def row(self) -> PracticeRun:
        return PracticeRun.objects.get()

    def walk_to(self, page: Page, spoke: str) -> None:
        names = [str(name) for name in WHEEL_KINDS[self.row.kind].wheel.names]
        stand = page.get_by_role("group", name=STAND)
        at = (stand.get_attribute("aria-label") or "").split()[-1]
        for _ in range((names.index(spoke) - names.index(at)) % len(names)):
            page.keyboard.press("6")
        expect(page.get_by_role("group", name=f"The stand, at {spoke}")).to_be_focused()

    def test_a_lump_by_keys_alone_from_the_pointers_to_the_marks(self) -> None:
        page = self.begin("One lump")
        stand = page.get_by_role("group", name=STAND)
        expect(stand).to_be_focused()
        expect(page.get_by_text("Nothing of it goes into the shop’s records")).to_be_visible()
        # By eye: no figure of the rim stands anywhere.
        self.assertNotRegex(stand.inner_text(), r"\d\.\d\d")
        for _ in range(6):
            page.keyboard.press("2")
        where = WHEEL_KINDS[self.row.kind].wheel.names[int(np.abs(subject_of(self.row).virtual.lateral_mm(
            np.array(WHEEL_KINDS[self.row.kind].wheel.angles_deg))).argmax())]  # fmt: skip
        self.walk_to(page, str(where))
        expect(page.get_by_role("img", name=re.compile("rubs on the (left|right)"))).to_be_visible()
        best = best_plan(subject_of(self.row), LADDER["one-lump"].tier, influence_of(WHEEL_KINDS[self.row.kind].wheel))
        page.keyboard.press(".")
        turned = 0.0
        for i in np.flatnonzero(best.turns):
            self.walk_to(page, str(WHEEL_KINDS[self.row.kind].wheel.names[i]))
            for _ in range(round(abs(float(best.turns[i])) * 8)):
                page.keyboard.press("+" if best.turns[i] > 0 else "-")
                turned += 1 / 8
        self.eventually(lambda: round(self.row.turned, 3), round(turned, 3))
        page.keyboard.press("0")
        page.keyboard.press("Enter")
        told = page.get_by_role("region", name="Pass 1, judged")
        expect(told).to_contain_text(re.compile("Inside|twisted|not enough"))
        expect(page.get_by_role("button", name="Go on Enter")).to_be_focused()
        page.keyboard.press("Enter")
        expect(stand).to_be_focused()
        # A stray key ends nothing.
        page.keyboard.press("e")
        expect(page.get_by_role("alertdialog", name="End this exercise?")).to_be_visible()
        page.keyboard.press("Escape")
        expect(stand).to_be_focused()
        self.assertIsNone(self.row.ended_at)
        page.keyboard.press("e")
        expect(page.get_by_role("button", name="End it")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.get_by_role("region", name="The end of the exercise")).to_contain_text("What was wrong: a lump sideways")
        self.assertGreaterEqual(self.row.mark or 0, 2)
        page.get_by_role("link", name="The ladder").click()
        expect(page.get_by_role("listitem").first).to_contain_text("●●")

    def test_a_fault_found_by_touch_and_a_wrong_guess_said(self) -> None:
        page = self.begin("Find the fault")
        page.get_by_role("button", name="dials round").click()
        page.get_by_role("region", name="What was read of this wheel").wait_for()
        ((fault, spokes),) = self.row.made["faults"].items()
        words = {
            "wrong_nipple": "a nipple of another thread",
            "seized": "a seized nipple",
            "bent": "a bent rim",
            "mislaced": "two spokes laced into each other’s hub holes",
            "slack": "slack all round",
        }
        other = next(key for key in words if key != fault)
        page.get_by_role("button", name=words[other]).click()
        named = page.get_by_role("region", name="Name the fault")
        expect(named.get_by_role("listitem")).to_have_count(1)
        if spokes:
            page.get_by_role("radio", name=re.compile(f"^{spokes[0]}:")).click()
        # The keys are the stand's also after the strip was touched.
        page.keyboard.press("7")
        self.eventually(lambda: len(self.row.readings.get("tension", {})), 1)
        page.get_by_role("button", name=words[fault]).click()
        expect(page.get_by_role("region", name="The end of the exercise")).to_contain_text("wrong answers")
        self.assertEqual(self.row.mark, 2)

    def test_laced_by_the_keys_with_one_slip(self) -> None:
        page = self.begin("Lace it right")
        wheel = WHEEL_KINDS[self.row.kind].wheel
        field = page.get_by_label("Hole, clockwise from the valve")
        expect(field).to_be_focused()
        page.keyboard.type("2")
        page.keyboard.press("Enter")
        expect(page.get_by_text("is drilled toward the left flange")).to_be_visible()
        asked = questions(wheel)
        for number, question in enumerate(asked, start=1):
            expect(page.get_by_text(f"Question {number} of {len(asked)}")).to_be_visible()
            if question.what == "hole":
                expect(field).to_be_focused()
                page.keyboard.type(str(question.place.rim_hole))
                page.keyboard.press("Enter")
            else:
                page.keyboard.press("+" if dict(question.place.crosses)[question.other] == "over" else "-")
        expect(page.get_by_role("region", name="The end of the exercise")).to_contain_text("well done")

    def test_set_by_the_mechanic_and_seen_by_both(self) -> None:
        page = self.open("ines", at="practice")
        page.get_by_label("Exercise", exact=True).select_option("off-dish")
        page.get_by_label("For", exact=True).select_option(label="Wyn")
        page.get_by_role("button", name="Set it").click()
        expect(page.get_by_text("Wyn: Off-dish, set by Ines")).to_be_visible()
        learner = self.open("wyn", at="practice")
        expect(learner.get_by_text("set by Ines")).to_be_visible()
        expect(learner.get_by_role("heading", name="Who has mastered what")).to_have_count(0)
        page.get_by_role("button", name="Take back").click()
        expect(page.get_by_text("Wyn: Off-dish, set by Ines")).to_have_count(0)
        self.assertEqual(PracticeTask.objects.filter(taken_back_at=None).count(), 0)

    def test_a_key_held_down_a_server_away_and_a_reload(self) -> None:
        self.expected_refusals = ("ERR_", "503")
        page = self.begin("One lump")
        expect(page.get_by_role("group", name=STAND)).to_be_focused()
        page.keyboard.down("+")
        page.keyboard.down("+")
        page.keyboard.down("+")
        page.keyboard.up("+")
        self.eventually(lambda: self.row.turned, 0.25)
        page.context.set_offline(True)
        page.keyboard.press("+")
        expect(page.get_by_text("It may or may not have arrived")).to_be_visible()
        page.context.set_offline(False)
        page.get_by_role("button", name="Try again").click()
        self.eventually(lambda: self.row.turned, 0.5)
        page.reload()
        expect(page.get_by_text("tightened")).to_be_visible()
        self.assertEqual(self.row.touches, 1)
