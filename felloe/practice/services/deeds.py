"""What is done to a practice wheel: one deed, one transaction, and what it showed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, replace
from typing import Any
from uuid import UUID

import numpy as np
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused, refused_at
from felloe.core.mechanics.readings import FEWEST_FOR_A_PLAN
from felloe.core.practice import deeds
from felloe.core.practice.compare import best_plan, compare, settled_figures
from felloe.core.practice.exercises import FAULT_WORDS, FINDABLE
from felloe.core.practice.judging import EVERYWHERE, fewest_touches, judge_guess, tight_enough
from felloe.core.practice.lacing_task import answer_cross, answer_hole, questions
from felloe.core.practice.marks import FORGIVEN, mark_answers, mark_truing
from felloe.core.practice.spoilt import Subject
from felloe.core.said import joined, say
from felloe.core.truing.options import PlanOptions, unread_figures
from felloe.core.truing.plan import make_plan
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.places.here import atomic
from felloe.practice import answers
from felloe.practice.models import PracticeRun
from felloe.practice.services.runs import NOTHING, estimate_of, find_run, marks_kept, now_answer
from felloe.practice.services.subjects import exercise_of, now_of, readings_of, subject_of
from felloe.wheels.services.wheels import influence_for

#: What a hand does at the wheel, many times a minute, and all of a run that it changes.
_BY_HAND = frozenset({"turn", "oil", "nipple", "straighten", "settle", "look", "dish", "squeeze"})
_AT_THE_WHEEL = ["now", "readings", "deeds", "touches", "turned"]


@atomic
def act(user: User, run_id: UUID, values: dict[str, Any]) -> answers.PracticeNow:
    """Do one thing to one's own practice wheel; what it showed comes back with the wheel as it is then."""
    run = find_run(user, run_id, lock=True)
    if run.ended_at is not None:
        raise Refused("practice_ended", say("This exercise is over. Take another wheel."))
    what = values["what"]
    if (what in ("hole", "cross")) != (run.mode == "lace") and what != "end":
        raise refused_at("what", "not_here", say("That is not asked in this exercise."))
    if what in ("look", "dish", "squeeze", "plan") and run.mode == "eye":
        raise refused_at("what", "by_eye", say("This one is worked by eye: nothing is measured."))
    run.deeds += 1
    subject, happened = _DEEDS[what](run, subject_of(run), values)
    run.now = now_of(subject)
    run.save(update_fields=_AT_THE_WHEEL if what in _BY_HAND else None)
    return now_answer(run, subject, happened)


def _place(subject: Subject, values: dict[str, Any]) -> int:
    place = subject.wheel.index_of.get(values["spoke"])
    if place is None:
        raise refused_at("spoke", "unknown_spoke", say("This wheel has no such spoke."))
    return place


def _rng(run: PracticeRun) -> np.random.Generator:
    """The noise of a reading: another for each deed, the same for a deed that is asked for twice."""
    return np.random.default_rng([run.pk.int % 2**32, run.deeds])


def _turn(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    place, spoke = _place(subject, values), values["spoke"]
    after = deeds.turn(subject, place, values["turns"], values["held"])
    read = run.readings
    read.setdefault("turned", {})[spoke] = read.get("turned", {}).get(spoke, 0.0) + values["turns"]
    if read.get("last") != spoke:
        run.touches += 1
        read["pass_touches"] = read.get("pass_touches", 0) + 1
    read["last"] = spoke
    run.turned += abs(values["turns"])
    if place in after.snapped:
        return after, answers.Happened("snapped", spoke, 0.0, None, say("{spoke} broke: it was twisted off.", spoke=spoke))
    along = 360 * float(after.virtual.twist_turns[place] - subject.virtual.twist_turns[place])
    return after, answers.Happened("turn", spoke, round(along), None, "")


def _oil(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    place = _place(subject, values)
    said = say("{spoke} is oiled. It has had its time.", spoke=values["spoke"])
    return deeds.oil(subject, place), answers.Happened("oil", values["spoke"], 0.0, None, said)


def _nipple(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    place = _place(subject, values)
    if place in subject.snapped:
        raise refused_at("spoke", "snapped", say("This spoke is broken: a nipple does not mend it."))
    said = say("{spoke} has another nipple, of the spoke’s own thread.", spoke=values["spoke"])
    return deeds.new_nipple(subject, place), answers.Happened("nipple", values["spoke"], 0.0, None, said)


def _straighten(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    place = _place(subject, values)
    if not deeds.is_blade(subject, place):
        raise refused_at("spoke", "no_blade", say("This spoke is round: squeezing lets its twist out."))
    return deeds.straighten(subject, place), answers.Happened("straighten", values["spoke"], 0.0, None, "")


def _settle(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    return deeds.settle(subject), answers.Happened("settle", "", 0.0, None, say("Squeezed in pairs, all round."))


def _read(run: PracticeRun) -> None:
    """One more was read: the strip is asked anew."""
    run.readings["version"] = run.readings.get("version", 0) + 1


def _look(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    _read(run)
    read = run.readings
    lateral, radial = deeds.read_round(subject, _rng(run), 0)
    read["lateral"] = [[r.angle_deg, r.deviation_mm, r.sd_mm, 0] for r in lateral]
    read["radial"] = [[r.angle_deg, r.deviation_mm, r.sd_mm, 0] for r in radial]
    return subject, answers.Happened("look", "", 0.0, None, "")


def _dish(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    _read(run)
    read = run.readings
    found = deeds.read_dish(subject, _rng(run))
    read["dish"] = [[found.dish_mm, found.sd_mm]]
    off = found.dish_mm - subject.wheel.dish_target_mm
    return subject, answers.Happened("dish", "", 0.0, None, say("Dish {mm:+.2f} mm from where the rim belongs.", mm=off))


def _squeeze(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    place, read = _place(subject, values), run.readings
    _read(run)
    found = deeds.squeeze(subject, place, _rng(run))
    read.setdefault("tension", {})[values["spoke"]] = [found.tension_n, found.sd_n]
    return subject, answers.Happened("squeeze", values["spoke"], 0.0, found.tension_n, "")


def _plan(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    if run.mode != "plan":
        raise refused_at("what", "no_plan_here", say("In this exercise the plan is yours."))
    readings = readings_of(run)
    if readings.count < FEWEST_FOR_A_PLAN or not readings.lateral:
        raise Refused("nothing_read", say("Read the wheel first: the rim all round, and some spokes."), 422)
    tier = exercise_of(run).tier
    made = make_plan(estimate_of(run), PlanOptions(tier=tier, unread=unread_figures([readings])))
    run.moves = [
        {
            "spoke": move.spoke,
            "turns": round(move.turns, 4),
            "turn_from_n": round(move.turn_from_n, 1),
            "turn_to_n": round(move.turn_to_n, 1),
            "why": move.why,
        }
        for move in made.moves
    ]
    return subject, answers.Happened("plan", "", 0.0, None, made.reason)


def _by_place(subject: Subject, turned: dict[str, float]) -> np.ndarray:
    by_place = np.zeros(subject.wheel.spoke_count)
    for spoke, turns in turned.items():
        by_place[subject.wheel.index_of[spoke]] = turns
    return by_place


def _pass(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    read = run.readings
    turned = read.get("turned", {})
    if run.mode == "find":
        raise refused_at("what", "not_here", say("That is not asked in this exercise."))
    if not turned:
        raise Refused("nothing_turned", say("Nothing was turned since the last pass."), 422)
    exercise = exercise_of(run)
    before = subject_of(run, read["start"])
    influence = influence_for(WHEEL_KINDS[run.kind].wheel)
    by_place = _by_place(subject, turned)
    best = best_plan(before, exercise.tier, influence)
    found = compare(before, subject, by_place, read.get("pass_touches", 0), exercise.tier, best)
    names = [str(name) for name in subject.wheel.names]
    row: dict[str, Any] = {name: round(v, 3) if isinstance(v, float) else v for name, v in asdict(found).items()}
    row |= {"number": len(run.passes) + 1, "yours": turned}
    row["plan"] = {names[i]: round(float(t), 4) for i, t in enumerate(best.turns) if abs(t) > 1e-6}
    for when in ("before", "after", "best"):
        row[when] = {name: round(value, 3) for name, value in row[when].items()}
    run.passes = [*run.passes, row]
    run.moves = []
    # The next pass is read anew.
    run.readings = {"start": now_of(subject), "version": read.get("version", 0) + 1}
    return subject, answers.Happened("pass", "", 0.0, None, found.sentence)


def _seconds(run: PracticeRun) -> int:
    return int((timezone.now() - run.created_at).total_seconds())


def _finish(run: PracticeRun, marks: Any) -> None:
    run.marks, run.mark, run.ended_at = marks_kept(marks), marks.mark, timezone.now()


def _end(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    if run.mode in FORGIVEN:
        wrong = sum(1 for given in run.answers if not given["right"])
        _finish(run, mark_answers(wrong, False, run.touches, _seconds(run), run.mode))
        return subject, replace(NOTHING, what="end")
    if run.readings.get("turned"):
        _pass(run, subject, values)
    exercise = exercise_of(run)
    left = settled_figures(subject)
    marks = mark_truing(
        left,
        exercise.tier,
        run.touches,
        fewest_touches(subject_of(run, run.made["first"]), exercise.tier, influence_for(WHEEL_KINDS[run.kind].wheel)),
        run.turned,
        len(deeds.askew(subject)),
        len(subject.snapped),
        _seconds(run),
        tight_enough(subject, left),
    )
    _finish(run, marks)
    return subject, replace(NOTHING, what="end")


def _guess(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    if run.mode != "find":
        raise refused_at("what", "not_here", say("That is not asked in this exercise."))
    fault, spoke = values["fault"], values["spoke"]
    if fault not in FINDABLE:
        raise refused_at("fault", "unknown_fault", say("Say which fault it is."))
    ((truth, spokes),) = run.made["faults"].items()
    if fault != EVERYWHERE:
        _place(subject, values)
    told = judge_guess(subject, truth, spokes, fault, spoke)
    word = FAULT_WORDS[fault]
    said = word if fault == EVERYWHERE else joined(" ", [spoke, word])
    run.answers = [*run.answers, {"said": said, "right": told.right, "says": told.says}]
    if told.right:
        wrong = sum(1 for given in run.answers if not given["right"])
        _finish(run, mark_answers(wrong, True, run.touches, _seconds(run), run.mode))
    return subject, answers.Happened("guess", spoke, 0.0, None, told.says)


def _lace(run: PracticeRun, subject: Subject, values: dict[str, Any]) -> tuple[Subject, answers.Happened]:
    wheel = WHEEL_KINDS[run.kind].wheel
    asked = questions(wheel)
    question = asked[sum(1 for given in run.answers if given["right"])]
    if question.what != values["what"]:
        raise refused_at("what", "another_question", say("Something else is asked now."))
    if question.what == "hole":
        told = answer_hole(wheel, question, values["hole"] or 0)
        said: str = say("{spoke}: hole {hole}", spoke=question.place.spoke, hole=values["hole"])
    else:
        told = answer_cross(question, values["over"])
        said = (
            say("{spoke} over {other}", spoke=question.place.spoke, other=question.other)
            if values["over"]
            else say("{spoke} under {other}", spoke=question.place.spoke, other=question.other)
        )
    run.answers = [*run.answers, {"said": said, "right": told.right, "says": told.says}]
    right = sum(1 for given in run.answers if given["right"])
    if right == len(asked):
        _finish(run, mark_answers(len(run.answers) - right, True, 0, _seconds(run), run.mode))
    return subject, answers.Happened("lace", question.place.spoke, 0.0, None, told.says)


_DEEDS: dict[str, Callable[[PracticeRun, Subject, dict[str, Any]], tuple[Subject, answers.Happened]]] = {
    "turn": _turn,
    "oil": _oil,
    "nipple": _nipple,
    "straighten": _straighten,
    "settle": _settle,
    "look": _look,
    "dish": _dish,
    "squeeze": _squeeze,
    "plan": _plan,
    "pass": _pass,
    "guess": _guess,
    "hole": _lace,
    "cross": _lace,
    "end": _end,
}
WHATS = tuple(_DEEDS)
