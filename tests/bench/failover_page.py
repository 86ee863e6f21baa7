"""A tablet in a real browser that takes readings throughout: it may notice a pending line, and nothing else."""

from __future__ import annotations

import threading
import time
from typing import TYPE_CHECKING

from felloe.demo.people import PASSWORD
from tests.bench.load import entered
from tests.browser import CHROMIUM

if TYPE_CHECKING:
    from playwright.sync_api import Page

EVERY_S, SETTLED_WITHIN_S, SETS = 1.5, 60, 16


class Tablet:
    """Types a reading after the other with the keys; what the page says beside its pending line is kept in `said`.

    Each of a set's readings is another figure, so that each is told from each. A full set is followed by the next, which was
    opened before: that a page is turned while nothing answers is another matter.
    """

    def __init__(self, base: str, job: str, spokes: int) -> None:
        self.base, self.job, self.spokes = base, job, spokes
        self.typed: dict[str, list[str]] = {}
        self.looks = self.pending = 0
        self.said = ""
        speaker = entered(base, "ines")
        for _ in range(SETS):
            _, made, _ = speaker.ask("POST", f"/api/v1/jobs/{job}/reading-sets", {"stage": "after_pass"})
            self.typed[made["id"]] = []  # type: ignore[index]

    def write(self, stop: threading.Event) -> None:
        try:
            self._write(stop)
        except Exception as error:
            self.said = self.said or f"the tablet stopped: {error}"[:120]
            raise

    def _write(self, stop: threading.Event) -> None:
        # Playwright belongs to the thread that starts it.
        from playwright.sync_api import sync_playwright

        from tests.browser import sign_in

        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=["--no-sandbox"])
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            sign_in(page, self.base, "ines", PASSWORD)
            for set_id, typed in self.typed.items():
                page.goto(f"{self.base}/jobs/{self.job}/readings/{set_id}")
                page.get_by_label("tension of R1").wait_for(timeout=60_000)
                for n in range(self.spokes):
                    if stop.is_set():
                        break
                    self._type(page, typed, f"{20 + n / 4:.2f}".rstrip("0").rstrip("."))
                self._settled(page)
            browser.close()

    def _type(self, page: Page, typed: list[str], figure: str) -> None:
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
        typed.append(figure)
        time.sleep(EVERY_S)
        self.looks += 1
        self.pending += page.get_by_text("on this tablet").count() > 0
        for alert in page.get_by_role("alert").all_inner_texts():
            self.said = self.said or alert[:120]

    def _settled(self, page: Page) -> None:
        end = time.monotonic() + SETTLED_WITHIN_S
        while page.get_by_text("on this tablet").count() and time.monotonic() < end:
            time.sleep(0.5)
