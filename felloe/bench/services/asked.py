"""What a plan is asked for, and what has to be so before one is made."""

from __future__ import annotations

from typing import Any

from felloe.api.problems import Refused
from felloe.bench.models import DialTrace, ReadingSet
from felloe.bench.services.learning import earlier_sets, own_of
from felloe.bench.services.readings import current_readings, traces_of, wheel_of
from felloe.bench.services.states import estimated
from felloe.bench.services.suspects import readings_without, slips_of
from felloe.condition import services as condition
from felloe.core.diagnosis.rim_damage import in_vain, judge
from felloe.core.hand_back import check_reason
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import FEWEST_FOR_A_PLAN, Readings
from felloe.core.naming import SpokeName
from felloe.core.said import joined, say
from felloe.core.truing.options import PlanOptions, suggested_step_turns, unread_figures
from felloe.core.truing.plan import TruingPlan, make_plan
from felloe.core.truing.prediction import without_spokes


def require_ground(readings: Readings) -> None:
    if not readings.enough_for_a_plan:
        raise Refused(
            "too_few_readings",
            say(
                "A plan needs at least {fewest_for_a_plan} readings, this set has {count}: read some spokes first.",
                fewest_for_a_plan=FEWEST_FOR_A_PLAN,
                count=readings.count,
            ),
            422,
        )


def wait_for_answers(reading_set: ReadingSet, made: TruingPlan, options: dict[str, Any]) -> None:
    """A slip that is suspected among the readings is asked about first, where the plan would be another without it."""
    doubtful = []
    for slip in slips_of(reading_set):
        mended = readings_without(reading_set, slip)
        if mended is None:
            continue
        state, asked = asked_of(reading_set, estimated(reading_set, mended)[0], options)
        if made.differs_from(make_plan(state, asked)):
            doubtful.append(slip.what)
    if doubtful:
        raise Refused(
            "slips_open",
            say("The plan would be another if this was a slip: {what} Read again there first.", what=joined(" ", doubtful)),
            409,
        )


def asked_of(reading_set: ReadingSet, state: WheelState, options: dict[str, Any]) -> tuple[WheelState, PlanOptions]:
    """What a plan is asked for, and the state it starts from: broken spokes answer no more."""
    asked_for = frozenset(str(SpokeName.parse(name)) for name in options.get("untouchable", ()))
    on_wheel = set(wheel_of(reading_set).index_of)
    tier = reading_set.job.tolerance
    mode = options.get("mode") or "balanced"
    broken = frozenset(condition.broken_at(reading_set.job, reading_set.created_at)) & on_wheel
    if mode == "ride_home" and not broken:
        raise Refused(
            "nothing_broken", say("The ride-home plan is for a wheel with a spoke broken: note the break first."), 422
        )
    state = without_spokes(state, broken)
    unread, by_eye = (frozenset(), frozenset()) if mode == "build" else _hardly_read(reading_set)
    return state, PlanOptions(
        tier=tier,
        step_turns=options.get("step_turns") or suggested_step_turns(state, tier),
        limit_turns=options.get("limit_turns"),
        chance=options.get("chance") or PlanOptions.chance,
        nipples=options.get("nipples"),
        untouchable=asked_for | (condition.untouchable(reading_set.job.wheel) & on_wheel),
        mode=mode,
        between=tuple(options["between"]) if options.get("between") else None,
        unread=unread,
        by_eye=by_eye,
    )


def _hardly_read(reading_set: ReadingSet) -> tuple[frozenset[str], frozenset[str]]:
    """The figures that nothing was read of, in this set or those it goes on from, and those that were only told by eye."""
    wheel = wheel_of(reading_set)
    earlier, first = earlier_sets(reading_set, wheel)
    # A broken spoke counts as read in an estimate; it says nothing of the others.
    unread = unread_figures([own_of(reading_set, wheel), *(one.readings for one in earlier)])
    dialled = set[str]()
    for one in ReadingSet.objects.filter(job=reading_set.job_id, number__range=(first.number, reading_set.number)):
        dialled |= {row.kind for row in current_readings(one)}
        dialled |= {trace.kind for trace in traces_of(one) if trace.source != DialTrace.Source.LUMP}
    return unread, frozenset({"lateral", "radial"} - unread - dialled)


def sense_of(reading_set: ReadingSet, state: WheelState, despite: str) -> str:
    """Ask first where truing makes no sense: on a cracked rim or flange a plan needs a word why it is made all the same."""
    job = reading_set.job
    rim_brake = job.wheel.bike.brake == "rim"
    marks = [condition.core_mark(row) for row in condition.standing_marks(job.wheel)]
    vain = in_vain([judge(mark, state.wheel, state, rim_brake) for mark in marks])
    if not vain:
        return ""
    if not despite.strip():
        message = say("Truing makes no sense on it. {vain} Say why it is planned all the same.", vain=joined(" ", vain))
        raise Refused(
            "in_vain", message, 422, errors=[{"field": "despite", "message": say("say why, in a few words"), "code": "in_vain"}]
        )
    return check_reason(despite, "despite")
