"""The rail is asked for ahead of the scripts: once, in the page's language, and never in the way of what goes wrong."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from pathlib import Path
from urllib.parse import urlsplit

from playwright.sync_api import Page, Route, expect

from felloe.queue import services as queue
from felloe.queue.services.jobs import EVENTS_A_PAGE
from tests.api.shop import SMALL_KIND, open_job
from tests.e2e.bench import PASSWORD, BrowserCase

AHEAD = ("session", "rail", "trade")


class FirstLoad(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.made = self.job()

    def counted(self, page: Page) -> Counter[str]:
        asked: Counter[str] = Counter()
        page.on("request", lambda one: asked.update([one.url.rsplit("/api/v1/", 1)[-1]]))
        return asked

    def on_the_rail(self, page: Page) -> None:
        page.locator(f"a[href^='/jobs/{self.made.pk}']").first.wait_for()

    def test_each_is_asked_once_and_taken_from_there(self) -> None:
        page = self.open()
        # The tablet keeps nothing of before: no answer can come from there.
        page.evaluate("indexedDB.deleteDatabase('felloe-carried')")
        asked = self.counted(page)
        page.reload()
        self.on_the_rail(page)
        self.assertEqual({name: asked[name] for name in AHEAD}, dict.fromkeys(AHEAD, 1))
        self.assertTrue(page.evaluate("Object.keys(window.felloeAhead).length === 0"))

    def test_it_is_three_scripts_and_a_cut_of_each_typeface(self) -> None:
        """A letter of other languages brings its own, only where one is shown."""
        page = self.open()
        # What the screen before still asks for is none of it.
        page.goto("about:blank")
        files: Counter[str] = Counter()
        page.on("request", lambda one: files.update([re.sub(r"-.*(?=\.)", "", Path(urlsplit(one.url).path).name)]))
        self.to(page, "")
        self.on_the_rail(page)
        page.evaluate("document.fonts.ready")
        drawn = ("ahead.js", "index.js", "rail.js", "index.css", "words.woff2", "figures.woff2")
        self.assertEqual({name: files[name] for name in drawn}, dict.fromkeys(drawn, 1))
        self.assertEqual([name for name in files if name.endswith((".js", ".css", ".woff2")) and name not in drawn], [])
        other = open_job(self.bram, SMALL_KIND, customer={"name": "Bjørn Invented"})
        with page.expect_request("**/atkinson-hyperlegible-next-latin-wght*.woff2"):
            self.to(page, f"jobs/{other.pk}")
        expect(page.get_by_text("Bjørn Invented").first).to_be_visible()

    def test_many_wheels_hang_there_all(self) -> None:
        """The first screenful is drawn first, the others after it: none is left out."""
        for _ in range(55):
            open_job(self.bram, SMALL_KIND)
        page = self.open()
        expect(page.locator("[data-hung]")).to_have_count(56)
        page.reload()
        expect(page.locator("[data-hung]")).to_have_count(56)

    def test_another_screen_asks_for_no_rail_ahead(self) -> None:
        page = self.open(at=f"jobs/{self.made.pk}")
        self.assertIsNone(page.evaluate("window.felloeAhead ?? null"))

    def test_in_the_language_that_was_chosen_here_and_in_the_addresss(self) -> None:
        page = self.open()
        page.evaluate("localStorage.setItem('felloe.language', 'de')")
        asked = self.counted(page)
        page.reload()
        self.on_the_rail(page)
        expect(page.get_by_role("link", name="Annahme", exact=True)).to_be_visible()
        self.assertEqual(asked["rail"], 1)
        # An address that says another language is not answered by what was asked ahead in the kept one.
        self.to(page, "?language=en")
        self.on_the_rail(page)
        expect(page.get_by_role("link", name="Take in", exact=True)).to_be_visible()

    def test_a_long_menu_is_reached_to_its_end(self) -> None:
        self.expected_refusals = ("Failed to load resource",)
        page = self.open()
        page.set_viewport_size({"width": 1024, "height": 500})
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_label("Password", exact=True)).to_be_visible()

    def test_what_went_wrong_ahead_is_asked_again(self) -> None:
        """The net fails once, then a gateway answers, then something that is no JSON comes with 200."""
        self.expected_refusals = ("Failed to load resource",)
        page = self.open()
        failures: list[Callable[[Route], None]] = [
            lambda route: route.abort(),
            lambda route: route.fulfill(status=502, body="<h1>Bad gateway</h1>", content_type="text/html"),
            lambda route: route.fulfill(status=200, body="<h1>Sign in to the net</h1>", content_type="text/html"),
        ]
        for fails in failures:
            for name in AHEAD[:2]:
                # The first is the one ahead; what is asked after it gets through.
                page.route(f"**/api/v1/{name}", fails, times=1)
                page.reload()
                self.on_the_rail(page)

    def menu_slow(self, page: Page) -> None:
        """What opens a menu comes only once somebody is near it, and then after a while."""
        page.reload()
        self.on_the_rail(page)
        page.route("**/OpenMenu-*.js", lambda route: (page.wait_for_timeout(300), route.continue_()))

    def test_a_menu_pressed_before_it_is_there_opens_when_it_is(self) -> None:
        page = self.open()
        self.menu_slow(page)
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Words of the job").click()
        expect(page).to_have_url(re.compile("/words$"))

    def test_whoever_types_on_has_changed_his_mind(self) -> None:
        """Pressed, and another key before it came: it stays closed when it comes, and takes no key from anybody."""
        page = self.open()
        button = page.get_by_role("button", name="Bram: settings")
        for key in ("Escape", "2"):
            for ask in (button.click, lambda: button.press("Enter")):
                with self.subTest(key=key):
                    self.menu_slow(page)
                    with page.expect_response("**/OpenMenu-*.js"):
                        ask()
                        page.keyboard.press(key)
                    expect(page.locator("button[data-state]", has_text="Bram")).to_have_attribute("data-state", "closed")
                    expect(page.get_by_role("menu")).to_have_count(0)

    def test_by_keys_it_opens_at_its_first_entry_and_gives_the_focus_back(self) -> None:
        page = self.open()
        self.menu_slow(page)
        page.get_by_role("button", name="Bram: settings").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_role("menuitem").first).to_be_focused()
        page.keyboard.press("ArrowDown")
        expect(page.get_by_role("menuitem").nth(1)).to_be_focused()
        page.keyboard.press("Escape")
        expect(page.get_by_role("button", name="Bram: settings")).to_be_focused()

    def test_the_focus_stays_on_its_button_when_it_comes(self) -> None:
        page = self.open()
        self.menu_slow(page)
        page.get_by_role("button", name="Bram: settings").focus()
        with page.expect_response("**/OpenMenu-*.js"):
            pass
        expect(page.locator("button[data-state=closed]:focus")).to_have_accessible_name("Bram: settings")

    def test_one_that_could_not_come_comes_at_the_next_press(self) -> None:
        self.expected_refusals = ("Failed to load resource",)
        page = self.open()
        page.reload()
        self.on_the_rail(page)
        page.route("**/OpenMenu-*.js", lambda route: route.abort(), times=1)
        button = page.get_by_role("button", name="Bram: settings")
        with page.expect_event("requestfailed"):
            button.hover()
        button.click()
        expect(page.get_by_role("menuitem", name="Words of the job")).to_be_visible()

    def test_who_is_no_longer_signed_in_signs_in_and_sees_the_rail(self) -> None:
        self.expected_refusals = ("Failed to load resource",)
        page = self.open()
        held = page.context.cookies()
        page.context.clear_cookies(name="sessionid")
        page.context.add_cookies([{**one, "value": "over"} for one in held if one["name"] == "sessionid"])  # type: ignore[typeddict-item]
        page.reload()
        page.get_by_label("Name", exact=True).fill("bram")
        page.get_by_label("Password", exact=True).fill(PASSWORD)
        page.keyboard.press("Enter")
        self.on_the_rail(page)


class LongHistory(BrowserCase):
    def test_what_came_before_is_shown_when_it_is_asked_for(self) -> None:
        job = self.job()
        for i in range(EVENTS_A_PAGE + 3):
            queue.log(job, self.bram, "changed", f"note {i}")
        page = self.open(at=f"jobs/{job.pk}")
        history = page.get_by_role("region", name="History")
        lines = history.get_by_role("listitem")
        expect(history.get_by_text("note 4", exact=True)).to_be_visible()
        expect(history.get_by_text("Taken in")).to_have_count(0)
        more = history.get_by_role("button", name="Show what came before")
        more.press("Enter")
        expect(history.get_by_text("Taken in")).to_be_visible()
        expect(more).to_have_count(0)
        expect(lines).to_have_count(EVENTS_A_PAGE + 4)
