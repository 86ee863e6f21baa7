"""Live truing in the browser: with a dial that streams from a stand-in whose wheel turns along, and by eye."""

from __future__ import annotations

import re

from playwright.sync_api import Page, Route

from felloe.bench.models import LiveLook, LivePass, PlanMove, ReadingSet
from felloe.bench.services import traces
from felloe.cli.instrument import StandIn, stand_in
from felloe.core.truing.tiers import TIERS
from felloe.instruments.services import instruments
from felloe.queue.models import Job
from tests.bench.passes import figures
from tests.e2e.bench import MEASURE, SMALL, BrowserCase, expect
from tests.stand import ServedStandIn

CARD = re.compile("^Next nipple")
LOOK = "Look at the rim"


class LiveCase(BrowserCase):
    def begin(self, page: Page, job: Job, made: ReadingSet) -> None:
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_role("button", name="Live, nipple by nipple").click()
        page.wait_for_url(re.compile("/live/"))

    def lump(self, job: Job) -> ReadingSet:
        """All that anybody knows of the wheel: where it rubs."""
        made = self.fill_nothing(job)
        told = {"kind": "lateral", "first": "R4", "last": "R8", "height_mm": 0.8, "toward": "L"}
        traces.add_lump(self.bram, made.pk, told)
        return made

    def fill_nothing(self, job: Job) -> ReadingSet:
        from felloe.bench.services import readings

        return readings.open_set(self.bram, job.pk, "as_found")


class WithADial(LiveCase):
    def test_key_by_key_until_it_says_enough_and_the_wheel_is_inside(self) -> None:
        stand: StandIn = stand_in(SMALL, 5)
        served = ServedStandIn(stand)
        self.addCleanup(served.stop)
        instruments.add_instrument(self.bram, {"name": "Dials", "kind": "dial", "address": served.address})
        job = self.job()
        sound = TIERS[job.tier]
        self.assertFalse(figures(stand.virtual).inside(sound))
        made = self.fill(job, "as_found", stand.virtual)
        page = self.open()
        self.begin(page, job, made)
        page.get_by_role("button", name="how the rim is looked at").click()
        page.get_by_role("menuitem", name="Dials: lateral, then radial").click()
        height = page.evaluate("document.documentElement.scrollHeight")
        self.assertLessEqual(height, 800)
        self.assertAccessible(page, "live truing")
        card, enough = page.get_by_role("group", name=CARD), page.get_by_text("Enough", exact=True)
        turned = 0
        for _ in range(40):
            expect(card.or_(enough).first).to_be_visible()
            if enough.count():
                break
            ask = page.get_by_role("button", name=re.compile("^Read [RL]"))
            if ask.count() and turned:
                spoke = ask.inner_text().split()[-1]
                ask.click()
                value = stand.virtual.tension_n[stand.virtual.wheel.index_of[spoke]]
                page.get_by_label("Value, N").fill(str(round(float(value))))
                page.get_by_role("button", name="Record it").click()
                expect(page.get_by_role("dialog")).to_have_count(0)
            expect(card).to_be_focused()
            page.keyboard.press("Enter")
            turned += 1
            # The dial looks by itself, past both.
            self.eventually(lambda: PlanMove.objects.count(), turned)
            expect(page.get_by_text("Turn the wheel once")).to_have_count(0)
        expect(enough).to_be_visible()
        self.assertEqual(LiveLook.objects.filter(source="stream").count(), 2 * turned)
        after = figures(stand.virtual)
        self.assertTrue(after.inside(sound), after)
        self.assertLessEqual(after.over, 1)
        page.get_by_role("button", name="End here").click()
        page.wait_for_url(re.compile("/state/"))
        expect(page.get_by_role("heading", level=1)).to_contain_text("after a pass, set 2")
        self.to(page, f"jobs/{job.pk}/plan/{LivePass.objects.get().plan_id}")
        expect(page.get_by_role("group", name="The walk is done")).to_be_visible()
        page.get_by_role("button", name="← back").click()
        expect(page.get_by_text("✓ done by Bram").first).to_be_visible()


class ByHand(LiveCase):
    def test_by_eye_until_nothing_rubs(self) -> None:
        job = self.job()
        page = self.open()
        self.begin(page, job, self.lump(job))
        expect(page.get_by_text("Told by eye: no chance is stated.")).to_be_visible()
        expect(page.get_by_text("not read")).to_have_count(3)
        expect(page.get_by_role("group", name=CARD)).to_be_focused()
        page.keyboard.press("Enter")
        look = page.get_by_role("group", name=LOOK)
        expect(look).to_be_focused()
        self.assertAccessible(page, "the look at the rim")
        # One under the other: what to do stands over its keys, on one line.
        asked = look.get_by_text("Look at the rim", exact=True).bounding_box()
        key = look.get_by_role("button", name="Nothing rubs").bounding_box()
        assert asked is not None
        assert key is not None
        self.assertLessEqual(asked["y"] + asked["height"], key["y"])
        self.assertLess(asked["height"], 60)
        look.get_by_role("button", name="It rubs …").click()
        page.get_by_label("From spoke").fill("R5")
        page.get_by_label("To spoke").fill("R7")
        page.get_by_label("Height, mm").fill("0,3")
        page.get_by_role("radio", name="to the left").click()
        page.get_by_role("button", name="Record the lump").click()
        expect(page.get_by_role("dialog")).to_have_count(0)
        expect(page.get_by_text("Last look: 0.3 mm to the left from R5 to R7")).to_be_visible()
        card = page.get_by_role("group", name=CARD)
        enough = page.get_by_text("Enough", exact=True)
        expect(card.or_(enough).first).to_be_visible()
        if card.count():
            page.keyboard.press("Enter")
            page.get_by_role("button", name="Nothing rubs").click()
        expect(enough).to_be_visible()
        expect(page.get_by_text("Too little was read of radial, dish, tension")).to_be_visible()

    def test_a_key_held_down_and_a_proxy_that_fails_turn_no_nipple_twice(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open()
        self.begin(page, job, made)
        self.expected_refusals = ("503",)
        failures = iter([True])

        def once(route: Route) -> None:
            if next(failures, False):
                # It had arrived: the proxy lost the answer.
                route.fetch()
                route.fulfill(status=503, body="upstream")
            else:
                route.continue_()

        page.route("**/live/turned", once)
        card = page.get_by_role("group", name=CARD)
        expect(card).to_be_focused()
        page.keyboard.down("Enter")
        for _ in range(4):
            page.keyboard.down("Enter")
        page.keyboard.up("Enter")
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_role("group", name=LOOK)).to_be_visible()
        self.assertEqual(PlanMove.objects.count(), 1)

    def test_one_that_will_not_turn_is_left_and_one_noted_by_mistake_is_taken_back(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open()
        self.begin(page, job, made)
        card = page.get_by_role("group", name=CARD)
        expect(card).to_be_focused()
        stuck = (card.get_attribute("aria-label") or "").split()[-1]
        page.keyboard.press("0")
        self.eventually(lambda: list(PlanMove.objects.values_list("spoke", "state")), [(stuck, "skipped")])
        # Nothing moved, so there is nothing to look at: the next one is there at once.
        expect(card).not_to_have_accessible_name(f"Next nipple: {stuck}")
        expect(card).to_be_focused()
        self.assertNotIn(stuck, page.locator("p", has_text=re.compile("^Then")).inner_text())
        page.keyboard.press("Enter")
        expect(page.get_by_role("group", name=LOOK)).to_be_focused()
        self.eventually(lambda: PlanMove.objects.filter(state="done").count(), 1)
        page.keyboard.press("Backspace")
        self.eventually(lambda: PlanMove.objects.filter(done_turns=0).count(), 2)

    def test_the_other_tablet_went_on_meanwhile(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page, other = self.open(), self.open("ines")
        self.begin(page, job, made)
        self.begin(other, job, made)
        self.assertEqual(page.url, other.url)
        expect(page.get_by_role("group", name=CARD)).to_be_focused()
        expect(other.get_by_role("group", name=CARD)).to_be_focused()
        page.keyboard.press("Enter")
        self.eventually(lambda: PlanMove.objects.count(), 1)
        self.expected_refusals = ("409",)
        other.keyboard.press("Enter")
        expect(other.get_by_text("Somebody went on with this wheel meanwhile")).to_be_visible()
        expect(other.get_by_text("1 turned,")).to_be_visible()
        self.assertEqual(PlanMove.objects.count(), 1)

    def test_on_a_phone(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(width=390, height=844, touch=True)
        self.begin(page, job, made)
        expect(page.get_by_role("group", name=CARD)).to_be_visible()
        asked = {"bench": 48, "letters": 12, "first": True}
        self.assertEqual(page.evaluate(MEASURE, asked), [])
        page.get_by_role("button", name="Turned").tap()
        expect(page.get_by_role("group", name=LOOK)).to_be_visible()
        self.assertEqual(page.evaluate(MEASURE, asked), [])
