"""A practice wheel: begun, shown, found again."""

from __future__ import annotations

import secrets
from dataclasses import asdict, replace
from typing import Any
from uuid import UUID

import numpy as np
from django.db import IntegrityError
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.answers import State
from felloe.bench.services.states import state_values
from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState, estimate_state
from felloe.core.practice.compare import TrueFigures
from felloe.core.practice.deeds import is_blade
from felloe.core.practice.exercises import FAULT_WORDS, FINDABLE, LADDER, Exercise, bladed, own_exercise
from felloe.core.practice.lacing_task import laced_before, questions
from felloe.core.practice.marks import PracticeMarks
from felloe.core.practice.spoilt import Subject, spoil
from felloe.core.said import say
from felloe.core.truing.tiers import TIER_WORDS
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.places.here import atomic
from felloe.practice import answers
from felloe.practice.models import PracticeRun
from felloe.practice.services.subjects import exercise_of, made_of, now_of, readings_of, subject_of
from felloe.wheels.answers import Derived
from felloe.wheels.services.wheels import derived, influence_for

#: The rim is shown at so many places between two spokes.
FINER = 4


def find_run(user: User, run_id: UUID, lock: bool = False) -> PracticeRun:
    """One's own run: nobody works or looks at another's."""
    found = PracticeRun.objects.filter(shop_id=user.shop_id, created_by=user, pk=run_id)
    run = (found.select_for_update() if lock else found).first()
    if run is None:
        raise Http404
    return run


def asked_exercise(values: dict[str, Any]) -> Exercise:
    """The exercise that is asked for; raises BadReading at the field."""
    key = values["exercise"]
    if key == "own":
        return own_exercise(values["kind"], values["faults"], values["mode"], values["tier"])
    if key not in LADDER:
        raise BadReading(say("there is no such exercise"), "exercise")
    return replace(LADDER[key], kind=values["kind"] or LADDER[key].kind)


@atomic
def begin(user: User, values: dict[str, Any], seed: int | None = None) -> PracticeRun:
    """Take a practice wheel; one that is begun already is taken up where it is, unless it is to be put away.

    With a `seed` it is the same wheel every time.
    """
    exercise = asked_exercise(values)
    there = PracticeRun.objects.select_for_update().filter(
        shop_id=user.shop_id, created_by=user, exercise=exercise.key, ended_at=None
    )
    open_run = there.first()
    if open_run is not None:
        if not values["anew"]:
            return open_run
        # Put away unfinished: it counts for nothing.
        there.update(ended_at=timezone.now())
    spoilt = spoil(exercise, np.random.default_rng(secrets.randbits(32) if seed is None else seed))
    first = now_of(spoilt.subject)
    try:
        with atomic():
            return PracticeRun.objects.create(
                shop_id=user.shop_id,
                created_by=user,
                exercise=exercise.key,
                kind=exercise.kind,
                mode=exercise.mode,
                tier=exercise.tier.name,
                asked_faults=list(exercise.faults),
                made=made_of(spoilt),
                now=first,
                readings={"start": first},
            )
    except IntegrityError as error:
        raise Refused(
            "practice_begun", say("This exercise is begun already, on another tablet: go on there or here.")
        ) from error


def run_answer(user: User, run_id: UUID) -> answers.PracticeRun:
    """A run with all that does not change while it is worked."""
    run = find_run(user, run_id)
    exercise = exercise_of(run)
    kind = WHEEL_KINDS[run.kind]
    drawn = derived(kind.wheel)
    return answers.PracticeRun(
        id=run.pk,
        exercise=run.exercise,
        name=exercise.name,
        task=exercise.task,
        mode=run.mode,
        kind=run.kind,
        kind_name=kind.name,
        tier=exercise.tier,
        tier_word=TIER_WORDS[exercise.tier.name],
        lesson=exercise.lesson,
        derived=as_laced(drawn, run.made["swapped"]),
        blade=bladed(run.kind),
        findable=[answers.PracticeWord(fault, FAULT_WORDS[fault]) for fault in FINDABLE],
        created_at=run.created_at,
        now=now_answer(run, subject_of(run), NOTHING),
    )


def as_laced(drawn: Derived, swapped: list[str] | None) -> Derived:
    """The drawing with two spokes in each other's hub holes, where they are."""
    if not swapped:
        return drawn
    by_name = {spoke.name: spoke for spoke in drawn.spokes}
    first, second = (by_name[name] for name in swapped)
    change = {
        first.name: replace(first, hub_angle_deg=second.hub_angle_deg),
        second.name: replace(second, hub_angle_deg=first.hub_angle_deg),
    }
    return replace(drawn, spokes=[change.get(spoke.name, spoke) for spoke in drawn.spokes])


NOTHING = answers.Happened("", "", 0.0, None, "")


def now_answer(run: PracticeRun, subject: Subject, happened: answers.Happened) -> answers.PracticeNow:
    """The wheel as it hangs there. What only an instrument knows is not in it."""
    wheel = subject.wheel
    around = np.arange(wheel.spoke_count * FINER) * 360.0 / (wheel.spoke_count * FINER) + wheel.angles_deg[0]
    read = run.readings
    return answers.PracticeNow(
        deeds=run.deeds,
        angle_deg=[round(float(a), 3) for a in around],
        lateral_mm=[round(float(v), 3) for v in subject.virtual.lateral_mm(around)],
        radial_mm=[round(float(v), 3) for v in subject.virtual.radial_mm(around)],
        blades=[
            answers.Blade(str(name), round(360 * float(subject.virtual.twist_turns[i])))
            for i, name in enumerate(wheel.names)
            if is_blade(subject, i)
        ],
        snapped=[str(wheel.names[i]) for i in sorted(subject.snapped)],
        this_pass=turned_list(read.get("turned", {})),
        touches=run.touches,
        read_version=read.get("version", 0),
        read_spokes=list(read.get("tension", {})),
        looked=bool(read.get("lateral")),
        dish_read=bool(read.get("dish")),
        happened=happened,
        moves=[answers.PracticeMove(**move) for move in run.moves],
        passes=[pass_answer(row) for row in run.passes],
        question=question_of(run) if run.mode == "lace" and run.ended_at is None else None,
        answers=[answers.Given(given["said"], given["right"], given["says"]) for given in run.answers],
        marks=PracticeMarks(**run.marks) if run.marks else None,
        truth=truth_of(run),
    )


def turned_list(by_spoke: dict[str, float]) -> list[answers.NippleTurned]:
    return [answers.NippleTurned(spoke, round(turns, 4)) for spoke, turns in by_spoke.items() if abs(turns) > 1e-6]


def pass_answer(row: dict[str, Any]) -> answers.PracticePass:
    """A pass as it was kept."""
    return answers.PracticePass(
        **{
            **row,
            **{when: TrueFigures(**row[when]) for when in ("before", "after", "best")},
            **{whose: turned_list(row[whose]) for whose in ("yours", "plan")},
        }
    )


def truth_of(run: PracticeRun) -> list[answers.Truth]:
    """What was wrong; nobody is told before the end."""
    if run.ended_at is None or run.mode == "lace":
        return []
    return [answers.Truth(FAULT_WORDS[fault], spokes) for fault, spokes in run.made["faults"].items()]


def question_of(run: PracticeRun) -> answers.LaceQuestion | None:
    """What a lacing run asks next; None when all is in."""
    wheel = WHEEL_KINDS[run.kind].wheel
    asked = questions(wheel)
    at = sum(1 for given in run.answers if given["right"])
    if at >= len(asked):
        return None
    question = asked[at]
    place = question.place
    return answers.LaceQuestion(
        number=at + 1,
        total=len(asked),
        what=question.what,
        spoke=place.spoke,
        side=place.side.value,
        set_number=place.set_number,
        flange_hole=place.flange_hole,
        head=place.head,
        lean=place.lean,
        other=question.other,
        laced=list(laced_before(wheel, question)),
    )


def estimate_of(run: PracticeRun) -> WheelState:
    """What Felloe makes of what was read; it knows the kind of wheel and not this rim's own stiffness."""
    return estimate_state(influence_for(WHEEL_KINDS[run.kind].wheel), readings_of(run))


def state_answer(user: User, run_id: UUID) -> State:
    """The strip of a practice wheel: by the same estimate, and in the same words, as a real one's."""
    run = find_run(user, run_id)
    return state_values(estimate_of(run), readings_of(run), exercise_of(run).tier)


def marks_kept(marks: Any) -> dict[str, float | int | bool]:
    """Marks as they are kept: rounded to what is shown."""
    return {name: round(value, 3) if isinstance(value, float) else value for name, value in asdict(marks).items()}
