"""Live truing: one nipple after the other, a look at the rim after each, what is left worked out anew."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import LiveLook, LivePass, PlanMove, Reading, ReadingSet
from felloe.bench.services.asked import asked_of, require_ground, sense_of, wait_for_answers
from felloe.bench.services.learning import learn_from
from felloe.bench.services.live_follow import (
    begun,
    entries_of,
    find_live,
    followed_of,
    ground_of,
    kept_follow,
    looks_of,
    open_live_of,
    options_of,
    readings_of,
    stale,
)
from felloe.bench.services.plans import kept_plan, moves_of
from felloe.bench.services.readings import append_reading, open_set, set_for_work
from felloe.bench.services.states import estimated
from felloe.bench.services.traces import append_trace
from felloe.core.measuring.entry import spoke_on
from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.mistaken import mistaken
from felloe.core.said import joined, say, sentence
from felloe.core.truing.live import Ahead, left_to_do, why_next
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.places.here import atomic
from felloe.queue import services as queue


@atomic
def begin(user: User, set_id: UUID, options: dict[str, Any]) -> LivePass:
    """Begin a live pass from a set, or go on with the one that is open: two tablets work on one."""
    reading_set = set_for_work(user, set_id)
    open_one = open_live_of(user, set_id)
    if open_one is not None:
        return find_live(user, open_one.plan_id)
    later = Reading.objects.filter(reading_set__job=reading_set.job_id, reading_set__number__gt=reading_set.number)
    if later.exists():
        raise Refused("set_is_old", say("The wheel was read again since: start from the newest readings."), 409)
    state, readings = estimated(reading_set)
    require_ground(readings)
    learn_from(user, reading_set, readings, state)
    despite = sense_of(reading_set, state, options.get("despite") or "")
    asked_for = {"untouchable": options.get("untouchable", ())}
    whole, asked = asked_of(reading_set, state, asked_for)
    if not options.get("as_read"):
        wait_for_answers(reading_set, make_plan(whole, asked), asked_for)
    followed = begun(reading_set)
    made = make_plan(followed.state, asked)
    reason = say("Live: {reason}", reason=made.reason)
    if despite:
        reason = joined(" ", [sentence(say("Planned all the same: {reason}", reason=despite)), reason])
    plan = kept_plan(user, reading_set, asked, made, reason)
    live = LivePass(
        shop_id=user.shop_id,
        plan=plan,
        reading_set=reading_set,
        created_by=user,
    )
    _leave(live, followed, options_of(live), None)
    live.save()
    queue.log(reading_set.job, user, "plan", reason)
    return find_live(user, plan.pk)


def _leave(live: LivePass, followed: Followed, options: PlanOptions, before: Ahead | None) -> None:
    """Work out what is left and note it with the pass."""
    left = left_to_do(followed.state, options, before)
    names = [str(name) for name in followed.state.wheel.names]
    live.left = {
        "steps": [[names[place], turns] for place, turns in left.steps],
        "in_order": left.in_order,
        "hoped": round(left.after.chance, 3),
        "enough": left.enough,
        "ask": names[left.ask] if left.ask is not None else "",
        "chance": None if options.by_eye else round(left.now.chance, 3),
        "chance_after": None if options.by_eye else round(left.after.chance, 3),
        "after": {
            "lateral": round(left.after.lateral_mm, 3),
            "radial": round(left.after.radial_mm, 3),
            "dish": round(left.after.dish_mm, 3),
            "tension": round(left.after.spread_percent, 1),
        },
    }
    live.why = why_next(followed.state, options, left)


def _ahead_of(live: LivePass, followed: Followed) -> Ahead:
    """What was left to turn when it was last worked out."""
    index_of = followed.state.wheel.index_of
    steps = tuple((index_of[name], float(turns)) for name, turns in live.left["steps"] if name in index_of)
    return Ahead(steps, live.left["in_order"], live.left["hoped"])


def for_work(user: User, plan_id: UUID, version: int, ending: bool = False) -> LivePass:
    """A live pass, locked with its job; refused where it has ended, or somebody went on since it was looked at, and, unless it
    is `ending`, where the wheel is no longer the one that was read."""
    live = find_live(user, plan_id)
    live.reading_set.job = queue.open_for_work(user, live.reading_set.job_id)
    locked = LivePass.objects.select_for_update().get(pk=live.pk)
    live.version, live.ended_at, live.left, live.suspect = locked.version, locked.ended_at, locked.left, locked.suspect
    if live.ended_at is not None:
        raise Refused("live_ended", say("This live pass has ended: measure again, or begin another."), 409)
    if live.version != version:
        raise Refused("live_went_on", say("Somebody went on with this wheel meanwhile: look at where it stands now."), 409)
    why = "" if ending else stale(live)
    if why:
        raise Refused("live_stale", why, 409)
    return live


def _kept(live: LivePass) -> LivePass:
    live.version += 1
    live.save(update_fields=["version", "left", "why", "suspect"])
    return live


@atomic
def turned(user: User, plan_id: UUID, values: dict[str, Any]) -> LivePass:
    """Note that a nipple was turned; 0 turns: it would not turn, and is left from now on."""
    live = for_work(user, plan_id, values["version"])
    before = followed_of(live)
    spoke, turns = spoke_on(before.state.wheel, values["spoke"]), float(values["turns"])
    place = before.state.wheel.index_of[spoke]
    left = _ahead_of(live, before)
    proposed = dict(left.steps[:1]).get(place, 0.0)
    count = live.plan.moves.count()
    after = before.turned(place, turns) if turns else before
    state = (
        PlanMove.State.SKIPPED if not turns else PlanMove.State.DONE if abs(turns - proposed) < 1e-9 else PlanMove.State.CHANGED
    )
    PlanMove.objects.create(
        shop_id=live.shop_id,
        plan=live.plan,
        place=count + 1,
        spoke=spoke,
        visit=1 + live.plan.moves.filter(spoke=spoke).count(),
        turns=proposed or turns,
        tension_before_n=round(float(before.state.tension_n[place]), 1),
        tension_after_n=round(float(after.state.tension_n[place]), 1),
        why=live.why if proposed else "",
        state=state,
        done_turns=turns,
        done_at=timezone.now(),
        done_by=user,
        created_by=user,
    )
    live.suspect = None
    _leave(live, followed_of(live), options_of(live), left.without(place) if turns else None)
    return _kept(live)


@atomic
def take_back(user: User, plan_id: UUID, version: int) -> LivePass:
    """The last nipple was not turned after all."""
    live = for_work(user, plan_id, version)
    move = live.plan.moves.order_by("-place").first()
    if move is None or (not move.done_turns and move.state != PlanMove.State.SKIPPED):
        raise Refused("nothing_turned", say("No nipple was noted that could be taken back."), 409)
    move.state, move.done_turns, move.done_at, move.done_by = PlanMove.State.CHANGED, 0.0, timezone.now(), user
    move.save(update_fields=["state", "done_turns", "done_at", "done_by"])
    live.suspect = None
    _leave(live, followed_of(live), options_of(live), None)
    return _kept(live)


@atomic
def mend(user: User, plan_id: UUID, version: int, spoke: str, turns: float) -> LivePass:
    """It was another nipple, or another turn, than was noted last."""
    live = for_work(user, plan_id, version)
    spoke = spoke_on(followed_of(live).state.wheel, spoke)
    move = live.plan.moves.order_by("-place").first()
    if move is None:
        raise Refused("nothing_turned", say("No nipple was noted that could be taken back."), 409)
    queue.log(
        live.reading_set.job,
        user,
        "plan",
        say("Live: noted as {noted}, it was {spoke}.", noted=move.spoke, spoke=spoke)
        if spoke != move.spoke
        else say("Live: {spoke} was turned otherwise than noted.", spoke=spoke),
    )
    if spoke != move.spoke:
        move.visit = 1 + live.plan.moves.filter(spoke=spoke).count()
    move.spoke, move.state, move.done_turns, move.done_at, move.done_by = (
        spoke,
        PlanMove.State.CHANGED,
        turns,
        timezone.now(),
        user,
    )
    move.save(update_fields=["spoke", "visit", "state", "done_turns", "done_at", "done_by"])
    live.suspect = None
    _leave(live, followed_of(live), options_of(live), None)
    return _kept(live)


def add_look(live: LivePass, user: User, look: LiveLook) -> LivePass:
    """Note what was seen, ask whether the last nipple was the one that was noted, and work out what is left."""
    before = followed_of(live)
    moves, earlier = moves_of(live.plan), looks_of(live)
    look.shop_id, look.live_pass, look.created_by = live.shop_id, live, user
    look.number, look.after_moves = len(earlier) + 1, len(moves)
    look.save()
    last = moves[-1] if moves else None
    # The first look after a nipple tells; a second one, past the other dial, takes nothing of it back.
    fresh = last is not None and not any(one.after_moves == len(moves) for one in earlier)
    if last is not None and fresh and last.done_turns and look.source == LiveLook.Source.STREAM:
        entries = entries_of(live, moves[:-1], earlier)
        ahead = kept_follow(live.reading_set_id, ground_of(live), entries)
        place = before.state.wheel.index_of[last.spoke]
        other = mistaken(ahead, place, last.done_turns, readings_of(look))
        if other is not None:
            live.suspect = {
                "spoke": str(before.state.wheel.names[other.place]),
                "turns": other.turns,
                "noted": last.spoke,
                "noted_turns": last.done_turns,
            }
    _leave(live, followed_of(live), options_of(live), _ahead_of(live, before))
    return _kept(live)


@atomic
def end(user: User, plan_id: UUID, version: int) -> LivePass:
    """End a live pass. What was seen after the last nipple becomes a set of readings, so that the next pass goes on from it."""
    live = for_work(user, plan_id, version, ending=True)
    old = stale(live)
    moves = [move for move in moves_of(live.plan) if move.done_turns]
    last = max((move.place for move in moves), default=0)
    looks = [look for look in looks_of(live) if look.after_moves >= last]
    if moves and looks and not old:
        live.ended_set = open_set(user, live.reading_set.job_id, ReadingSet.Stage.AFTER_PASS)
        newest = {(look.kind, look.spoke, look.source): look for look in looks}
        for look in newest.values():
            _kept_reading(user, live.ended_set, look)
    live.ended_at, live.ended_by = timezone.now(), user
    live.version += 1
    live.save(update_fields=["ended_at", "ended_by", "ended_set", "version"])
    queue.log(live.reading_set.job, user, "plan", say("Live truing ended after {count} turns.", count=len(moves)))
    return find_live(user, plan_id)


def _kept_reading(user: User, reading_set: ReadingSet, look: LiveLook) -> None:
    if look.source == LiveLook.Source.SINGLE:
        _, value, sd = look.points[0]
        append_reading(user, reading_set, look.kind, look.spoke, look.entered, value, sd, look.meter_table, look.instrument)
        return
    source = "stream" if look.source == LiveLook.Source.STREAM else "lump"
    append_trace(user, reading_set, look.kind, source, look.points, look.said, look.instrument)
