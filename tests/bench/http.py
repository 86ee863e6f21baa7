"""Saving one reading through HTTP on loopback, on the demo server: median and 95th percentile."""

from __future__ import annotations

import gzip
import http.client
import json
import sys
import time
import uuid
from urllib.parse import urlsplit

import brotli

from felloe.demo.people import PASSWORD
from tests.bench.timing import median, percentile, row

_UNPACKED = {"gzip": gzip.decompress, "br": brotli.decompress}


class Speaker:
    """One kept connection with a session, as a browser has it."""

    def __init__(self, base: str) -> None:
        parts = urlsplit(base)
        self.connection = http.client.HTTPConnection(parts.hostname or "127.0.0.1", parts.port)
        self.cookies: dict[str, str] = {}
        #: Bytes of the last answer as they came.
        self.length = 0

    def ask(self, method: str, path: str, body: object = None, **headers: str) -> tuple[int, object, float]:
        text = json.dumps(body) if body is not None else None
        every = {"Content-Type": "application/json", "Cookie": "; ".join(f"{k}={v}" for k, v in self.cookies.items())}
        if "csrftoken" in self.cookies:
            every["X-CSRFToken"] = self.cookies["csrftoken"]
        start = time.perf_counter()
        try:
            self.connection.request(method, path, text, {**every, **headers})
            response = self.connection.getresponse()
        except (ConnectionError, http.client.HTTPException):
            # The server lets go of a connection that was quiet for some seconds; a browser makes another one too.
            self.connection.close()
            self.connection.request(method, path, text, {**every, **headers})
            response = self.connection.getresponse()
        data = response.read()
        self.length = len(data)
        data = _UNPACKED.get(response.headers.get("Content-Encoding", ""), bytes)(data)
        took = (time.perf_counter() - start) * 1e3
        for cookie in response.headers.get_all("Set-Cookie") or []:
            name, _, value = cookie.split(";")[0].partition("=")
            self.cookies[name] = value
        kind = response.headers.get("Content-Type", "")
        return response.status, json.loads(data) if "json" in kind and data else None, took


def main(base: str) -> None:
    speaker = Speaker(base)
    speaker.ask("GET", "/")
    status, _, _ = speaker.ask("POST", "/api/v1/session", {"username": "bram", "password": PASSWORD})
    assert status == 200, status
    _, rail, _ = speaker.ask("GET", "/api/v1/rail")
    job = next(h["job"] for h in rail["hanging"] if h["job"]["wheel"]["spokes"] == 36)  # type: ignore[index]
    _, made, _ = speaker.ask("POST", f"/api/v1/jobs/{job['id']}/reading-sets", {"stage": "after_pass"})
    set_id = made["id"]  # type: ignore[index]
    saves, states = [], []
    for turn in range(6):
        for i in range(1, 19):
            for side in "RL":
                body = {"kind": "tension", "spoke": f"{side}{i}", "value": 900 + turn, "unit": "N"}
                path = f"/api/v1/reading-sets/{set_id}/readings"
                status, _, took = speaker.ask("POST", path, body, **{"Idempotency-Key": uuid.uuid4().hex})
                assert status == 201, status
                saves.append(took)
    for _ in range(20):
        states.append(speaker.ask("GET", f"/api/v1/reading-sets/{set_id}/state")[2])
    tries = []
    for i in range(20):
        turns = {"turns": {f"R{1 + i % 18}": 0.25, "L5": -0.125}}
        tries.append(speaker.ask("POST", f"/api/v1/reading-sets/{set_id}/what-if", turns)[2])
    asked = {"exercise": "race-from-bent", "anew": True}
    _, run, _ = speaker.ask("POST", "/api/v1/practice/runs", asked, **{"Idempotency-Key": uuid.uuid4().hex})
    practised = []
    for i in range(40):
        deed = {"what": "turn", "spoke": f"{'RL'[i % 2]}{1 + i % 18}", "turns": 0.25 if i % 3 else -0.25}
        path = f"/api/v1/practice/runs/{run['id']}/deeds"  # type: ignore[index]
        practised.append(speaker.ask("POST", path, deed, **{"Idempotency-Key": uuid.uuid4().hex})[2])
    print("http, loopback, PostgreSQL with fsync as it comes")
    row(f"save one reading, median of {len(saves)}", f"{median(saves):.1f} ms", "goal ≤ 30 ms")
    row("save one reading, 95th percentile", f"{percentile(saves, 95):.1f} ms")
    row("state of the wheel, median", f"{median(states):.1f} ms")
    row("what if, median (95th percentile)", f"{median(tries):.1f} ms ({percentile(tries, 95):.1f} ms)", "goal ≤ 50 ms")
    told = f"{median(practised):.1f} ms ({percentile(practised, 95):.1f} ms)"
    row("practice wheel of 36 spokes answers a turn, median (95th percentile)", told, "goal ≤ 50 ms")


if __name__ == "__main__":
    main(sys.argv[1])
