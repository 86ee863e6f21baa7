"""A live pass of the demo, half worked, on the wheel that the stand-in instrument turns along."""

from __future__ import annotations

from felloe.accounts.models import User
from felloe.bench.models import ReadingSet
from felloe.bench.services import live, live_looks
from felloe.bench.services.live_follow import totals
from felloe.bench.services.live_step import step_of
from felloe.cli.instrument import StandIn
from felloe.core.measuring.stream import Sample
from felloe.demo.clock import Clock
from felloe.instruments.models import Instrument

DIALS = "Stand dials"


def work_live(user: User, reading_set: ReadingSet, stand: StandIn, nipples: int, clock: Clock) -> None:
    """Begin a live pass and turn so many nipples, the rim looked at with the stand's dials after each."""
    dial = Instrument.objects.get(shop_id=user.shop_id, name=DIALS)
    going = live.begin(user, reading_set.pk, {})
    for _ in range(nipples):
        step = step_of(going)
        if step.next is None:
            return
        clock.tick(seconds=25)
        going = live.turned(user, going.plan_id, {"version": going.version, "spoke": step.next.spoke, "turns": step.next.turns})
        stand.turn_nipples(totals(going))
        clock.tick(seconds=12)
        shown = stand.shapes["lateral"] + stand.rng.normal(0, 0.008, len(stand.angles))
        turn = [Sample("lateral", round(float(v), 3), "mm", "", float(a)) for a, v in zip(stand.angles, shown, strict=True)]
        going = live_looks.keep_turn(user, going.plan_id, going.version, dial.pk, "lateral", turn)
