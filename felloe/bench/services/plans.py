"""Truing plans: made by the core, worked on the bench, with what was really done."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from typing import Any
from uuid import UUID

from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused, refused_at
from felloe.bench import answers
from felloe.bench.models import LearntRim, Plan, PlanMove, Reading, ReadingSet
from felloe.bench.services import moving
from felloe.bench.services.asked import asked_of, require_ground, sense_of, wait_for_answers
from felloe.bench.services.learning import learn_from
from felloe.bench.services.readings import current_readings, find_set, set_for_work, wheel_of
from felloe.bench.services.states import estimated, kept_estimate, rounded, trace_values
from felloe.condition import services as condition
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import SpokeName
from felloe.core.refit.road_advice import road_card
from felloe.core.said import joined, say, sentence
from felloe.core.spokes.length import spoke_length_mm
from felloe.core.spokes.twist import twist_turns
from felloe.core.terms import term
from felloe.core.truing.dish_options import dish_advice, dish_plan
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import TruingPlan, make_plan, plan_of_tried, trade_off
from felloe.core.truing.prediction import turns_by_place
from felloe.core.units import turns_as_fraction
from felloe.instruments.services.instruments import core_table
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.tolerances import held_fields

#: As far as a nipple is turned in one pass, either way.
MOST_TURNS = 3
SAME_TURNS = 1e-9


@atomic
def add_plan(user: User, set_id: UUID, options: dict[str, Any]) -> Plan:
    """Compute a plan from a set's current readings and keep it with its prediction."""
    reading_set = set_for_work(user, set_id)
    state, readings = estimated(reading_set)
    require_ground(readings)
    learnt = learn_from(user, reading_set, readings, state)
    if learnt is not None and learnt.shirkers:
        # Nipples that are named now count with what they did in this very plan.
        state, _ = estimated(reading_set)
    despite = sense_of(reading_set, state, options.get("despite") or "")
    state, asked = asked_of(reading_set, state, options)
    dish_option = options.get("dish_option")
    tried = options.get("turns") or {}
    if dish_option:
        made = dish_plan(state, asked, dish_option)
    elif tried:
        made = plan_of_tried(state, asked, turns_by_place(state.wheel, tried))
    else:
        made = make_plan(state, asked)
    if not dish_option and not tried and not options.get("as_read"):
        wait_for_answers(reading_set, made, options)
    reason = made.reason
    mode, broken = asked.mode, state.broken
    if mode == "ride_home":
        card = road_card("broken_spoke", reading_set.job.wheel.bike.brake == "rim", *_road(reading_set, broken))
        reason = (
            joined(" ", [card.label + ":", card.steps[-1], reason])
            if card.ride
            else say("Not to be ridden home: walk it. {reason}", reason=reason)
        )
    if despite:
        reason = joined(" ", [sentence(say("Planned all the same: {reason}", reason=despite)), reason])
    row = LearntRim.objects.filter(reading_set=reading_set).order_by("-created_at").first() if learnt else None
    plan = kept_plan(user, reading_set, asked, made, reason, row)
    PlanMove.objects.bulk_create(
        PlanMove(
            shop_id=user.shop_id,
            plan=plan,
            place=place,
            spoke=move.spoke,
            visit=1 + sum(1 for earlier in made.moves[: place - 1] if earlier.spoke == move.spoke),
            turns=move.turns,
            tension_before_n=round(move.tension_before_n, 1),
            tension_after_n=round(move.tension_after_n, 1),
            turn_from_n=round(move.turn_from_n, 1),
            turn_to_n=round(move.turn_to_n, 1),
            why=move.why,
            created_by=user,
        )
        for place, move in enumerate(made.moves, start=1)
    )
    queue.log(reading_set.job, user, "plan", reason)
    if made.moves:
        moving.plan_made(user, reading_set.job)
    return find_plan(user, plan.pk)


def kept_plan(
    user: User, reading_set: ReadingSet, asked: PlanOptions, made: TruingPlan, reason: str, learnt: LearntRim | None = None
) -> Plan:
    """The row of a plan with what it predicts, without its moves."""
    return Plan.objects.create(
        shop_id=user.shop_id,
        reading_set=reading_set,
        mode=asked.mode,
        learnt=learnt,
        **held_fields(reading_set.job.tolerance),
        step_turns=made.options.step_turns,
        limit_turns=made.limit_turns,
        untouchable=sorted(asked.untouchable),
        reason=reason,
        caution=made.caution,
        unread=sorted(asked.unread),
        by_eye=sorted(asked.by_eye),
        eased_first=made.eased_first,
        chance=None if asked.by_eye else round(made.expected.chance, 3),
        chance_before=None if asked.by_eye else round(made.before.chance, 3),
        spread_after_percent=round(made.expected.spread_percent, 1),
        mean_after_n=round(made.expected.mean_n, 1),
        minutes=round(made.minutes, 1),
        laps=made.laps,
        worst_tension_n=round(made.worst_tension_n, 1),
        worst_spoke=made.worst_spoke,
        predicted=asdict(
            answers.Predicted(
                tension_n=rounded(made.after.tension_n, 1),
                lateral_mm=rounded(made.after.lateral_mm, 3),
                radial_mm=rounded(made.after.radial_mm, 3),
                dish_mm=round(made.after.dish_mm, 3),
                lateral_tir_mm=round(made.after.trace.lateral_tir_mm, 3),
                radial_tir_mm=round(made.after.trace.radial_tir_mm, 3),
                trace=trace_values(made.after.trace),
            )
        ),
        created_by=user,
    )


def trade_off_of(user: User, set_id: UUID, options: dict[str, Any]) -> answers.TradeOff:
    """Nipples against chance and finish for a set, before any plan is made; nothing is kept."""
    reading_set = find_set(user, set_id)
    state, readings = kept_estimate(reading_set)
    require_ground(readings)
    state, asked = asked_of(reading_set, state, options)
    return answers.TradeOff(
        tier=asked.tier,
        by_eye=sorted(asked.by_eye),
        unread=sorted(asked.unread),
        asked_chance=asked.chance,
        target_n=state.wheel.rim.tension_target_n,
        choices=[
            answers.PlanChoice(
                nipples=choice.nipples,
                turns=round(choice.total_turns, 3),
                minutes=round(choice.minutes, 1),
                chance=round(choice.expected.chance, 3),
                lateral_mm=round(choice.expected.lateral_mm, 3),
                radial_mm=round(choice.expected.radial_mm, 3),
                dish_mm=round(choice.expected.dish_mm, 3),
                spread_percent=round(choice.expected.spread_percent, 1),
                mean_n=round(choice.expected.mean_n, 1),
                proposed=choice.proposed,
            )
            for choice in trade_off(state, asked)
        ],
    )


def left_alone(user: User, set_id: UUID) -> answers.LeftAlone:
    """Nipples that the last plan for this wheel was told to leave, and those it asked for that were skipped: seized ones are
    remembered."""
    reading_set = find_set(user, set_id)
    wheel = reading_set.job.wheel_id
    plan = Plan.objects.filter(shop_id=reading_set.shop_id, reading_set__job__wheel=wheel).order_by("-created_at").first()
    if plan is None:
        return answers.LeftAlone([])
    skipped = plan.moves.filter(state=PlanMove.State.SKIPPED).values_list("spoke", flat=True)
    on_wheel = wheel_of(reading_set).index_of
    return answers.LeftAlone(sorted({name for name in (*plan.untouchable, *skipped) if name in on_wheel}))


def _road(reading_set: ReadingSet, broken: frozenset[str]) -> tuple[bool, bool, int]:
    """Whether the wheel is loaded, whether its rim is carbon, and how many spokes it has; two broken are too many."""
    wheel = wheel_of(reading_set)
    loaded = reading_set.job.wheel.bike.use in ("cargo", "tandem")
    return loaded, wheel.rim.material == "carbon", wheel.spoke_count if len(broken) == 1 else 0


def dish_options_of(user: User, set_id: UUID) -> answers.DishAdvice:
    """The ways to correct dish from a set's readings; refused where dish was not measured."""
    state, readings = kept_estimate(find_set(user, set_id))
    if not readings.dish:
        raise Refused("dish_not_measured", say("Measure the dish first, by gauge or by flipping."), 422)
    advice = dish_advice(state)
    return answers.DishAdvice(
        dish_mm=round(state.dish_mm, 3),
        dish_sd_mm=round(state.dish_sd_mm, 3),
        lateral_tir_mm=round(state.figures.lateral_tir_mm, 3),
        straight_enough=advice.straight_enough,
        reason=advice.reason,
        options=[
            answers.DishOption(
                key=option.key,
                name=option.name,
                right_turns=option.right_turns,
                left_turns=option.left_turns,
                dish_after_mm=round(option.after.dish_mm, 3),
                right_mean_n=round(option.right_mean_n, 1),
                left_mean_n=round(option.left_mean_n, 1),
                over_cap=option.over_cap,
                proposed=option.proposed,
            )
            for option in advice.options
        ],
    )


def find_plan(user: User, plan_id: UUID) -> Plan:
    plan = (
        Plan.objects.select_related("reading_set", "reading_set__job", "reading_set__job__wheel", "created_by", "live")
        .filter(shop_id=user.shop_id, pk=plan_id)
        .first()
    )
    if plan is None:
        raise Http404
    return plan


def moves_of(plan: Plan) -> list[PlanMove]:
    return list(plan.moves.select_related("done_by").order_by("place"))


def plans_of_job(user: User, job_id: UUID) -> list[Plan]:
    job = queue.find_job(user, job_id)
    return list(Plan.objects.filter(reading_set__job=job).select_related("reading_set", "live").order_by("created_at"))


def expected_readings(plan: Plan) -> dict[str, float]:
    """What the meter used in the plan's readings will show on each touched spoke after the pass."""
    tables = {}
    wheel = wheel_of(plan.reading_set)
    for row in current_readings(plan.reading_set):
        if row.meter_table is not None:
            tables[wheel.side(SpokeName.parse(row.spoke).side).spoke.kind] = core_table(row.meter_table)
    expected = {}
    for move in moves_of(plan):
        table = tables.get(wheel.side(SpokeName.parse(move.spoke).side).spoke.kind)
        reading = table.reading(move.tension_after_n) if table else None
        if reading is not None:
            expected[move.spoke] = reading
    return expected


def twists(plan: Plan) -> dict[str, float]:
    """How far each touched spoke will turn along with its nipple [turns], in sixteenths; nothing where it hardly does."""
    wheel = wheel_of(plan.reading_set)
    found = {}
    for move in moves_of(plan):
        side = SpokeName.parse(move.spoke).side
        lacing = wheel.side(side)
        length_mm = spoke_length_mm(wheel, side)
        # A plan of before knows only what the whole pass does.
        held_n = [move.tension_before_n, move.tension_after_n]
        if move.turn_from_n is not None and move.turn_to_n is not None:
            held_n = [move.turn_from_n, move.turn_to_n]
        under_n = max(*held_n, 0.0)
        found[move.spoke] = round(16 * twist_turns(lacing.spoke, length_mm, lacing.pitch_mm, under_n, move.turns > 0)) / 16
    return found


@atomic
def mark_move(user: User, plan_id: UUID, spoke: str, state: str, done_turns: float | None, instead: str = "") -> PlanMove:
    """Note what was done to one nipple: as planned, differently, skipped, or not yet. Its second turn in a plan is `R5.2`.

    One that is noted already was perhaps turned at another tablet: `instead` says whether this turn comes on top ("more")
    or puts right what is noted ("replace"); without it Refused "turned_already" asks.
    """
    plan = find_plan(user, plan_id)
    queue.open_for_work(user, plan.reading_set.job_id)
    name, _, visit = spoke.upper().partition(".")
    if visit and not visit.isdigit():
        raise Http404
    move = PlanMove.objects.select_for_update().filter(plan=plan, spoke=name, visit=int(visit or 1)).first()
    if move is None:
        raise Http404
    noted = move.done_turns
    if noted is not None and state != PlanMove.State.TODO and not instead:
        raise Refused("turned_already", _who_turned(move), 409)
    move.state = state
    if state == PlanMove.State.TODO:
        move.done_turns = move.done_at = move.done_by = None
    else:
        if state == PlanMove.State.CHANGED and done_turns is None:
            raise Refused(
                "turns_missing",
                say("Say how far it was turned instead."),
                422,
                errors=[{"field": "done_turns", "message": say("say how far it was turned"), "code": "turns_missing"}],
            )
        by_state = {PlanMove.State.DONE: move.turns, PlanMove.State.SKIPPED: 0.0}
        move.done_turns = by_state.get(PlanMove.State(state), done_turns)
        if instead == "more" and noted and move.done_turns is not None:
            move.done_turns += noted
            if abs(move.done_turns) > MOST_TURNS:
                raise refused_at("done_turns", "too_far", say("Together that is more than three turns: correct it instead."))
            move.state = PlanMove.State.DONE if abs(move.done_turns - move.turns) < SAME_TURNS else PlanMove.State.CHANGED
        move.done_at, move.done_by = timezone.now(), user
    move.save(update_fields=["state", "done_turns", "done_at", "done_by"])
    if state != PlanMove.State.TODO:
        moving.plan_done(user, plan)
    return move


def _who_turned(move: PlanMove) -> str:
    whom = {"nipple": move.key, "name": move.done_by.display_name if move.done_by else ""}
    if move.state == PlanMove.State.SKIPPED:
        return say("{nipple} was left as it is by {name}.", **whom)
    turned = move.done_turns or 0.0
    amount = turns_as_fraction(round(turned * 16) / 16)
    if turned < 0:
        return say("{nipple} was eased by {turns} of a turn already, by {name}.", turns=amount, **whom)
    return say("{nipple} was tightened by {turns} of a turn already, by {name}.", turns=amount, **whom)


def outdated(plan: Plan) -> str:
    """Why a plan rests on what is no longer so; empty while it does not."""
    later = plan.reading_set.readings.filter(created_at__gt=plan.created_at)
    places = list(dict.fromkeys(later.order_by("created_at").values_list("kind", "spoke")))
    if places:
        said = [say("{kind} {spoke}", kind=term(kind), spoke=spoke) for kind, spoke in places[:4]]
        more = say(" and others") if len(places) > 4 else ""
        what = joined("", [joined(", ", said), more])
        return say("Readings were mended or added since this plan was made: {what}. Make a new one.", what=what)
    broken = condition.broken_since(plan.reading_set.job, plan.created_at)
    if broken:
        return say("{spokes} broke since this plan was made. Make a new one.", spokes=joined(", ", broken))
    return ""


def latest_sets(user: User, job_id: UUID) -> tuple[ReadingSet | None, ReadingSet | None]:
    """The first set (as found, else the earliest) and the last set with any reading, for comparing."""
    job = queue.find_job(user, job_id)
    filled = Reading.objects.filter(reading_set__job=job).values_list("reading_set_id", flat=True)
    sets = list(ReadingSet.objects.filter(job=job, pk__in=filled).select_related("job", "job__wheel").order_by("number"))
    found = next((s for s in sets if s.stage == ReadingSet.Stage.AS_FOUND), sets[0] if sets else None)
    return found, sets[-1] if sets else None


def is_as_left(job: Job, reading_set: ReadingSet) -> bool:
    """Whether a set was read as the wheel leaves: taken as left, and no nipple noted as turned since its last reading."""
    last = reading_set.readings.order_by("-created_at").first()
    taken = reading_set.stage == ReadingSet.Stage.AS_LEFT and last is not None
    if not taken or last is None or turned_since(job, last.created_at):
        return False
    return not condition.broken_since(job, last.created_at)


def turned_since(job: Job, when: datetime) -> bool:
    """Whether a nipple of this wheel was noted as turned after `when`."""
    turned = PlanMove.objects.filter(plan__reading_set__job=job, done_at__gt=when).exclude(state=PlanMove.State.TODO)
    return turned.exists()


def newest_estimate(user: User, job_id: UUID) -> tuple[WheelState, Readings] | None:
    """The newest state of a job that rests on any reading, with those readings; None where nothing was measured."""
    _, last = latest_sets(user, job_id)
    return kept_estimate(last) if last is not None else None


def newest_state(user: User, job_id: UUID) -> WheelState | None:
    """The newest state of a job; None where nothing was measured."""
    found = newest_estimate(user, job_id)
    return found[0] if found else None
