"""The shop's queue as the core plays it: who works when, what is in the queue, and the chance of each promise."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, time, timedelta
from uuid import UUID

from django.db.models import Count, Max

from felloe.accounts.models import Shop, User
from felloe.accounts.rights import WORKS_AT_THE_BENCH, Role
from felloe.calendar import services as calendar
from felloe.calendar.models import Absence, Shift
from felloe.core.promise.hours import Calendar
from felloe.core.promise.pace import Wait
from felloe.core.promise.sequence import Hanging
from felloe.core.promise.simulate import Played, Queued, Worker, play
from felloe.core.promise.skills import LEARNERS_SKILLS, USUAL_SKILLS, needs_of
from felloe.core.promise.work import Estimate, JobFacts, Paces, Step, steps_ahead, together, until_agreed
from felloe.promises.models import ShopPlay
from felloe.promises.services.facts import facts_of
from felloe.queue import services as queue
from felloe.queue.models import Job, WorkSpan
from felloe.queue.services.pace import paces_of

#: Chances are played anew once they are older than this, or as soon as anything of the queue has changed.
FRESH = timedelta(minutes=10)
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
    known: dict[JobFacts, tuple[tuple[Step, ...], Estimate]] = field(default_factory=dict)

    @property
    def line(self) -> float:
        return self.shop.promise_line_percent / 100

    def _of(self, job_id: UUID) -> tuple[tuple[Step, ...], Estimate]:
        """Wheels of which the same is known have the same work."""
        facts = self.facts[job_id]
        if facts not in self.known:
            steps = steps_ahead(facts, self.paces)
            self.known[facts] = (steps, together(steps))
        return self.known[facts]

    def steps(self, job_id: UUID) -> tuple[Step, ...]:
        return self._of(job_id)[0]

    def estimate(self, job_id: UUID) -> Estimate:
        return self._of(job_id)[1]

    def whose(self, job: Job) -> str:
        """Who has been given a job; nobody where he works here no longer, or no longer at a bench."""
        person = str(job.assigned_to_id)
        return person if person in self.skills else ""

    def hanging(self, job: Job) -> Hanging:
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

    def at_the_bench(self) -> list[Job]:
        """Open jobs with bench work left."""
        return [job for job in self.jobs if job.ready_at is None]


def floor_of(user: User, now: datetime) -> Floor:
    """What the shop's queue rests on just now, in a fixed number of questions to the database."""
    shop = Shop.objects.get(pk=user.shop_id)
    jobs = queue.open_jobs(shop.pk)
    opening = calendar.shop_calendar(shop, now)
    staff = list(User.objects.filter(shop=shop, is_active=True, role__in=[*WORKS_AT_THE_BENCH, Role.OWNER]))
    with_shifts = set(Shift.objects.filter(person__in=staff).values_list("person_id", flat=True))
    # An owner stands at the bench where he has shifts of his own.
    bench = [p for p in staff if p.role in WORKS_AT_THE_BENCH or p.pk in with_shifts]
    hours = calendar.person_calendars(bench, opening, now)
    skills = {str(p.pk): skills_of(p) for p in staff}
    paces, waits, learned = paces_of(shop.pk)
    return Floor(
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


def skills_of(person: User) -> frozenset[str]:
    """What somebody does at the bench: as was said of him, else the usual; an apprentice trues."""
    if person.skills:
        return frozenset(person.skills)
    return LEARNERS_SKILLS if person.role == Role.APPRENTICE else USUAL_SKILLS


def chances_of(floor: Floor) -> dict[str, float]:
    """The chance of each promise ahead, by job; played anew where the queue has changed or time has passed."""
    print_ = _fingerprint(floor)
    kept = ShopPlay.objects.filter(shop=floor.shop).values("fingerprint", "played_at", "chances").first()
    if kept and kept["fingerprint"] == print_ and kept["played_at"] and floor.now - kept["played_at"] < FRESH:
        return dict(kept["chances"])
    jobs = floor.at_the_bench()
    played = floor.play([floor.queued(job) for job in jobs])
    chances = {
        str(job.pk): round(played.chance(str(job.pk), job.promised_at), 4)
        for job in jobs
        if job.promised_at is not None and job.promised_at > floor.now
    }
    ShopPlay.objects.update_or_create(
        shop=floor.shop, defaults={"chances": chances, "fingerprint": print_, "played_at": floor.now}
    )
    return chances


def _fingerprint(floor: Floor) -> str:
    """What the chances rest on, in short."""
    away = Absence.objects.filter(shop=floor.shop).aggregate(n=Count("id"), off=Count("withdrawn_at"), last=Max("created_at"))
    people = User.objects.filter(shop=floor.shop).aggregate(n=Count("id"), v=Max("version"))
    rests = [
        [(str(job.pk), job.version) for job in floor.jobs],
        sorted((str(job), str(span.pk)) for job, span in floor.spans.items()),
        [(str(job), repr(facts)) for job, facts in floor.facts.items()],
        floor.shop.version,
        floor.shop.promise_line_percent,
        floor.learned,
        sorted(away.items(), key=str),
        sorted(people.items()),
    ]
    return hashlib.sha256(repr(rests).encode()).hexdigest()
