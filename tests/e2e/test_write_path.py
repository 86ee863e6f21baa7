"""The one way by which the page writes, walked against: lost answers, proxies, cookies, other people, full disks, kills."""

from __future__ import annotations

import os
import re
import shutil
import signal
import tempfile
from pathlib import Path
from typing import Any

from playwright.sync_api import Page

from felloe.bench.models import PlanMove, Reading
from felloe.bench.services import plans, readings
from felloe.condition.models import CheckAnswer
from felloe.core.stages import DONE
from felloe.queue.models import Job
from tests.browser import CHROMIUM, FLAGS, playwright, sign_in
from tests.e2e.bench import PASSWORD, BrowserCase, expect, figure

ANYTHING = ("Failed to load resource", "ERR_", "status of")


class WriteCase(BrowserCase):
    def bench(self, page: Page | None = None) -> tuple[Page, Any]:
        job = self.job()
        self.meter()
        made = readings.open_set(self.bram, job.pk, "as_found")
        page = page or self.open()
        self.to(page, f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        return page, made

    def type_readings(self, page: Page, *values: str) -> None:
        for value in values:
            page.keyboard.type(value)
            page.keyboard.press("Enter")

    def half_typed_when_refused(self, page: Page, first: str, second: str) -> None:
        """Enter a figure whose refusal comes while the next one is half typed: no question takes its digits."""
        with page.expect_response(lambda answer: answer.status == 403):
            self.type_readings(page, first)
            page.keyboard.type(second[0])
        expect(page.get_by_role("dialog")).to_have_count(0)
        page.keyboard.type(second[1:])

    def posts(self, page: Page, pattern: str, answer: Any) -> None:
        """Answer every write under `pattern` by `answer`; questions go through."""
        page.route(pattern, lambda route: route.continue_() if route.request.method == "GET" else answer(route))

    def waits(self, page: Page, count: int) -> None:
        expect(page.get_by_text(re.compile(rf"\b{count} (entry waits|entries wait) on this tablet"))).to_be_visible()

    def nothing_waits(self, page: Page) -> None:
        expect(page.get_by_text("on this tablet")).to_have_count(0)


class LostAnswers(WriteCase):
    def taking_in(self, page: Page, lost: int) -> None:
        """Fill the form and press, while so many answers get lost on their way back."""
        left = {"lost": lost}

        def swallow(route: Any) -> None:
            if left["lost"]:
                left["lost"] -= 1
                route.fetch()
                route.abort()
            else:
                route.continue_()

        self.posts(page, "**/api/v1/jobs", swallow)
        self.to(page, "take-in")
        page.get_by_label("Customer", exact=True).fill("Wen Loveday")
        page.get_by_label("Which bike").fill("Harbour tourer")
        page.get_by_label("Starts as").select_option("rim-brake-rear-36")
        page.get_by_label("What is wrong, in the customer's words").fill("rubs")
        page.get_by_role("button", name="Open the job").click()

    def test_a_job_is_opened_once_however_often_it_is_pressed(self) -> None:
        self.expected_refusals = ANYTHING
        page = self.open()
        self.taking_in(page, 6)
        expect(page.get_by_text("may or may not have arrived")).to_be_visible()
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_text("may or may not have arrived")).to_be_visible()
        page.get_by_role("button", name="Open the job").click()
        page.wait_for_url("**/jobs/*")
        self.assertEqual(Job.objects.count(), 1)

    def test_a_press_mended_after_a_lost_answer_opens_no_second_job(self) -> None:
        self.expected_refusals = ANYTHING
        page = self.open()
        self.taking_in(page, 3)
        expect(page.get_by_text("may or may not have arrived")).to_be_visible()
        page.get_by_label("What is wrong, in the customer's words").fill("rubs and clicks")
        page.get_by_role("button", name="Open the job").click()
        expect(page.get_by_text("What you sent first did arrive and is saved")).to_be_visible()
        self.assertEqual(Job.objects.count(), 1)


class InBetween(WriteCase):
    def test_no_answer_of_a_proxy_costs_a_reading(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        said: list[int] = []

        def no(route: Any) -> None:
            statuses = [400, 403, 404, 408, 413, 429, 502, 200]
            status = statuses[min(len(said), len(statuses) - 1)]
            said.append(status)
            route.fulfill(status=status, content_type="text/html", body="<html>no</html>")

        self.posts(page, "**/entries", no)
        self.type_readings(page, "27")
        self.waits(page, 1)
        while len(said) < 9:
            page.get_by_text("on this tablet").click()
            page.get_by_role("button", name="Send now").click()
            page.wait_for_timeout(50)
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertEqual(Reading.objects.count(), 0)
        page.unroute("**/entries")
        self.eventually(Reading.objects.filter(reading_set=made).count, 1, 25)
        self.nothing_waits(page)

    def test_a_lost_cookie_is_fetched_anew(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        page.context.clear_cookies(name="csrftoken")
        self.type_readings(page, "27", "28")
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)
        self.nothing_waits(page)

    def test_one_that_always_meets_a_fault_holds_up_no_other(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        fault = '{"type": "urn:felloe:problem:server_fault", "title": "server fault", "status": 500, "detail": "x"}'

        def of_r1(route: Any) -> None:
            if '"spoke":"R1"' in (route.request.post_data or ""):
                route.fulfill(status=500, content_type="application/problem+json", body=fault)
            else:
                route.continue_()

        self.posts(page, "**/entries", of_r1)
        self.type_readings(page, "27", "28", "29")
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)
        self.waits(page, 1)
        page.unroute("**/entries")
        self.eventually(Reading.objects.filter(reading_set=made).count, 3, 25)

    def test_a_job_handed_back_meanwhile_refuses_and_the_reading_stays_until_it_is_dropped(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        Job.objects.filter(pk=made.job_id).update(stage=DONE, handed_back_at=made.created_at, ended_as="repaired")
        self.type_readings(page, "27")
        expect(page.get_by_text("1 entry refused")).to_be_visible()
        page.reload()
        expect(page.get_by_text("1 entry refused")).to_be_visible()
        page.get_by_text("1 entry refused").click()
        dialog = page.get_by_role("dialog")
        expect(dialog).to_contain_text("R1 tension 27")
        expect(dialog).to_contain_text("handed back")
        self.assertAccessible(page, "the list of what waits")
        dialog.get_by_role("button", name="Drop it").click()
        expect(page.get_by_text("refused")).to_have_count(0)
        self.assertEqual(Reading.objects.count(), 0)


class SameTablet(WriteCase):
    def test_nothing_is_stored_in_the_name_of_who_signed_in_since(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        self.type_readings(page, "27")
        self.eventually(Reading.objects.count, 1)
        other = page.context.new_page()
        other.goto(self.live_server_url)
        other.get_by_role("button", name="Bram: settings").click()
        other.get_by_role("menuitem", name="Sign out").click()
        other.get_by_label("Name").fill("ines")
        other.get_by_label("Password").fill(PASSWORD)
        other.keyboard.press("Enter")
        other.get_by_role("button", name="Ines: settings").wait_for()
        page.bring_to_front()
        # The refusal comes while the next figure is half typed: the question waits for it, and takes none of its digits.
        self.half_typed_when_refused(page, "28", "29")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Ines is signed in on this tablet now")).to_be_visible()
        self.assertEqual(Reading.objects.count(), 1)
        expect(other.get_by_text("of others")).to_be_visible()
        other.close()
        page.get_by_label("Password").fill(PASSWORD)
        page.keyboard.press("Enter")
        self.eventually(Reading.objects.filter(reading_set=made, created_by=self.bram).count, 3 if made else 0)
        self.assertEqual(Reading.objects.exclude(created_by=self.bram).count(), 0)
        expect(page.get_by_role("dialog")).to_have_count(0)

    def test_a_session_that_ends_is_taken_up_in_place_with_nothing_lost(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        page.context.clear_cookies(name="sessionid")
        self.half_typed_when_refused(page, "27", "28")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Your session is over")).to_be_visible()
        address = page.url
        page.get_by_label("Password").fill("wrong")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("do not go together")
        page.get_by_label("Password").fill(PASSWORD)
        page.keyboard.press("Enter")
        expect(page.get_by_role("dialog")).to_have_count(0)
        self.assertEqual(page.url, address)
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)
        expect(page.get_by_label(re.compile("^tension of R3$"))).to_be_visible()

    def test_a_queue_left_by_a_closed_tab_is_sent_by_any_other(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        self.posts(page, "**/entries", lambda route: route.abort())
        self.type_readings(page, "27", "28", "29")
        self.waits(page, 3)
        other = page.context.new_page()
        page.close()
        other.goto(f"{self.live_server_url}/stock")
        self.eventually(Reading.objects.filter(reading_set=made).count, 3)
        self.assertEqual(set(Reading.objects.values_list("revision", flat=True)), {1})

    def test_two_tabs_share_one_queue(self) -> None:
        self.expected_refusals = ANYTHING
        page, made = self.bench()
        other = page.context.new_page()
        other.goto(page.url)
        expect(figure(other, "tension of R1")).to_be_focused()
        page.bring_to_front()
        self.type_readings(page, "27", "28")
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)
        expect(other.get_by_text(re.compile("^2 of 20 tension"))).to_be_visible()
        self.assertEqual(set(Reading.objects.values_list("revision", flat=True)), {1})


class TheTabletsDisk(WriteCase):
    def test_a_full_storage_is_said_and_stops_nothing(self) -> None:
        self.expected_refusals = ANYTHING
        page = self.open()
        page.add_init_script("IDBObjectStore.prototype.add = () => { throw new DOMException('full', 'QuotaExceededError'); }")
        page, made = self.bench(page)
        self.posts(page, "**/entries", lambda route: route.abort())
        self.type_readings(page, "27")
        expect(page.get_by_text("storage full: keep this page open")).to_be_visible()
        page.unroute("**/entries")
        self.eventually(Reading.objects.filter(reading_set=made).count, 1, 25)
        self.nothing_waits(page)

    def test_a_browser_that_is_killed_loses_no_entry_that_it_showed_as_kept(self) -> None:
        job = self.job()
        self.meter()
        made = readings.open_set(self.bram, job.pk, "as_found")
        home = tempfile.mkdtemp(prefix="felloe-kill-")
        self.addCleanup(shutil.rmtree, home, True)
        address = f"{self.live_server_url}/jobs/{job.pk}/readings/{made.pk}"

        def start() -> tuple[Any, Page]:
            context = playwright().chromium.launch_persistent_context(
                home, executable_path=CHROMIUM, headless=True, args=FLAGS, locale="en-GB", timezone_id="UTC"
            )
            return context, context.pages[0]

        context, page = start()
        for part in range(4):
            page.route("**/entries", lambda r: r.continue_() if r.request.method == "GET" else r.abort())
            page.goto(address)
            first = 5 * part + 1
            # A browser that is killed may have forgotten who was signed in; what was entered stands on the disk all the same.
            page.get_by_label("Password").or_(figure(page, f"tension of {self.name(first)}")).wait_for()
            if page.get_by_label("Password").is_visible():
                page.get_by_label("Name").fill("bram")
                page.get_by_label("Password").fill(PASSWORD)
                page.keyboard.press("Enter")
            expect(figure(page, f"tension of {self.name(first)}")).to_be_focused()
            self.type_readings(page, *[str(20 + part)] * 5)
            self.waits(page, 5 * (part + 1))
            expect(page.get_by_text("only in this page")).to_have_count(0)
            self.kept(page, 5 * (part + 1))
            kill_browser(home)
            context, page = start()
        page.goto(f"{self.live_server_url}/stock")
        # This one too may remember the session or not; either way what waited is sent.
        page.get_by_label("Password").or_(page.get_by_role("link", name="The rail")).wait_for()
        if page.get_by_label("Password").is_visible():
            sign_in(page, f"{self.live_server_url}/stock", "bram", PASSWORD)
        self.eventually(Reading.objects.filter(reading_set=made, revision=1).count, 20, 30)
        context.close()

    def name(self, place: int) -> str:
        """The first places of a small front wheel, right side before left."""
        return f"R{place}" if place <= 10 else f"L{place - 10}"

    def kept(self, page: Page, count: int) -> None:
        """Until the disk itself says that it has them."""
        page.wait_for_function(
            """async (count) => new Promise((done) => {
                const open = indexedDB.open("felloe");
                open.onsuccess = () => {
                    const all = open.result.transaction("entries").objectStore("entries").count();
                    all.onsuccess = () => { open.result.close(); done(all.result === count); };
                };
            })""",
            arg=count,
        )


def kill_browser(home: str) -> None:
    """kill -9 for every process of the browser that lives in `home`."""
    for entry in Path("/proc").iterdir():
        if not entry.name.isdigit():
            continue
        try:
            command = (entry / "cmdline").read_bytes()
        except OSError:
            continue
        if home.encode() in command:
            os.kill(int(entry.name), signal.SIGKILL)


class AtTheBench(WriteCase):
    def test_ticks_made_offline_are_there_afterwards_and_are_written_once(self) -> None:
        self.expected_refusals = ANYTHING
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        plan = plans.add_plan(self.bram, made.pk, {})
        page = self.open(at=f"jobs/{job.pk}/plan/{plan.pk}")
        moves = plans.moves_of(plan)
        card = page.get_by_role("group", name=re.compile("^Nipple 1 of"))
        expect(card).to_be_focused()
        self.posts(page, "**/moves/*", lambda route: route.abort())
        for n in (1, 2, 3):
            page.get_by_role("group", name=re.compile(f"^Nipple {n} of")).wait_for()
            page.keyboard.press("Enter")
        expect(page.get_by_text("3 not sent yet")).to_be_visible()
        page.reload()
        expect(page.get_by_role("group", name=re.compile("^Nipple 4 of"))).to_be_visible()
        expect(page.get_by_text("3 not sent yet")).to_be_visible()
        self.assertEqual(PlanMove.objects.exclude(state="todo").count(), 0)
        page.unroute("**/moves/*")
        self.eventually(PlanMove.objects.filter(state="done").count, 3, 25)
        done = set(PlanMove.objects.filter(state="done").values_list("spoke", flat=True))
        self.assertEqual(done, {m.spoke for m in moves[:3]})

    def test_a_refused_tick_does_not_count_as_done(self) -> None:
        self.expected_refusals = ANYTHING
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        plan = plans.add_plan(self.bram, made.pk, {})
        page = self.open(at=f"jobs/{job.pk}/plan/{plan.pk}")
        expect(page.get_by_role("group", name=re.compile("^Nipple 1 of"))).to_be_focused()
        Job.objects.filter(pk=job.pk).update(stage=DONE, handed_back_at=made.created_at, ended_as="repaired")
        page.keyboard.press("Enter")
        expect(page.get_by_text("1 entry refused")).to_be_visible()
        expect(page.get_by_text(re.compile("^0 of "))).to_be_visible()
        page.reload()
        expect(page.get_by_text(re.compile("^0 of "))).to_be_visible()
        expect(page.get_by_role("alert")).to_contain_text("handed back")

    def test_a_key_held_down_answers_one_question(self) -> None:
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/checks")
        page.get_by_role("region", name="The next check").wait_for()
        for _ in range(8):
            page.keyboard.down("1")
        page.keyboard.up("1")
        self.eventually(CheckAnswer.objects.count, 1)
        expect(page.get_by_role("region", name="Answered")).to_be_visible()
        expect(page.get_by_role("region", name="The next check")).to_be_visible()
        self.assertEqual(CheckAnswer.objects.count(), 1)

    def test_a_key_held_down_records_one_reading(self) -> None:
        page, made = self.bench()
        page.keyboard.type("27")
        for _ in range(6):
            page.keyboard.down("Enter")
        page.keyboard.up("Enter")
        self.eventually(Reading.objects.filter(reading_set=made).count, 1)
        expect(figure(page, "tension of R2")).to_be_focused()

    def test_an_answer_given_offline_is_kept_and_asks_nothing_twice(self) -> None:
        self.expected_refusals = ANYTHING
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/checks")
        page.get_by_role("region", name="The next check").wait_for()
        self.posts(page, "**/diagnosis/answers", lambda route: route.abort())
        page.keyboard.press("1")
        expect(page.get_by_text("The answer is kept on this tablet.")).to_be_visible()
        page.keyboard.press("1")
        page.reload()
        expect(page.get_by_text("The answer is kept on this tablet.")).to_be_visible()
        page.unroute("**/diagnosis/answers")
        self.eventually(CheckAnswer.objects.count, 1, 25)
        expect(page.get_by_role("region", name="The next check")).to_be_visible()
