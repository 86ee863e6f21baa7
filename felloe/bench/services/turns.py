"""A whole turn past a dial that streams: heard by an ear of its own, looked at again and again until it is whole."""

from __future__ import annotations

from dataclasses import dataclass
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import DialTrace
from felloe.bench.services import readings, traces
from felloe.core.measuring.stream import Sample, gone_deg, one_turn
from felloe.core.said import say
from felloe.instruments.services.instruments import find_instrument
from felloe.instruments.services.listening import listen
from felloe.instruments.services.live import checked_address


@dataclass(frozen=True)
class TurnHeard:
    """What was heard of a turn: so many places, how far the wheel has gone, and the turn itself once it is whole."""

    places: int
    gone_deg: float
    turn: list[Sample] | None


def turn_so_far(
    user: User, set_id: UUID, instrument_id: UUID, kind: str, press: str = "", turned: dict[str, float] | None = None
) -> TurnHeard:
    """One whole turn, from the samples heard since it was first asked for by this press.

    `turned`: how far each nipple was turned since the pass began; an instrument that has a wheel of its own turns it along.
    Reads no socket and holds no lock. Raises Refused "not_reached" where there is nothing to hear.
    """
    readings.find_set(user, set_id)
    instrument = find_instrument(user, instrument_id)
    heard = listen(
        checked_address(instrument.address),
        {"trace": kind, **({"turned": turned} if turned is not None else {})},
        say("turn {set_id} {kind} {press}", set_id=set_id, kind=kind, press=press),
    )
    if heard.connected is False:
        raise Refused(
            "not_reached",
            say(
                "{instrument} is not reached at {address} ({message}).",
                instrument=instrument.name,
                address=instrument.address,
                message=heard.message,
            ),
            409,
        )
    samples = [s for s in heard.samples if s.kind == kind and s.angle_deg is not None]
    return TurnHeard(len(samples), round(gone_deg(samples), 1), one_turn(samples))


def keep_turn(user: User, set_id: UUID, instrument_id: UUID, kind: str, turn: list[Sample]) -> DialTrace:
    """Keep a turn that was heard as a trace of a set."""
    instrument = find_instrument(user, instrument_id)
    angles = [float(s.angle_deg or 0) for s in turn]
    return traces.add_turn(user, set_id, kind, DialTrace.Source.STREAM, angles, [s.value for s in turn], instrument)
