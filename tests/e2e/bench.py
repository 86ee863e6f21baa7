"""Base of the browser tests: the built page on a live server, a mechanic who is signed in, one wheel on the hook."""

from __future__ import annotations

import contextlib
import os
import re
import threading
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.servers import basehttp
from django.test import tag
from playwright.sync_api import BrowserContext, Page, TimeoutError, expect

from felloe.accounts.models import Shop, User
from felloe.bench.models import ReadingSet
from felloe.bench.services import entering, readings
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.queue.models import Job
from felloe.repair.services import decisions, refit
from tests.api.shop import PRICES, bench_meter, open_job, person
from tests.browser import axe_violations, context, signed_in

#: What is cut, too wide, too small or covered in a window: a script to be asked with `bench`, `letters` and `first`.
MEASURE = (Path(__file__).parent / "forms.js").read_text()
SMALL = "small-front-20"
PASSWORD = "a long password"
# A busy machine is slow, not wrong.
expect.set_options(timeout=40_000)


class OneAnswerEach(basehttp.ServerHandler):
    """A connection ends with its answer: so do the server's threads, and a test need not wait for the browser to let go."""

    def cleanup_headers(self) -> None:
        super().cleanup_headers()
        self.headers["Connection"] = "close"
        self.request_handler.close_connection = True


basehttp.ServerHandler = OneAnswerEach  # type: ignore[misc]


@tag("e2e")
class BrowserCase(StaticLiveServerTestCase):
    """One context per person; console errors and broken policies fail the test."""

    @classmethod
    def setUpClass(cls) -> None:
        # Playwright's sync API leaves a running loop in this thread; the ORM is used beside it on purpose.
        os.environ["DJANGO_ALLOW_ASYNC_UNSAFE"] = "true"
        super().setUpClass()

    def setUp(self) -> None:
        self.shop = Shop.objects.create(name="Here", prices_minor=PRICES)
        self.bram: User = person(self.shop, "bram")
        self.ines: User = person(self.shop, "ines")
        self.complaints: list[str] = []
        self.pages: list[Page] = []
        self.expected_refusals: tuple[str, ...] = ()

    def tearDown(self) -> None:
        left = [c for c in self.complaints if not any(word in c for word in self.expected_refusals)]
        self.assertEqual(left, [])

    def open(self, user: str = "bram", at: str = "", **size: Any) -> Page:
        """A tablet of that person's with the screen `at` on it, or the rail."""
        made: BrowserContext = context(**size)
        page = made.new_page()
        self.pages.append(page)
        self.addCleanup(self.leave, page)
        page.set_default_timeout(40_000)
        page.on("console", lambda m: self.complaints.append(m.text) if m.type == "error" else None)
        page.on("pageerror", lambda e: self.complaints.append(str(e)))
        signed_in(made, self.live_server_url, user, PASSWORD, self.shop.code)
        self.to(page, at)
        if not at:
            page.get_by_role("link", name="The rail").wait_for()
        return page

    def leave(self, page: Page) -> None:
        """Let requests under way end before the tables are emptied, then close."""
        self.pages.remove(page)
        if page.is_closed():
            page.context.close()
            return
        page.unroute_all(behavior="ignoreErrors")
        page.context.set_offline(False)
        with contextlib.suppress(TimeoutError):
            page.wait_for_load_state("networkidle", timeout=4000)
        page.goto("about:blank")
        page.context.close()
        if self.pages:  # another tablet's connections are still open, and its own leaving comes
            return
        # The server's threads end with their connections; the tables are emptied only after the last of them.
        for thread in threading.enumerate():
            if "process_request_thread" in thread.name:
                thread.join(timeout=30)

    def to(self, page: Page, path: str) -> None:
        page.goto(f"{self.live_server_url}/{path}")

    def virtual(self, kind: str = SMALL, seed: int = 3) -> VirtualWheel:
        return used_wheel(WHEEL_KINDS[kind].wheel, np.random.default_rng(seed), 0.35)

    def job(self, kind: str = SMALL) -> Job:
        return open_job(self.bram, kind)

    def meter(self) -> str:
        return bench_meter(self.bram)

    def agree_and_refit(self, job: Job) -> None:
        """The customer's word and every step back into the bike, by the services, for tests about what comes after."""
        said = {"outcome": "approved", "chosen": ["true"], "by_whom": "Invented Customer", "how": "counter"}
        decisions.decide(self.bram, job.pk, {**said, "warning": "It was told."})
        for step in refit.refit_of(self.bram, job.pk).steps:
            refit.answer_step(self.bram, job.pk, step.key, "right", "")

    def fill(self, job: Job, stage: str, virtual: VirtualWheel, seed: int = 1) -> ReadingSet:
        """A full set of readings by the services, for tests about what comes after."""
        rng = np.random.default_rng(seed)
        made = readings.open_set(self.bram, job.pk, stage)
        wheel = virtual.wheel
        angles = np.array(wheel.angles_deg)
        lateral, radial = dial_mm(virtual.lateral_mm(angles), rng), dial_mm(virtual.radial_mm(angles), rng)
        entries: list[dict[str, Any]] = []
        for i, name in enumerate(wheel.names):
            spoke = str(name)
            entries += [
                {"kind": "tension", "spoke": spoke, "value": float(round(virtual.tension_n[i])), "unit": "N"},
                {"kind": "lateral", "spoke": spoke, "value": float(lateral[i]), "unit": "mm"},
                {"kind": "radial", "spoke": spoke, "value": float(radial[i]), "unit": "mm"},
            ]
        gap = {"kind": "dish", "method": "gauge", "gap_mm": round(2 * virtual.dish_mm, 1), "gap_side": "R"}
        entering.save_readings(self.bram, made.pk, [*entries, gap])
        return made

    def eventually(self, value: Callable[[], Any], wanted: Any, seconds: float = 40) -> None:
        """Until the server has it: what `value` gives becomes `wanted`."""
        end = time.monotonic() + seconds
        while value() != wanted and time.monotonic() < end:
            # Routes of the tests are answered only while the browser is listened to.
            open_page = next((page for page in self.pages if not page.is_closed()), None)
            if open_page is None:
                time.sleep(0.05)
            else:
                open_page.wait_for_timeout(50)
        self.assertEqual(value(), wanted)

    def assertAccessible(self, page: Page, what: str) -> None:
        page.wait_for_load_state("networkidle")
        self.assertEqual(axe_violations(page), [], what)


def figure(page: Page, name: str) -> Any:
    """The big entry of the bench, by what it stands for."""
    return page.get_by_label(re.compile(f"^{name}$"))


__all__ = ["MEASURE", "PASSWORD", "SMALL", "BrowserCase", "expect", "figure"]
