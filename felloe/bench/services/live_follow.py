"""A live pass as the core follows it: what was turned and seen, in its order."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from uuid import UUID

from django.db.models import Count, Max, Sum
from django.http import Http404

from felloe.accounts.models import User
from felloe.bench.models import DialTrace, LiveLook, LivePass, PlanMove, Reading, ReadingSet
from felloe.bench.services.plans import moves_of
from felloe.bench.services.states import estimated
from felloe.condition import services as condition
from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.said import joined, say
from felloe.core.truing.options import PlanOptions, unread_figures
from felloe.core.truing.prediction import without_spokes


def find_live(user: User, plan_id: UUID) -> LivePass:
    found = (
        LivePass.objects.select_related(
            "plan", "reading_set", "reading_set__job", "reading_set__job__wheel", "reading_set__job__wheel__bike"
        )
        .filter(shop_id=user.shop_id, plan_id=plan_id)
        .first()
    )
    if found is None:
        raise Http404
    return found


def open_live_of(user: User, set_id: UUID) -> LivePass | None:
    """The live pass of a set that is still worked; None where there is none."""
    return LivePass.objects.filter(shop_id=user.shop_id, reading_set_id=set_id, ended_at__isnull=True).first()


def begun(reading_set: ReadingSet) -> Followed:
    """The wheel as it stands when a live pass of this set begins: what other plans of the set turned is turned."""
    state, _ = estimated(reading_set)
    state = without_spokes(state, frozenset(condition.broken_at(reading_set.job, reading_set.created_at)))
    followed = Followed.begun(state)
    done = PlanMove.objects.filter(plan__reading_set=reading_set, plan__live__isnull=True, done_turns__isnull=False)
    for move in done.exclude(done_turns=0).order_by("done_at"):
        if move.spoke in state.wheel.index_of and move.done_turns:
            followed = followed.turned(state.wheel.index_of[move.spoke], move.done_turns)
    return followed


def options_of(live: LivePass) -> PlanOptions:
    """How a live pass plans; nipples that would not turn are left."""
    plan, looks = live.plan, looks_of(live)
    seized = plan.moves.filter(state=PlanMove.State.SKIPPED).values_list("spoke", flat=True)
    # One value of a dial, or of one spoke's meter, does not make a figure measured.
    whole = [look for look in looks if look.source != LiveLook.Source.SINGLE or look.kind in ("tension", "dish")]
    unread = frozenset(plan.unread) & unread_figures([readings_of(look) for look in whole])
    dialled = {look.kind for look in looks if look.source != LiveLook.Source.EYE}
    return PlanOptions(
        tier=plan.tolerance,
        step_turns=plan.step_turns,
        untouchable=frozenset({*plan.untouchable, *seized}),
        unread=unread,
        by_eye=(frozenset(plan.by_eye) | (frozenset(plan.unread) - unread)) - dialled,
    )


def looks_of(live: LivePass) -> list[LiveLook]:
    return list(live.looks.select_related("created_by").order_by("number"))


def readings_of(look: LiveLook) -> Readings:
    """A look as the core's readings; a trace has a zero of its own, one value of a dial that of the set."""
    if look.kind == "tension":
        return Readings(tension=[TensionReading(look.spoke, value, sd) for _, value, sd in look.points])
    if look.kind == "dish":
        return Readings(dish=[DishReading(value, sd) for _, value, sd in look.points])
    group = 0 if look.source == LiveLook.Source.SINGLE else 1
    points = [RunoutReading(angle, value, sd, group) for angle, value, sd in look.points]
    return Readings(lateral=points) if look.kind == "lateral" else Readings(radial=points)


def entries_of(live: LivePass, moves: Sequence[PlanMove], looks: Sequence[LiveLook]) -> tuple[tuple[str, ...], ...]:
    """What was done, in its order, by names that change whenever it does."""
    done: list[tuple[int, int, tuple[str, ...]]] = [
        (move.place, 0, ("move", str(move.pk), move.spoke, repr(move.done_turns))) for move in moves
    ]
    done += [(look.after_moves, look.number, ("look", str(look.pk))) for look in looks]
    return tuple(entry for _, _, entry in sorted(done, key=lambda item: item[:2]))


@lru_cache(maxsize=48)
def kept_follow(set_id: UUID, ground: tuple[object, ...], done: tuple[tuple[str, ...], ...]) -> Followed:
    """The wheel after what was done; kept step by step, so that the next one costs one step."""
    if not done:
        return begun(ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id))
    before = kept_follow(set_id, ground, done[:-1])
    kind, key, *rest = done[-1]
    if kind == "move":
        index_of, turns = before.state.wheel.index_of, float(rest[1])
        return before.turned(index_of[rest[0]], turns) if rest[0] in index_of and turns else before
    look = LiveLook.objects.get(pk=key)
    first = kept_follow(set_id, ground, ())
    return before.read(readings_of(look), first.zeros() if look.source == LiveLook.Source.SINGLE else None)


def ground_of(live: LivePass) -> tuple[object, ...]:
    """What a live pass rests on, and what changes it: readings of the set, turns of its other plans, breaks."""
    others = PlanMove.objects.filter(plan__reading_set=live.reading_set, plan__live__isnull=True)
    told = others.aggregate(last=Max("done_at"), marked=Count("done_at"), turns=Sum("done_turns"))
    read = Reading.objects.filter(reading_set=live.reading_set).aggregate(last=Max("created_at"), count=Count("id"))
    traced = DialTrace.objects.filter(reading_set=live.reading_set).aggregate(count=Count("id"), back=Count("withdrawal"))
    job = live.reading_set.job
    return (*told.values(), *read.values(), *traced.values(), job.wheel.version, condition.marks_count(job))


def stale(live: LivePass) -> str:
    """Why what is left rests on what is no longer so; empty while it does not."""
    broken = condition.broken_since(live.reading_set.job, live.plan.created_at)
    if broken:
        return say("{spokes} broke since this pass began: end it here and read the wheel again.", spokes=joined(", ", broken))
    later = Reading.objects.filter(reading_set__job=live.reading_set.job_id, reading_set__number__gt=live.reading_set.number)
    if later.exists():
        return say("The wheel was read again since this pass began: end it here and go on from those readings.")
    return ""


def zeros_of(live: LivePass) -> dict[tuple[str, int], float]:
    """Where the dials of the set's own readings stand [mm], by kind and group."""
    return kept_follow(live.reading_set_id, ground_of(live), ()).zeros()


def followed_of(live: LivePass) -> Followed:
    """The wheel as it stands now."""
    moves, looks = moves_of(live.plan), looks_of(live)
    return kept_follow(live.reading_set_id, ground_of(live), entries_of(live, moves, looks))


def totals(live: LivePass) -> dict[str, float]:
    """How far each nipple was turned in this pass [turns]."""
    made: dict[str, float] = {}
    for move in moves_of(live.plan):
        if move.done_turns:
            made[move.spoke] = made.get(move.spoke, 0.0) + move.done_turns
    return made
