"""Off the net: the application opens from the tablet, the bench goes on, and all of it goes out once when the net is back."""

from __future__ import annotations

import re
from typing import Any

from django.contrib.sessions.models import Session
from django.utils import timezone
from playwright.sync_api import Page

from felloe.bench.models import PlanMove, Reading, ReadingSet
from felloe.bench.services import plans, readings
from felloe.building.models import LacingProgress
from felloe.queue.models import Job
from tests.e2e.bench import BrowserCase, expect, figure

READY = """async () => {
  await navigator.serviceWorker.ready;
  for (let i = 0; i < 600 && !navigator.serviceWorker.controller; i++) await new Promise((done) => setTimeout(done, 50));
}"""
CARRIED = """() => new Promise((done) => {
  const open = indexedDB.open("felloe-carried");
  open.onerror = () => done([]);
  open.onsuccess = () => {
    const db = open.result;
    if (!db.objectStoreNames.contains("client")) { db.close(); return done([]); }
    const get = db.transaction("client").objectStore("client").get("client");
    get.onsuccess = () => { db.close(); done((get.result?.clientState.queries ?? []).map((q) => q.queryKey.join(" "))); };
    get.onerror = () => { db.close(); done([]); };
  };
})"""


class OffTheNet(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.expected_refusals = ("ERR_INTERNET_DISCONNECTED", "ERR_FAILED", "Failed to fetch", "FetchEvent", "403")
        self.hook = self.job()
        self.meter()
        full = self.fill(self.hook, "as_found", self.virtual())
        self.plan = plans.add_plan(self.bram, full.pk, {})
        # Everything the bench's screens of this wheel ask for; a plan is drawn over the set it was made from.
        self.all_of_it = (f"plan {self.plan.pk}", f"job {self.hook.pk} lacing", f"set {full.pk} state")
        self.made = readings.open_set(self.bram, self.hook.pk, "after_pass")
        self.reads = f"jobs/{self.hook.pk}/readings/{self.made.pk}"
        self.turns = f"jobs/{self.hook.pk}/plan/{self.plan.pk}"

    def kept(self, **more: Any) -> Page:
        """A tablet on which the application is kept."""
        page = self.open(kept=True, **more)
        page.evaluate(READY)
        self.assertTrue(page.evaluate("navigator.serviceWorker.controller !== null"))
        return page

    def carries(self, page: Page, *wanted: str) -> None:
        """Until the tablet's disk has these answers."""
        for key in wanted:
            self.eventually(lambda key=key: any(found.startswith(key) for found in page.evaluate(CARRIED)), True)

    def test_reading_ticking_and_lacing_go_on_and_go_out_once(self) -> None:
        page = self.kept()
        self.to(page, self.reads)
        figure(page, "tension of R1").wait_for()
        self.to(page, self.turns)
        page.get_by_role("group", name="Nipple 1 of").wait_for()
        self.to(page, f"jobs/{self.hook.pk}/lacing")
        page.get_by_role("button", name="R1 is in").wait_for()
        self.carries(page, "session", f"set {self.made.pk} state", *self.all_of_it)

        page.context.set_offline(True)
        # The lid is closed, and the page is opened anew.
        page.reload()
        page.get_by_role("button", name="R1 is in").click()
        self.to(page, self.reads)
        expect(figure(page, "tension of R1")).to_be_focused()
        page.keyboard.type("21")
        page.keyboard.press("Enter")
        expect(figure(page, "tension of R2")).to_be_focused()
        page.keyboard.type("22")
        page.keyboard.press("Enter")
        # The place in the lacing and both readings: only then the page is left.
        expect(page.get_by_text(re.compile(r"\b3 entries wait on this tablet"))).to_be_visible()
        self.to(page, self.turns)
        expect(page.get_by_role("group", name="Nipple 1 of")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.get_by_role("group", name="Nipple 2 of")).to_be_focused()
        expect(page.get_by_text("Server not reached").or_(page.get_by_text("offline")).first).to_be_attached()
        self.assertEqual(Reading.objects.filter(reading_set=self.made).count(), 0)
        page.reload()
        # What was done is shown as done though nobody has heard of it.
        expect(page.get_by_role("group", name="Nipple 2 of")).to_be_focused()
        self.to(page, f"jobs/{self.hook.pk}/state/{self.made.pk}")
        expect(page.get_by_role("main").or_(page.get_by_role("alert")).first).to_be_visible()

        page.context.set_offline(False)
        self.eventually(lambda: Reading.objects.filter(reading_set=self.made).count(), 2)
        self.eventually(lambda: PlanMove.objects.filter(plan=self.plan).exclude(state="todo").count(), 1)
        self.eventually(lambda: [one.placed for one in LacingProgress.objects.filter(job=self.hook)], [1])
        values = Reading.objects.filter(reading_set=self.made).order_by("created_at").values_list("spoke", "revision")
        self.assertEqual(list(values), [("R1", 1), ("R2", 1)])

    def test_what_another_tablet_did_meanwhile_is_shown_beside_it(self) -> None:
        page = self.kept(at=self.turns)
        page.get_by_role("group", name="Nipple 1 of").wait_for()
        self.carries(page, "session", *self.all_of_it[::2])
        page.context.set_offline(True)
        page.keyboard.press("Enter")
        expect(page.get_by_role("group", name="Nipple 2 of")).to_be_focused()
        first = self.plan.moves.get(place=1)
        plans.mark_move(self.ines, self.plan.pk, first.spoke, "done", None)
        page.reload()
        expect(page.get_by_role("group", name="Nipple 2 of")).to_be_focused()
        page.context.set_offline(False)
        self.expected_refusals = (*self.expected_refusals, "409")
        # Asked, not decided: whose turn it was.
        expect(page.get_by_role("group", name="Nipple 1 of")).to_be_visible()
        expect(page.get_by_text("Ines").first).to_be_visible()
        first.refresh_from_db()
        self.assertEqual((first.state, first.done_by), ("done", self.ines))

    def test_a_closed_tab_opens_again_without_the_net(self) -> None:
        page = self.kept(at=self.reads)
        figure(page, "tension of R1").wait_for()
        self.carries(page, "session", f"job {self.hook.pk}", f"set {self.made.pk}")
        context = page.context
        context.set_offline(True)
        other = context.new_page()
        page.close()
        self.to(other, self.reads)
        expect(figure(other, "tension of R1")).to_be_focused()
        other.close()

    def test_wheels_of_the_bench_are_taken_along_unopened(self) -> None:
        page = self.kept()
        self.carries(page, f"set {self.made.pk} state", *self.all_of_it)
        page.context.set_offline(True)
        self.to(page, self.turns)
        expect(page.get_by_role("group", name="Nipple 1 of")).to_be_focused()

    def test_nothing_stays_for_the_next_person(self) -> None:
        page = self.kept(at=f"jobs/{self.hook.pk}")
        page.get_by_text("Invented Customer").first.wait_for()
        self.carries(page, "session", f"job {self.hook.pk}")
        # The session ends elsewhere: the page opened anew shows nobody's wheels.
        Session.objects.all().delete()
        page.reload()
        expect(page.get_by_label("Password")).to_be_visible()
        expect(page.get_by_text("Invented Customer")).to_have_count(0)
        page.get_by_label("Name").fill("bram")
        page.get_by_label("Password").fill("a long password")
        page.keyboard.press("Enter")
        page.get_by_text("Invented Customer").first.wait_for()
        self.carries(page, f"job {self.hook.pk}")
        # Signed out: the disk holds nothing, and off the net nobody is let in.
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Sign out").click()
        expect(page.get_by_label("Password")).to_be_visible()
        self.assertFalse([key for key in page.evaluate(CARRIED) if key.startswith(("session", "job"))])
        page.context.set_offline(True)
        page.reload()
        expect(page.get_by_text("The server cannot be reached")).to_be_visible()
        expect(page.get_by_text("Invented Customer")).to_have_count(0)

    def at_the_bench(self) -> Page:
        """The plan, on a tablet that read this wheel before."""
        page = self.kept(at=self.reads)
        figure(page, "tension of R1").wait_for()
        self.to(page, self.turns)
        page.get_by_role("group", name="Nipple 1 of").wait_for()
        self.carries(page, "session", f"plan {self.plan.pk}", f"job {self.hook.pk}", f"job {self.hook.pk} sets", "instruments")
        return page

    def test_a_set_is_begun_off_the_net_and_its_readings_follow_it(self) -> None:
        page = self.at_the_bench()
        page.context.set_offline(True)
        page.get_by_role("button", name="Measure again").click()
        expect(page.get_by_role("heading", name="After a pass, set 3")).to_be_visible()
        expect(figure(page, "tension of R1")).to_be_focused()
        for value, name in (("21", "R2"), ("22", "R3")):
            page.keyboard.type(value)
            page.keyboard.press("Enter")
            expect(figure(page, f"tension of {name}")).to_be_focused()
        self.carries(page, f"set {page.url.rsplit('/', 1)[1]}")
        page.reload()
        expect(figure(page, "tension of R3")).to_be_focused()
        page.keyboard.type("23")
        page.keyboard.press("Enter")
        self.assertEqual(ReadingSet.objects.count(), 2)
        # The page may ask for the set a moment before it is begun.
        self.expected_refusals = (*self.expected_refusals, "404")
        page.context.set_offline(False)
        self.eventually(lambda: Reading.objects.filter(reading_set__number=3).count(), 3)
        made = ReadingSet.objects.get(number=3)
        self.assertEqual((str(made.pk), made.created_by, made.stage), (page.url.rsplit("/", 1)[1], self.bram, "after_pass"))
        expect(page.get_by_text("refused")).to_have_count(0)

    def test_a_set_that_cannot_be_begun_any_more_keeps_its_readings_and_says_so(self) -> None:
        page = self.at_the_bench()
        page.context.set_offline(True)
        page.get_by_role("button", name="Measure again").click()
        expect(figure(page, "tension of R1")).to_be_focused()
        page.keyboard.type("21")
        page.keyboard.press("Enter")
        expect(figure(page, "tension of R2")).to_be_focused()
        # Meanwhile somebody ended the job.
        before = Job.objects.get(pk=self.hook.pk).stage
        Job.objects.filter(pk=self.hook.pk).update(handed_back_at=timezone.now(), stage="done", ended_as="repaired")
        self.expected_refusals = (*self.expected_refusals, "409", "404")
        page.context.set_offline(False)
        waits = page.get_by_text(re.compile("1 entry refused"))
        expect(waits.first).to_be_visible()
        self.assertEqual((ReadingSet.objects.count(), Reading.objects.filter(reading_set__number=3).count()), (2, 0))
        # The job is open again: what was refused goes once more, and its reading after it.
        Job.objects.filter(pk=self.hook.pk).update(handed_back_at=None, stage=before, ended_as="")
        waits.first.click()
        page.get_by_role("button", name="Send it again").first.click()
        self.eventually(lambda: Reading.objects.filter(reading_set__number=3).count(), 1)
