"""Voice and sound with a fake device: a voice that notes what it says, tones that are kept, an ear that is told."""

from __future__ import annotations

import json
from typing import Any

from playwright.sync_api import Page

from felloe.bench.models import Reading
from felloe.bench.services import plans, readings
from felloe.core.units import turns_as_fraction
from tests.e2e.bench import BrowserCase, expect, figure

DEVICE = """
window.said = []; window.tones = []; window.ears = [];
const fake = { speaking: false, getVoices: () => [{}], cancel() {}, speak: (u) => window.said.push(u.text) };
Object.defineProperty(window, "speechSynthesis", { value: fake });
window.SpeechSynthesisUtterance = class { constructor(text) { this.text = text; } };
window.AudioContext = class {
  currentTime = 0; destination = {};
  createGain() { return { gain: { setValueAtTime() {}, exponentialRampToValueAtTime() {} }, connect: (to) => to }; }
  createOscillator() {
    const made = { frequency: {}, connect: (to) => to, stop() {}, start: () => window.tones.push(made.frequency.value) };
    return made;
  }
};
window.SpeechRecognition = class extends EventTarget {
  static available = async (asked) => asked.processLocally === true ? window.EAR : "unavailable";
  start() { window.ears.push(this); }
  abort() { window.ears = window.ears.filter((ear) => ear !== this); }
};
window.hear = (said) => window.ears.forEach((ear) => ear.dispatchEvent(
  Object.assign(new Event("result"), { resultIndex: 0, results: [{ isFinal: true, 0: { transcript: said } }] })));
"""


class Heard(BrowserCase):
    def with_device(self, ear: str = "available") -> Page:
        page = self.open()
        page.add_init_script(f"window.EAR = {json.dumps(ear)};" + DEVICE)
        return page

    def sound(self, page: Page, wanted: str) -> None:
        key = page.get_by_role("button", name="Sound:")
        # The browser is asked in the background whether it hears: until it has said so, listening is not offered.
        for _ in range(60):
            if (key.get_attribute("aria-label") or "") == f"Sound: {wanted}":
                return
            key.click()
        self.fail(f"{wanted} was never offered")

    def said(self, page: Page) -> list[Any]:
        found: list[Any] = page.evaluate("() => window.said")
        return found

    def test_figures_are_heard_read_back_and_recorded_by_a_word(self) -> None:
        self.meter()
        made = readings.open_set(self.bram, self.job().pk, "as_found")
        page = self.with_device()
        self.to(page, f"jobs/{made.job_id}/readings/{made.pk}")
        figure(page, "tension of R1").wait_for()
        self.sound(page, "♪ Voice, listens")
        page.wait_for_function("() => window.ears.length === 1")
        page.evaluate("() => window.hear('seventeen point five')")
        expect(figure(page, "tension of R1")).to_have_value("17.5")
        self.assertEqual(self.said(page)[-1], "17.5")
        # Heard is not recorded yet: the next figure takes its place, talk beside the stand is nothing.
        page.evaluate("() => window.hear('hand me the key')")
        page.evaluate("() => window.hear('18')")
        expect(figure(page, "tension of R1")).to_have_value("18")
        self.assertEqual(Reading.objects.count(), 0)
        # What the tablet says itself it does not hear.
        page.evaluate("() => { speechSynthesis.speaking = true; window.hear('99'); speechSynthesis.speaking = false; }")
        expect(figure(page, "tension of R1")).to_have_value("18")
        page.evaluate("() => window.hear('next')")
        expect(figure(page, "tension of L1").or_(figure(page, "tension of R2"))).to_be_visible()
        self.eventually(lambda: [r.entered["value"] for r in Reading.objects.all()], [18.0])
        self.eventually(lambda: self.said(page)[-1], "right 1, 18")
        page.evaluate("() => window.hear('back')")
        expect(figure(page, "tension of R1")).to_be_visible()
        # The microphone is refused: it says so by what it still does.
        page.evaluate("() => window.ears[0].dispatchEvent(Object.assign(new Event('error'), { error: 'not-allowed' }))")
        expect(page.get_by_role("button", name="Sound: ♪ Voice", exact=True)).to_be_visible()
        self.assertEqual(page.evaluate("() => window.ears.length"), 0)

    def test_what_a_browser_sends_elsewhere_is_not_offered(self) -> None:
        made = readings.open_set(self.bram, self.job().pk, "as_found")
        page = self.with_device("downloadable")
        self.to(page, f"jobs/{made.job_id}/readings/{made.pk}")
        figure(page, "tension of R1").wait_for()
        seen = set()
        for _ in range(6):
            page.get_by_role("button", name="Sound:").click()
            seen.add(page.get_by_role("button", name="Sound:").get_attribute("aria-label"))
        self.assertEqual(seen, {"Sound: ♪ Quiet", "Sound: ♪ Tones", "Sound: ♪ Voice"})

    def test_tones_tell_tighten_from_ease_and_a_word_ticks_off(self) -> None:
        job = self.job()
        plan = plans.add_plan(self.bram, self.fill(job, "as_found", self.virtual()).pk, {})
        page = self.with_device()
        self.to(page, f"jobs/{job.pk}/plan/{plan.pk}")
        page.get_by_role("group", name="Nipple 1 of").wait_for()
        self.sound(page, "♪ Voice, listens")
        moves = list(plan.moves.order_by("place"))
        for place, move in enumerate(moves[1:4], start=2):
            page.evaluate("() => { window.tones = []; window.hear('done'); }")
            page.get_by_role("group", name=f"Nipple {place} of").wait_for()
            first, second = page.evaluate("() => window.tones.slice(-2)")
            self.assertEqual(second > first, move.turns > 0)
            side = "right" if move.spoke.startswith("R") else "left"
            word = "tighten" if move.turns > 0 else "ease"
            far = turns_as_fraction(abs(move.turns)).lstrip("+")
            self.assertEqual(self.said(page)[-1], f"{side} {move.spoke[1:]}, {word} {far}")
        self.eventually(lambda: plan.moves.filter(state="done").count(), 3)
