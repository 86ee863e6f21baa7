"""The queue, played through some hundred times: when each job is ready, with its chance.

Each play draws the minutes of every job, when a customer answers and parts come, how much of a shift goes to other things and
who falls ill; then each free mechanic takes the first job of the sequence that is his to do and waits for nothing. Time runs in
working minutes of each person's own shifts. Draws belong to the job, not to the play's order, so that two questions with one
seed differ only in what was changed between them (common random numbers).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from itertools import count

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

from felloe.core.promise.hours import Calendar
from felloe.core.promise.pace import USUAL_WAITS, Wait
from felloe.core.promise.work import Step

Array = NDArray[np.float64]
#: Plays: a chance of 80 % is known to 3 points.
PLAYS = 200
#: Shares of a job's steps move together: who is slow at one is slow at the next.
ALIKE = 0.5
#: A day's share of other things varies by about so much, as a log standard deviation.
INTERRUPTED_LOG_SD = 0.15
#: A person falls ill on one working day in a hundred, for about one and a half days; common practice, no source.
ILL_A_DAY, ILL_DAYS = 0.01, 1.5
#: What was to come on a day comes late so often, and then by about so much; else it is unpacked within so long [min]. Common
#: practice, no source.
LATE_CHANCE, LATE_MIN, UNPACKED_MIN = 0.3, 1440.0, 120.0
#: After so many turns, rows that are done in every play are cleared away.
CLEARED_EVERY = 24
_NEVER = 1e12
_DONE = 2 * _NEVER
_DAY_MIN = 480.0
_SMALLEST = 1e-300


@dataclass(frozen=True)
class Worker:
    """Somebody at a bench: shifts, what he can do, and the share of a shift that goes to other things, 0 to below 1."""

    key: str
    calendar: Calendar
    skills: frozenset[str] = frozenset()
    interrupted: float = 0.15


#: In which of two worlds a job stands at its place: in both, in the first, in the second.
BOTH, FIRST, SECOND = (True, True), (True, False), (False, True)


@dataclass(frozen=True)
class Queued:
    """A job in the queue. `rank`: place in the sequence, low first; `before`: its steps until the customer has to agree,
    `after`: the rest; `waits_on`: "" or a key of USUAL_WAITS, `waits_since_h` so long already, `expected_at` where a day is
    known; `assigned`: a worker's key; `needs`: skills; `in_hand`: somebody is at it now; `worlds`: see `play`; `draw`: what its
    draws go by, where not by its key.
    """

    key: str
    rank: float
    before: tuple[Step, ...] = ()
    after: tuple[Step, ...] = ()
    waits_on: str = ""
    waits_since_h: float = 0.0
    expected_at: datetime | None = None
    assigned: str = ""
    needs: frozenset[str] = frozenset()
    in_hand: bool = False
    asks: bool = False
    worlds: tuple[bool, bool] = BOTH
    draw: str = ""


@dataclass(frozen=True)
class Played:
    """`ready_min[world, play, job]`: minutes from `now` until each job is ready, inf where nobody does it in the horizon."""

    now: datetime
    ready_min: Array
    index: dict[str, int]

    def of(self, key: str, world: int = 0) -> Array:
        return np.asarray(self.ready_min[world, :, self.index[key]])

    def chance(self, key: str, at: datetime, world: int = 0) -> float:
        """How likely the job is ready by `at`, 0 to 1."""
        return float((self.of(key, world) <= (at - self.now).total_seconds() / 60).mean())

    def quantile(self, key: str, share: float, world: int = 0) -> datetime | None:
        """By when the job is ready in so many plays; None beyond the horizon."""
        minutes = float(np.quantile(self.of(key, world), share, method="higher"))
        return self.now + timedelta(minutes=minutes) if np.isfinite(minutes) else None


class _Clock:
    """Minutes of the clock into working minutes and back, for all workers at once: each has a stretch of one long axis."""

    def __init__(self, workers: Sequence[Worker], now: datetime, days: int) -> None:
        clock: list[float] = []
        worked: list[float] = []
        self.stretch = (days + 2) * 1440.0
        self.total = np.zeros(len(workers))
        for i, worker in enumerate(workers):
            base, done = i * self.stretch, 0.0
            clock.append(base)
            worked.append(base)
            for starts, ends in worker.calendar.spans(now, days):
                a, b = ((t - now).total_seconds() / 60 for t in (starts, ends))
                # A shift's start lies a hair after the end of the one before it, so that work that ends with a shift ends then.
                clock += [base + a, base + b]
                worked += [base + done + 1e-6, base + done + (b - a)]
                done += b - a
            self.total[i] = done
            clock.append(base + self.stretch - 1)
            worked.append(base + done + 1e-6)
        self.clock, self.worked = np.array(clock), np.array(worked)

    def to_worked(self, who: NDArray[np.intp], minutes: Array) -> Array:
        base = who * self.stretch
        return np.asarray(np.interp(base + np.minimum(minutes, self.stretch - 2), self.clock, self.worked) - base)

    def to_clock(self, who: NDArray[np.intp], done: Array) -> Array:
        base = who * self.stretch
        found = np.interp(base + done, self.worked, self.clock) - base
        return np.where(done > self.total[who], _NEVER, found)


def _seeded(seed: int, key: str) -> np.random.Generator:
    return np.random.default_rng([seed, *key.encode()])


def _minutes(steps: Sequence[Step], rng: np.random.Generator, plays: int) -> Array:
    """Minutes of some steps together in each play."""
    if not steps:
        return np.zeros(plays)
    common = rng.standard_normal(plays)
    z = np.sqrt(ALIKE) * common + np.sqrt(1 - ALIKE) * rng.standard_normal((len(steps), plays))
    log_sd = np.array([step.log_sd for step in steps])[:, None]
    median = np.array([step.median_min for step in steps])[:, None]
    needed = rng.random((len(steps), plays)) < np.array([step.chance for step in steps])[:, None]
    return np.asarray((needed * median * np.exp(log_sd * z)).sum(axis=0))


def _wait_min(wait: Wait, since_h: float, rng: np.random.Generator, plays: int) -> Array:
    """Minutes until an answer comes, given that it has not come for `since_h` hours: by inversion of the upper tail, which
    stays exact however long that is."""
    unseen = float(ndtr(-np.log(since_h / wait.median_h) / wait.log_sd)) if since_h > 0 else 1.0
    total_h = wait.median_h * np.exp(-wait.log_sd * ndtri(np.maximum(rng.random(plays) * unseen, _SMALLEST)))
    return np.asarray(np.maximum(total_h - since_h, 0.0) * 60)


def _may_wait(rng: np.random.Generator, plays: int, waits: Mapping[str, Wait]) -> Array:
    """Minutes between deciding and going on: for the customer's word, then for parts, where it comes to that."""
    total = np.zeros(plays)
    for kind in ("customer", "parts"):
        comes = _wait_min(waits[kind], 0.0, rng, plays)
        total += np.where(rng.random(plays) < waits[kind].chance, comes, 0.0)
    return total


def play(
    jobs: Sequence[Queued],
    workers: Sequence[Worker],
    now: datetime,
    seed: int = 0,
    plays: int = PLAYS,
    days: int = 60,
    worlds: int = 1,
    waits: Mapping[str, Wait] = USUAL_WAITS,
) -> Played:
    """Play the queue; jobs need not be in order, ties in rank go by the order given.

    With two `worlds` every play is made twice with the same draws: jobs that stand in one of them only, at another place of the
    sequence, show what the change does to all the others. A job may be named twice, once a world.
    """
    index = {key: i for i, key in enumerate(dict.fromkeys(job.key for job in jobs))}
    if not jobs or not workers:
        return Played(now, np.full((worlds, plays, len(index)), np.inf), index)
    clock = _Clock(workers, now, days)
    ready = _dispatch(clock, workers, _rows_of(jobs, workers, now, seed, plays, worlds, index, waits), seed, worlds)
    return Played(now, np.where(ready < _NEVER / 2, ready, np.inf).reshape(worlds, plays, -1), index)


@dataclass(frozen=True)
class _Rows:
    """What is to be done, first in the sequence first: a job is one row, or two where the customer has to agree in between.

    `minutes` and `release` by play and row (_NEVER: not before the row ahead of it is done); `pause` between the two;
    `then[row]`: the row that follows or -1; `job[row]`: whose it is; `can` by worker and row.
    """

    minutes: Array
    release: Array
    pause: Array
    then: NDArray[np.intp]
    job: NDArray[np.intp]
    can: NDArray[np.bool_]
    jobs: int


def _rows_of(
    jobs: Sequence[Queued],
    workers: Sequence[Worker],
    now: datetime,
    seed: int,
    plays: int,
    worlds: int,
    index: dict[str, int],
    waits: Mapping[str, Wait],
) -> _Rows:
    by_key = {worker.key: i for i, worker in enumerate(workers)}
    minutes, release, pause, can, stands = [], [], [], [], []
    then: list[int] = []
    whose: list[int] = []
    for i in sorted(range(len(jobs)), key=lambda i: (not jobs[i].in_hand, jobs[i].rank)):
        job = jobs[i]
        rng = _seeded(seed, job.draw or job.key)
        parts = [_minutes(steps, rng, plays) for steps in (job.before, job.after)]
        answer = _may_wait(rng, plays, waits) if job.asks else np.zeros(plays)
        comes = _comes(job, rng, plays, now, waits) if job.waits_on else np.zeros(plays)
        able = [job.needs <= worker.skills for worker in workers]
        if job.assigned in by_key:
            able = [j == by_key[job.assigned] for j in range(len(workers))]
        two = bool(job.before)
        for part in parts if two else parts[1:]:
            first = two and part is parts[0]
            minutes.append(part)
            release.append(comes if first or not two else np.full(plays, _NEVER))
            pause.append(answer)
            stands.append(job.worlds[:worlds])
            can.append(able)
            then.append(len(then) + 1 if first else -1)
            whose.append(index[job.key])
    # Every world has the same draws; where a job does not stand, its rows are as if done.
    every = [np.tile(np.stack(rows, 1), (worlds, 1)) for rows in (minutes, release, pause)]
    every[1][np.repeat(~np.array(stands).T, plays, axis=0)] = _DONE
    return _Rows(every[0], every[1], every[2], np.array(then), np.array(whose), np.array(can, dtype=bool).T.copy(), len(index))


def _comes(job: Queued, rng: np.random.Generator, plays: int, now: datetime, waits: Mapping[str, Wait]) -> Array:
    """When what a job waits for is there, in minutes from now: by the day that was named, a little later at times. A day that
    is past without it says nothing more."""
    if job.expected_at is None or job.expected_at <= now:
        return _wait_min(waits[job.waits_on], job.waits_since_h, rng, plays)
    due = (job.expected_at - now).total_seconds() / 60
    late = rng.random(plays) < LATE_CHANCE
    return np.asarray(due + np.where(late, rng.exponential(LATE_MIN, plays), rng.uniform(0, UNPACKED_MIN, plays)))


def _dispatch(clock: _Clock, workers: Sequence[Worker], of: _Rows, seed: int, worlds: int) -> Array:
    """Each free worker takes the first row of the sequence that waits for nothing; minutes from now until each job is ready."""
    release = of.release.copy()
    plays = len(release)
    drawn = plays // worlds
    people = len(workers)
    rng = np.random.default_rng([seed, 7])
    slow = np.exp(INTERRUPTED_LOG_SD * rng.standard_normal((drawn, people)))
    rate = 1 / np.maximum(1 - np.array([w.interrupted for w in workers]) * slow, 0.2)
    rate = np.tile(rate, (worlds, 1))
    ill_at, ill_min = (np.tile(drawn_ill, (worlds, 1)) for drawn_ill in _illness(rng, drawn, people))
    everyone = np.arange(people)
    free = np.stack([clock.to_clock(everyone, np.full(people, 2e-6))] * plays)
    busy = np.zeros((plays, people))
    ready = np.full((plays, of.jobs), _NEVER)
    rows = np.arange(plays)
    for turn in count():
        if turn % CLEARED_EVERY == CLEARED_EVERY - 1:
            of, release = _without_done(of, release)
        who = free.argmin(axis=1)
        at = free[rows, who]
        live = at < _NEVER / 2
        if not live.any():
            break
        # A row that is done is released never again, so one comparison finds what can be begun.
        begins = release <= at[:, None]
        begins &= of.can[who]
        pick = begins.argmax(axis=1)
        has = begins[rows, pick] & live
        if not has.all():
            idle = np.flatnonzero(live & ~has)
            free[idle, who[idle]] = _wakes(clock, of, release[idle], who[idle], at[idle], busy[idle])
            if not has.any():
                continue
        r = np.flatnonzero(has)
        w, j = who[r], pick[r]
        begin = clock.to_worked(w, at[r])
        work = of.minutes[r, j] * rate[r, w]
        hit = (ill_at[r, w] >= begin) & (ill_at[r, w] < begin + work)
        work = work + np.where(hit, ill_min[r, w], 0.0)
        end = clock.to_clock(w, begin + work)
        free[r, w] = clock.to_clock(w, begin + work + 2e-6)
        busy[r, w] = end
        release[r, j] = _DONE
        then = of.then[j]
        more = then >= 0
        release[r[more], then[more]] = end[more] + of.pause[r[more], j[more]]
        last = ~more
        ready[r[last], of.job[j[last]]] = end[last]
    return ready


def _without_done(of: _Rows, release: Array) -> tuple[_Rows, Array]:
    """The same without the rows that are done in every play: the array to search gets shorter."""
    keep = (release < _DONE).any(axis=0)
    if not keep.any() or keep.mean() > 0.9:
        return of, release
    place = np.cumsum(keep) - 1
    then = np.where(of.then >= 0, place[of.then], -1)[keep]
    left = replace(of, minutes=of.minutes[:, keep], pause=of.pause[:, keep], then=then, job=of.job[keep], can=of.can[:, keep])
    return left, release[:, keep]


def _wakes(clock: _Clock, of: _Rows, release: Array, who: NDArray[np.intp], at: Array, busy: Array) -> Array:
    """When somebody with nothing to do looks again: as the next of his rows comes up, or as a colleague is done."""
    can = of.can[who]
    comes = np.where(can, release, _DONE).min(axis=1)
    woken = np.where(comes < _NEVER / 2, clock.to_clock(who, clock.to_worked(who, comes) + 2e-6), _NEVER)
    # What a colleague has in hand may come to him after the customer's word.
    behind = (can & (release == _NEVER)).any(axis=1)
    others = np.where(busy > at[:, None], busy, _NEVER).min(axis=1)
    return np.maximum(np.where(behind, np.minimum(woken, others), woken), at + 1e-3)


def _illness(rng: np.random.Generator, plays: int, people: int) -> tuple[Array, Array]:
    """The first unforeseen absence of each person: at which working minute, and working minutes lost."""
    at = rng.exponential(_DAY_MIN / ILL_A_DAY, (plays, people))
    return at, rng.exponential(ILL_DAYS * _DAY_MIN, (plays, people))
