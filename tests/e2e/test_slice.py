"""The whole job by keyboard alone: from a wheel on the hook to a true wheel, handed back."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import Page

from felloe.bench.models import Plan, Reading
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.queue.models import Job
from tests.e2e.bench import BrowserCase, expect, figure


def tab_to(page: Page, name: str, most: int = 60, key: str = "Tab") -> None:
    """Press Tab until the control with this accessible name has the focus."""
    for _ in range(most):
        page.keyboard.press(key)
        label = page.evaluate(
            "() => { const e = document.activeElement; return e.getAttribute('aria-label') || "
            "(e.labels && e.labels[0] && e.labels[0].innerText) || e.innerText || ''; }"
        )
        if label.strip().startswith(name):
            return
    raise AssertionError(f"Tab never reached “{name}”")


class WholeSlice(BrowserCase):
    def test_from_the_hook_to_a_true_wheel(self) -> None:
        virtual = self.virtual()
        page = self.open()
        keys = page.keyboard

        tab_to(page, "Take in")
        keys.press("Enter")
        expect(page.get_by_role("heading", name="Take in a wheel")).to_be_visible()
        keys.type("Maud Penhale")
        tab_to(page, "Phone")
        keys.type("0700 900 101")
        tab_to(page, "Which bike")
        keys.type("Folding bike")
        tab_to(page, "rear")
        keys.press("ArrowLeft")
        # The arrow moves the focus a moment later: the space is for where it has gone.
        expect(page.get_by_role("radio", name="front")).to_be_focused()
        keys.press("Space")
        expect(page.get_by_role("radio", name="front")).to_be_checked()
        tab_to(page, "Starts as")
        keys.type("Small wheel, front")
        expect(page.get_by_label("Starts as")).to_have_value("small-front-20")
        tab_to(page, "What is wrong")
        keys.type("wobbles")
        tab_to(page, "Open the job")
        keys.press("Enter")
        expect(page.get_by_text("“wobbles”")).to_be_visible()
        job = Job.objects.get()
        self.assertEqual(job.wheel.kind, "small-front-20")

        for name in ("check on the bike", "check off the bike", "identify", "measure as found"):
            tab_to(page, f"On to {name}")
            keys.press("Enter")
            expect(page.locator('[aria-current="step"]')).to_contain_text(name.capitalize())
        tab_to(page, "Take the readings")
        keys.press("Enter")
        self.read_all(page, virtual)

        tab_to(page, "State of the wheel")
        keys.press("Enter")
        expect(page.get_by_role("heading", name="State: as found, set 1")).to_be_visible()
        turns = self.plan_and_work(page)
        virtual = virtual.turned(turns)
        # It stands before the plan: back to it, since not every browser's Tab goes round the page.
        tab_to(page, "Measure as", key="Shift+Tab")
        keys.press("Enter")
        expect(page.get_by_role("menuitem", name="After a pass")).to_be_focused()
        keys.press("ArrowDown")
        expect(page.get_by_role("menuitem", name="As left")).to_be_focused()
        keys.press("Enter")
        expect(page.get_by_role("heading", name="As left, set 2")).to_be_visible()
        self.read_all(page, virtual)

        self.to(page, f"jobs/{job.pk}")
        expect(page.get_by_text("As left, set 2:")).to_be_visible()
        tab_to(page, "Hand back")
        keys.press("Enter")
        expect(page.get_by_role("dialog")).to_be_visible()
        keys.type("trued on the stand, nothing else to do")
        keys.press("Enter")
        expect(page.locator('[aria-current="step"]')).to_contain_text("Hand back")
        tab_to(page, "Sign off and hand back")
        keys.press("Enter")
        expect(page.get_by_text("as left", exact=True)).to_be_visible()
        if page.get_by_text("Why does it leave like this?").count():
            tab_to(page, "Falls short")
            keys.type("Customer agreed")
        tab_to(page, "Sign off")
        keys.press("Enter")
        expect(page.get_by_text("✓ Signed off")).to_be_visible()
        self.agree_and_refit(job)
        page.reload()
        expect(page.get_by_role("button", name="Hand the wheel back")).to_be_visible()
        tab_to(page, "Hand the wheel back")
        keys.press("Enter")
        expect(page.get_by_text("Handed back", exact=False).first).to_be_visible()
        job.refresh_from_db()
        self.assertEqual(job.stage, "done")

    def read_all(self, page: Page, virtual: VirtualWheel) -> None:
        """All 61 readings with digits, sign, point and Enter only, `*` for the next kind; nothing else is touched."""
        keys = page.keyboard
        wheel = virtual.wheel
        angles = np.array(wheel.angles_deg)
        order = sorted(range(20), key=lambda i: (str(wheel.names[i])[0] == "L", wheel.names[i].number))
        expect(figure(page, "tension of R1")).to_be_focused()
        columns = {
            "tension": [str(round(float(t))) for t in virtual.tension_n],
            "lateral": [f"{v:.2f}" for v in virtual.lateral_mm(angles)],
            "radial": [f"{v:.2f}" for v in virtual.radial_mm(angles)],
        }
        for kind, values in columns.items():
            expect(figure(page, f"{kind} of R1")).to_be_focused()
            for place, i in enumerate(order):
                expect(figure(page, f"{kind} of {wheel.names[i]}")).to_be_focused()
                keys.type(values[i])
                keys.press("Enter")
                if place == len(order) - 1:
                    expect(page.get_by_text("All 20 read.")).to_be_visible()
            keys.press("Enter")
        expect(page.get_by_label("Gap at the locknut, mm")).to_be_focused()
        # + and − say the side.
        keys.type(f"{2 * virtual.dish_mm:+.1f}")
        tab_to(page, "Record dish")
        keys.press("Enter")
        expect(page.get_by_text("Saved: rim")).to_be_visible()
        expect(page.get_by_text("on this tablet")).to_have_count(0)

    def plan_and_work(self, page: Page) -> np.ndarray:
        """Plan, tick every nipple off with Enter, one of them turned differently; what was really turned comes back."""
        keys = page.keyboard
        # Nothing can be planned, and Tab passes it by, until the state of these readings is there.
        expect(page.get_by_role("button", name="Plan the truing")).to_be_enabled()
        tab_to(page, "Plan the truing")
        keys.press("Enter")
        expect(page.get_by_role("button", name="Work out the plan")).to_be_focused()
        keys.press("Enter")
        expect(page.get_by_role("heading", name="Plan for sound")).to_be_visible()
        plan = Plan.objects.get()
        moves = list(plan.moves.order_by("place"))
        self.assertGreater(len(moves), 3)
        for n, move in enumerate(moves, start=1):
            expect(page.get_by_label(f"Nipple {n} of {len(moves)}: {move.spoke}")).to_be_focused()
            if n == 2:
                keys.press("+")
            keys.press("Enter")
        expect(page.get_by_role("group", name="The walk is done")).to_be_focused()
        expect(page.get_by_text(f"{len(moves)} of {len(moves)}", exact=True)).to_be_visible()
        self.eventually(lambda: plan.moves.filter(state="todo").count(), 0)
        done = {m.spoke: m for m in plan.moves.all()}
        second = moves[1]
        self.assertAlmostEqual(done[second.spoke].done_turns, second.turns + 0.125)
        self.assertEqual(done[second.spoke].done_by, self.bram)
        self.assertEqual({m.state for m in done.values()}, {"done", "changed"})
        wheel = self.virtual().wheel
        turns = np.zeros(wheel.spoke_count)
        for name, move in done.items():
            turns[wheel.index_of[name]] = move.done_turns
        return turns


class BenchKeys(BrowserCase):
    def test_backspace_plus_minus_arrows_and_mending(self) -> None:
        job, meter = self.job(), self.meter()
        page = self.open()
        made = self.fill_none(job)
        self.to(page, f"jobs/{job.pk}/readings/{made}")
        keys = page.keyboard
        expect(figure(page, "tension of R1")).to_be_focused()
        keys.type("27.5")
        keys.press("Enter")
        expect(figure(page, "tension of R2")).to_be_focused()
        keys.press("+")
        expect(figure(page, "tension of R2")).to_have_value("28")
        keys.press("-")
        keys.press("-")
        expect(figure(page, "tension of R2")).to_have_value("27")
        for _ in range(3):
            keys.press("Backspace")
        expect(figure(page, "tension of R1")).to_be_focused()
        keys.type("26")
        keys.press("Enter")
        keys.press("ArrowUp")
        expect(figure(page, "tension of L2")).to_be_focused()
        keys.press("ArrowRight")
        expect(figure(page, "tension of L3")).to_be_focused()
        keys.type("abc,")
        expect(figure(page, "tension of L3")).to_have_value(",")
        page.mouse.click(640, 20)
        keys.type("9")
        expect(figure(page, "tension of L3")).to_be_focused()
        rows = Reading.objects.filter(spoke="R1").order_by("revision")
        self.eventually(lambda: [r.entered["value"] for r in rows.all()], [27.5, 26])
        self.assertEqual({str(r.meter_table.meter_id) for r in rows}, {meter})

    def fill_none(self, job: Job) -> str:
        from felloe.bench.services import readings

        return str(readings.open_set(self.bram, job.pk, "as_found").pk)

    def test_a_reading_outside_the_table_is_refused_at_its_place(self) -> None:
        job = self.job()
        self.meter()
        self.expected_refusals = ("422",)
        page = self.open(at=f"jobs/{job.pk}/readings/{self.fill_none(job)}")
        expect(figure(page, "tension of R1")).to_be_focused()
        page.keyboard.type("99")
        page.keyboard.press("Enter")
        page.keyboard.press("Backspace")
        expect(page.get_by_text("99 lies outside it")).to_be_visible()
        page.keyboard.type("27")
        page.keyboard.press("Enter")
        page.keyboard.press("Backspace")
        expect(page.get_by_text("✓ 27 saved")).to_be_visible()
        self.eventually(Reading.objects.count, 1)

    def test_touch_alone(self) -> None:
        job = self.job()
        self.meter()
        page = self.open(at=f"jobs/{job.pk}/readings/{self.fill_none(job)}")
        expect(figure(page, "tension of R1")).to_be_focused()
        for key in ("2", "7", "point", "5"):
            page.get_by_role("button", name=key, exact=True).click()
        page.get_by_role("button", name="Record", exact=True).click()
        expect(figure(page, "tension of R2")).to_be_focused()
        self.eventually(lambda: [r.entered["value"] for r in Reading.objects.all()], [27.5])
