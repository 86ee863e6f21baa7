"""Instruments that stream lines over TCP: the last value, and whether it is steady."""

from __future__ import annotations

import ipaddress
from uuid import UUID

from django.conf import settings

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.measuring.stream import STEADY_COUNT, steady
from felloe.core.said import Said, say
from felloe.instruments import answers
from felloe.instruments.services.instruments import find_instrument
from felloe.instruments.services.listening import listen


def checked_address(address: str) -> tuple[str, int]:
    """Host and port of "host:port"; refused outside the networks that the shop allows (FELLOE_INSTRUMENT_NETWORKS)."""
    host, _, port = address.strip().rpartition(":")
    try:
        found = ipaddress.ip_address(host)
        number = int(port)
    except ValueError:
        raise _bad(say("an address is an IP number and a port, such as 127.0.0.1:8470")) from None
    if not 1 <= number <= 65535:
        raise _bad(say("a port lies between 1 and 65535"))
    if not any(found in ipaddress.ip_network(network) for network in settings.FELLOE_INSTRUMENT_NETWORKS):
        raise _bad(say("instruments are looked for only in the networks that the shop allows"))
    return str(found), number


def _bad(message: Said) -> Refused:
    return Refused(
        "bad_address", message.sentence(), 422, errors=[{"field": "address", "message": message, "code": "bad_address"}]
    )


def live(user: User, instrument_id: UUID, spoke: str) -> answers.Live:
    """The last value of an instrument and whether it stands still, at once; never raises for one that is not there."""
    instrument = find_instrument(user, instrument_id)
    if not instrument.address:
        return _nothing(False, say("This instrument has no address."))
    heard = listen(checked_address(instrument.address), {"spoke": spoke} if spoke else {})
    if heard.connected is None:
        return _nothing(False, say("Looking for it at {address}.", address=instrument.address))
    if not heard.connected:
        return _nothing(False, say("Not reached at {address} ({message}).", address=instrument.address, message=heard.message))
    if not heard.samples:
        return _nothing(True, heard.message or say("Connected; it sends nothing yet."))
    last = heard.samples[-1]
    # The spokes before are of no account; the newest few tell whether it stands still.
    recent = heard.samples[-8 * STEADY_COUNT :]
    alike = [s.value for s in recent if (s.kind, s.unit, s.spoke) == (last.kind, last.unit, last.spoke)]
    return answers.Live(
        connected=True,
        message=heard.message,
        sample=answers.Sample(kind=last.kind, value=last.value, unit=last.unit, spoke=last.spoke, angle_deg=last.angle_deg),
        steady=len(alike) >= STEADY_COUNT and steady(alike, last.kind),
    )


def _nothing(connected: bool, message: str) -> answers.Live:
    return answers.Live(connected=connected, message=message, sample=None, steady=False)
