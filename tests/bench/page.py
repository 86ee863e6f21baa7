"""Size of the first load as the browser receives it, and what a slow tablet waits for: the rail, and a reading on the strip.

Slow is a processor of a quarter of this one, 1.6 Mbit/s and 150 ms each way there and back.
"""

from __future__ import annotations

import sys
import time

from playwright.sync_api import Page

from felloe.demo.people import PASSWORD
from tests.bench.reading import Bench
from tests.bench.timing import median, row
from tests.browser import context, sign_in

THROTTLED = {"offline": False, "latency": 150, "downloadThroughput": 1.6e6 / 8, "uploadThroughput": 1.6e6 / 8}
#: From the key to the strip drawn with what the server says: a figure that was not there, in what the strip shows.
PRESSED = """() => {
  window.pressed = [];
  const strip = document.querySelector('section[aria-label="What the readings say so far"]');
  let at = 0, count = 0;
  addEventListener("keydown", (event) => { if (event.key === "Enter") { at = performance.now(); count = 0; } }, true);
  new MutationObserver(() => { count += 1; if (at) window.pressed.push([at, performance.now() - at]); })
    .observe(strip, { subtree: true, childList: true, attributes: true, characterData: true });
}"""


def slow(page: Page) -> None:
    said = page.context.new_cdp_session(page)
    said.send("Network.enable")
    said.send("Network.emulateNetworkConditions", THROTTLED)
    said.send("Emulation.setCPUThrottlingRate", {"rate": 4})


def rail_usable_s(base: str) -> float:
    """From the address to a wheel that can be opened [s], on a tablet that has nothing of Felloe yet."""
    page = context().new_page()
    sign_in(page, base, "bram", PASSWORD)
    fresh = context().new_page()
    fresh.context.add_cookies(page.context.cookies())  # type: ignore[arg-type]
    slow(fresh)
    begun = time.perf_counter()
    fresh.goto(base, wait_until="commit")
    fresh.locator("a[href^='/jobs/']").first.wait_for()
    took = time.perf_counter() - begun
    fresh.context.close()
    page.context.close()
    return took


def on_the_strip_ms(base: str) -> list[float]:
    """From Enter to the strip as the reading leaves it [ms], reading after reading."""
    page = context().new_page()
    sign_in(page, base, "bram", PASSWORD)
    speaker = Bench(base)
    job = speaker.speaker.ask("GET", speaker.path)[1]["job_id"]  # type: ignore[index]
    page.goto(f"{base}/jobs/{job}/readings/{speaker.path.rsplit('/', 1)[1]}")
    page.get_by_role("group").first.wait_for()
    page.wait_for_load_state("networkidle")
    page.get_by_label("Instrument").select_option("N")
    slow(page)
    page.evaluate(PRESSED)
    figure = page.locator("#figure")
    found = []
    for i in range(12):
        spoke = str(figure.get_attribute("aria-label")).rsplit(" ", 1)[1]
        with page.expect_response("**/entries"):
            # What it has, by a hair: the same figure again redraws nothing, and one that cannot be is looked at more closely.
            page.keyboard.type(str(round(speaker.forces[spoke]) + 1 + (i + int(time.time())) % 5))
            page.keyboard.press("Enter")
        page.wait_for_timeout(700)
        drawn = page.evaluate("window.pressed.splice(0)")
        found.append(max(ms for _, ms in drawn))
    page.context.close()
    return found[2:]


def main(base: str) -> None:
    page = context().new_page()
    network = page.context.new_cdp_session(page)
    network.send("Network.enable")
    bytes_of: dict[str, float] = {}
    names: dict[str, str] = {}
    network.on("Network.responseReceived", lambda e: names.__setitem__(e["requestId"], e["response"]["url"]))
    network.on("Network.loadingFinished", lambda e: bytes_of.__setitem__(e["requestId"], e["encodedDataLength"]))
    sign_in(page, base, "bram", PASSWORD)
    page.wait_for_load_state("networkidle")
    page.wait_for_timeout(300)
    kinds: dict[str, float] = {}
    for request, size in bytes_of.items():
        ending = names.get(request, "").rsplit(".", 1)[-1]
        kind = {"js": "scripts", "css": "styles", "woff2": "fonts"}.get(ending, "page and data")
        kinds[kind] = kinds.get(kind, 0) + size
    print("page, first load to the rail, compressed")
    for kind, size in sorted(kinds.items()):
        row(kind, f"{size / 1000:.0f} kB")
    row("all", f"{sum(kinds.values()) / 1000:.0f} kB", "goal ≤ 180 kB")
    print("a slow tablet: a quarter of this processor, 1.6 Mbit/s, 150 ms")
    row("the rail, until a wheel can be opened", f"{median([rail_usable_s(base) for _ in range(3)]):.1f} s", "goal ≤ 2.5 s")
    strip = on_the_strip_ms(base)
    row("Enter until the strip is drawn, median (longest)", f"{median(strip):.0f} ms ({max(strip):.0f} ms)", "goal ≤ 400 ms")


if __name__ == "__main__":
    main(sys.argv[1])
