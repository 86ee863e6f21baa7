"""A reading at the bench, over HTTP: one press in one request beside the three it takes the place of; how many a second.

Processor time is that of the application's and the database's processes together, out of /proc.
"""

from __future__ import annotations

import sys
import threading
import time
import uuid
from pathlib import Path

from felloe.demo.people import PASSWORD
from tests.bench.http import Speaker
from tests.bench.timing import median, percentile, row

TURNS, HANDS, SECONDS, TOGETHER = 60, 4, 8, 6


def processor_s() -> dict[str, float]:
    """What each application server and database process of this machine has worked so far [s]."""
    found = {}
    for stat in Path("/proc").glob("[0-9]*/stat"):
        try:
            name, _, rest = stat.read_text().partition("(")[2].rpartition(")")
        except OSError:
            continue
        if name.startswith(("gunicorn", "postgres")):
            fields = rest.split()
            found[stat.parent.name] = (int(fields[11]) + int(fields[12])) / 100
    return found


def worked_ms(before: dict[str, float], deeds: int) -> float:
    """Processor time of each deed since `before` [ms]; processes that ended meanwhile have worked for nobody here."""
    now = processor_s()
    return sum(now[key] - before.get(key, 0.0) for key in now) / deeds * 1e3


class Bench:
    """A wheel that was read in full, and somebody who reads it again: one of 36 spokes first, another for each hand."""

    def __init__(self, base: str, hand: int = 0) -> None:
        self.speaker = Speaker(base)
        self.speaker.ask("GET", "/")
        status, _, _ = self.speaker.ask("POST", "/api/v1/session", {"username": "bram", "password": PASSWORD})
        assert status == 200, status
        _, rail, _ = self.speaker.ask("GET", "/api/v1/rail")
        jobs = sorted((h["job"] for h in rail["hanging"]), key=lambda job: job["wheel"]["spokes"] != 36)  # type: ignore[index]
        for job in jobs:
            _, sets, _ = self.speaker.ask("GET", f"/api/v1/jobs/{job['id']}/reading-sets")
            for one in reversed(sets):  # type: ignore[call-overload]
                _, whole, _ = self.speaker.ask("GET", f"/api/v1/reading-sets/{one['id']}")
                forces = {r["spoke"]: r["value"] for r in whole["readings"] if r["kind"] == "tension"}  # type: ignore[index]
                if len(forces) < job["wheel"]["spokes"]:
                    continue
                self.path, self.forces = f"/api/v1/reading-sets/{one['id']}", forces
                if hand == 0:
                    return
                hand -= 1
                break
        raise SystemExit("not enough open wheels were read in full")

    def entry(self, i: int) -> dict[str, object]:
        spoke = sorted(self.forces)[i % len(self.forces)]
        return {"kind": "tension", "spoke": spoke, "value": round(self.forces[spoke] + i % 7 - 3), "unit": "N"}

    def press(self, i: int, many: int = 1) -> float:
        entries = [{"key": uuid.uuid4().hex, "entry": self.entry(i * many + k)} for k in range(many)]
        status, _, took = self.speaker.ask("POST", f"{self.path}/entries", {"entries": entries})
        assert status == 200, status
        return took

    def three(self, i: int) -> float:
        key = {"Idempotency-Key": uuid.uuid4().hex}
        status, _, saved = self.speaker.ask("POST", f"{self.path}/readings", self.entry(i), **key)
        assert status == 201, status
        return saved + sum(self.speaker.ask("GET", f"{self.path}/{what}")[2] for what in ("state", "advice"))

    def wire(self) -> int:
        """Bytes of one answer as it goes over the wire."""
        body = {"entries": [{"key": uuid.uuid4().hex, "entry": self.entry(0)}]}
        self.speaker.ask("POST", f"{self.path}/entries", body, **{"Accept-Encoding": "br"})
        return self.speaker.length


def sustained(base: str, many: int) -> float:
    """Readings a second that several hands have saved, each at a wheel of its own, each with what the set says then."""
    counts = [0] * HANDS
    benches = [Bench(base, hand) for hand in range(HANDS)]
    end = time.monotonic() + SECONDS

    def hand(which: int) -> None:
        i = 0
        while time.monotonic() < end:
            benches[which].press(i, many)
            counts[which] += many
            i += 1

    hands = [threading.Thread(target=hand, args=(which,)) for which in range(HANDS)]
    begun = time.monotonic()
    for one in hands:
        one.start()
    for one in hands:
        one.join()
    return sum(counts) / (time.monotonic() - begun)


def main(base: str) -> None:
    bench = Bench(base)
    print("a reading at the bench: saved, and what the set says with it")
    measured: dict[str, tuple[list[float], float]] = {}
    for name, deed in (("one", bench.press), ("three", bench.three)):
        for i in range(6):
            deed(i)
        before = processor_s()
        took = [deed(i) for i in range(TURNS)]
        measured[name] = took, worked_ms(before, TURNS)
    one, three = measured["one"], measured["three"]
    row("one request, median (95 %)", f"{median(one[0]):.0f} ms ({percentile(one[0], 95):.0f} ms)")
    row("processor, application and database", f"{one[1]:.0f} ms", "goal ≤ 45 ms")
    row("the three requests before it, processor", f"{three[1]:.0f} ms, {three[1] / one[1]:.1f} ×")
    row("its answer on the wire", f"{bench.wire() / 1024:.1f} kB", "goal ≤ 6 kB")
    before = processor_s()
    for i in range(20):
        bench.press(i, 10)
    row("ten that waited, in one request: processor for each", f"{worked_ms(before, 200):.1f} ms")
    row(f"saved a second, {HANDS} hands, one in a request", f"{sustained(base, 1):.0f}")
    row(f"the same, {TOGETHER} in a request", f"{sustained(base, TOGETHER):.0f}", "goal ≥ 150")


if __name__ == "__main__":
    main(sys.argv[1])
