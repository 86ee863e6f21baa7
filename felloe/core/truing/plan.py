"""The truing plan: which nipples to turn, which way and how much, in one walk from the valve, and how sure it is.

The fewest nipples that bring the wheel inside its tier with the chance asked for (truing.short); what stands above the rim's
limit is eased first (truing.relief). The whole trade-off, nipples against chance and finish, is `trade_off`.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState
from felloe.core.said import say
from felloe.core.truing.laps import BUILD_LIMIT_TURNS, lap_tier, lap_turns, next_share
from felloe.core.truing.minutes import minutes_of
from felloe.core.truing.options import (
    MAX_PASS_LIMIT_TURNS,
    RIDE_HOME_LIMIT_TURNS,
    RIDE_HOME_NIPPLES,
    PlanOptions,
    floors_n,
    free_nipples,
    pass_limit_turns,
)
from felloe.core.truing.outcome import Expected
from felloe.core.truing.prediction import Prediction, predict, turned_state
from felloe.core.truing.reason import caution, reason
from felloe.core.truing.relief import Relief, relieve
from felloe.core.truing.short import CURVE, Found, Shortest
from felloe.core.truing.tiers import CLEARING
from felloe.core.truing.walk import NOTHING_N, Walk, ceiling, safe_walk, walk_tensions
from felloe.core.truing.why import whys
from felloe.core.units import turns_as_fraction

Array = NDArray[np.float64]

#: By so much [N] a spoke above the limit may rise on the way where nothing else is possible, and that is said.
YIELDS_N = (3.0, 6.0, 12.0, 25.0)
#: Plans differ where a nipple is turned so much otherwise [turns]. Common practice, no source.
DIFFERS_TURNS = 0.25


@dataclass(frozen=True)
class Move:
    """One nipple to turn: + tightens. `tension_…_n` [N] are the model's before and after the whole pass, `turn_…_n` just before
    and just after this turn, where those before it in the walk were made; `why` it is this one.
    """

    spoke: str
    turns: float
    tension_before_n: float
    tension_after_n: float
    turn_from_n: float
    turn_to_n: float
    why: str = ""

    @property
    def word(self) -> str:
        return "tighten" if self.turns > 0 else "ease"

    @property
    def fraction(self) -> str:
        return turns_as_fraction(self.turns)


@dataclass(frozen=True)
class TruingPlan:
    """A plan for one pass. `moves` are in the order of the walk from the valve; with more than one of `laps` some nipples wait
    for a later lap, since before that a tension would pass the cap. The first `eased_first` of them come before the walk: they
    bring down what stands above the rim's limit, and a nipple may come again after them. `before` and `expected` say what the
    figures are likely to be, untouched and after.
    """

    options: PlanOptions
    limit_turns: float
    turns: Array
    moves: tuple[Move, ...]
    after: Prediction
    worst_tension_n: float
    worst_spoke: str
    laps: int
    eased_first: int
    before: Expected
    expected: Expected
    reason: str
    caution: str
    #: So many of the moves turn a nipple as every other one of its side: a lap of a wheel under construction.
    alike: int = 0

    @property
    def total_turns(self) -> float:
        return float(np.abs(self.turns).sum())

    @property
    def nipples(self) -> int:
        return int(np.count_nonzero(self.turns))

    def differs_from(self, other: TruingPlan) -> bool:
        """Whether a nipple is turned otherwise than in `other` by what a hand sees at once."""
        return bool(np.abs(self.turns - other.turns).max() >= DIFFERS_TURNS)

    @property
    def minutes(self) -> float:
        """How long the pass takes, with the look after it [min]."""
        return minutes_of(len(self.moves), self.alike)


@dataclass(frozen=True)
class Choice:
    """One point of the trade-off: so many nipples, all in all `turns`, and what they lead to."""

    nipples: int
    total_turns: float
    minutes: float
    expected: Expected
    proposed: bool


def make_plan(state: WheelState, options: PlanOptions | None = None) -> TruingPlan:
    """Plan one pass for the estimated `state`: as few nipples as bring the wheel inside the tier with the chance asked for.

    A wheel that is inside is not touched. Raises UnknownSpoke for an untouchable nipple that the wheel does not have.
    """
    planning = _Planning(state, options or PlanOptions())
    return planning.plan(planning.found)


def trade_off(state: WheelState, options: PlanOptions | None = None) -> tuple[Choice, ...]:
    """Nipples against chance and finish: nothing, a few, more, all; the one that is proposed is marked."""
    planning = _Planning(state, replace(options or PlanOptions(), nipples=None))
    proposed = planning.found
    plans = {} if proposed is None else {proposed.nipples: proposed}
    for count in (*CURVE, state.wheel.spoke_count):
        found = planning.of(count)
        if found is not None:
            plans.setdefault(found.nipples, found)
    nothing = Choice(0, 0.0, 0.0, planning.search.untouched, proposed is None)
    choices = [
        Choice(k, float(np.abs(f.turns).sum()), minutes_of(len(f.walk)), f.expected, f is proposed) for k, f in plans.items()
    ]
    return nothing, *sorted(choices, key=lambda c: c.nipples)


def plan_of_turns(state: WheelState, options: PlanOptions, turns: Array) -> TruingPlan:
    """A plan made of given turns (n,), multiples of a sixteenth, walked so that no tension passes the cap where that can be.

    Where no order keeps to the cap the nipples come in one walk from the valve; `worst_tension_n` says how far it goes.
    """
    step = 1 / 16
    counts = np.rint(turns / step).astype(np.int64)
    cap_n = state.wheel.rim.tension_cap_n
    most = ceiling(state.tension_n, np.full(len(turns), cap_n))
    walk = safe_walk(state.tension_n, state.influence.tension_n * step, counts, most)
    walk = walk or Walk.of([(int(i), int(counts[i])) for i in np.flatnonzero(counts)])
    asked = np.asarray(counts * step, dtype=np.float64)
    limit = float(np.abs(turns).max(initial=step))
    planning = _Planning(state, replace(options, step_turns=step, limit_turns=max(min(limit, MAX_PASS_LIMIT_TURNS), step)))
    expected = planning.search.outcome.expected(asked)
    return planning.plan(Found(tuple((i, count * step) for i, count in walk.turns), asked, walk.laps, 0, expected))


def plan_of_tried(state: WheelState, options: PlanOptions, turns: Array) -> TruingPlan:
    """A plan of turns (n,) that somebody tried by hand, as they are.

    Raises BadReading where nothing is turned, where a nipple is turned that must not be, and where a spoke would come above the
    rim's limit, at the end or on the way, or below its floor, further than it stands.
    """
    names = [str(name) for name in state.wheel.names]
    if not np.any(np.rint(turns * 16)):
        raise BadReading(say("turn one nipple at least"), "turns")
    stay = np.flatnonzero((turns != 0) & ~free_nipples(state, options))
    if len(stay):
        raise BadReading(say("{spoke} must not be turned", spoke=names[stay[0]]), "turns")
    plan = plan_of_turns(state, options, turns)
    now, limit_n = state.tension_n, state.wheel.rim.tension_cap_n
    walked = walk_tensions(now, state.influence.tension_n, [(state.wheel.index_of[m.spoke], m.turns) for m in plan.moves])
    above = np.flatnonzero((walked > np.maximum(now, limit_n) + NOTHING_N).any(axis=0))
    if len(above):
        raise BadReading(
            say("{spoke} would come above the rim's limit of {limit_n:.0f} N", spoke=names[above[0]], limit_n=limit_n), "turns"
        )
    slack = np.flatnonzero(walked[-1] < np.minimum(now, floors_n(state, options)) - NOTHING_N)
    if len(slack):
        raise BadReading(say("{spoke} would be too slack to hold its nipple", spoke=names[slack[0]]), "turns")
    return plan


class _Planning:
    """All plans for one state and one set of options; what they have in common is worked out once."""

    def __init__(self, state: WheelState, options: PlanOptions) -> None:
        if options.mode == "build":
            share = next_share(state) if options.target_share == 1.0 else options.target_share
            options = replace(options, target_share=share, tier=lap_tier(share, options.tier))
        if options.mode == "ride_home":
            most = min(options.nipples or RIDE_HOME_NIPPLES, RIDE_HOME_NIPPLES)
            options = replace(options, tier=CLEARING, nipples=most if options.nipples else None)
        of_mode = {"build": BUILD_LIMIT_TURNS, "ride_home": RIDE_HOME_LIMIT_TURNS}.get(options.mode)
        self.state, self.options = state, options
        self.limit_turns = options.limit_turns or of_mode or pass_limit_turns(state, options)
        self.search = Shortest(state, options, self.limit_turns)

    @cached_property
    def found(self) -> Found | None:
        """What is proposed; None where nothing is to be turned, or nothing can be."""
        if self.options.mode == "build":
            return self._lap
        if self.options.nipples is not None:
            return self.of(self.options.nipples)
        if self.search.is_enough:
            return None
        return self.search.chosen() or self._eased_first(None) or self._yielding.chosen()

    @cached_property
    def _lap(self) -> Found | None:
        """Every nipple of a side alike, and few of them otherwise: round and centred early, straight by and by."""
        options, search = self.options, self.search
        alike = lap_turns(self.state, options.target_share, options.step_turns)
        alike = np.clip(alike, search.lowest, search.highest)
        rest = Shortest(turned_state(self.state, alike), options, self.limit_turns, alike)
        then: Found | None = None
        if options.nipples is not None:
            then = rest.of(options.nipples)
        elif rest.outcome.chance(np.zeros(len(alike)))[0] < options.chance:
            then = rest.chosen()
        turns = alike if then is None else alike + then.turns
        counts = np.rint(turns / options.step_turns).astype(np.int64)
        most = ceiling(self.state.tension_n, search.limit_n - search.way_margin_n)
        walk = safe_walk(self.state.tension_n, self.state.influence.tension_n * options.step_turns, counts, most)
        if walk is None or not counts.any():
            return search.of(self.state.wheel.spoke_count)
        steps = tuple((i, count * options.step_turns) for i, count in walk.turns)
        expected = search.outcome.expected(turns)
        return Found(steps, turns, walk.laps, 0, expected, alike=alike)

    def of(self, nipples: int) -> Found | None:
        """The plan of at most so many nipples."""
        return self.search.of(nipples) or self._eased_first(nipples) or self._yielding.of(nipples)

    @cached_property
    def _yielding(self) -> Shortest:
        """Where nothing keeps what stands above the limit from rising while its neighbours are eased: as little as may be."""
        if not (self.state.tension_n > self.search.limit_n).any():
            return self.search
        return self.search.yielding(YIELDS_N)

    @cached_property
    def _relief(self) -> tuple[Relief, Shortest] | None:
        """Where no order keeps what stands above the limit from rising: what brings it down, and what to plan from there."""
        search = self.search
        if not (self.state.tension_n > search.limit_n).any():
            return None
        eased = relieve(
            self.state.tension_n,
            self.state.influence.tension_n,
            (search.lowest, search.highest),
            search.limit_n,
            search.limit_n - search.margin_n,
            search.floor_n,
            self.options.step_turns,
        )
        if not eased.turns or eased.left:
            return None
        first = eased.total(self.state.wheel.spoke_count)
        return eased, Shortest(turned_state(self.state, first), self.options, self.limit_turns, first)

    def _eased_first(self, nipples: int | None) -> Found | None:
        if self._relief is None:
            return None
        eased, rest = self._relief
        turns = rest.made
        then = rest.chosen() if nipples is None else rest.of(nipples)
        walk: tuple[tuple[int, float], ...] = eased.turns
        if then is not None:
            turns, walk = turns + then.turns, (*walk, *then.walk)
        if not self.search.sparse.keeps_to_limits(turns):
            return None
        expected = self.search.outcome.expected(turns)
        return Found(walk, turns, then.laps if then else 1, len(eased.turns), expected)

    def plan(self, found: Found | None) -> TruingPlan:
        """The plan as it is worked."""
        state = self.state
        names = [str(name) for name in state.wheel.names]
        turns = found.turns if found is not None else np.zeros(len(names))
        steps = found.walk if found is not None else ()
        after = predict(state, turns)
        tensions = walk_tensions(state.tension_n, state.influence.tension_n, steps)
        worst = int(np.argmax(tensions.max(axis=0)))
        why = whys(self.search.outcome, turns)
        moves = tuple(
            Move(
                names[i],
                t,
                tension_before_n=float(state.tension_n[i]),
                tension_after_n=float(after.tension_n[i]),
                turn_from_n=float(tensions[at, i]),
                turn_to_n=float(tensions[at + 1, i]),
                why=why.get(names[i], ""),
            )
            for at, (i, t) in enumerate(steps)
        )
        return TruingPlan(
            options=self.options,
            limit_turns=self.limit_turns,
            turns=turns,
            moves=moves,
            after=after,
            worst_tension_n=float(tensions.max()),
            worst_spoke=names[worst],
            laps=found.laps if found is not None else 1,
            eased_first=found.eased_first if found is not None else 0,
            before=self.search.untouched,
            expected=found.expected if found is not None else self.search.untouched,
            reason=reason(self.search, found, after),
            caution=caution(self.search, found, tensions),
            alike=found.as_alike if found is not None else 0,
        )
