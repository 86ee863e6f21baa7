"""The live process as it runs in a shop: uvicorn on a port of its own, over the database of the tests."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from typing import Any

from django.db import connection


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class LiveProcess:
    """Started at once; `kill` ends it as a crash does, `start` again takes up the same port."""

    def __init__(self) -> None:
        self.port = free_port()
        self.process: subprocess.Popen[bytes] | None = None
        self.start()

    def start(self) -> None:
        database = connection.settings_dict
        places = {f"FELLOE_DB_{k}": str(database[k]) for k in ("HOST", "PORT", "NAME", "USER", "PASSWORD")}
        self.process = subprocess.Popen(
            [sys.executable, "-m", "uvicorn", "felloe.live.server:app", "--port", str(self.port), "--log-level", "error"],
            env={**os.environ, **places, "DJANGO_SETTINGS_MODULE": "felloe.config.settings.test", "OPENBLAS_NUM_THREADS": "1"},
        )
        for _ in range(400):
            if self.health():
                return
            if self.process.poll() is not None:
                raise AssertionError("the live process ended while starting")
            time.sleep(0.1)
        raise AssertionError("the live process did not start")

    def health(self) -> bool:
        try:
            with urllib.request.urlopen(f"http://127.0.0.1:{self.port}/live/health", timeout=2) as answer:
                return bool(answer.status == 200)
        except OSError:
            return False

    def kill(self, how: signal.Signals = signal.SIGKILL) -> None:
        assert self.process is not None
        self.process.send_signal(how)
        self.process.wait(timeout=30)

    def memory_mb(self) -> float:
        """Memory that is this process's own share (PSS)."""
        assert self.process is not None
        with open(f"/proc/{self.process.pid}/smaps_rollup") as rollup:
            return sum(int(line.split()[1]) for line in rollup if line.startswith("Pss:")) / 1024


def frames(response: Any) -> Any:
    """The frames of an open stream one after the other: kind, id and data; comments are left out."""
    kind, name, data = "", "", ""
    for line in response:
        text = line.decode().rstrip("\r\n")
        if text.startswith("event:"):
            kind = text[6:].strip()
        elif text.startswith("id:"):
            name = text[3:].strip()
        elif text.startswith("data:"):
            data += text[5:].strip()
        elif not text and data:
            yield kind, name, data
            kind, name, data = "", "", ""
