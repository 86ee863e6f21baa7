"""Instruments that stream lines over TCP: the last value, and whether it is steady."""

from __future__ import annotations

import ipaddress
import json
import socket
import time
from collections.abc import Iterator
from contextlib import closing
from typing import Any
from uuid import UUID

from django.conf import settings

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.measuring.stream import STEADY_COUNT, BadLine, Sample, parse_line, steady
from felloe.instruments.services.instruments import find_instrument

CONNECT_S, LOOK_S = 0.6, 0.5
MOST_BYTES = 400_000


def checked_address(address: str) -> tuple[str, int]:
    """Host and port of "host:port"; refused outside the networks that the shop allows (FELLOE_INSTRUMENT_NETWORKS)."""
    host, _, port = address.strip().rpartition(":")
    try:
        found = ipaddress.ip_address(host)
        number = int(port)
    except ValueError:
        raise _bad("an address is an IP number and a port, such as 127.0.0.1:8470") from None
    if not 1 <= number <= 65535:
        raise _bad("a port lies between 1 and 65535")
    if not any(found in ipaddress.ip_network(network) for network in settings.FELLOE_INSTRUMENT_NETWORKS):
        raise _bad("instruments are looked for only in the networks that the shop allows")
    return str(found), number


def _bad(message: str) -> Refused:
    return Refused(
        "bad_address", message.capitalize() + ".", 422, errors=[{"field": "address", "message": message, "code": "bad_address"}]
    )


def lines_of(address: str, seconds: float, say: dict[str, Any] | None) -> Iterator[str]:
    """Lines that an instrument sends within `seconds`; `say` is told to it first, a real one may ignore it."""
    host, port = checked_address(address)
    until = time.monotonic() + seconds
    with closing(socket.create_connection((host, port), timeout=CONNECT_S)) as link:
        if say:
            link.sendall(json.dumps(say).encode() + b"\n")
        waiting, taken = b"", 0
        while time.monotonic() < until and taken < MOST_BYTES:
            link.settimeout(max(0.02, until - time.monotonic()))
            try:
                part = link.recv(8192)
            except TimeoutError:
                return
            if not part:
                return
            taken += len(part)
            *whole, waiting = (waiting + part).split(b"\n")
            for line in whole:
                yield line.decode("utf-8", "replace")


def live(user: User, instrument_id: UUID, spoke: str) -> dict[str, Any]:
    """The last value of an instrument and whether it stands still; never raises for one that is not there."""
    instrument = find_instrument(user, instrument_id)
    if not instrument.address:
        return _nothing(False, "This instrument has no address.")
    samples: list[Sample] = []
    message = ""
    try:
        for line in lines_of(instrument.address, LOOK_S, {"spoke": spoke} if spoke else None):
            try:
                samples.append(parse_line(line))
            except BadLine as error:
                message = f"It sent what is no reading: {error.message}."
    except OSError as error:
        return {
            "connected": False,
            "message": f"Not reached at {instrument.address} ({error}).",
            "sample": None,
            "steady": False,
        }
    if not samples:
        return _nothing(True, message or "Connected; it sends nothing yet.")
    last = samples[-1]
    alike = [s.value for s in samples if (s.kind, s.unit, s.spoke) == (last.kind, last.unit, last.spoke)]
    still = steady(alike, last.kind) if len(alike) >= STEADY_COUNT else False
    return {
        "connected": True,
        "message": message,
        "sample": {
            "kind": last.kind,
            "value": last.value,
            "unit": last.unit,
            "spoke": last.spoke,
            "angle_deg": last.angle_deg,
        },
        "steady": still,
    }


def _nothing(connected: bool, message: str) -> dict[str, Any]:
    return {"connected": connected, "message": message, "sample": None, "steady": False}
