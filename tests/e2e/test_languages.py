"""In the pseudo-language every word on the screens is foreign but names and what was typed: whatever is plain was missed."""

from __future__ import annotations

import re

from felloe.bench.services import plans
from felloe.practice import services as practice
from tests.e2e.bench import BrowserCase, expect

#: What stands on the screens as it was typed or is a name, a unit or a code.
DATA = re.compile(
    "|".join((
        "Invented (Customer|bike)", "Bench meter A", "Bram", "bram", "Ines", "Here", "Felloe", "rubs",
        r"round \d\.\d", "ISO", "CSV", "ERD", "TIR",
        "kgf", "lbf", "mm", "min", "Hz", "EUR", "GBP", "IPO", "JPEG", "felloe-wheel-record",
        "spoke_kind", "angle_deg", "tension_n",
        "lateral_mm", "radial_mm", r"R\d+", r"L\d+", "blade", r"(Mon|Tue|Wed|Thu|Fri|Sat|Sun) \d+ \w+", r"http:\S+",
    ))
)  # fmt: skip
#: Codes that are written with a point in every language: kinds of spokes, addresses.
POINTS = re.compile(r"round \d\.\d|blade \d\.\dx\d\.\d|http:\S+")
#: Small words that no German text has.
ENGLISH = re.compile(r"\b(the|and|is|are|with|from|wheel|spoke|spokes|reading|readings|not|of)\b", re.IGNORECASE)
SAID = """() => {
  const found = new Set();
  const add = (text) => text && found.add(text.trim());
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const inside = walker.currentNode.parentElement;
    if (!inside.closest("script, style, [data-typed], a[lang], span[lang]")) add(walker.currentNode.textContent);
  }
  for (const name of ["aria-label", "placeholder", "title", "alt"])
    for (const part of document.querySelectorAll(`[${name}]`)) add(part.getAttribute(name));
  return [...found];
}"""


class Pseudo(BrowserCase):
    maxDiff = None

    def said(self, page, path: str) -> list[str]:
        self.to(page, path)
        page.wait_for_load_state("networkidle")
        expect(page.locator("main h1, main h2, main [role=status], main p").first).to_be_visible()
        return page.evaluate(SAID)

    def plain(self, page, path: str) -> list[str]:
        return [text for text in self.said(page, path) if re.search(r"[A-Za-z]{3,}", DATA.sub("", text))]

    def test_nothing_on_any_screen_stays_english(self) -> None:
        page, job, paths = self.everywhere("en-xa")
        plain = {path.replace(str(job.pk), "ID"): self.plain(page, path) for path in paths}
        self.assertEqual({path: texts for path, texts in plain.items() if texts}, {})

    def everywhere(self, language: str):
        """A page in that language, a job far enough for every screen of it, and the addresses of them all."""
        job = self.job()
        self.meter()
        made = self.fill(job, "as_found", self.virtual())
        plan = plans.add_plan(self.bram, made.pk, {})
        practised = practice.begin(self.bram, {"exercise": "find-the-fault", "kind": "", "anew": False}, 3)
        page = self.open()
        page.evaluate("(code) => localStorage.setItem('felloe.language', code)", language)
        at_job = (
            "", "/parts", "/checks", "/condition", "/decide", "/refit", "/tag", "/spokes", "/strip", "/lacing", "/lacing/card",
            "/replace", "/sign-off", f"/readings/{made.pk}", f"/state/{made.pk}", f"/plan/{plan.pk}",
        )  # fmt: skip
        paths = [
            "",
            "take-in",
            "stock",
            "instruments",
            "prices",
            "words",
            "practice",
            "practice/lessons/lump",
            f"practice/{practised.pk}",
            "nowhere/at/all",
            *(f"jobs/{job.pk}{part}" for part in at_job),
        ]
        return page, job, paths

    def test_in_german_every_figure_has_a_comma_and_no_english_stands_between(self) -> None:
        page, job, paths = self.everywhere("de")
        found = {}
        for path in paths:
            said = self.said(page, path)
            points = [text for text in said if re.search(r"\d\.\d", POINTS.sub("", text))]
            english = [text for text in said if ENGLISH.search(DATA.sub("", text))]
            if points or english:
                found[path.replace(str(job.pk), "ID")] = points + english
        self.assertEqual(found, {})

    def test_a_person_s_language_is_asked_of_the_server_too_and_english_stays_english(self) -> None:
        page = self.open(at="nowhere/at/all")
        expect(page.get_by_text("There is no page here")).to_be_visible()
        self.assertEqual(page.evaluate("document.documentElement.lang"), "en")
        page.evaluate("localStorage.setItem('felloe.language', 'xx')")
        self.to(page, "nowhere/at/all")
        expect(page.get_by_text("There is no page here")).to_be_visible()
