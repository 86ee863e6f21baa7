"""Reloads, lost networks, two people: nothing is lost, doubled or overwritten."""

from __future__ import annotations

import re

from felloe.bench.models import Plan, Reading
from felloe.bench.services import readings
from felloe.queue.models import Job
from tests.e2e.bench import BrowserCase, expect, figure


class NothingLost(BrowserCase):
    def bench(self):
        job = self.job()
        self.meter()
        made = readings.open_set(self.bram, job.pk, "as_found")
        page = self.open(at=f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        return page, made

    def type_readings(self, page, values) -> None:
        for value in values:
            page.keyboard.type(value)
            page.keyboard.press("Enter")

    def test_a_reload_in_the_middle(self) -> None:
        page, made = self.bench()
        self.type_readings(page, ["27", "26.5", "28"])
        expect(figure(page, "tension of R4")).to_be_focused()
        self.eventually(Reading.objects.count, 3)
        page.reload()
        expect(figure(page, "tension of R4")).to_be_focused()
        page.keyboard.press("Backspace")
        expect(page.get_by_text("✓ 28 saved")).to_be_visible()
        self.assertEqual(Reading.objects.filter(reading_set=made).count(), 3)

    def test_the_network_goes_and_comes_back(self) -> None:
        page, made = self.bench()
        self.expected_refusals = ("ERR_INTERNET_DISCONNECTED",)
        self.type_readings(page, ["27"])
        self.eventually(Reading.objects.count, 1)
        page.context.set_offline(True)
        self.type_readings(page, ["26.5", "28", "25"])
        expect(page.get_by_text("3 entries wait on this tablet")).to_be_visible()
        page.keyboard.press("Backspace")
        expect(page.get_by_text("25 kept here")).to_be_visible()
        self.assertEqual(Reading.objects.filter(reading_set=made).count(), 1)
        page.context.set_offline(False)
        expect(page.get_by_text("on this tablet")).to_have_count(0)
        rows = list(Reading.objects.filter(reading_set=made).order_by("created_at").values_list("spoke", "revision"))
        self.assertEqual(rows, [("R1", 1), ("R2", 1), ("R3", 1), ("R4", 1)])

    def test_the_answer_is_lost_but_the_reading_is_not_doubled(self) -> None:
        page, made = self.bench()
        self.expected_refusals = ("Failed to load resource", "ERR_FAILED")
        lost = {"left": 2}

        def swallow(route) -> None:
            """The request reaches the server, the answer does not reach the tablet."""
            if route.request.method == "POST" and lost["left"]:
                lost["left"] -= 1
                route.fetch()
                route.abort()
            else:
                route.continue_()

        page.route("**/entries", swallow)
        self.type_readings(page, ["27", "26"])
        expect(page.get_by_text("on this tablet")).to_have_count(0, timeout=15_000)
        self.assertEqual(lost["left"], 0)
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)

    def test_an_answer_from_before_the_tick_does_not_undo_it(self) -> None:
        """The plan is asked for as its page opens; the first nipple is ticked off before that answer is there."""
        job = self.job()
        self.meter()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        late: list = []

        def hold(route) -> None:
            """The server reads the plan as it is now; the tablet hears of it later."""
            if late or route.request.method != "GET":
                route.continue_()
            else:
                late.append((route, route.fetch()))

        page.route(re.compile(r"/api/v1/plans/[^/]+$"), hold)
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_role("button", name="Work out the plan").click()
        moves = list(self.planned().moves.order_by("place"))
        expect(page.get_by_label(f"Nipple 1 of {len(moves)}: {moves[0].spoke}")).to_be_focused()
        expect(page.get_by_text(f"0 of {len(moves)}", exact=True)).to_be_visible()
        self.eventually(lambda: len(late), 1)
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"1 of {len(moves)}", exact=True)).to_be_visible()
        self.assertEqual(moves[0].plan.moves.filter(state="done").count(), 1)
        route, before = late[0]
        route.fulfill(response=before)
        page.keyboard.press("Enter")
        expect(page.get_by_text(f"2 of {len(moves)}", exact=True)).to_be_visible()

    def planned(self) -> Plan:
        self.eventually(Plan.objects.count, 1)
        return Plan.objects.get()

    def test_a_closed_lid_while_offline(self) -> None:
        page, made = self.bench()
        self.expected_refusals = ("ERR_FAILED", "Failed to load")
        page.route("**/entries", lambda route: route.abort() if route.request.method == "POST" else route.continue_())
        self.type_readings(page, ["27", "26"])
        expect(page.get_by_text("2 entries wait")).to_be_visible()
        page.unroute("**/entries")
        page.reload()
        expect(figure(page, "tension of R3")).to_be_focused()
        expect(page.get_by_text("on this tablet")).to_have_count(0)
        self.eventually(Reading.objects.filter(reading_set=made).count, 2)

    def test_another_person_does_not_send_in_the_firsts_name(self) -> None:
        page, made = self.bench()
        self.expected_refusals = ("ERR_FAILED", "Failed to load", "403")
        page.route("**/entries", lambda route: route.abort() if route.request.method == "POST" else route.continue_())
        self.type_readings(page, ["27"])
        expect(page.get_by_text("1 entry waits")).to_be_visible()
        page.get_by_role("button", name="Bram: settings").click()
        page.get_by_role("menuitem", name="Sign out").click()
        page.get_by_label("Name").wait_for()
        self.assertEqual(Reading.objects.count(), 0)
        page.get_by_label("Name").fill("ines")
        page.get_by_label("Password").fill("a long password")
        page.keyboard.press("Enter")
        page.get_by_role("link", name="The rail").wait_for()
        expect(page.get_by_text("1 entry of others")).to_be_visible()
        self.assertEqual(Reading.objects.filter(reading_set=made).count(), 0)


class TwoPeople(BrowserCase):
    def test_a_clear_conflict(self) -> None:
        job = self.job()
        self.expected_refusals = ("409",)
        bram, ines = self.open("bram"), self.open("ines")
        for page in (bram, ines):
            self.to(page, f"jobs/{job.pk}")
            page.get_by_role("button", name="Change").click()
        ines.get_by_label("Tier").select_option("fine")
        ines.get_by_role("button", name="Save").click()
        expect(ines.get_by_role("dialog")).to_have_count(0)
        bram.get_by_label("Complaint, in the customer's words").fill("hops")
        bram.get_by_role("button", name="Save").click()
        expect(bram.get_by_text("Ines changed this job while you did.")).to_be_visible()
        expect(bram.get_by_role("row", name="Tier sound fine")).to_be_visible()
        expect(bram.get_by_role("row", name="Complaint hops rubs")).to_be_visible()
        self.assertEqual(Job.objects.get().complaint, "rubs")
        bram.get_by_role("button", name="Save mine over it").click()
        expect(bram.get_by_text("“hops”").first).to_be_visible()
        fresh = Job.objects.get()
        self.assertEqual((fresh.complaint, fresh.version), ("hops", 3))

    def test_taking_theirs(self) -> None:
        job = self.job()
        self.expected_refusals = ("409",)
        bram = self.open("bram", at=f"jobs/{job.pk}")
        bram.get_by_role("button", name="Change").click()
        bram.get_by_label("Tier").select_option("race")
        from felloe.queue import services

        services.change_job(self.ines, job.pk, 1, {"tier": "fine"})
        bram.get_by_role("button", name="Save").click()
        bram.get_by_role("button", name="Take theirs").click()
        expect(bram.get_by_text("fine", exact=True)).to_be_visible()
        self.assertEqual(Job.objects.get().tier, "fine")
