"""Help where the hand is: a word explains itself, ? shows the keys, an empty shop has its first day."""

from __future__ import annotations

import re

from felloe.practice import services as practice
from felloe.queue.models import Job
from tests.api.shop import person
from tests.e2e.bench import BrowserCase, expect, figure


class Helped(BrowserCase):
    def test_a_figure_says_how_it_is_taken_and_the_keys_are_told(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/readings/{made.pk}")
        expect(figure(page, "tension of R1")).to_be_focused()
        page.keyboard.type("12?")
        keys = page.get_by_role("dialog", name="Keys of this screen")
        expect(keys).to_contain_text("record it, and on to the next spoke")
        self.assertAccessible(page, "the keys of a screen")
        page.keyboard.press("Escape")
        # The figure that was being typed is still there, and the keys are with it.
        expect(figure(page, "tension of R1")).to_have_value("12")
        page.get_by_role("button", name="Tension: what is this").click()
        told = page.get_by_role("dialog", name="Tension")
        expect(told).to_contain_text("between the last crossing and the nipple")
        expect(told.locator("svg")).to_be_visible()
        page.keyboard.press("Escape")
        expect(figure(page, "tension of R1")).to_have_value("12")
        self.to(page, f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Dish: what is this").click()
        page.get_by_role("link", name="All words").click()
        expect(page.get_by_role("heading", name="Words of the job")).to_be_visible()
        self.assertEqual(page.locator("dt").count(), page.locator("dd").count())

    def test_an_empty_shop_has_its_first_day(self) -> None:
        owner = person(self.shop, "odile", "owner")
        page = self.open("odile")
        first = page.get_by_role("region", name="The first day")
        expect(first.get_by_role("link")).to_have_count(5)
        expect(first.get_by_role("link", name=re.compile("^1 ?Name the hooks|Name the hooks"))).to_be_visible()
        run = practice.begin(owner, {"exercise": "lace-it-right", "kind": "", "anew": False})
        ended = {"what": "end", "spoke": "", "turns": 0.0, "held": True, "fault": "", "hole": None, "over": False}
        practice.act(owner, run.pk, ended)
        page.reload()
        expect(first.get_by_role("link", name=re.compile("True a practice wheel"))).to_contain_text("done")
        # Who may do less has less to do; and with a wheel on the rail the first day is over.
        person(self.shop, "wyn", "apprentice")
        learner = self.open("wyn")
        expect(learner.get_by_role("region", name="The first day").get_by_role("link")).to_have_count(1)
        self.job()
        page.reload()
        page.locator(f"a[href='/jobs/{Job.objects.get().pk}']").first.wait_for()
        expect(first).to_have_count(0)
