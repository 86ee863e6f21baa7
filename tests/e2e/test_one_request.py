"""A reading on the strip: one press is one request, its answer draws the strip, and what waits goes together."""

from __future__ import annotations

import re
from collections.abc import Callable

from playwright.sync_api import Page, Route

from felloe.bench.models import Reading
from felloe.bench.services import readings
from tests.e2e.bench import BrowserCase, expect, figure

WATCH = """() => {
  window.drawn = 0;
  const strip = document.querySelector('section[aria-label="What the readings say so far"]');
  new MutationObserver(() => { window.drawn += 1; }).observe(
    strip, { subtree: true, childList: true, attributes: true, characterData: true });
}"""
SETTLED = "() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))"


class OneRequest(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.asked: list[str] = []
        self.hook = self.job()
        self.meter()
        self.fill(self.hook, "as_found", self.virtual())
        self.made = readings.open_set(self.bram, self.hook.pk, "after_pass")

    def bench(self) -> Page:
        page = self.open(at=f"jobs/{self.hook.pk}/readings/{self.made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        page.wait_for_load_state("networkidle")
        page.on("request", lambda request: self.note(request.method, request.url))
        return page

    def note(self, method: str, url: str) -> None:
        """What is asked of this set; the thin line behind it is of another."""
        if str(self.made.pk) in url:
            self.asked.append(f"{method} {url.rsplit('/', 1)[1]}")

    def hold(self, page: Page) -> Callable[[], None]:
        """The first request stays on its way until it is let go."""
        self.held: list[Route] = []
        through = False

        def on_its_way(route: Route) -> None:
            if through:
                route.continue_()
            else:
                self.held.append(route)

        def let_go() -> None:
            nonlocal through
            through = True
            for route in self.held:
                route.continue_()

        page.route("**/entries", on_its_way)
        return let_go

    def count(self) -> int:
        return Reading.objects.filter(reading_set=self.made).count()

    def press(self, page: Page, *figures: str) -> None:
        for shown in figures:
            page.keyboard.type(shown)
            page.keyboard.press("Enter")

    def test_one_press_is_one_request_and_draws_the_strip_twice_at_most(self) -> None:
        page = self.bench()
        page.evaluate(WATCH)
        with page.expect_response("**/entries") as answer:
            self.press(page, "27")
        said = answer.value.json()
        self.assertEqual((said["results"][0]["reading"]["spoke"], said["state"]["reading_count"]), ("R1", 1))
        self.eventually(lambda: page.get_by_text("on this tablet").count(), 0)
        expect(page.get_by_role("status").filter(has_text="1 of")).to_be_visible()
        page.evaluate(SETTLED)
        # The spoke in work goes on at once; the state is drawn when it is there.
        self.assertLessEqual(page.evaluate("window.drawn"), 2)
        self.assertEqual(self.asked, ["POST entries"])

    def test_what_is_typed_while_one_is_on_its_way_goes_together_and_the_last_state_is_shown(self) -> None:
        page = self.bench()
        let_go = self.hold(page)
        self.press(page, "27")
        self.eventually(lambda: (page.evaluate("0"), len(self.held))[1], 1)
        self.press(page, "26", "25", "26", "27", "26", "25")
        expect(figure(page, "tension of R8")).to_be_focused()
        let_go()
        self.eventually(self.count, 7)
        expect(page.get_by_role("status").filter(has_text="7 of")).to_be_visible()
        sent = [one for one in self.asked if one == "POST entries"]
        self.assertLessEqual(len(sent), 3, self.asked)
        self.assertEqual([one for one in self.asked if one.startswith("GET")], [])
        # What the last answer said stands on the strip: the seventh is read there, the eighth is thought.
        expect(page.get_by_role("radio", name=re.compile(r"^R7\b(?!.*estimated)"))).to_be_attached()
        expect(page.get_by_role("radio", name=re.compile(r"^R8\b.*estimated"))).to_be_attached()
        order = Reading.objects.filter(reading_set=self.made).order_by("created_at").values_list("spoke", flat=True)
        self.assertEqual(list(order), [f"R{n}" for n in range(1, 8)])

    def test_one_of_many_that_is_refused_stands_alone(self) -> None:
        page = self.bench()
        let_go = self.hold(page)
        self.press(page, "27")
        self.eventually(lambda: (page.evaluate("0"), len(self.held))[1], 1)
        self.press(page, "26", "99", "25")
        let_go()
        self.eventually(self.count, 3)
        expect(page.get_by_text(re.compile("1 entry refused"))).to_be_visible()
        self.assertEqual(set(Reading.objects.filter(reading_set=self.made).values_list("spoke", flat=True)), {"R1", "R2", "R4"})
