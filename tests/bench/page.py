"""Size of the first load as the browser receives it: everything up to the signed-in rail."""

from __future__ import annotations

import sys

from felloe.demo.people import PASSWORD
from tests.bench.timing import row
from tests.browser import context, sign_in


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
    row("all", f"{sum(kinds.values()) / 1000:.0f} kB", "goal ≤ 200 kB")


if __name__ == "__main__":
    main(sys.argv[1])
