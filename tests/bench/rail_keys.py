"""How soon the rail's keys answer in the browser at a quarter of the processor's speed: from the press to the next picture."""

from __future__ import annotations

import sys

from felloe.demo.people import PASSWORD
from tests.bench.timing import median, percentile, row
from tests.browser import context, sign_in

SLOWED, PRESSES = 4, 40
#: From the key's own time stamp, so that waiting in the page's queue counts, to the task after the frame that shows it.
WATCH = """
window.__took = [];
addEventListener("keydown", (event) => {
  const pressed = event.timeStamp;
  requestAnimationFrame(() => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => window.__took.push(performance.now() - pressed);
    port2.postMessage(0);
  });
}, true);
"""


def main(base: str) -> None:
    page = context().new_page()
    sign_in(page, base, "bram", PASSWORD)
    page.wait_for_load_state("networkidle")
    page.evaluate(WATCH)
    wheels = page.locator("[data-hung]")
    wheels.first.focus()
    tools = page.context.new_cdp_session(page)
    tools.send("Emulation.setCPUThrottlingRate", {"rate": SLOWED})
    seen = set()
    for i in range(PRESSES):
        page.keyboard.press(("ArrowRight", "ArrowRight", "ArrowDown", "ArrowRight")[i % 4])
        page.wait_for_timeout(60)
        seen.add(page.evaluate("document.activeElement.outerHTML.slice(0, 300)"))
    took = page.evaluate("window.__took")
    tools.send("Emulation.setCPUThrottlingRate", {"rate": 1})
    # Keys that move nothing would be quick: most presses have to reach a wheel not seen before.
    assert len(seen) > PRESSES // 2, len(seen)
    row(
        f"a key on the rail, {wheels.count()} wheels, processor at 1/{SLOWED}",
        f"{median(took):.0f} / {percentile(took, 95):.0f} ms",
        "goal ≤ 50 ms",
    )


if __name__ == "__main__":
    main(sys.argv[1])
