"""A large shop over HTTP: 300 open and 20,000 closed jobs, 2 million readings; every question a screen asks, and the search.

`fill` copies wheels of the demo shop by SQL, as a shop of some years would hold them; `main` asks through loopback.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from pathlib import Path
from urllib.parse import quote

from felloe.demo.people import PASSWORD
from tests.bench.http import Speaker
from tests.bench.timing import median, percentile, row

OPEN, CLOSED, READINGS_A_JOB = 300, 20_000, 100
CUSTOMERS = 4_000

FILL = Path(__file__).with_suffix(".sql")


def fill() -> None:
    """Grow the demo shop; for the bench's own cluster only."""
    from django.db import connection

    sql = FILL.read_text()
    for name, value in (("open", OPEN), ("closed", CLOSED), ("readings", READINGS_A_JOB), ("customers", CUSTOMERS)):
        sql = sql.replace(f":{name}:", str(value))
    with connection.cursor() as cursor:
        cursor.execute(sql)
        for table in ("queue_job", "bench_reading"):
            cursor.execute(f"SELECT count(*) FROM {table}")
            row(table, f"{cursor.fetchone()[0]:,}")


#: What callers say: name, telephone, number, bike, complaint, a slip, and nothing that is there.
SAID = (
    "kit marren", "0700 100777", "+44 700 101234", "10500", "green commuter", "rubs left", "creaks hill tregenza",
    "kit quick 17", "pelow 3", "marrren", "zzzz nobody", "k", "sp",
)  # fmt: skip
SHOP = (
    "rail",
    "unsafe",
    "session",
    "staff",
    "trade",
    "places",
    "stock",
    "stock/orders",
    "instruments",
    "customers?search=kit",
    "lots",
    "letters",
)
JOB = (
    "",
    "/work",
    "/reading-sets",
    "/plans",
    "/diagnosis",
    "/condition",
    "/requirements",
    "/ends",
    "/photos",
    "/options",
    "/quote?chosen=true",
    "/account",
    "/links",
)


def questions(speaker: Speaker) -> Iterator[tuple[str, str, object]]:
    """Every question of the main screens, on jobs of the large shop."""
    _, rail, _ = speaker.ask("GET", "/api/v1/rail")
    job = rail["hanging"][40]["job"]  # type: ignore[index]
    _, sets, _ = speaker.ask("GET", f"/api/v1/jobs/{job['id']}/reading-sets")
    for path in SHOP:
        yield "GET", f"/api/v1/{path}", None
    for path in JOB:
        yield "GET", f"/api/v1/jobs/{job['id']}{path}", None
    if sets:
        yield "GET", f"/api/v1/reading-sets/{sets[0]['id']}", None  # type: ignore[index]


def spread(took_ms: list[float]) -> str:
    return f"{median(took_ms):.0f} / {percentile(took_ms, 95):.0f} ms"


def after_change(speaker: Speaker) -> None:
    """The rail and what is not to be ridden, each time after somebody changed a job."""
    _, rail, _ = speaker.ask("GET", "/api/v1/rail")
    ids = [hanging["job"]["id"] for hanging in rail["hanging"][20:44]]  # type: ignore[index]
    took: dict[str, list[float]] = {"rail": [], "unsafe": []}
    for i, job_id in enumerate(ids):
        _, job, _ = speaker.ask("GET", f"/api/v1/jobs/{job_id}")
        body = {"version": job["version"], "complaint": f"{job['complaint']}, {i}"}  # type: ignore[index]
        status, _, _ = speaker.ask("PATCH", f"/api/v1/jobs/{job_id}", body)
        assert status == 200, status
        for path in took:
            took[path].append(speaker.ask("GET", f"/api/v1/{path}")[2])
    for path, ms in took.items():
        row(f"{path}, after a change", spread(ms[2:]), "goal p95 ≤ 100 ms")


def main(base: str) -> None:
    speaker = Speaker(base)
    speaker.ask("GET", "/")
    status, _, _ = speaker.ask("POST", "/api/v1/session", {"username": "bram", "password": PASSWORD})
    assert status == 200, status
    print(f"{OPEN} open, {CLOSED:,} closed jobs, {(OPEN + CLOSED) * READINGS_A_JOB:,} readings; loopback, two workers")
    for method, path, body in questions(speaker):
        took = []
        for _ in range(24):
            status, _, ms = speaker.ask(method, path, body)
            assert status == 200, (path, status)
            took.append(ms)
        shown = path.removeprefix("/api/v1/").replace(path.split("/")[4], "…") if path.count("/") > 3 else path[8:]
        row(shown, spread(took[2:]), "goal p95 ≤ 100 ms")
    after_change(speaker)
    searched = []
    for said in SAID:
        took = [speaker.ask("GET", f"/api/v1/find?text={quote(said)}")[2] for _ in range(12)]
        searched += took[1:]
        row(f"find “{said}”", spread(took[1:]))
    row("find, all", spread(searched), "goal p95 ≤ 100 ms")
    offers = [speaker.ask("POST", "/api/v1/offers", {"tier": "sound", "spokes": 32})[2] for _ in range(8)]
    row("dates for a new job", spread(offers[1:]))
    _, rail, _ = speaker.ask("GET", "/api/v1/rail")
    row("the rail's answer", f"{len(json.dumps(rail)) / 1024:.0f} kB")


if __name__ == "__main__":
    main(sys.argv[1])
