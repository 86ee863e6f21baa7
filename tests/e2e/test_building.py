"""Identify, size, kit, stock, strip, lace, replace: by keyboard and by touch."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import Page

from felloe.building.models import KitSheet, LacingProgress, OldSpoke, SmallPartsCount, SpokeChoice
from felloe.condition import services as condition
from felloe.queue.models import Job
from felloe.stock import services as stock
from felloe.stock.models import Movement, Part
from felloe.wheels.models import Wheel
from tests.e2e.bench import SMALL, BrowserCase, expect, figure
from tests.e2e.test_slice import tab_to


class Building(BrowserCase):
    def part(self, kind: str, name: str, count: int, **values: Any) -> Part:
        made = stock.add_part(self.bram, {"kind": kind, "name": name, "bin": "A1", "supplier": "Quay Supply", **values})
        if count:
            stock.count_bin(self.bram, made.pk, count)
        return made

    def spokes(self, length: float, count: int) -> Part:
        attributes = {"length_mm": length, "end_diameter_mm": 2.0}
        return self.part("spoke", f"Plain {length:g}", count, attributes=attributes)


class Identify(Building):
    def test_erd_with_two_rods_by_keyboard(self) -> None:
        """The rods are said once; two diameters give the ERD with its spread, and it is kept with its uncertainty."""
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/parts")
        page.get_by_label("ERD", exact=True).wait_for()
        self.assertAccessible(page, "parts")
        tab_to(page, "Measure: ERD")
        page.keyboard.press("Enter")
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("Rod, diameter 1")).to_be_focused()
        page.keyboard.type("185")
        page.keyboard.press("Tab")
        page.keyboard.type("185")
        page.keyboard.press("Tab")
        page.keyboard.type("18.2")
        expect(dialog.get_by_label("Rod, diameter 2")).to_have_value("185")
        for _ in range(3):
            page.keyboard.press("Tab")
        page.keyboard.type("17.8")
        page.keyboard.press("Enter")
        expect(dialog.get_by_text("388.00")).to_be_visible()
        expect(dialog.get_by_text("spread 0.4 mm")).to_be_visible()
        self.assertAccessible(page, "measuring the ERD")
        dialog.get_by_role("button", name="Take it").focus()
        page.keyboard.press("Enter")
        expect(page.get_by_label("ERD", exact=True)).to_have_value("388.00")
        page.get_by_role("button", name="Save the wheel").focus()
        page.keyboard.press("Enter")
        page.wait_for_url(re.compile("/jobs/[0-9a-f-]+$"))
        wheel = Wheel.objects.get()
        self.assertTrue(wheel.measured)
        self.assertAlmostEqual(wheel.uncertainty_mm["rim.erd_mm"], 0.38, delta=0.02)

    def test_a_suspicious_number_is_caught_where_it_stands(self) -> None:
        self.expected_refusals = ("422",)
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/parts")
        page.get_by_label("Over-locknut width", exact=True).fill("82")
        expect(page.get_by_text("82 mm is no usual width")).to_be_visible()
        page.get_by_label("Over-locknut width", exact=True).fill("820")
        expect(page.get_by_text("must lie between 60 and 200 mm")).to_be_visible()
        page.get_by_label("Over-locknut width", exact=True).fill("74")
        expect(page.get_by_text("no usual width")).to_have_count(0)

    def test_a_rim_of_our_parts_fills_itself_in_and_one_is_kept(self) -> None:
        self.part("rim", "Small rim 384", 1, attributes={"erd_mm": 384, "holes": 20, "bead_seat_mm": 406})
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/parts")
        page.get_by_label("Rim from our parts").select_option(label="Small rim 384")
        expect(page.get_by_label("ERD", exact=True)).to_have_value("384")
        page.get_by_role("button", name="hub", exact=True).click()
        page.get_by_label("Name of the hub").fill("Small front hub")
        page.keyboard.press("Enter")
        expect(page.get_by_text("Small front hub is kept.")).to_be_visible()
        self.assertEqual(Part.objects.get(kind="hub").attributes["old_mm"], 74)


def measured(job: Job) -> Job:
    """A job whose wheel was measured, not taken for one of its kind: lengths are no guess."""
    Wheel.objects.filter(pk=job.wheel_id).update(measured=True)
    return job


class Sizing(Building):
    def page_for(self, **size: Any) -> tuple[Page, Job]:
        job = measured(self.job())
        page = self.open(**size, at=f"jobs/{job.pk}/spokes")
        page.get_by_role("radiogroup", name="Length, right").wait_for()
        return page, job

    def test_lengths_kit_and_bins_by_keyboard(self) -> None:
        self.spokes(189, 30)
        self.part("nipple", "Brass", 100, attributes={"for_thread_mm": 2.0})
        page, job = self.page_for()
        self.assertAccessible(page, "spokes and kit")
        for side in ("right", "left"):
            page.get_by_role("radiogroup", name=f"Length, {side}").get_by_role("radio", name=re.compile("^189")).focus()
            page.keyboard.press("Enter")
            self.eventually(SpokeChoice.objects.filter(side=side[0].upper()).count, 1)
        page.get_by_label("Nipples").select_option(index=1)
        self.eventually(KitSheet.objects.count, 1)
        expect(page.get_by_text("3 of 17 do not hold")).to_be_visible()
        # Nobody has measured the rim's hole or tried the key: nothing usual is put there.
        for label, text in (("Rim hole, mm", "4.4"), ("Spoke key, mm", "3.3")):
            expect(page.get_by_label(label)).to_have_value("")
            page.get_by_label(label).fill(text)
            page.keyboard.press("Enter")
        expect(page.get_by_text("1 of 17 do not hold")).to_be_visible()
        expect(page.get_by_text("One measured", exact=False).first).to_be_visible()
        page.get_by_text("one of each measured").click()
        expect(page.get_by_text("Everything fits together.")).to_be_visible()
        page.get_by_label("Spoke key, mm").fill("3.6")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert").get_by_text("A loose key rounds the nipple", exact=False)).to_be_visible()
        self.to(page, f"jobs/{job.pk}/lacing")
        expect(page.get_by_text("The kit does not fit.")).to_be_visible()
        self.to(page, f"jobs/{job.pk}/spokes")
        page.get_by_role("region", name="Right spokes").get_by_role("button", name="Take 10 from A1").click()
        self.eventually(Movement.objects.filter(kind="take").count, 1)
        expect(page.get_by_role("region", name="Right spokes").get_by_text("10 taken")).to_be_visible()
        self.assertEqual(SpokeChoice.objects.filter(job=job).first().part.name, "Plain 189")  # type: ignore[union-attr]

    def test_a_guess_is_said_and_takes_the_old_spoke(self) -> None:
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/spokes")
        right = page.get_by_role("region", name="Right spokes")
        expect(right.get_by_text("A guess: measure the ERD")).to_be_visible()
        expect(right.get_by_text("cannot be told").first).to_be_visible()
        right.get_by_role("radio", name=re.compile("^187")).click()
        self.eventually(SpokeChoice.objects.filter(length_mm=187).count, 1)

    def test_a_length_that_breaks_nipples_says_so(self) -> None:
        self.expected_refusals = ("422",)
        page, _ = self.page_for()
        page.get_by_role("radiogroup", name="Length, right").get_by_role("radio").first.click()
        expect(page.get_by_role("alert").get_by_text("snaps off")).to_be_visible()
        self.assertEqual(SpokeChoice.objects.count(), 0)

    def test_old_spokes_by_keys_alone(self) -> None:
        page, _ = self.page_for()
        page.get_by_role("button", name="Old spokes").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_role("textbox", name="Spoke")).to_be_focused()
        page.keyboard.type("R1")
        page.keyboard.press("Tab")
        page.keyboard.type("188")
        page.keyboard.press("Enter")
        expect(dialog.get_by_role("textbox", name="Spoke")).to_have_value("R2")
        page.keyboard.type("184,5")
        page.keyboard.press("Enter")
        expect(dialog.get_by_text("Mixed lengths, 3.5 mm apart")).to_be_visible()
        self.assertEqual(OldSpoke.objects.count(), 2)
        dialog.get_by_label("Thread-in-nipple").fill("4.2")
        expect(dialog.get_by_text("3.2 mm are missing")).to_be_visible()
        self.assertAccessible(page, "old spokes")

    def test_crossings_and_swap(self) -> None:
        self.part("rim", "Larger rim", 1, attributes={"erd_mm": 394, "holes": 20, "bead_seat_mm": 406})
        page, _ = self.page_for()
        page.get_by_role("button", name="Crossings").click()
        expect(page.get_by_role("dialog").get_by_text("under its neighbour's head").first).to_be_visible()
        self.assertAccessible(page, "crossings")
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Another rim or hub").click()
        page.get_by_role("dialog").get_by_label("Rim").select_option(label="Larger rim")
        expect(page.get_by_text("New spokes on both sides")).to_be_visible()


class Lacing(Building):
    def test_one_spoke_at_a_time_and_resumed(self) -> None:
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/lacing")
        hand = page.get_by_role("region", name="Spoke in hand")
        expect(hand.get_by_text("R1", exact=True)).to_be_visible()
        self.assertAccessible(page, "lacing")
        for spoke in ("R3", "R5", "R7"):
            page.keyboard.press("Enter")
            expect(hand.get_by_text(spoke, exact=True)).to_be_visible()
        page.keyboard.press("Backspace")
        expect(hand.get_by_text("R5", exact=True)).to_be_visible()
        placed = LacingProgress.objects.order_by("created_at").values_list("placed", flat=True)
        self.eventually(lambda: placed.last(), 2)
        other = self.open("ines", at=f"jobs/{job.pk}/lacing")
        expect(other.get_by_text("2 of 20 in, last by Bram")).to_be_visible()
        for placed in range(3, 21):
            other.keyboard.press("Enter")
            expect(other.get_by_text(f"{placed} of 20 in")).to_be_visible()
            if placed == 10:
                expect(other.get_by_text("Turn the hub clockwise", exact=False)).to_be_visible()
        expect(other.get_by_text("All 20 are in.")).to_be_visible()
        self.to(other, f"jobs/{job.pk}/lacing/card")
        expect(other.get_by_text("Right side, first set", exact=False)).to_be_visible()
        self.assertAccessible(other, "lacing card")

    def test_a_cracked_rim_is_laced_only_with_a_word_why(self) -> None:
        job = self.job()
        condition.add_mark(self.bram, job.pk, {"kind": "crack", "spoke": "R3"})
        page = self.open()
        self.expected_refusals = ("409", "422")
        self.to(page, f"jobs/{job.pk}/lacing")
        expect(page.get_by_text(re.compile("Lacing makes no sense on it"))).to_be_visible()
        self.assertAccessible(page, "lacing on a cracked rim")
        page.get_by_role("button", name="R1 is in").click()
        expect(page.get_by_role("alert")).to_contain_text("Say why it is laced all the same")
        page.get_by_role("button", name="Drop it").click()
        why = page.get_by_label("Why it is laced all the same")
        why.fill("so")
        page.keyboard.press("Enter")
        expect(page.get_by_text("say why in a few words that somebody else understands")).to_be_visible()
        why.fill("a new rim is in hand")
        page.keyboard.press("Enter")
        expect(why).to_have_count(0)
        page.get_by_role("button", name="R1 is in").click()
        expect(page.get_by_text("1 of 20 in")).to_be_visible()

    def test_a_wrong_lacing_is_explained_from_two_spokes(self) -> None:
        job = self.job()
        page = self.open(at=f"jobs/{job.pk}/lacing")
        page.get_by_role("button", name="Is it right?").click()
        dialog = page.get_by_role("dialog")
        expect(dialog.get_by_label("Spoke", exact=True)).to_be_focused()
        for spoke in ("R1", "L1"):
            dialog.get_by_label("Spoke", exact=True).fill(spoke)
            page.keyboard.press("Tab")
            page.keyboard.press("l")
            page.keyboard.press("Tab")
            page.keyboard.press("Enter")
            expect(dialog.get_by_text(re.compile(f"Looked at: .*{spoke}"))).to_be_visible()
        expect(dialog.get_by_text("The valve is closed off: R1 and L10 lean over it.")).to_be_visible()
        self.assertAccessible(page, "lacing check")


class ByTouch(Building):
    def test_identify_and_parts_by_touch(self) -> None:
        self.spokes(191, 30)
        self.shop.cuts_spokes = True
        self.shop.save()
        job = measured(self.job())
        page = self.open(touch=True, at=f"jobs/{job.pk}/parts")
        page.get_by_role("button", name="Measure: Spoke bed offset").tap()
        page.get_by_label("Bed to the left edge, mm").fill("11.05")
        page.get_by_label("Bed to the right edge, mm").fill("8.75")
        page.get_by_role("button", name="What does it make?").tap()
        page.get_by_role("button", name="Take it").tap()
        expect(page.get_by_label("Spoke bed offset, + right", exact=True)).to_have_value("1.15")
        self.to(page, f"jobs/{job.pk}/spokes")
        right = page.get_by_role("region", name="Right spokes")
        right.get_by_role("button", name=re.compile("^Cut to 188.5: Plain 191")).tap()
        right.get_by_role("button", name="Reserve 10").tap()
        expect(right.get_by_text("10 reserved")).to_be_visible()
        right.get_by_role("button", name="Take 10 from A1, and cut").tap()
        expect(right.get_by_text("10 taken")).to_be_visible()
        self.assertEqual(Movement.objects.get(kind="cut").note, "cut to 188.5 mm")
        self.assertEqual(stock.figures_of(Part.objects.get()).on_hand, 20)

    def test_strip_replace_and_lace_by_touch(self) -> None:
        job = self.job()
        condition.add_break(self.bram, job.pk, {"spoke": "R4", "place": "elbow"})
        page = self.open(touch=True, at=f"jobs/{job.pk}/strip")
        page.get_by_text("cut", exact=True).tap()
        expect(page.get_by_text("Eye protection on.", exact=True)).to_be_visible()
        page.get_by_role("button", name=re.compile("^Done ?: Tyre, tube")).tap()
        expect(page.get_by_role("button", name=re.compile("undo ?: Tyre, tube"))).to_be_visible()
        page.get_by_label("How many nipples").fill("19")
        page.get_by_role("button", name="out", exact=True).first.tap()
        expect(page.get_by_text("1 nipples still in the rim.")).to_be_visible()
        self.eventually(SmallPartsCount.objects.count, 1)
        self.assertAccessible(page, "strip")
        self.to(page, f"jobs/{job.pk}/replace")
        expect(page.get_by_text("read them first")).to_be_visible()
        self.assertAccessible(page, "replace")
        page.get_by_label("The old one, mm").fill("189")
        page.get_by_role("button", name="Log it").tap()
        page.get_by_role("button", name="As the old one, 189").tap()
        expect(page.get_by_text("as chosen; the old one was 189 mm")).to_be_visible()
        while (step := page.get_by_role("button", name=re.compile("^Done ?: "))).count():
            left = step.count()
            step.first.tap()
            expect(step).to_have_count(left - 1)
        expect(page.get_by_text("The new R4 is in the wheel")).to_be_visible()
        self.assertEqual(condition.standing_marks(job.wheel), [])
        page.get_by_role("button", name="Measure, then plan the truing").tap()
        expect(figure(page, "tension of R1")).to_be_visible()
        self.to(page, f"jobs/{job.pk}/lacing")
        page.get_by_role("button", name="R1 is in").tap()
        expect(page.get_by_role("button", name="R3 is in")).to_be_visible()
        self.to(page, f"bikes/{job.wheel.bike_id}/spares")
        expect(page.get_by_text("Spare spokes: Invented bike")).to_be_visible()
        self.assertAccessible(page, "spare-spoke card")


class Stock(Building):
    def test_a_new_part_by_keyboard_and_a_take_that_is_refused(self) -> None:
        self.expected_refusals = ("422",)
        job = self.job(SMALL)
        page = self.open(at="stock")
        expect(page.get_by_text("No part is kept yet")).to_be_visible()
        tab_to(page, "New part")
        page.keyboard.press("Enter")
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("button", name="Keep it").click()
        expect(dialog.get_by_text("Say what the shop calls it.")).to_be_visible()
        expect(dialog.get_by_label("Name")).to_be_focused()
        dialog.get_by_label("Keep at least").fill("2O")
        for label, text in (("Name", "Plain 188"), ("Keep at least", "20"), ("Length, mm", "1880"), ("End diameter, mm", "2")):
            dialog.get_by_label(label, exact=True).fill(text)
        page.keyboard.press("Enter")
        expect(dialog.get_by_text("lies between 60 and 350; found 1880")).to_be_visible()
        dialog.get_by_label("Length, mm").fill("188")
        page.keyboard.press("Enter")
        panel = page.get_by_role("complementary", name="Plain 188")
        panel.get_by_label("Do").select_option("count")
        panel.get_by_label("How many").fill("18")
        page.keyboard.press("Enter")
        expect(panel.get_by_text("Counted: counted 18")).to_be_visible()
        self.assertAccessible(page, "stock")
        panel.get_by_label("Do").select_option("take")
        panel.get_by_label("For").select_option(value=str(job.pk))
        panel.get_by_label("How many").fill("19")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert").get_by_text("18 to be had, 19 wanted")).to_be_visible()
        self.assertEqual(stock.figures_of(Part.objects.get()).on_hand, 18)

    def test_an_order_that_comes_in_frees_the_job(self) -> None:
        job = self.job()
        part = self.spokes(188, 2)
        stock.reserve(self.bram, part.pk, job.pk, 10)
        page = self.open(at="stock")
        page.get_by_text("orders", exact=True).click()
        expect(page.get_by_text("8 wait for it")).to_be_visible()
        self.assertAccessible(page, "orders")
        page.get_by_role("button", name="It is ordered").click()
        page.get_by_role("button", name="It came in").click()
        expect(page.get_by_role("status").get_by_text(f"Job {job.number} has all parts now.")).to_be_visible()
        self.eventually(lambda: Job.objects.get(pk=job.pk).waiting_on, "")

    def test_a_parts_file_is_looked_at_before_it_is_taken_in(self) -> None:
        page = self.open(at="stock")
        page.get_by_role("radio", name="parts file").click()
        bad = "kind,name,length_mm,end_diameter_mm\nspoke,A,290,2\nspoke,B,9,2\n"

        def give(text: str) -> None:
            file = {"name": "parts.csv", "mimeType": "text/csv", "buffer": text.encode()}
            page.get_by_label("A parts library as CSV").set_input_files(files=[file])  # type: ignore[list-item]

        give(bad)
        expect(page.get_by_text("1 of 2 rows are wrong")).to_be_visible()
        expect(page.get_by_role("button", name="Take them in")).to_be_disabled()
        self.assertAccessible(page, "parts file")
        give(bad.replace("B,9", "B,294"))
        expect(page.get_by_text("2 of 2 rows would change something")).to_be_visible()
        page.get_by_role("button", name="Take them in").click()
        expect(page.get_by_text("2 parts made or changed.")).to_be_visible()
        self.assertEqual(Part.objects.count(), 2)
