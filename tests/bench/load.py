"""Many at work at once on the demo's server: 20 mechanics, then 100 connections. The clients share the machine's processors.

A mechanic reads a spoke every two seconds (quicker than a hand does), looks at the state after each sixth, at the rail after
each twelfth; each began at another time. The hundred ask as tablets do that are
looked at: rail, job and readings by turns, a question every three seconds.
"""

from __future__ import annotations

import contextlib
import os
import random
import sys
import threading
import time
import uuid
from collections import defaultdict
from collections.abc import Callable
from pathlib import Path
from typing import Any

from felloe.demo.people import PASSWORD
from tests.bench.http import Speaker
from tests.bench.timing import median, percentile, row

PEOPLE = ("bram", "ines", "odile")
MECHANICS, TABLETS, SECONDS = 20, 100, 30


def entered(base: str, name: str) -> Speaker:
    speaker = Speaker(base)
    speaker.ask("GET", "/")
    status, _, _ = speaker.ask("POST", "/api/v1/session", {"username": name, "password": PASSWORD})
    assert status == 200, status
    return speaker


class Times:
    """Milliseconds by kind of question, and what did not go well."""

    def __init__(self) -> None:
        self.took: dict[str, list[float]] = defaultdict(list)
        self.bad: list[int] = []
        self._lock = threading.Lock()

    def ask(self, kind: str, speaker: Speaker, method: str, path: str, body: Any = None) -> None:
        key = {"Idempotency-Key": uuid.uuid4().hex} if method == "POST" else {}
        status, _, took = speaker.ask(method, path, body, **key)
        with self._lock:
            self.took[kind].append(took)
            if status >= 400:
                self.bad.append(status)

    def show(self, goal: str) -> None:
        for kind, took in sorted(self.took.items()):
            row(kind, f"{median(took):.0f} / {percentile(took, 95):.0f} / {max(took):.0f} ms", f"{len(took)} times")
        every = [ms for took in self.took.values() for ms in took]
        row("all", f"{median(every):.0f} / {percentile(every, 95):.0f} / {max(every):.0f} ms", goal)
        row("refused or failed", str(len(self.bad)), str(sorted(set(self.bad)) or ""))


def processor_s() -> float:
    """Processor seconds so far of this machine's application servers."""
    ticks = 0
    for place in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError):
            if b"gunicorn" in (place / "cmdline").read_bytes():
                fields = (place / "stat").read_text().rpartition(")")[2].split()
                ticks += int(fields[11]) + int(fields[12])
    return ticks / os.sysconf("SC_CLK_TCK")


def together(count: int, run: Callable[[int], None]) -> None:
    threads = [threading.Thread(target=run, args=(n,)) for n in range(count)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def mechanics(base: str, jobs: list[Any], speakers: list[Speaker]) -> Times:
    times, end = Times(), time.monotonic() + SECONDS
    sets = []
    for n, speaker in enumerate(speakers):
        _, made, _ = speaker.ask("POST", f"/api/v1/jobs/{jobs[n % len(jobs)]['id']}/reading-sets", {"stage": "after_pass"})
        sets.append(made["id"])  # type: ignore[index]

    def at_work(n: int) -> None:
        rng, done = random.Random(n), n  # each is elsewhere in its round
        time.sleep(rng.uniform(0, 2))
        while time.monotonic() < end:
            began = time.monotonic()
            spoke = f"{'RL'[done % 2]}{1 + done // 2 % 9}"
            body = {"kind": "tension", "spoke": spoke, "value": 900 + rng.randint(-50, 50), "unit": "N"}
            times.ask("save a reading", speakers[n], "POST", f"/api/v1/reading-sets/{sets[n]}/readings", body)
            done += 1
            if done % 6 == 0:
                times.ask("state of the wheel", speakers[n], "GET", f"/api/v1/reading-sets/{sets[n]}/state")
            if done % 12 == 0:
                times.ask("the rail", speakers[n], "GET", "/api/v1/rail")
            time.sleep(max(0.0, 2 - (time.monotonic() - began)))

    together(len(speakers), at_work)
    return times


def tablets(base: str, jobs: list[Any], speakers: list[Speaker]) -> Times:
    times, end = Times(), time.monotonic() + SECONDS

    def looked_at(n: int) -> None:
        rng = random.Random(n)
        time.sleep(rng.uniform(0, 3))
        while time.monotonic() < end:
            began = time.monotonic()
            kind = rng.choice(["the rail", "a job", "sets of a job"])
            job = rng.choice(jobs)["id"]
            path = {"the rail": "rail", "a job": f"jobs/{job}", "sets of a job": f"jobs/{job}/reading-sets"}[kind]
            times.ask(kind, speakers[n], "GET", f"/api/v1/{path}")
            time.sleep(max(0.0, 3 - (time.monotonic() - began)))

    together(len(speakers), looked_at)
    return times


def main(base: str) -> None:
    first = entered(base, "bram")
    _, rail, _ = first.ask("GET", "/api/v1/rail")
    hanging: Any = rail["hanging"]  # type: ignore[index]
    jobs = [h["job"] for h in hanging if h["job"]["wheel"]["spokes"] >= 18 and h["job"]["stage"] != "ready"]
    speakers = [entered(base, PEOPLE[n % len(PEOPLE)]) for n in range(TABLETS)]
    print(f"load: {MECHANICS} mechanics at work for {SECONDS} s; median / 95th percentile / longest")
    before = processor_s()
    mechanics(base, jobs, speakers[:MECHANICS]).show("goal p95 ≤ 250 ms")
    row("processor of the application servers", f"{processor_s() - before:.1f} s", f"in {SECONDS} s")
    print(f"load: {TABLETS} connections for {SECONDS} s")
    tablets(base, jobs, speakers).show("goal none over 3000 ms")


if __name__ == "__main__":
    main(sys.argv[1])
