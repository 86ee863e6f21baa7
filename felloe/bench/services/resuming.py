"""An interrupted plan: where it was left, and the two readings that show whether anybody turned a nipple meanwhile."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

import numpy as np
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench import answers
from felloe.bench.models import Plan, PlanMove, Reading, ResumeProof
from felloe.bench.services.plans import find_plan, moves_of
from felloe.bench.services.readings import current_readings, stored_value, wheel_of
from felloe.bench.services.states import kept_estimate
from felloe.condition import services as condition
from felloe.core.components import Wheel as CoreWheel
from felloe.core.errors import BadReading, TradeError
from felloe.core.said import say
from felloe.core.truing.prediction import turned_state, without_spokes
from felloe.core.truing.resume import Proof, judge, proving
from felloe.places.here import atomic
from felloe.queue import services as queue

#: A wheel left alone for so long may have been touched by others.
PAUSE = timedelta(minutes=20)


def resume_of(user: User, plan_id: UUID) -> answers.Resume:
    """Whether a plan was interrupted, at which nipple, and what to read first; `due` is False where nothing needs proof."""
    plan = find_plan(user, plan_id)
    moves = moves_of(plan)
    last = _left_at(plan, moves)
    if last is None or last.done_at is None:
        return answers.Resume()
    proof = ResumeProof.objects.filter(plan=plan, last_move=last).select_related("created_by").order_by("-created_at").first()
    if proof is None and timezone.now() - last.done_at < PAUSE:
        return answers.Resume()
    following = next((move for move in moves if move.state == PlanMove.State.TODO), None)
    asked = _asked(plan, moves)
    meters = {
        row.spoke: row.meter_table.meter_id
        for row in current_readings(plan.reading_set)
        if row.kind == Reading.Kind.TENSION and row.meter_table is not None
    }
    return answers.Resume(
        due=proof is None,
        left_at=last.done_at,
        left_by=last.done_by.display_name if last.done_by else "",
        last_spoke=last.key,
        next_spoke=following.key if following else "",
        readings=[] if proof else [answers.ResumeReading(one.kind, one.spoke, meters.get(one.spoke)) for one in asked.asked],
        shows_percent=round(100 * asked.shows),
        held=proof.held if proof else None,
        said=proof.said if proof else "",
        proved_at=proof.created_at if proof else None,
        proved_by=proof.created_by.display_name if proof and proof.created_by else "",
    )


@atomic
def prove(user: User, plan_id: UUID, entries: list[dict[str, Any]]) -> answers.Resume:
    """Judges the two readings and keeps them. What does not agree is said, and bars nothing: the mechanic decides.

    Raises BadReading where one of the two is missing, OutsideCalibration for one that the meter's table does not reach.
    """
    plan = find_plan(user, plan_id)
    queue.open_for_work(user, plan.reading_set.job_id)
    Plan.objects.select_for_update().get(pk=plan.pk)
    moves = moves_of(plan)
    last = _left_at(plan, moves)
    if last is None:
        raise Refused("not_interrupted", say("This plan was not interrupted: nothing needs proof."))
    wheel = wheel_of(plan.reading_set)
    read = dict(_read(user, wheel, entry) for entry in entries)
    asked = _asked(plan, moves)
    found = judge(asked, read)
    ResumeProof.objects.create(
        shop_id=plan.shop_id,
        plan=plan,
        last_move=last,
        readings=[
            {
                "kind": one.kind,
                "spoke": one.spoke,
                "foreseen": round(one.foreseen, 3),
                "read": round(read[one.kind, one.spoke], 3),
            }
            for one in asked.asked
        ],
        held=found.held,
        said=found.said,
        created_by=user,
    )
    queue.log(plan.reading_set.job, user, "resumed", found.said)
    return resume_of(user, plan_id)


def _read(user: User, wheel: CoreWheel, entry: dict[str, Any]) -> tuple[tuple[str, str], float]:
    """One entry by its kind and spoke, in N or mm; what is wrong with it is said at its own place on the page."""
    key = (entry["kind"], str(entry.get("spoke", "")).upper())
    try:
        return key, stored_value(user, wheel, dict(entry))
    except TradeError as error:
        raise BadReading(error.message, ".".join(key)) from error


def _left_at(plan: Plan, moves: list[PlanMove]) -> PlanMove | None:
    """The nipple noted last, where others of the plan still wait and nothing was read since."""
    noted = [move for move in moves if move.state != PlanMove.State.TODO and move.done_at is not None]
    job = plan.reading_set.job
    if not noted or len(noted) == len(moves) or job.handed_back_at is not None or hasattr(plan, "live"):
        return None
    last = max(noted, key=lambda move: (move.done_at, move.place))
    later = Reading.objects.filter(reading_set__job=job, created_at__gt=last.done_at)
    newer = Plan.objects.filter(reading_set__job=job, created_at__gt=plan.created_at)
    return None if later.exists() or newer.exists() else last


def _asked(plan: Plan, moves: list[PlanMove]) -> Proof:
    state, _ = kept_estimate(plan.reading_set)
    wheel = state.wheel
    turns = np.zeros(wheel.spoke_count)
    for move in moves:
        if move.state != PlanMove.State.TODO and move.done_turns is not None and move.spoke in wheel.index_of:
            turns[wheel.index_of[move.spoke]] += move.done_turns
    broken = frozenset(condition.broken_at(plan.reading_set.job, timezone.now())) & wheel.index_of.keys()
    after = without_spokes(turned_state(state, turns), broken)
    open_spokes = [move.spoke for move in moves if move.state == PlanMove.State.TODO]
    return proving(after, turns, open_spokes)
