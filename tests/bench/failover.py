"""Readings without pause while the primary is killed with -9, again and again: what is lost or doubled, how long it takes.

By turns only PostgreSQL is killed (a crash, which Patroni beside it sees) and the whole machine (PostgreSQL and Patroni; nobody
is told, and it comes back some seconds after the other has taken over). A reading counts as acknowledged once its answer of
success has arrived. Each is sent again under its key until then, as the page does. What stands in the database afterwards is
counted by SQL, past the application.
"""

from __future__ import annotations

import http.client
import itertools
import random
import sys
import threading
import time
import uuid
from collections import Counter
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from felloe.cli.cluster.__main__ import prepare
from felloe.cli.cluster.layout import PAIR, laid_out
from felloe.cli.cluster.running import Cluster, until
from tests.bench.failover_page import Tablet
from tests.bench.load import PEOPLE, entered
from tests.bench.timing import row

WRITERS, QUIET_S, BACK_AFTER_S = 6, (4, 9), 6


@dataclass
class Writer:
    """One who writes: a reading's number in its set is its value, so each is told from each."""

    base: str
    job: str
    who: str
    sent: list[float] = field(default_factory=list)
    acknowledged: dict[float, float] = field(default_factory=dict)
    tries: int = 0
    set_id: str = ""

    def begin(self) -> None:
        self.speaker = entered(self.base, self.who)
        _, made, _ = self.speaker.ask("POST", f"/api/v1/jobs/{self.job}/reading-sets", {"stage": "after_pass"})
        self.set_id = made["id"]  # type: ignore[index]

    def write(self, stop: threading.Event) -> None:
        for n in itertools.count():
            if stop.is_set():
                return
            value = round(400 + n * 0.1, 1)
            body = {"kind": "tension", "spoke": f"{'RL'[n % 2]}{1 + n // 2 % 9}", "value": value, "unit": "N"}
            key = uuid.uuid4().hex
            self.sent.append(value)
            while value not in self.acknowledged:
                self.tries += 1
                if self._answered(body, key):
                    self.acknowledged[value] = time.monotonic()
                else:
                    time.sleep(0.2)

    def _answered(self, body: dict[str, Any], key: str) -> bool:
        try:
            path = f"/api/v1/reading-sets/{self.set_id}/readings"
            status, _, _ = self.speaker.ask("POST", path, body, **{"Idempotency-Key": key})
        except (OSError, http.client.HTTPException):
            self.speaker.connection.close()
            return False
        if 400 <= status < 500:
            raise AssertionError(f"refused with {status}: {body}")
        return status < 300

    def gap_after(self, moment: float) -> float:
        """Seconds from a moment to the first answer of success after it that was asked for anew or still waited for."""
        return min((at for at in self.acknowledged.values() if at > moment), default=float("inf")) - moment


def looked_after(cluster: Cluster, stop: threading.Event) -> None:
    while not stop.wait(0.5):
        cluster.look_after()


def kill(cluster: Cluster, how: str) -> float:
    """Wait until another may take over, kill the primary; the moment it was dead."""
    until(lambda: cluster.primary() is not None and cluster.in_step() is not None, 180, "the pair was not in step again")
    time.sleep(random.Random().uniform(*QUIET_S))
    was = cluster.primary()
    assert was is not None
    (cluster.kill_machine if how == "machine" else cluster.kill_postgres)(was)
    moment = time.monotonic()
    other = next(which for which in PAIR if which != was)
    until(lambda: cluster.says(other, "primary"), 120, "the standby did not take over")
    if how == "machine":
        time.sleep(BACK_AFTER_S)
        cluster.start(f"patroni-{was}")
    return moment


def main(folder: Path, state: Path, bin_dir: Path, port: int, times: int) -> int:
    cluster = Cluster(laid_out(folder, state, bin_dir, port))
    stop, ended = threading.Event(), threading.Event()
    try:
        cluster.empty()
        cluster.up()
        prepare(cluster)
        cluster.serve()
        base = f"http://127.0.0.1:{port}"
        threading.Thread(target=looked_after, args=(cluster, ended), daemon=True).start()
        hanging: Any = entered(base, "bram").ask("GET", "/api/v1/rail")[1]["hanging"]  # type: ignore[index]
        wheels = {h["job"]["id"]: h["job"]["wheel"]["spokes"] for h in hanging if h["job"]["stage"] != "ready"}
        jobs = [job for job, spokes in wheels.items() if spokes >= 18]
        writers = [Writer(base, jobs[n % len(jobs)], PEOPLE[n % len(PEOPLE)]) for n in range(WRITERS)]
        for writer in writers:
            writer.begin()
        threads = [threading.Thread(target=writer.write, args=(stop,)) for writer in writers]
        tablet = Tablet(base, jobs[-1], wheels[jobs[-1]])
        threads.append(threading.Thread(target=tablet.write, args=(stop,)))
        for thread in threads:
            thread.start()
        gaps: dict[str, list[float]] = {"PostgreSQL": [], "machine": []}
        print(f"failover: {WRITERS} write without pause and one types on a page; the primary is killed {times} times")
        for n in range(times):
            how = ("PostgreSQL", "machine")[n % 2]
            moment = kill(cluster, how)
            until(lambda m=moment: all(w.gap_after(m) < 1e9 for w in writers), 120, "writes did not go on")  # type: ignore[misc]
            gaps[how].append(max(w.gap_after(moment) for w in writers))
            row(f"kill {n + 1}, {how}", f"{gaps[how][-1]:.1f} s", "until every writer's next success")
        stop.set()
        for thread in threads:
            thread.join()
        return judge(cluster, writers, tablet, gaps)
    finally:
        stop.set()
        ended.set()
        cluster.down()


def judge(cluster: Cluster, writers: list[Writer], tablet: Tablet, gaps: dict[str, list[float]]) -> int:
    asked = "SELECT value FROM bench_reading WHERE reading_set_id = %s"
    lost = doubled = acknowledged = tries = strange = 0
    with cluster.connect() as db:
        for writer in writers:
            there = Counter(round(value, 1) for (value,) in db.execute(asked, [writer.set_id]).fetchall())
            lost += sum(value not in there for value in writer.acknowledged)
            doubled += sum(count - 1 for count in there.values())
            strange += sum(value not in writer.sent for value in there)
            acknowledged, tries = acknowledged + len(writer.acknowledged), tries + writer.tries
        kept = "SELECT entered->>'value' FROM bench_reading WHERE reading_set_id = %s AND kind = 'tension' ORDER BY created_at"
        unequal = typed = 0
        for set_id, figures in tablet.typed.items():
            there_too = [float(value) for (value,) in db.execute(kept, [set_id]).fetchall()]
            unequal += there_too != [float(figure) for figure in figures]
            typed += len(figures)
    for how, found in gaps.items():
        if found:
            row(
                f"writes again, {how}",
                f"{sorted(found)[len(found) // 2]:.1f} / {max(found):.1f} s",
                "middle / longest; goal ≤ 30 s",
            )
    row("acknowledged", str(acknowledged), f"{tries - acknowledged} asked again")
    row("of these lost", str(lost), "goal 0")
    row("doubled, or never sent", f"{doubled}, {strange}", "goal 0")
    row("typed on the page", str(typed), f"sets that are not as typed: {unequal}, goal 0")
    row("a pending line", f"{tablet.pending} of {tablet.looks}", f"looks; besides it the page said: {tablet.said or 'nothing'}")
    worst = max(itertools.chain(*gaps.values()), default=0.0)
    return int(bool(lost or doubled or strange or unequal or tablet.said or worst > 30))


if __name__ == "__main__":
    given = sys.argv[1:]
    sys.exit(main(Path(given[0]), Path(given[1]), Path(given[2]), int(given[3]), int(given[4])))
