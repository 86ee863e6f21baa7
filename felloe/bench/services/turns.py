"""A whole turn past a dial that streams."""

from __future__ import annotations

from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import DialTrace
from felloe.bench.services import traces
from felloe.core.measuring.stream import BadLine, Sample, one_turn, parse_line
from felloe.instruments.models import Instrument
from felloe.instruments.services.instruments import find_instrument
from felloe.instruments.services.live import lines_of

TURN_S = 25.0


def record_turn(user: User, set_id: UUID, instrument_id: UUID, kind: str) -> DialTrace:
    """Listen until the wheel has gone once round, and keep the trace."""
    instrument: Instrument = find_instrument(user, instrument_id)
    samples: list[Sample] = []
    turn: list[Sample] | None = None
    try:
        for line in lines_of(instrument.address, TURN_S, {"trace": kind}):
            try:
                sample = parse_line(line)
            except BadLine:
                continue
            if sample.kind != kind or sample.angle_deg is None:
                continue
            samples.append(sample)
            if len(samples) % 8 == 0:
                turn = one_turn(samples)
                if turn is not None:
                    break
    except OSError as error:
        raise Refused("not_reached", f"{instrument.name} is not reached at {instrument.address} ({error}).", 409) from error
    if turn is None:
        raise Refused("no_whole_turn", "The wheel did not go once round: turn it slowly, a little over one turn.", 422)
    angles = [float(s.angle_deg or 0) for s in turn]
    return traces.add_turn(user, set_id, kind, DialTrace.Source.STREAM, angles, [s.value for s in turn], instrument)
