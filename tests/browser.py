"""One headless Chromium for a process; a fresh context for each user."""

from __future__ import annotations

import atexit
import os
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, Playwright, sync_playwright

SHELL, WHOLE = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
#: Debian's Chromium: without windows of its own where that is installed.
CHROMIUM = str(SHELL if SHELL.exists() else WHOLE)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    # Letters stand where a tablet sets them, not rounded to whole pixels.
    "--font-render-hinting=none",
    # Asked whether it understands a language by itself, it falls over where it has no windows; the voice's tests bring an ear.
    "--disable-blink-features=OnDeviceWebSpeechAvailable",
]
AXE = Path(__file__).resolve().parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js"
AXE_RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]

_held: dict[str, Any] = {}


def browser() -> Browser:
    """The process's browser, started when first asked for."""
    if os.getpid() != _held.get("pid"):
        driver: Playwright = sync_playwright().start()
        _held.update(
            pid=os.getpid(),
            playwright=driver,
            browser=driver.chromium.launch(executable_path=CHROMIUM, headless=True, args=FLAGS),
        )
        atexit.register(_close)
    found: Browser = _held["browser"]
    return found


def playwright() -> Playwright:
    """What drives browsers in this process."""
    browser()
    found: Playwright = _held["playwright"]
    return found


def _close() -> None:
    if os.getpid() == _held.get("pid"):
        _held["browser"].close()
        _held["playwright"].stop()
        _held.clear()


def context(
    width: int = 1280, height: int = 800, touch: bool = False, timezone_id: str = "UTC", kept: bool = False
) -> BrowserContext:
    """A fresh context at the bench tablet's size; British dates, usually in UTC, so that pictures repeat."""
    return browser().new_context(
        viewport={"width": width, "height": height},
        locale="en-GB",
        timezone_id=timezone_id,
        reduced_motion="reduce",
        has_touch=touch,
        # The application is kept on a tablet by tests about that alone; for all others it would only be loaded twice.
        service_workers="allow" if kept else "block",
    )


def sign_in(page: Page, base: str, username: str, password: str, shop: str = "") -> None:
    """Name and password, and the shop's code where several work on the server and the page asks for it."""
    page.goto(base)
    page.get_by_label("Name").fill(username)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")
    rail, asked = page.get_by_role("link", name="The rail"), page.get_by_label("Shop", exact=True)
    rail.or_(asked).wait_for()
    if shop and asked.is_visible():
        asked.fill(shop)
        page.keyboard.press("Enter")
    rail.wait_for()


def signed_in(made: BrowserContext, base: str, username: str, password: str, shop: str = "") -> None:
    """The same by the two requests that the page sends, for tests about what comes after signing in."""
    made.request.get(base)
    token = next(cookie["value"] for cookie in made.cookies() if cookie["name"] == "csrftoken")
    said = {"username": username, "password": password, **({"shop": shop} if shop else {})}
    answer = made.request.post(f"{base}/api/v1/session", data=said, headers={"X-CSRFToken": token, "Referer": base})
    if not answer.ok:
        raise AssertionError(f"{username} is not let in: {answer.status} {answer.text()}")


def axe_violations(page: Page) -> list[str]:
    """What axe finds on the page as it stands, one line a rule."""
    page.evaluate(AXE.read_text())
    found = page.evaluate(
        "async (rules) => (await axe.run(document, {runOnly: rules})).violations.map(v => "
        "v.id + ': ' + v.nodes.slice(0, 3).map(n => n.target.join(' ')).join(' | '))",
        AXE_RULES,
    )
    return list(found)
