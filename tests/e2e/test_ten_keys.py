"""Everything at the bench by the ten keys, and the keys stay with the figure whatever was touched."""

from __future__ import annotations

from felloe.bench.models import DialTrace, PlanMove, Reading, ReadingSet
from felloe.bench.services import plans, readings
from tests.e2e.bench import BrowserCase, expect, figure


class TenKeys(BrowserCase):
    def setUp(self) -> None:
        super().setUp()
        self.hook = self.job()
        self.meter()
        self.made = readings.open_set(self.bram, self.hook.pk, "as_found")
        self.path = f"jobs/{self.hook.pk}/readings/{self.made.pk}"

    def read(self, kind: str) -> list[tuple[str, float]]:
        return list(Reading.objects.filter(kind=kind).order_by("created_at").values_list("spoke", "value"))

    def test_dish_by_keys_and_away_again(self) -> None:
        page = self.open(at=self.path)
        figure(page, "tension of R1").wait_for()
        keys = page.keyboard
        keys.press("/")
        expect(page.get_by_role("group", name="Other ways, by digit")).to_be_focused()
        keys.press("/")
        gap = page.get_by_label("Gap at the locknut, mm")
        expect(gap).to_be_focused()
        keys.type("-1.2")
        expect(page.get_by_role("radio", name="left", exact=True)).to_have_attribute("aria-checked", "true")
        expect(gap).to_have_value("1.2")
        keys.press("Enter")
        self.eventually(lambda: self.read("dish"), [("", -0.6)])
        expect(gap).to_be_focused()
        keys.type("+0.8")
        keys.press("Enter")
        self.eventually(lambda: self.read("dish")[-1], ("", 0.4))
        # Flipped: both figures in a row.
        keys.press("ArrowRight")
        expect(page.get_by_label("Pointer on the right, wheel as it runs, mm")).to_be_focused()
        keys.type("2")
        keys.press("Enter")
        expect(page.get_by_label("Same pointer, wheel flipped, mm")).to_be_focused()
        keys.type("3")
        keys.press("Enter")
        self.eventually(lambda: self.read("dish")[-1], ("", 0.5))
        keys.press("/")
        expect(figure(page, "radial of R1")).to_be_focused()
        keys.press("*")
        expect(page.get_by_label("Gap at the locknut, mm")).to_be_focused()
        keys.press("*")
        expect(page.get_by_role("group", name="Other ways, by digit")).to_be_focused()

    def test_feel_pitch_quick_look_and_a_lump_by_digit(self) -> None:
        page = self.open(at=self.path)
        figure(page, "tension of R1").wait_for()
        keys = page.keyboard
        keys.press("/")
        keys.press("5")
        expect(figure(page, "tension of R1")).to_be_focused()
        keys.type("2")
        keys.press("Enter")
        self.eventually(lambda: Reading.objects.filter(spoke="R1", entered__feel="loose").count(), 1)
        keys.press("/")
        keys.press("6")
        expect(figure(page, "tension of R2")).to_be_focused()
        keys.type("440")
        keys.press("Enter")
        self.eventually(lambda: Reading.objects.filter(spoke="R2", entered__unit="Hz").count(), 1)
        keys.press("/")
        keys.press("1")
        expect(page.get_by_label("In which order")).to_have_value("quick")
        keys.press("/")
        keys.press("8")
        dialog = page.get_by_role("dialog", name="A lump, by eye")
        expect(dialog.get_by_label("To spoke")).to_be_focused()
        keys.press("Shift+Tab")
        keys.type("2")
        keys.press("Enter")
        keys.type("5")
        keys.press("-")
        keys.press("Enter")
        keys.type("0.8")
        keys.press("Enter")
        expect(dialog).to_have_count(0)
        self.eventually(lambda: DialTrace.objects.filter(reading_set=self.made).count(), 1)

    def test_the_keys_stay_with_the_figure(self) -> None:
        """Quiet, the strip, a list and a menu are touched; what is typed after it is a reading."""
        page = self.open(at=self.path)
        one = figure(page, "tension of R1")
        one.wait_for()
        page.get_by_role("button", name="Sound:").click()
        expect(one).to_be_focused()
        page.get_by_role("radio", name="R4:").click()
        expect(figure(page, "tension of R4")).to_be_focused()
        page.get_by_role("button", name="Other ways to read").click()
        page.keyboard.press("Escape")
        page.keyboard.type("2")
        expect(figure(page, "tension of R4")).to_have_value("2")
        page.keyboard.press("Backspace")
        # A list that was touched stays open until something in it is chosen.
        order = page.get_by_label("In which order")
        order.click()
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        expect(order).to_be_focused()
        page.keyboard.press("Escape")
        order.select_option("left")
        expect(figure(page, "tension of R4")).to_be_focused()
        # Who goes by Tab is left where he is, until he types a figure.
        page.get_by_role("button", name="Sound:").focus()
        page.keyboard.press("Tab")
        expect(figure(page, "tension of R4")).not_to_be_focused()
        page.keyboard.type("25")
        expect(figure(page, "tension of R4")).to_have_value("25")

    def test_repeats_are_read_one_by_one(self) -> None:
        page = self.open(at=self.path)
        figure(page, "tension of R1").wait_for()
        page.get_by_label("Instrument").select_option("N")
        page.get_by_label("repeat, average").check()
        for value in ("900", "910", "920"):
            page.keyboard.type(value)
            page.keyboard.press("Enter")
        expect(page.get_by_text("Mean of 3 saved: 900 · 910 · 920.")).to_be_visible()
        expect(figure(page, "tension of R1")).to_have_attribute("placeholder", "910")

    def test_the_next_reading_is_satisfied_once_it_is_taken(self) -> None:
        page = self.open(at=self.path)
        line = page.get_by_role("button", name="Most telling next:")
        asked = line.inner_text()
        # The server does not answer any more: what was taken is not asked for again all the same.
        page.route("**/advice", lambda route: route.abort())
        self.expected_refusals = ("ERR_FAILED",)
        line.click()
        page.keyboard.type("0.5")
        page.keyboard.press("Enter")
        expect(page.get_by_role("button", name=asked.split("(")[0])).to_have_count(0)

    def test_a_walk_that_is_done_leads_on_to_measuring(self) -> None:
        full = self.fill(self.hook, "as_found", self.virtual())
        plan = plans.add_plan(self.bram, full.pk, {})
        first = plan.moves.get(place=1)
        page = self.open(at=f"jobs/{self.hook.pk}/plan/{plan.pk}")
        card = page.get_by_role("group", name="Nipple 1 of")
        expect(card).to_contain_text(f"{round(max(0, first.turn_from_n))} → {round(max(0, first.turn_to_n))} N")
        expect(card).to_contain_text("End of the pass")
        # A button was touched: Enter after it still is the nipple's.
        page.get_by_role("radio", name=f"{first.spoke}:").click()
        for _ in range(plan.moves.count()):
            expect(page.get_by_role("group", name="Nipple")).to_be_focused()
            page.keyboard.press("Enter")
        done = page.get_by_role("group", name="The walk is done")
        expect(done).to_be_focused()
        page.keyboard.press("Backspace")
        expect(page.get_by_role("group", name="Nipple")).to_be_visible()
        page.reload()
        expect(done).to_be_focused()
        self.eventually(lambda: PlanMove.objects.filter(plan=plan, state="todo").count(), 0)
        page.keyboard.press("Enter")
        expect(page.get_by_label("tension of R1", exact=True)).to_be_focused()
        self.assertEqual(ReadingSet.objects.filter(stage="after_pass").count(), 1)

    def test_where_the_rim_belongs_as_the_drawing_says(self) -> None:
        page = self.open(at=f"jobs/{self.hook.pk}/parts")
        page.get_by_label("Rim belongs").select_option("stated")
        stated = page.get_by_role("group", name="Where the rim belongs, as it is stated")
        stated.get_by_role("radio", name="left").click()
        stated.get_by_role("radio", name="drum, gear or rotor").click()
        stated.get_by_label("Its edge inside the locknut, mm").fill("10")
        stated.get_by_label("From there to the rim's near edge, mm").fill("26")
        stated.get_by_label("Rim over its edges, mm").fill("22")
        old = float(page.get_by_label("Over-locknut width", exact=True).input_value())
        stated.get_by_role("button", name="Work it out").click()
        expect(stated).to_have_count(0)
        aside = 10 + 26 + 11 - old / 2
        expect(page.get_by_label("Rim belongs")).to_have_value("right" if aside > 0 else "left")
        expect(page.get_by_label("by, mm")).to_have_value(f"{abs(aside):g}")
