"""Turns tried by hand on the strip, and the schools in the plan maker."""

from __future__ import annotations

import re

import numpy as np

from felloe.bench.models import Plan, PlanMove
from felloe.bench.services import plans, states
from tests.e2e.bench import BrowserCase, expect


class WhatIf(BrowserCase):
    def test_tried_by_keys_and_nothing_kept(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="What if").click()
        bar = page.get_by_role("region", name="What if")
        expect(bar).to_contain_text("as it is")
        page.keyboard.press("+")
        page.keyboard.press("+")
        expect(bar).to_contain_text("tighten")
        expect(bar.get_by_role("status", name="It would measure")).to_contain_text("lateral")
        first = bar.get_by_role("status", name="It would measure").inner_text()
        page.get_by_role("button", name="Tighten by an eighth").click()
        expect(bar.get_by_role("status", name="It would measure")).not_to_have_text(first)
        self.assertAccessible(page, "what if")
        page.get_by_role("button", name="All back").click()
        expect(bar).to_contain_text("as it is")
        page.get_by_role("button", name="Enough").click()
        expect(bar).to_have_count(0)
        self.assertEqual(Plan.objects.count(), 0)

    def test_a_school_is_chosen_with_its_reason(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_label("School").select_option(label="Tighten only")
        expect(page.get_by_text("For a wheel whose tension is low")).to_be_visible()
        self.assertAccessible(page, "plan maker")
        page.get_by_role("button", name="Work out the plan").click()
        page.wait_for_url(re.compile("/plan/"))
        self.assertEqual(Plan.objects.get().mode, "tighten_only")


class FewNipples(BrowserCase):
    def test_how_many_is_chosen_by_one_key_and_a_wheel_that_is_inside_is_left(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        expect(page.get_by_role("img", name="Chance to be inside")).to_be_visible()
        few = page.get_by_role("radio", name="4", exact=True)
        few.click()
        expect(page.get_by_text("to be inside sound after 4 nipples")).to_be_visible()
        self.assertAccessible(page, "trade-off")
        page.get_by_role("button", name="Work out the plan").click()
        page.wait_for_url(re.compile("/plan/"))
        plan = Plan.objects.get()
        self.assertLessEqual(len({m.spoke for m in plan.moves.all()}), 4)
        self.assertIsNotNone(plan.chance)
        expect(page.get_by_text("to be inside sound after it")).to_be_visible()
        expect(page.get_by_text("at its hole").first).to_be_visible()

    def test_turns_tried_by_hand_become_a_plan(self) -> None:
        job = self.job()
        made = self.fill(job, "as_found", self.virtual())
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="What if").click()
        bar = page.get_by_role("region", name="What if")
        expect(bar.get_by_role("button", name="Make it a plan")).to_be_disabled()
        # Chosen is the spoke furthest off its side's mean: a turn of it that makes it less so.
        worst = max(states.state_of_set(made).spokes, key=lambda spoke: abs(spoke.percent_of_mean))
        turns = -0.125 if worst.percent_of_mean > 0 else 0.125
        page.keyboard.press("-" if turns < 0 else "+")
        bar.get_by_role("button", name="Make it a plan").click()
        page.wait_for_url(re.compile("/plan/"))
        self.assertEqual([(m.spoke, m.turns) for m in Plan.objects.get().moves.all()], [(worst.name, turns)])


class Verdict(BrowserCase):
    def test_the_verdict_opens_its_curve_and_a_pass_is_laid_over(self) -> None:
        job = self.job()
        virtual = self.virtual()
        first = self.fill(job, "as_found", virtual)
        plan = plans.add_plan(self.bram, first.pk, {})
        turns = np.zeros(virtual.wheel.spoke_count)
        for move in plans.moves_of(plan):
            turns[virtual.wheel.index_of[move.spoke]] = move.turns
            plans.mark_move(self.bram, plan.pk, move.key, PlanMove.State.DONE, None)
        second = self.fill(job, "after_pass", virtual.turned(turns))
        page = self.open(at=f"jobs/{job.pk}/state/{second.pk}")
        expect(page.get_by_text("The pass did what was foreseen")).to_be_visible()
        expect(page.get_by_text("dotted: what the last plan foresaw")).to_be_visible()
        line = page.get_by_role("button", name="Spokes can")
        line.focus()
        page.keyboard.press("Enter")
        dialog = page.get_by_role("dialog", name="Can the spokes save this rim?")
        expect(dialog.get_by_role("img", name="Least runout in millimetres")).to_be_visible()
        expect(dialog.get_by_text("To the customer:")).to_be_visible()
        self.assertAccessible(page, "verdict")
        page.keyboard.press("Escape")
        expect(dialog).to_have_count(0)

    def test_laps_of_a_wheel_under_construction(self) -> None:
        job = self.job()
        virtual = self.virtual()
        made = self.fill(job, "as_found", virtual.turned(np.full(virtual.wheel.spoke_count, -0.5)))
        page = self.open(at=f"jobs/{job.pk}/state/{made.pk}")
        page.get_by_role("button", name="Plan the truing").click()
        page.get_by_label("School").select_option(label="From slack")
        rows = page.get_by_role("table", name=re.compile("Laps ahead")).get_by_role("row")
        expect(rows.last).to_contain_text("100 %")
        self.assertAccessible(page, "laps")
        page.get_by_role("button", name="Work out the plan").click()
        page.wait_for_url(re.compile("/plan/"))
        self.assertEqual(Plan.objects.get().mode, "build")
