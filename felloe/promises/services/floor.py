"""The shop's queue as the core plays it: who works when, and what is in the queue; kept between questions."""

from __future__ import annotations

import hashlib
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, datetime, time
from typing import TypeVar
from uuid import UUID

from django.db.models import Q
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.accounts.rights import WORKS_AT_THE_BENCH, Role
from felloe.api.kept import Kept
from felloe.calendar import services as calendar
from felloe.calendar.models import Shift
from felloe.core.promise.dates import Standing, ready_standing, standing_of
from felloe.core.promise.hours import Calendar
from felloe.core.promise.pace import Wait
from felloe.core.promise.sequence import Hanging
from felloe.core.promise.simulate import Played, Queued, Worker, play
from felloe.core.promise.skills import LEARNERS_SKILLS, USUAL_SKILLS, needs_of
from felloe.core.promise.work import Estimate, JobFacts, Paces, Step, steps_ahead, together, until_agreed
from felloe.promises.services.facts import facts_of
from felloe.queue import services as queue
from felloe.queue.answers import RailJob, rail_job
from felloe.queue.models import Job, JobEvent, WorkSpan
from felloe.queue.services.pace import paces_of

V = TypeVar("V")
#: So many wheels that left lately are shown.
LATELY = 6
#: Behind every promise: where a new job stands before it has a date.
LAST_RANK = float("inf")


@dataclass
class Floor:
    """Everything that a play of one shop's queue rests on."""

    shop: Shop
    now: datetime
    calendar: Calendar
    workers: list[Worker]
    jobs: list[Job]
    facts: dict[UUID, JobFacts]
    spans: dict[UUID, WorkSpan]
    paces: Paces
    waits: Mapping[str, Wait]
    learned: int
    skills: dict[str, frozenset[str]]
    print_: str = ""
    known: dict[UUID, tuple[tuple[Step, ...], Estimate]] = field(default_factory=dict)
    hangs: dict[UUID, Hanging] = field(default_factory=dict)
    prints: dict[UUID, str] = field(default_factory=dict)
    standings: dict[UUID, tuple[tuple[object, ...], Standing]] = field(default_factory=dict)
    told: dict[date, dict[UUID, frozenset[str]]] = field(default_factory=dict)
    lines: dict[UUID, RailJob] = field(default_factory=dict)
    lately: list[RailJob] = field(default_factory=list)
    shown: dict[str, object] = field(default_factory=dict)

    @property
    def line(self) -> float:
        return self.shop.promise_line_percent / 100

    def _of(self, job_id: UUID) -> tuple[tuple[Step, ...], Estimate]:
        found = self.known.get(job_id)
        if found is None:
            steps = steps_ahead(self.facts[job_id], self.paces)
            found = self.known[job_id] = (steps, together(steps))
        return found

    def steps(self, job_id: UUID) -> tuple[Step, ...]:
        return self._of(job_id)[0]

    def estimate(self, job_id: UUID) -> Estimate:
        return self._of(job_id)[1]

    def whose(self, job: Job) -> str:
        """Who has been given a job; nobody where he works here no longer, or no longer at a bench."""
        person = str(job.assigned_to_id)
        return person if person in self.skills else ""

    def hanging(self, job: Job) -> Hanging:
        found = self.hangs.get(job.pk)
        if found is None:
            found = self.hangs[job.pk] = self._hanging(job)
        return found

    def _hanging(self, job: Job) -> Hanging:
        span = self.spans.get(job.pk)
        return Hanging(
            str(job.pk),
            job.created_at,
            job.promised_at,
            job.wanted_at,
            self.whose(job) or None,
            job.waiting_on,
            self.estimate(job.pk).middle_min,
            str(span.person_id) if span else None,
            needs_of(self.facts[job.pk]),
            job.ready_at is not None,
        )

    def queued(self, job: Job, due: datetime | None = None) -> Queued:
        """A job of the shop in the queue; with `due` as if it were promised for then."""
        hanging = self.hanging(job)
        if due is not None:
            hanging = replace(hanging, promised_at=due)
        before, after = until_agreed(self.steps(job.pk), self.facts[job.pk])
        since = (self.now - job.waits_since).total_seconds() / 3600 if job.waits_since else 0.0
        return Queued(
            str(job.pk),
            hanging.latest_start.timestamp(),
            before,
            after,
            waits_on=job.waiting_on,
            waits_since_h=max(since, 0.0),
            expected_at=self._comes(job),
            assigned=self.whose(job),
            needs=hanging.needs,
            in_hand=job.pk in self.spans,
            asks=bool(before),
            draw=str(job.number),
        )

    def _comes(self, job: Job) -> datetime | None:
        """Noon of the day that was named."""
        if job.expected_on is None:
            return None
        return datetime.combine(job.expected_on, time(12), self.calendar.zone)

    def play(self, jobs: list[Queued], worlds: int = 1) -> Played:
        return play(jobs, self.workers, self.now, seed=0, worlds=worlds, waits=self.waits)

    def standing(self, job: Job, chance: float | None) -> Standing:
        """How a job's promise stands; what is said of it holds for a minute."""
        rests = (int(self.now.timestamp() // 60), chance)
        known = self.standings.get(job.pk)
        if known is None or known[0] != rests:
            if job.ready_at is not None:
                found = ready_standing(job.ready_at, job.promised_at, self.now)
            else:
                left = self.estimate(job.pk)
                found = standing_of(job.promised_at, self.now, self.line, chance, left, job.waiting_on)
            known = self.standings[job.pk] = (rests, found)
        return known[1]

    def told_today(self) -> dict[UUID, frozenset[str]]:
        """What each customer was told since the shop's day began, by job; for fetching, ever."""
        day = self.calendar.day_of(self.now)
        if day not in self.told:
            self.told[day] = _told(self, self.jobs, day)
        return self.told[day]

    def line_of(self, job: Job) -> RailJob:
        """A job as the rail shows it."""
        found = self.lines.get(job.pk)
        if found is None:
            found = self.lines[job.pk] = rail_job(job)
        return found

    def promised_ahead(self) -> list[Job]:
        """Jobs at the bench whose promise lies ahead."""
        return [job for job in self.at_the_bench() if job.promised_at is not None and job.promised_at > self.now]

    def at_the_bench(self) -> list[Job]:
        """Open jobs with bench work left."""
        return [job for job in self.jobs if job.ready_at is None]


def floor_of(shop_id: UUID, now: datetime) -> Floor:
    """What the shop's queue rests on just now: kept between questions, and renewed where something has changed."""
    return replace(_kept.of(shop_id), now=now)


def _read(shop_id: UUID) -> Floor:
    """All of it, in a fixed number of questions to the database."""
    now = timezone.now()
    shop = Shop.objects.get(pk=shop_id)
    jobs = queue.open_jobs(shop.pk)
    opening = calendar.shop_calendar(shop, now)
    staff = list(User.objects.filter(shop=shop, is_active=True, role__in=[*WORKS_AT_THE_BENCH, Role.OWNER]))
    with_shifts = set(Shift.objects.filter(person__in=staff).values_list("person_id", flat=True))
    # An owner stands at the bench where he has shifts of his own.
    bench = [p for p in staff if p.role in WORKS_AT_THE_BENCH or p.pk in with_shifts]
    hours = calendar.person_calendars(bench, opening, now)
    skills = {str(p.pk): skills_of(p) for p in staff}
    paces, waits, learned = paces_of(shop.pk)
    floor = Floor(
        shop=shop,
        now=now,
        calendar=opening,
        workers=[Worker(str(p.pk), hours[str(p.pk)], skills[str(p.pk)], shop.interrupted_percent / 100) for p in bench],
        jobs=jobs,
        facts=facts_of(jobs),
        spans=queue.in_hand(shop.pk),
        paces=paces,
        waits=waits,
        learned=learned,
        skills=skills,
    )
    floor.lately = _lately(shop_id)
    floor.print_ = _fingerprint(floor)
    return floor


def without(known: Mapping[UUID, V], changed: Collection[UUID]) -> dict[UUID, V]:
    """What is known of the others. Taken from a copy: colleagues' questions go on adding to the kept one meanwhile."""
    return {pk: value for pk, value in dict(known).items() if pk not in changed}


def _told(floor: Floor, jobs: list[Job], day: date) -> dict[UUID, frozenset[str]]:
    begins = datetime.combine(day, time.min, floor.calendar.zone)
    told = JobEvent.objects.filter(job__in=jobs, kind__startswith="told_")
    rows = told.filter(Q(created_at__gte=begins) | Q(kind="told_fetch", job__ready_at__isnull=False))
    found: dict[UUID, set[str]] = {}
    for job_id, kind in rows.values_list("job_id", "kind"):
        found.setdefault(job_id, set()).add(kind.removeprefix("told_"))
    return {job_id: frozenset(kinds) for job_id, kinds in found.items()}


def _lately(shop_id: UUID) -> list[RailJob]:
    return [rail_job(job) for job in queue.handed_back_lately(shop_id, LATELY)]


def _read_some(shop_id: UUID, floor: Floor, changed: set[UUID]) -> Floor:
    """The same floor with some jobs read again, and all that share a wheel with them: its marks are counted for each."""
    wheels = set(Job.objects.filter(pk__in=changed).values_list("wheel_id", flat=True))
    changed = changed | {job.pk for job in floor.jobs if job.wheel_id in wheels}
    anew = {job.pk: job for job in queue.open_jobs(shop_id, changed)}
    jobs = sorted([job for job in floor.jobs if job.pk not in changed] + list(anew.values()), key=lambda job: job.number)
    facts = without(floor.facts, changed) | facts_of(list(anew.values()))
    paces, waits, learned = paces_of(shop_id)
    same = paces == floor.paces
    found = replace(
        floor,
        jobs=jobs,
        facts=facts,
        spans=queue.in_hand(shop_id),
        paces=paces,
        waits=waits,
        learned=learned,
        known=without(floor.known, changed) if same else {},
        # To take a wheel up, or to put it down, is a change of its job.
        hangs=without(floor.hangs, changed) if same else {},
        prints=without(floor.prints, changed),
        standings=without(floor.standings, changed) if same else {},
        lines=without(floor.lines, changed),
        # Only what is open no more can have left since.
        lately=floor.lately if changed <= anew.keys() else _lately(shop_id),
        told={},
        shown={},
    )
    for day in list(floor.told):
        found.told[day] = without(floor.told[day], changed) | _told(found, list(anew.values()), day)
    found.print_ = _fingerprint(found)
    return found


_kept: Kept[Floor] = Kept(_read, _read_some)


def skills_of(person: User) -> frozenset[str]:
    """What somebody does at the bench: as was said of him, else the usual; an apprentice trues."""
    if person.skills:
        return frozenset(person.skills)
    return LEARNERS_SKILLS if person.role == Role.APPRENTICE else USUAL_SKILLS


def _fingerprint(floor: Floor) -> str:
    """What the chances rest on, in short."""
    for job in floor.jobs:
        if job.pk not in floor.prints:
            floor.prints[job.pk] = f"{job.pk} {job.version} {floor.facts[job.pk]!r}"
    rests = [
        [floor.prints[job.pk] for job in floor.jobs],
        sorted((str(job), str(span.pk)) for job, span in floor.spans.items()),
        floor.shop.version,
        floor.shop.promise_line_percent,
        floor.learned,
        [(w.key, w.calendar.week, sorted(w.calendar.off), sorted(w.skills), w.interrupted) for w in floor.workers],
    ]
    return hashlib.sha256(repr(rests).encode()).hexdigest()
