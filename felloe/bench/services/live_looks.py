"""What is seen between two nipples of a live pass: a turn past a dial that streams, told by eye, or one reading."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import LiveLook, LivePass
from felloe.bench.services import live, live_follow, turns
from felloe.bench.services.readings import stored_reading, wheel_of
from felloe.bench.services.traces import told_lump
from felloe.core.measuring.coarse import nothing_seen
from felloe.core.measuring.stream import Sample
from felloe.core.runout.traces import turn_trace
from felloe.core.said import say
from felloe.core.terms import term
from felloe.instruments.services.instruments import find_instrument
from felloe.places.here import atomic


def hear(user: User, plan_id: UUID, instrument_id: UUID, kind: str, press: str) -> turns.TurnHeard:
    """What was heard so far of the turn after the last nipple. A stand-in is told what was turned."""
    found = live_follow.find_live(user, plan_id)
    return turns.turn_so_far(user, found.reading_set_id, instrument_id, kind, press, live_follow.totals(found))


@atomic
def keep_turn(user: User, plan_id: UUID, version: int, instrument_id: UUID, kind: str, turn: list[Sample]) -> LivePass:
    """A whole turn past the dial."""
    found = live.for_work(user, plan_id, version)
    instrument = find_instrument(user, instrument_id)
    trace = turn_trace([float(s.angle_deg or 0) for s in turn], [s.value for s in turn])
    look = LiveLook(kind=kind, source=LiveLook.Source.STREAM, instrument=instrument, said=trace.said(kind))
    look.points = [list(point) for point in trace.points]
    return live.add_look(found, user, look)


@atomic
def tell(user: User, plan_id: UUID, values: dict[str, Any]) -> LivePass:
    """By eye: a lump from spoke to spoke, or that nothing is seen any more."""
    found = live.for_work(user, plan_id, values["version"])
    wheel = wheel_of(found.reading_set)
    points: list[list[float]]
    said: str
    if values.get("clear"):
        points = [[r.angle_deg, r.deviation_mm, r.sd_mm] for r in nothing_seen()]
        said = say("nothing seen against the pointer, by eye")
    else:
        points, said = told_lump(wheel, values)
    return live.add_look(found, user, LiveLook(kind=values["kind"], source=LiveLook.Source.EYE, points=points, said=said))


@atomic
def read_one(user: User, plan_id: UUID, version: int, values: dict[str, Any]) -> LivePass:
    """One reading: a spoke's tension, the dish, or one value of the dial that took those of the set and was not moved since."""
    found = live.for_work(user, plan_id, version)
    wheel = wheel_of(found.reading_set)
    kind = values["kind"]
    stored = stored_reading(user, wheel, values)
    if kind in ("lateral", "radial") and (kind, 0) not in live_follow.zeros_of(found):
        raise Refused(
            "no_zero",
            say("One value of a dial says nothing without those of the other places: turn the wheel once past it."),
            422,
            errors=[{"field": "value", "message": say("turn the wheel once past the dial"), "code": "no_zero"}],
        )
    angle = wheel.angles_deg[wheel.index_of[stored.spoke]] if kind in ("lateral", "radial") else 0.0
    what = {"kind": term(kind), "spoke": stored.spoke}
    look = LiveLook(
        kind=kind,
        source=LiveLook.Source.SINGLE,
        spoke=stored.spoke,
        entered={key: str(item) if key in ("meter", "instrument") else item for key, item in values.items()},
        points=[[angle, stored.value, stored.sd]],
        said=say("{kind} {spoke}: {tension_n:.0f} N", **what, tension_n=stored.value)
        if kind == "tension"
        else say("{kind} {spoke}: {value_mm:.2f} mm", **what, value_mm=stored.value),
        instrument=stored.instrument,
        meter_table=stored.table,
    )
    return live.add_look(found, user, look)
