"""What earlier passes taught of a wheel's rim, and readings that they carry over."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from felloe.accounts.models import User
from felloe.bench.models import LearntRim, Plan, PlanMove, ReadingSet
from felloe.bench.services.readings import core_readings, current_readings, traces_of, wheel_of
from felloe.core.components import Wheel as CoreWheel
from felloe.core.mechanics.carry import MOST_CARRIED_SETS, carried
from felloe.core.mechanics.influence import Influence
from felloe.core.mechanics.learning import Learnt, RimFactors, learn
from felloe.core.mechanics.readings import Readings
from felloe.wheels.services import influence_for


def known_of(reading_set: ReadingSet) -> RimFactors | None:
    """What was known of the rim when a set was begun; None where nothing was, or the wheel's dimensions changed since."""
    wheel = reading_set.job.wheel
    row = (
        LearntRim.objects.filter(wheel=wheel, wheel_version=wheel.version, created_at__lte=reading_set.created_at)
        .order_by("-created_at")
        .first()
    )
    return factors_of(row) if row is not None else None


def factors_of(row: LearntRim) -> RimFactors:
    lateral, radial, torsion = row.log_sd
    return RimFactors(row.ei_lat, row.ei_rad, row.gj, (lateral, radial, torsion))


def influence_with(wheel: CoreWheel, factors: RimFactors | None) -> Influence:
    """The influence of a wheel whose rim is as stiff as was learnt, kept like any other."""
    return influence_for(factors.applied(wheel) if factors is not None else wheel)


@dataclass(frozen=True)
class Before:
    """The set before another, and the turns (n,) made from it; `sure` is False where something else was done between."""

    reading_set: ReadingSet
    turns: np.ndarray
    sure: bool


def before_of(reading_set: ReadingSet, wheel: CoreWheel) -> Before | None:
    """The set before this one in its job with the turns made from its plans; None where there is none."""
    earlier = (
        ReadingSet.objects.filter(job=reading_set.job_id, number__lt=reading_set.number, readings__isnull=False)
        .select_related("job", "job__wheel", "job__wheel__bike", "created_by")
        .order_by("-number")
        .first()
    )
    if earlier is None:
        return None
    turns = np.zeros(wheel.spoke_count)
    moves = PlanMove.objects.filter(plan__reading_set=earlier).exclude(state=PlanMove.State.TODO)
    for move in moves:
        if move.spoke in wheel.index_of and move.done_turns is not None:
            turns[wheel.index_of[move.spoke]] += move.done_turns
    between = reading_set.job.events.filter(created_at__gt=earlier.created_at, created_at__lt=reading_set.created_at)
    # A wheel whose plan was worked was not taken apart between; one that passed the lacing without a plan may have been.
    laced = not turns.any() and between.filter(to_stage="strip_lace").exists()
    other_work = laced or between.filter(kind="mark_ended").exists()
    # A plan that nobody worked changed nothing; one worked in part may have been worked further than was ticked.
    worked = Plan.objects.filter(reading_set=earlier, pk__in=moves.values("plan"))
    unmarked = worked.filter(moves__state=PlanMove.State.TODO).exists()
    return Before(earlier, turns, not other_work and not unmarked)


def with_carried(reading_set: ReadingSet, wheel: CoreWheel, own: Readings, influence: Influence, depth: int = 0) -> Readings:
    """A set's own readings with those of earlier sets of the job moved by the turns made since."""
    if depth >= MOST_CARRIED_SETS or own.count >= 3 * wheel.spoke_count:
        return own
    before = before_of(reading_set, wheel)
    if before is None or not before.sure:
        return own
    earlier = core_readings(wheel, current_readings(before.reading_set), traces_of(before.reading_set))
    earlier = with_carried(before.reading_set, wheel, earlier, influence, depth + 1)
    return carried(influence, earlier, before.turns, own)


def learn_from(user: User, reading_set: ReadingSet, own: Readings) -> tuple[RimFactors | None, Learnt | None]:
    """Learn from what the pass before this set did, keep it with the wheel, and say what is known now."""
    wheel = wheel_of(reading_set)
    known = known_of(reading_set)
    before = before_of(reading_set, wheel)
    if before is None or not before.sure:
        return known, None
    earlier = core_readings(wheel, current_readings(before.reading_set), traces_of(before.reading_set))
    learnt = learn(wheel, earlier, own, before.turns, known)
    if learnt is None:
        return known, None
    LearntRim.objects.create(
        shop_id=reading_set.shop_id,
        wheel=reading_set.job.wheel,
        wheel_version=reading_set.job.wheel.version,
        reading_set=reading_set,
        ei_lat=learnt.factors.ei_lat,
        ei_rad=learnt.factors.ei_rad,
        gj=learnt.factors.gj,
        log_sd=list(learnt.factors.log_sd),
        changes=learnt.changes,
        misfit_before=learnt.misfit_before,
        misfit_after=learnt.misfit_after,
        shirkers=[{"spoke": s.spoke, "share": round(s.share, 2)} for s in learnt.shirkers],
        created_by=user,
    )
    return learnt.factors, learnt
