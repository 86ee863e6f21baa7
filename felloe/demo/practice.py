"""The apprentice of the demo shop on the ladder: what is mastered, what is underway, what was set."""

from __future__ import annotations

from datetime import datetime, timedelta

from felloe.accounts.models import User
from felloe.core.practice.compare import best_plan
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.practice import services
from felloe.practice.models import PracticeRun
from felloe.practice.services.subjects import exercise_of, subject_of
from felloe.wheels.services.wheels import influence_for

#: Exercise, seed of its wheel, days ago, passes by the best plan, nipples turned for nothing before.
RUNS = (("one-lump", 3, 6.2, 1, 4), ("one-lump", 5, 5.1, 1, 0), ("one-hop", 2, 4.2, 3, 2), ("one-hop", 8, 3.3, 3, 0))


def load_practice(wyn: User, ines: User, now: datetime) -> None:
    """Play the apprentice's runs through the same services that the page uses."""
    for exercise, seed, days, passes, idle in RUNS:
        run = services.begin(wyn, _asked(exercise), seed)
        for spoke in [str(name) for name in WHEEL_KINDS[run.kind].wheel.names][:idle]:
            _act(wyn, run, what="turn", spoke=spoke, turns=0.125)
            _act(wyn, run, what="turn", spoke=spoke, turns=-0.125)
        for _ in range(passes):
            _one_pass(wyn, run)
        _act(wyn, run, what="end")
        begun = now - timedelta(days=days)
        PracticeRun.objects.filter(pk=run.pk).update(created_at=begun, ended_at=begun + timedelta(minutes=11))
    run = services.begin(wyn, _asked("lump-and-hop"), 4)
    _one_pass(wyn, run, most=6)
    _act(wyn, run, what="look")
    _act(wyn, run, what="dish")
    for spoke in [str(name) for name in WHEEL_KINDS[run.kind].wheel.names]:
        _act(wyn, run, what="squeeze", spoke=spoke)
    services.set_task(ines, wyn.pk, "off-dish")
    services.set_task(ines, wyn.pk, "lump-and-hop")


def _asked(exercise: str) -> dict[str, object]:
    return {"exercise": exercise, "kind": "", "anew": False}


def _act(who: User, run: PracticeRun, **deed: object) -> None:
    values = {"spoke": "", "turns": 0.0, "held": True, "fault": "", "hole": None, "over": False, **deed}
    services.act(who, run.pk, values)


def _one_pass(who: User, run: PracticeRun, most: int = 99) -> None:
    run.refresh_from_db()
    subject = subject_of(run)
    best = best_plan(subject, exercise_of(run).tier, influence_for(WHEEL_KINDS[run.kind].wheel))
    names = [str(name) for name in subject.wheel.names]
    turns = [(names[i], float(t)) for i, t in enumerate(best.turns) if abs(t) > 1e-6]
    for spoke, amount in turns[:most]:
        _act(who, run, what="turn", spoke=spoke, turns=amount)
    if turns:
        _act(who, run, what="settle")
        _act(who, run, what="pass")
