"""A workshop played minute by minute, against which promises are held: nothing of it shares a formula with the queue's plays.

Wheels come at the counter, mechanics work their steps one after the other, are called away for minutes at a time, fall ill;
customers answer late and parts come late. Shops are invented; their rates are common practice, no source.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta

from felloe.core.promise.dates import offers
from felloe.core.promise.hours import USUAL_WEEK, Calendar, zone_of
from felloe.core.promise.pace import Timed, learn, learn_waits
from felloe.core.promise.sequence import Hanging
from felloe.core.promise.simulate import Queued, Worker, play
from felloe.core.promise.work import BENCH_STEPS, JobFacts, Paces, steps_ahead, together, until_agreed, usual_step
from felloe.core.truing.tiers import TIERS

MONDAY = datetime(2026, 3, 2, tzinfo=UTC)
LINE = 0.8
DECIDE = BENCH_STEPS.index("decide")


@dataclass(frozen=True)
class Shop:
    """A shop: mechanics, wheels a day, and what goes wrong. `slow`: its own pace; `tail`: how long its tails are."""

    name: str
    mechanics: int = 3
    wheels_a_day: float = 8.0
    interrupted: float = 0.15
    slow: float = 1.0
    log_sd: float = 0.45
    asks: float = 0.4
    answer_h: float = 2.0
    needs_parts: float = 0.08
    parts_h: float = 48.0
    ill_from_day: int | None = None
    ill_days: int = 4


CALM = Shop("calm", wheels_a_day=6.0)
BUSY = Shop("busy", wheels_a_day=9.5, slow=1.05)
ILL = Shop("a mechanic ill", wheels_a_day=7.5, ill_from_day=12)
LATE = Shop("late parts", wheels_a_day=7.5, needs_parts=0.25, parts_h=80.0)
SHOPS = (CALM, BUSY, ILL, LATE)


@dataclass
class Wheel:
    """A wheel in the shop. Minutes of each step are drawn when it comes in and known to nobody."""

    key: str
    came: int
    tier: str
    spokes: int
    minutes: dict[str, float]
    answer_min: float
    parts_min: float
    step: int = 0
    left_min: float = 0.0
    begun: int | None = None
    waits: str = ""
    until: int = 0
    asked_at: int = 0
    promised: int | None = None
    patient_days: int = 0
    at_line: float | None = None
    chance: float = 0.0
    ready: int | None = None
    taken: dict[str, float] = field(default_factory=dict)
    decided: bool = False
    to_replace: int = 0

    @property
    def stage(self) -> str:
        return BENCH_STEPS[self.step]

    def facts(self) -> JobFacts:
        agreed = None
        if self.decided:
            agreed = ("replace",) if self.to_replace else ("true",)
        return JobFacts(
            self.stage, TIERS[self.tier], self.spokes, agreed=agreed, to_replace=self.to_replace if self.decided else 0
        )


Rule = Callable[[Wheel, "Floor"], float]
#: Promises of an earlier play of the same wheels: minute, chance, and the minute of the shop's line.
Given = dict[str, tuple[int | None, float, float | None]]


class Floor:
    """One shop through some weeks. `rule` says whose turn it is (lowest first); `promise` gives the dates, where not None."""

    def __init__(self, shop: Shop, days: int, seed: int, rule: Rule, promises: Given | None = None):
        self.shop, self.days, self.rule, self.given = shop, days, rule, promises
        self.rng = random.Random(seed)
        self.calendar = Calendar(zone_of("UTC"), USUAL_WEEK)
        self.now = 0
        self.paces = Paces()
        self.open: list[Wheel] = []
        self.closed: list[Wheel] = []
        self.timed: list[Timed] = []
        self.waited: list[tuple[str, float]] = []
        self.hands: list[Wheel | None] = [None] * shop.mechanics
        self.away: list[int] = [0] * shop.mechanics
        self.factor = {s: self.rng.lognormvariate(0, 0.12) * shop.slow for s in BENCH_STEPS}
        self.coming = self._arrivals()

    def _arrivals(self) -> list[Wheel]:
        out = []
        for day in range(self.days):
            for minute in range(1440):
                hours = self._hours(day % 7)
                if hours and hours[0] <= minute < hours[1] - 20:
                    a_minute = self.shop.wheels_a_day / 480
                    if self.rng.random() < a_minute:
                        out.append(self._wheel(day * 1440 + minute, len(out)))
        return out

    def _wheel(self, at: int, number: int) -> Wheel:
        draw = self.rng
        tier = draw.choice(["roadworthy", "sound", "sound", "sound", "fine", "fine"])
        spokes = draw.choice([24, 28, 32, 32, 36, 36])
        broken = draw.choice([1, 2, 3]) if draw.random() < 0.25 else 0
        decided = JobFacts(
            "check_on_bike", TIERS[tier], spokes, agreed=("replace",) if broken else ("true",), to_replace=broken
        )
        alike = draw.gauss(0, 1)
        minutes = {}
        for step in BENCH_STEPS:
            z = 0.7 * alike + 0.71 * draw.gauss(0, 1)
            minutes[step] = usual_step(decided, step) * self.factor[step] * 2.718281828 ** (self.shop.log_sd * z)
        answer = draw.lognormvariate(0, 1.2) * self.shop.answer_h * 60 if draw.random() < self.shop.asks else 0.0
        parts = draw.lognormvariate(0, 0.6) * self.shop.parts_h * 60 if draw.random() < self.shop.needs_parts else 0.0
        patient = draw.choice([2, 3, 4, 6]) if draw.random() < 0.35 else 0
        return Wheel(f"w{number}", at, tier, spokes, minutes, answer, parts, to_replace=broken, patient_days=patient)

    @staticmethod
    def _hours(weekday: int) -> tuple[int, int] | None:
        return (540, 1020) if weekday < 5 else (540, 780) if weekday == 5 else None

    def moment(self, minute: float) -> datetime:
        return MONDAY + timedelta(minutes=minute)

    def ill(self, who: int, day: int) -> bool:
        first = self.shop.ill_from_day
        return who == 0 and first is not None and first <= day < first + self.shop.ill_days

    def run(self) -> list[Wheel]:
        coming = list(self.coming)
        day_share = [self.shop.interrupted] * self.shop.mechanics
        while self.now < (self.days + 40) * 1440 and (coming or self.open):
            day, minute = divmod(self.now, 1440)
            if minute == 0:
                day_share = [self.shop.interrupted * self.rng.lognormvariate(0, 0.2) for _ in day_share]
                self.paces = learn(self.timed)
            while coming and coming[0].came <= self.now:
                self._take_in(coming.pop(0))
            hours = self._hours(day % 7)
            if hours and hours[0] <= minute < hours[1]:
                for who in range(self.shop.mechanics):
                    if not self.ill(who, day):
                        self._work(who, day_share[who])
                    elif self.hands[who] is not None:
                        self.hands[who] = None
            for wheel in self.open:
                if wheel.waits and wheel.until <= self.now:
                    self._waited(wheel)
            self.now += 1
            if not hours or minute >= hours[1]:
                self._skip_night(coming)
        return self.closed

    def _skip_night(self, coming: list[Wheel]) -> None:
        self.now = (self.now // 1440 + 1) * 1440

    def _take_in(self, wheel: Wheel) -> None:
        self.open.append(wheel)
        wheel.step = 1
        if self.given is not None:
            wheel.promised, wheel.chance, wheel.at_line = self.given.get(wheel.key, (None, 0.0, None))
            return
        waits = learn_waits(self.waited, len(self.closed) + len(self.open))
        played = play(self.queue(wheel), self.workers(), self.moment(self.now), seed=len(self.closed), waits=waits)
        at_line = played.quantile(wheel.key, LINE)
        wheel.at_line = (at_line - MONDAY).total_seconds() / 60 if at_line else None
        found = offers(played, wheel.key, self.calendar, LINE)
        if found:
            wheel.promised = round((found[0].at - MONDAY).total_seconds() / 60)
            wheel.chance = found[0].chance
            if wheel.patient_days:
                later = (wheel.came // 1440 + wheel.patient_days) * 1440 + 1020
                hours = self._hours((later // 1440) % 7)
                later = later // 1440 * 1440 + hours[1] if hours else later + 1440
                wheel.promised = max(wheel.promised, later)

    def workers(self) -> list[Worker]:
        day = self.now // 1440
        today = self.moment(self.now).date()
        known = []
        for who in range(self.shop.mechanics):
            off: frozenset[object] = frozenset()
            if self.ill(who, day):
                # Once somebody has rung in ill, the shop guesses the day after tomorrow.
                off = frozenset(today + timedelta(days=d) for d in range(3))
            known.append(Worker(f"m{who}", Calendar(self.calendar.zone, USUAL_WEEK, off), interrupted=0.15))  # type: ignore[arg-type]
        return known

    def queue(self, new: Wheel) -> list[Queued]:
        out = []
        for wheel in self.open:
            steps = steps_ahead(wheel.facts(), self.paces)
            before, after = until_agreed(steps, wheel.facts())
            rank = float("inf") if wheel is new else self.rule(wheel, self)
            out.append(
                Queued(
                    wheel.key,
                    rank,
                    before,
                    after,
                    waits_on=wheel.waits,
                    waits_since_h=(self.now - wheel.asked_at) / 60 if wheel.waits else 0.0,
                    asks=not wheel.decided,
                    in_hand=wheel in self.hands,
                )
            )
        return out

    def _work(self, who: int, share: float) -> None:
        if self.away[who] > 0:
            self.away[who] -= 1
            return
        if self.rng.random() < share / 10 / (1 - share):
            self.away[who] = 9
            return
        wheel = self.hands[who]
        if wheel is None:
            free = [w for w in self.open if not w.waits and w not in self.hands]
            if not free:
                return
            wheel = min(free, key=lambda w: self.rule(w, self))
            self.hands[who] = wheel
        if wheel.left_min <= 0:
            wheel.left_min = wheel.minutes[wheel.stage]
            wheel.taken[wheel.stage] = 0.0
        wheel.left_min -= 1
        wheel.taken[wheel.stage] += 1
        while wheel.left_min <= 0:
            over = wheel.left_min
            if self._step_done(wheel, who):
                return
            wheel.left_min = wheel.minutes[wheel.stage] + over
            wheel.taken[wheel.stage] = 0.0

    def _waited(self, wheel: Wheel) -> None:
        self.waited.append((wheel.waits, (self.now - wheel.asked_at) / 60))
        wheel.waits = ""

    def _step_done(self, wheel: Wheel, who: int) -> bool:
        """The next step; True where the wheel leaves the hands."""
        if wheel.taken.get(wheel.stage, 0) > 0:
            usual = usual_step(wheel.facts(), wheel.stage)
            self.timed.append(Timed(wheel.stage, wheel.tier, wheel.taken[wheel.stage], usual))
        done = wheel.stage
        wheel.step += 1
        wheel.left_min = 0.0
        if wheel.step == len(BENCH_STEPS):
            wheel.ready = self.now
            self.open.remove(wheel)
            self.closed.append(wheel)
            self.hands[who] = None
            return True
        if done == "decide":
            wheel.decided = True
            wheel.waits, wheel.asked_at = "customer", self.now
            wheel.until = self.now + round(wheel.answer_min)
        if done == "parts" and wheel.parts_min:
            wheel.waits, wheel.asked_at = "parts", self.now
            wheel.until = self.now + round(wheel.parts_min)
        if wheel.waits and wheel.until > self.now:
            self.hands[who] = None
            return True
        wheel.waits = ""
        return wheel.minutes[wheel.stage] <= 0 and self._step_done(wheel, who)


def by_latest_start(wheel: Wheel, floor: Floor) -> float:
    """Ours: the due date less the work left."""
    work = together(steps_ahead(wheel.facts(), floor.paces)).middle_min
    due = floor.moment(wheel.promised) if wheel.promised is not None else None
    hanging = Hanging(wheel.key, floor.moment(wheel.came), due, work_min=work)
    return hanging.latest_start.timestamp()


def by_due_date(wheel: Wheel, floor: Floor) -> float:
    return float(wheel.promised if wheel.promised is not None else wheel.came + 7 * 1440)


def first_come(wheel: Wheel, floor: Floor) -> float:
    return float(wheel.came)


@dataclass(frozen=True)
class Kept:
    """How promises were kept: share, of how many, mean lateness of all [h]; of those given for the earliest hour at the
    shop's line the chance that was stated and the share kept; and the share ready by the very minute of the line.
    """

    share: float
    of: int
    late_h: float
    stated: float
    given: float
    at_line: float


def kept(wheels: list[Wheel], from_day: int) -> Kept:
    """Of the wheels that came in after a running-in."""
    counted = [w for w in wheels if w.promised is not None and w.ready is not None and w.came >= from_day * 1440]
    hurried = [w for w in counted if not w.patient_days]
    lateness = [max(0, w.ready - w.promised) / 60 for w in counted if w.ready is not None and w.promised is not None]
    return Kept(
        sum(late == 0 for late in lateness) / len(counted),
        len(counted),
        sum(lateness) / len(counted),
        sum(w.chance for w in hurried) / len(hurried),
        sum((w.ready or 0) <= (w.promised or 0) for w in hurried) / len(hurried),
        sum((w.ready or 0) <= w.at_line for w in hurried if w.at_line is not None) / len(hurried),
    )
