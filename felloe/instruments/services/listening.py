"""Ears: one thread of its own for each instrument that is listened to, so that no request waits at a socket.

A request says that it wants to hear an instrument and looks at what was heard so far; it returns at once. An ear that nobody
has asked for a while closes its connection. Every process of the server has ears of its own.
"""

from __future__ import annotations

import json
import socket
import threading
import time
from collections import deque
from contextlib import closing
from dataclasses import dataclass
from typing import Any

from felloe.core.measuring.stream import BadLine, Sample, parse_line
from felloe.core.said import say

CONNECT_S, LOOK_S, IDLE_S = 0.6, 0.1, 3.0
#: So many samples are remembered: a slow turn past a dial, and some more.
MOST_SAMPLES = 6000
MOST_LINE_BYTES = 4096
#: So many ears has a process at once: a thread each.
MOST_EARS = 64
TOO_MANY = say("too many instruments are listened to at once")


@dataclass(frozen=True)
class Heard:
    """What an ear has heard: `connected` is None until the first try has ended."""

    connected: bool | None
    message: str
    samples: tuple[Sample, ...]


class Ear(threading.Thread):
    """Listens at one address until nobody has asked for IDLE_S seconds."""

    def __init__(self, address: tuple[str, int], say: dict[str, Any]) -> None:
        super().__init__(name=f"ear-{address[0]}-{address[1]}", daemon=True)
        self.address = address
        self._lock = threading.Lock()
        self._say = say
        self._told: dict[str, Any] | None = None
        self._samples: deque[Sample] = deque(maxlen=MOST_SAMPLES)
        self._connected: bool | None = None
        self._message = ""
        self._wanted_until = time.monotonic() + IDLE_S

    def want(self, say: dict[str, Any]) -> Heard:
        """Go on listening, ask the instrument for `say`, and tell what was heard since that was first asked."""
        with self._lock:
            self._wanted_until = time.monotonic() + IDLE_S
            if say != self._say:
                self._say = say
                self._samples.clear()
            return Heard(self._connected, self._message, tuple(self._samples))

    def run(self) -> None:
        try:
            with closing(socket.create_connection(self.address, timeout=CONNECT_S)) as link:
                self._note(True, "")
                link.settimeout(LOOK_S)
                self._listen(link)
        except OSError as error:
            self._note(False, str(error))

    def _listen(self, link: socket.socket) -> None:
        waiting = b""
        while self._asked(link):
            try:
                part = link.recv(8192)
            except TimeoutError:
                continue
            if not part:
                raise OSError(say("it closed the connection"))
            *whole, waiting = (waiting + part).split(b"\n")
            waiting = waiting[-MOST_LINE_BYTES:]
            for line in whole:
                self._hear(line.decode("utf-8", "replace"))

    def _asked(self, link: socket.socket) -> bool:
        """Whether anybody still listens; tells the instrument what is wanted where that has changed."""
        with self._lock:
            say, wanted = self._say, time.monotonic() < self._wanted_until
        if wanted and say != self._told:
            self._told = say
            if say:
                link.sendall(json.dumps(say).encode() + b"\n")
        return wanted

    def _hear(self, line: str) -> None:
        try:
            sample = parse_line(line)
        except BadLine as error:
            self._note(True, say("It sent what is no reading: {message}.", message=error.message))
            return
        with self._lock:
            self._samples.append(sample)

    def _note(self, connected: bool, message: str) -> None:
        with self._lock:
            self._connected, self._message = connected, message


_ears: dict[tuple[str, int, str], Ear] = {}
_guard = threading.Lock()


def listen(address: tuple[str, int], say: dict[str, Any], purpose: str = "value") -> Heard:
    """What is heard at an address; the first call starts to listen. An ear that failed says so once, then a new one tries."""
    key = (*address, purpose)
    with _guard:
        ear = _ears.get(key)
        # One that has ended tells why, once; the others that have go before they are counted.
        for ended in [k for k, e in _ears.items() if not e.is_alive()]:
            del _ears[ended]
        if ear is None and len(_ears) >= MOST_EARS:
            return Heard(False, TOO_MANY, ())
        if ear is None:
            ear = _ears[key] = Ear(address, say)
            ear.start()
        return ear.want(say)
