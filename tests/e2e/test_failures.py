"""Every way in which a question can fail: said, with what to do, and nobody is thrown off the bench."""

from __future__ import annotations

import re
from typing import Any

from felloe.bench.services import readings
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect, figure

ANYTHING = ("Failed to load resource", "ERR_", "status of")


def problem(status: int, code: str) -> dict[str, Any]:
    body = f'{{"type": "urn:felloe:problem:{code}", "title": "x", "status": {status}, "detail": "It says {code}."}}'
    return {"status": status, "content_type": "application/problem+json", "body": body}


def answering(answer: dict[str, Any]) -> Any:
    return lambda route: route.fulfill(**answer)


class FailedQuestions(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.expected_refusals = ANYTHING

    def test_each_failure_says_what_happened_and_what_to_do(self) -> None:
        job = self.job()
        page = self.open()
        said = [
            (problem(404, "not_found"), "There is nothing here", False),
            (problem(403, "not_permitted"), "You may not see this", False),
            (problem(409, "job_done"), "This has changed meanwhile", True),
            (problem(422, "too_few"), "This cannot be worked out yet", True),
            (problem(500, "server_fault"), "Felloe had a fault of its own", True),
            ({"status": 502, "content_type": "text/html", "body": "no"}, "Something in between answered", True),
        ]
        for answer, title, again in said:
            page.route("**/diagnosis", answering(answer))
            self.to(page, f"jobs/{job.pk}/checks")
            expect(page.get_by_role("alert")).to_contain_text(title)
            expect(page.get_by_role("button", name="Try again")).to_have_count(1 if again else 0)
            expect(page.get_by_role("main").get_by_role("link", name="The rail")).to_be_visible()
            page.unroute("**/diagnosis")
        self.assertAccessible(page, "a question that failed")
        page.get_by_role("button", name="Try again").click()
        expect(page.get_by_role("region", name="The next check")).to_be_visible()

    def test_a_server_that_is_away_is_said_on_every_screen(self) -> None:
        job = self.job()
        page = self.open()
        job_screens = ["", "parts", "checks", "condition", "decide", "spokes", "strip", "lacing", "replace", "refit", "tag"]
        for path in [*[f"jobs/{job.pk}/{part}".rstrip("/") for part in job_screens], "stock", "instruments", "prices", ""]:
            page.route("**/api/v1/**", self.all_but_session)
            self.to(page, path)
            with self.subTest(path):
                expect(page.get_by_role("alert").first).to_contain_text("The server cannot be reached")
            page.unroute("**/api/v1/**")

    def all_but_session(self, route: Any) -> None:
        if route.request.url.endswith("/session"):
            route.continue_()
        else:
            route.abort()

    def test_a_slow_answer_is_said_to_be_slow(self) -> None:
        page = self.open()
        page.route("**/api/v1/stock", lambda route: None)
        page.clock.install()
        self.to(page, "stock")
        expect(page.get_by_text("Fetching the stock")).to_be_visible()
        page.clock.run_for(9_000)
        expect(page.get_by_text("This takes longer than it should")).to_be_visible()
        expect(page.get_by_role("button", name="Ask again")).to_be_visible()

    def test_a_failed_look_at_the_session_leaves_the_mechanic_at_the_bench(self) -> None:
        job = self.job()
        self.meter()
        made = readings.open_set(self.bram, job.pk, "as_found")
        page = self.open(at=f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        asked: list[str] = []

        def ill(route: Any) -> None:
            asked.append(route.request.url)
            route.fulfill(status=503, content_type="text/html", body="no")

        page.route("**/api/v1/**", ill)
        # Coming back to a tab asks anew; five seconds later everything is stale.
        page.clock.install()
        page.clock.run_for(60_000)
        page.evaluate("window.dispatchEvent(new Event('visibilitychange'))")
        self.eventually(lambda: any(url.endswith("/session") for url in asked), True)
        expect(figure(page, "tension of R1")).to_be_visible()
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_fault_in_drawing_ends_one_screen_and_nothing_else(self) -> None:
        self.expected_refusals = (*ANYTHING, "could not be drawn", "undefined", "TypeError", "The above error")
        page = self.open()
        page.route("**/api/v1/stock", lambda route: route.fulfill(status=200, json={"parts": [{}]}))
        self.to(page, "stock")
        expect(page.get_by_role("alert")).to_contain_text("This could not be shown")
        page.get_by_role("banner").get_by_role("link", name="The rail").click()
        expect(page.get_by_role("heading", name=re.compile("rail", re.I)).first).to_be_visible()


class Apprentice(BrowserCase):
    def test_measures_and_works_plans_and_signs_nothing_off(self) -> None:
        person(self.shop, "wyn", "apprentice")
        job = self.job()
        self.fill(job, "as_left", self.virtual())
        page = self.open("wyn")
        page.get_by_role("link", name="Stock").wait_for()
        expect(page.get_by_role("link", name="Take in", exact=True)).to_have_count(0)
        self.to(page, f"jobs/{job.pk}/sign-off")
        expect(page.get_by_text("A mechanic or the owner signs off.")).to_be_visible()
        expect(page.get_by_role("button", name="Sign off")).to_be_disabled()
