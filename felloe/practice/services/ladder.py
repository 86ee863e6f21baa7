"""The ladder as somebody sees it, what was set for whom, and who has mastered what."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import asdict
from uuid import UUID

from django.db import IntegrityError
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.accounts.rights import BENCH, Role
from felloe.api.problems import Refused, refused_at
from felloe.core.practice.compare import TrueFigures
from felloe.core.practice.exercises import FAULT_WORDS, FINDABLE, LADDER, MODE_WORDS, bladed
from felloe.core.practice.lessons import AROUND_DEG, lesson
from felloe.core.practice.marks import mastered
from felloe.core.said import say
from felloe.core.truing.tiers import TIER_WORDS, TIERS
from felloe.core.wheel_kinds import WHEEL_KINDS
from felloe.places.here import atomic
from felloe.practice import answers
from felloe.practice.models import PracticeRun, PracticeTask
from felloe.practice.services.runs import turned_list

#: From this mark on an exercise that was set counts as done.
DONE_FROM = 2


def _marks(shop_id: UUID, people: list[UUID]) -> dict[tuple[UUID, str], list[int]]:
    """Marks of finished runs by person and exercise, oldest first; what was put away unfinished counts for nothing."""
    found: dict[tuple[UUID, str], list[int]] = defaultdict(list)
    rows = PracticeRun.objects.filter(shop_id=shop_id, created_by_id__in=people, mark__isnull=False)
    for person, exercise, mark in rows.order_by("ended_at").values_list("created_by_id", "exercise", "mark"):
        found[person, exercise].append(int(mark or 0))
    return found


def _tasks(shop_id: UUID, people: list[UUID]) -> dict[tuple[UUID, str], PracticeTask]:
    """What is set and not done well since."""
    done: dict[tuple[UUID, str], list[object]] = defaultdict(list)
    runs = PracticeRun.objects.filter(shop_id=shop_id, created_by_id__in=people, mark__gte=DONE_FROM)
    for person, exercise, ended in runs.values_list("created_by_id", "exercise", "ended_at"):
        done[person, exercise].append(ended)
    tasks = PracticeTask.objects.filter(shop_id=shop_id, person_id__in=people, taken_back_at=None).select_related("created_by")
    return {
        (task.person_id, task.exercise): task
        for task in tasks
        if not any(ended > task.created_at for ended in done[task.person_id, task.exercise])  # type: ignore[operator]
    }


def ladder_of(user: User) -> answers.Ladder:
    """The rungs with one's own standing, and what a wheel of one's own is chosen from."""
    marks, tasks = _marks(user.shop_id, [user.pk]), _tasks(user.shop_id, [user.pk])
    underway = dict(
        PracticeRun.objects.filter(shop_id=user.shop_id, created_by=user, ended_at=None).values_list("exercise", "pk")
    )

    def rung(key: str, name: str, task: str, mode: str, kind: str, about: str) -> answers.Rung:
        mine, setter = marks[user.pk, key], tasks.get((user.pk, key))
        return answers.Rung(
            key=key,
            name=name,
            task=task,
            mode=mode,
            kind=kind,
            lesson=about,
            runs=len(mine),
            best=max(mine, default=None),
            mastered=mastered(mine),
            open_run=underway.get(key),
            set_by=setter.created_by.display_name if setter and setter.created_by else "",
        )

    return answers.Ladder(
        rungs=[rung(e.key, e.name, e.task, e.mode, e.kind, e.lesson) for e in LADDER.values()],
        own=rung(
            "own", say("A wheel of your choice"), say("Any kind, any fault, any way."), "meter", "rim-brake-rear-36", "together"
        ),
        kinds=[answers.PracticeWord(kind.key, kind.name) for kind in WHEEL_KINDS.values()],
        bladed=[key for key in WHEEL_KINDS if bladed(key)],
        modes=[answers.PracticeWord(key, word) for key, word in MODE_WORDS.items()],
        faults=[answers.PracticeWord(key, word) for key, word in FAULT_WORDS.items()],
        findable=list(FINDABLE),
        tiers=[answers.PracticeWord(key, TIER_WORDS[key]) for key in TIERS],
    )


def learners_of(user: User) -> list[answers.Learner]:
    """Everybody who works at the bench, and where they stand."""
    people = list(
        User.objects.filter(shop_id=user.shop_id, is_active=True, role__in=BENCH).order_by("role", "first_name", "username")
    )
    ids = [person.pk for person in people]
    marks, tasks = _marks(user.shop_id, ids), _tasks(user.shop_id, ids)
    return [
        answers.Learner(
            id=person.pk,
            name=person.display_name,
            role=Role(person.role).value,
            standings=[
                answers.RungStanding(
                    exercise=key,
                    runs=len(marks[person.pk, key]),
                    best=max(marks[person.pk, key], default=None),
                    mastered=mastered(marks[person.pk, key]),
                    set_by=task.created_by.display_name if (task := tasks.get((person.pk, key))) and task.created_by else "",
                    task=task.pk if task else None,
                )
                for key in LADDER
            ],
        )
        for person in people
    ]


@atomic
def set_task(user: User, person_id: UUID, exercise: str) -> None:
    """Set an exercise for somebody of the bench. One that was done since it was set is set anew."""
    if exercise not in LADDER:
        raise refused_at("exercise", "unknown_exercise", say("there is no such exercise"))
    person = User.objects.filter(shop_id=user.shop_id, pk=person_id, is_active=True, role__in=BENCH).first()
    if person is None:
        raise refused_at("person", "unknown_person", say("Nobody at the bench has this name."))
    if (person.pk, exercise) in _tasks(user.shop_id, [person.pk]):
        raise Refused("practice_set", say("This exercise is set for {name} already.", name=person.display_name))
    there = PracticeTask.objects.filter(shop_id=user.shop_id, person=person, exercise=exercise, taken_back_at=None)
    there.update(taken_back_at=timezone.now())
    try:
        with atomic():
            PracticeTask.objects.create(shop_id=user.shop_id, created_by=user, person=person, exercise=exercise)
    except IntegrityError as error:
        raise Refused("practice_set", say("This exercise is set for {name} already.", name=person.display_name)) from error


@atomic
def take_back(user: User, task_id: UUID) -> None:
    """Take back an exercise that was set."""
    task = PracticeTask.objects.select_for_update().filter(shop_id=user.shop_id, pk=task_id, taken_back_at=None).first()
    if task is None:
        raise Http404
    task.taken_back_at = timezone.now()
    task.save(update_fields=["taken_back_at"])


def lesson_answer(key: str) -> answers.PracticeLesson:
    """A lesson with its drawings' figures."""
    found = lesson(key)

    def figures(of: TrueFigures) -> TrueFigures:
        return TrueFigures(**{name: round(value, 3) for name, value in asdict(of).items()})

    return answers.PracticeLesson(
        key=key,
        lines=list(found.lines),
        angle_deg=[float(a) for a in AROUND_DEG],
        lateral_mm=[round(float(v), 3) for v in found.lateral_mm],
        radial_mm=[round(float(v), 3) for v in found.radial_mm],
        before=figures(found.before),
        ways=[
            answers.LessonWay(
                name=way.name,
                says=way.says,
                right=way.right,
                turns=turned_list(dict(way.turns)),
                lateral_mm=[round(float(v), 3) for v in way.lateral_mm],
                radial_mm=[round(float(v), 3) for v in way.radial_mm],
                figures=figures(way.figures),
            )
            for way in found.ways
        ],
    )
