"""What earlier passes taught of a wheel's rim, and readings that they carry over."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache, partial
from uuid import UUID

import numpy as np

from felloe.accounts.models import User
from felloe.bench.models import LearntRim, Plan, PlanMove, ReadingSet
from felloe.bench.services.prints import print_of_earlier
from felloe.bench.services.readings import core_readings, traces_of, wheel_of
from felloe.bench.services.rows import current_rows
from felloe.condition import services as condition
from felloe.core.components import Wheel as CoreWheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.influence import Influence
from felloe.core.mechanics.joint import MOST_EARLIER_SETS, EarlierSet, unread
from felloe.core.mechanics.learning import Learnt, RimFactors, learn, pooled
from felloe.core.mechanics.readings import Readings
from felloe.places.here import database
from felloe.wheels.services import influence_for

#: Of other wheels with the same rim so many rows are looked at.
MOST_ALIKE = 24


def known_of(reading_set: ReadingSet) -> RimFactors | None:
    """What was known of the rim when a set was begun: of this wheel, else of others with the same rim in this shop.

    None where nothing was, or the wheel's dimensions changed since.
    """
    return known_of_each([reading_set])[0]


def known_of_each(sets: Sequence[ReadingSet]) -> list[RimFactors | None]:
    """The same for sets of one job, in one question: it is asked with every reading."""
    wheel = sets[0].job.wheel
    with database().cursor() as cursor:
        cursor.execute(
            """
            SELECT begun.set, learnt.wheel_id, learnt.ei_lat, learnt.ei_rad, learnt.gj, learnt.log_sd::text
            FROM unnest(%(sets)s::uuid[], %(moments)s::timestamptz[]) AS begun (set, at) CROSS JOIN LATERAL (
                WITH own AS (
                    SELECT l.* FROM bench_learntrim l
                    WHERE l.wheel_id = %(wheel)s AND l.wheel_version = %(version)s AND l.created_at <= begun.at
                    ORDER BY l.created_at DESC LIMIT 1
                )
                SELECT * FROM own
                UNION ALL
                (SELECT l.* FROM bench_learntrim l JOIN wheels_wheel w ON w.id = l.wheel_id AND w.version = l.wheel_version
                 WHERE l.shop_id = %(shop)s AND w.specification -> 'rim' = %(rim)s::jsonb AND l.created_at <= begun.at
                   AND NOT EXISTS (SELECT FROM own)
                 ORDER BY l.created_at DESC LIMIT %(most)s)
            ) AS learnt ORDER BY learnt.created_at DESC
            """,
            {
                "sets": [one.pk for one in sets],
                "moments": [one.created_at for one in sets],
                "wheel": wheel.pk,
                "version": wheel.version,
                "shop": sets[0].shop_id,
                "rim": json.dumps(wheel.specification.get("rim")),
                "most": MOST_ALIKE,
            },
        )
        rows = cursor.fetchall()
    found = []
    for one in sets:
        newest: dict[UUID, RimFactors] = {}
        for set_id, wheel_id, ei_lat, ei_rad, gj, log_sd in rows:
            if set_id == one.pk:
                newest.setdefault(wheel_id, _factors(ei_lat, ei_rad, gj, json.loads(log_sd)))
        own = newest.get(wheel.pk)
        found.append(own if own is not None else pooled(list(newest.values())[::-1]))
    return found


def _factors(ei_lat: float, ei_rad: float, gj: float, log_sd: list[float]) -> RimFactors:
    lateral, radial, torsion = log_sd
    return RimFactors(ei_lat, ei_rad, gj, (lateral, radial, torsion))


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


def own_of(reading_set: ReadingSet, wheel: CoreWheel) -> Readings:
    """What was read in a set."""
    return core_readings(wheel, current_rows(reading_set), traces_of(reading_set))


def earlier_sets(
    reading_set: ReadingSet, wheel: CoreWheel, own: Callable[[], Readings] | None = None
) -> tuple[list[EarlierSet], ReadingSet]:
    """The sets of the job that this one goes on from, the oldest first, with the turns made after each; and the first of all.

    Nipples that surely did not do their share count with what they did. `own` gives what was read in this one, where it is
    known already.
    """
    if reading_set.number == 1:
        return [], reading_set
    chain, first = _kept_chain(reading_set.pk, print_of_earlier(reading_set))
    if not chain:
        return [], reading_set
    return [*chain[:-1], _without_turns(chain[-1], own or (lambda: own_of(reading_set, wheel)))], first


def _without_turns(earlier: EarlierSet, later: Callable[[], Readings]) -> EarlierSet:
    """Where nothing was noted after a set a hand may have worked all the same: what was read again counts alone."""
    return earlier if earlier.turns.any() else EarlierSet(unread(earlier.readings, later()), earlier.turns)


@lru_cache(maxsize=128)
def _kept_chain(set_id: UUID, _print: tuple[object, ...]) -> tuple[tuple[EarlierSet, ...], ReadingSet]:
    """The sets before one, the oldest first and the last as it was read, kept for as long as their print stays the same."""
    reading_set = ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id)
    wheel = wheel_of(reading_set)
    chain: list[EarlierSet] = []
    first = reading_set
    broken = set(condition.broken_at(reading_set.job, reading_set.created_at))
    while len(chain) < MOST_EARLIER_SETS:
        before = before_of(first, wheel)
        if before is None or not before.sure:
            break
        if set(condition.broken_at(first.job, before.reading_set.created_at)) != broken:
            break
        turns = before.turns.copy()
        row = LearntRim.objects.filter(reading_set=first).order_by("-created_at").first()
        for shirker in row.shirkers if row is not None else []:
            if shirker["spoke"] in wheel.index_of:
                turns[wheel.index_of[shirker["spoke"]]] *= shirker["share"]
        link = EarlierSet(own_of(before.reading_set, wheel), turns)
        # What the set itself reads again is looked at each time; between the earlier ones it is settled.
        chain.append(_without_turns(link, partial(own_of, first, wheel)) if chain else link)
        first = before.reading_set
    return tuple(chain[::-1]), first


def learn_from(user: User, reading_set: ReadingSet, own: Readings, state: WheelState) -> Learnt | None:
    """Keep with the wheel what the pass before this set taught: how stiff its rim is, by all passes together, and which
    nipples did not do their share."""
    wheel = wheel_of(reading_set)
    before = before_of(reading_set, wheel)
    if before is None or not before.sure or state.doubt is None:
        return None
    earlier = own_of(before.reading_set, wheel)
    learnt = learn(wheel, earlier, own, before.turns, known_of(reading_set))
    if learnt is None:
        return None
    spread = np.sqrt(np.diag(state.doubt.covariance))
    ei_lat, ei_rad, gj = (float(f) for f in np.exp(state.doubt.factor_logs))
    LearntRim.objects.create(
        shop_id=reading_set.shop_id,
        wheel=reading_set.job.wheel,
        wheel_version=reading_set.job.wheel.version,
        reading_set=reading_set,
        ei_lat=ei_lat,
        ei_rad=ei_rad,
        gj=gj,
        log_sd=[round(float(sd), 4) for sd in spread],
        changes=learnt.changes,
        misfit_before=learnt.misfit_before,
        misfit_after=learnt.misfit_after,
        shirkers=[{"spoke": s.spoke, "share": round(s.share, 2)} for s in learnt.shirkers],
        created_by=user,
    )
    return learnt
