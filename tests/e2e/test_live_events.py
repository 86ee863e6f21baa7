"""Two tablets on one wheel: each sees what the other does, and nobody's turn is noted twice in silence."""

from __future__ import annotations

import re

from django.test import override_settings
from playwright.sync_api import Page

from felloe.bench.models import Plan, PlanMove
from felloe.bench.services import plans
from felloe.queue.models import Job
from tests.e2e.bench import BrowserCase, expect
from tests.live import LiveProcess


class LiveCase(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.live = LiveProcess()
        self.addCleanup(self.live.kill)
        told = override_settings(FELLOE_LIVE=f":{self.live.port}")
        told.enable()
        self.addCleanup(told.disable)

    def planned(self) -> tuple[Job, Plan]:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        return job, plans.add_plan(self.bram, made.pk, {})

    def at_plan(self, who: str, job: Job, plan: Plan) -> Page:
        page = self.open(who, at=f"jobs/{job.pk}/plan/{plan.pk}")
        page.get_by_role("group", name=re.compile("^Nipple 1 of")).wait_for()
        return page


class TwoTablets(LiveCase):
    def test_a_turn_is_on_the_other_tablet_at_once_and_the_second_enter_asks(self) -> None:
        job, plan = self.planned()
        first = plan.moves.get(place=plan.moves.order_by("place")[0].place)
        bram, ines = self.at_plan("bram", job, plan), self.at_plan("ines", job, plan)
        expect(bram.get_by_text("Ines has the plan open")).to_be_visible()
        expect(ines.get_by_text("Bram has the plan open")).to_be_visible()
        self.assertAccessible(bram, "a plan with somebody else at it")
        bram.bring_to_front()
        bram.keyboard.press("Enter")
        card = ines.get_by_role("group", name=re.compile("^Nipple 1 of"))
        expect(card).to_contain_text("done by Bram")
        ines.bring_to_front()
        ines.keyboard.press("Enter")
        asked = ines.get_by_role("alertdialog", name="Turned already")
        expect(asked).to_contain_text("done by Bram")
        self.assertAccessible(ines, "a nipple that was turned already")
        first.refresh_from_db()
        self.assertEqual((first.state, first.done_by), ("done", self.bram))
        ines.get_by_role("button", name=re.compile("more$")).click()
        expect(asked).to_have_count(0)
        self.eventually(lambda: PlanMove.objects.get(pk=first.pk).done_turns, 2 * first.turns)
        self.assertEqual(PlanMove.objects.get(pk=first.pk).done_by, self.ines)

    def test_who_does_not_know_yet_is_asked_by_the_server(self) -> None:
        self.expected_refusals = ("409",)
        job, plan = self.planned()
        ines = self.at_plan("ines", job, plan)
        self.live.kill()
        first = plan.moves.order_by("place")[0]
        plans.mark_move(self.bram, plan.pk, first.spoke, "done", None)
        self.expected_refusals = ("409", "ERR_")
        ines.keyboard.press("Enter")
        asked = ines.get_by_role("alertdialog", name="Turned already")
        expect(asked).to_contain_text("already, by Bram")
        ines.get_by_role("button", name="That turn is it: go on").click()
        expect(ines.get_by_text("refused")).to_have_count(0)
        self.assertEqual(PlanMove.objects.get(pk=first.pk).done_by, self.bram)
        self.live.start()

    def test_the_live_process_dies_and_comes_back_with_nothing_missed(self) -> None:
        self.expected_refusals = ("ERR_",)
        job, plan = self.planned()
        ines = self.at_plan("ines", job, plan)
        bram = self.at_plan("bram", job, plan)
        expect(ines.get_by_text("Bram has the plan open")).to_be_visible()
        bram.close()
        expect(ines.get_by_text("has the plan open")).to_have_count(0)
        self.live.kill()
        plans.mark_move(self.bram, plan.pk, plan.moves.order_by("place")[0].spoke, "done", None)
        self.live.start()
        expect(ines.get_by_role("group", name=re.compile("^Nipple 1 of"))).to_contain_text("done by Bram")

    def test_the_rail_of_the_counter_follows(self) -> None:
        page = self.open("ines")
        page.get_by_role("heading", name="The rail").or_(page.get_by_role("link", name="Take in")).first.wait_for()
        job = self.job()
        expect(page.locator(f"a[href='/jobs/{job.pk}']").first).to_be_visible()
