"""Live truing: one nipple, one look at the rim, and what is left of the plan is worked out anew.

The list of nipples still to turn shrinks as soon as fewer are enough, and it ends when the wheel is inside. The nipple that
does most comes next, if no tension passes the limit by it; what stands above the limit is brought down first, in the order of
its plan. Only where what is left would no longer be enough is the list made anew from all nipples.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.truing.options import PlanOptions, floors_n, free_nipples, pass_limit_turns, suggested_step_turns
from felloe.core.truing.outcome import Expected, Outcome
from felloe.core.truing.plan import make_plan
from felloe.core.truing.relief import relieve
from felloe.core.truing.room import MARGIN_SHARE, room_of
from felloe.core.truing.short import FEWER_DRAWS, LEAVE_CHANCE
from felloe.core.truing.sparse import Bounds, Sparse
from felloe.core.truing.walk import ceiling
from felloe.core.truing.why import why_of

Array = NDArray[np.float64]
Step = tuple[int, float]

#: Of what is left so large a share is left out at once while that is enough.
DROPPED_SHARE = 0.15
#: With so much less chance than was asked the list is made anew.
SHORT_OF = 0.1
#: A list is worth turning if it gains so much chance, or brings the worst figure so much nearer (share of its limit).
WORTH_CHANCE, WORTH_SHARE = 0.05, 0.08
#: Known no better than this share of its room, a spoke's tension is asked for. Common practice, no source.
UNSURE_SHARE = 0.35
NOTHING_EXPECTED = Expected(0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Ahead:
    """Turns to come: `steps`, (place, turns) each, the next one first; the first `in_order` of them come in this order, since
    they bring down what stands near or above the rim's limit. `chance`: what was to be expected of all of them."""

    steps: tuple[Step, ...] = ()
    in_order: int = 0
    chance: float = 1.0

    @property
    def nipples(self) -> int:
        return len({place for place, _ in self.steps})

    def without(self, place: int) -> Ahead:
        """After the nipple at `place` was turned: its next turn of these is made."""
        at = next((k for k, step in enumerate(self.steps) if step[0] == place), None)
        if at is None:
            return self
        return Ahead((*self.steps[:at], *self.steps[at + 1 :]), self.in_order - (at < self.in_order), self.chance)


@dataclass(frozen=True)
class Left(Ahead):
    """What is left to do. `enough`: the wheel is inside. `now`, `after`: what is to be expected untouched and after all of its
    steps. `ask`: the place of a spoke whose tension is to be read, since what is not known of it stands in the way; None where
    there is none.
    """

    enough: bool = False
    now: Expected = NOTHING_EXPECTED
    after: Expected = NOTHING_EXPECTED
    ask: int | None = None


def left_to_do(state: WheelState, options: PlanOptions, before: Ahead | None = None) -> Left:
    """What is left for a wheel in `state`; `before`: what was left after the last nipple; None at the start."""
    rest = _Rest(state, finer(state, options))
    return replace(rest.left(before), ask=rest.unsure())


def finer(state: WheelState, options: PlanOptions) -> PlanOptions:
    """The options with a step that gets finer as the wheel gets near; told by eye it stays as it was."""
    if options.by_eye:
        return options
    return replace(options, step_turns=min(options.step_turns, suggested_step_turns(state, options.tier)))


def why_next(state: WheelState, options: PlanOptions, left: Left) -> str:
    """Why the next nipple is turned, of all those that are left; empty where there is none."""
    if not left.steps:
        return ""
    rest = _Rest(state, finer(state, options))
    return why_of(rest.outcome, rest.total(left.steps), left.steps[0][0])


class _Rest:
    def __init__(self, state: WheelState, options: PlanOptions) -> None:
        self.state, self.options = state, options
        self.outcome = Outcome.of(state, options, FEWER_DRAWS)
        step = options.step_turns
        limit = pass_limit_turns(state, options)
        most = np.floor(limit / step + 1e-9) * step
        self.free = free_nipples(state, options)
        lowest = np.where(self.free & (options.mode != "tighten_only"), -most, 0.0)
        highest = np.where(self.free & (options.mode != "ease_only"), most, 0.0)
        # The rim is looked at after each nipple: what is not known of the way is that of one turn.
        room = room_of(state, options, self.outcome, np.full(self.outcome.count, step))
        self.floor_n = floors_n(state, options)
        self.limit_n = state.wheel.rim.tension_cap_n
        self.most_n = ceiling(state.tension_n, self.limit_n - room.way_margin_n)
        self.sparse = Sparse(self.outcome, Bounds(lowest, highest, step, self.floor_n, room.cap_n))

    def left(self, before: Ahead | None) -> Left:
        outcome, options = self.outcome, self.options
        nothing = np.zeros(outcome.count)
        now = outcome.expected(nothing)
        above = bool((self.state.tension_n > self.limit_n).any())
        inside = float((outcome.weights * outcome.middle_shares(nothing)).max()) <= 1
        if not above and outcome.chance(nothing)[0] >= (LEAVE_CHANCE if inside else options.chance):
            return _left((), 0, True, now, now)
        if before is not None and before.in_order and self._safe(*before.steps[0]):
            after = outcome.expected(self.total(before.steps))
            return _left(before.steps, before.in_order, False, now, after)
        if above:
            return self._planned(now, to_the_letter=True) or _left((), 0, False, now, now)
        kept = self.total(before.steps) if before is not None else nothing
        turns, chance = self._shortened(np.where(self.free, kept, 0.0))
        # Where the best list was no surer, nothing is gained by making it anew.
        hoped = min(options.chance, before.chance if before is not None else 1.0)
        if chance < hoped - SHORT_OF:
            anew, better = self._shortened(self.sparse.all_nipples())
            if better > chance or not np.any(turns):
                turns = anew
        turns = np.asarray(np.rint(turns / options.step_turns) * options.step_turns)
        after = outcome.expected(turns)
        if self._worth(turns, now, after):
            following = self._next(turns)
            if following is not None:
                rest = turns.copy()
                rest[following[0]] -= following[1]
                return _left((following, *_steps(rest)), 0, False, now, after)
        # No single turn of these is safe, or none gains: the whole search may still know a way.
        return self._planned(now) or self._room_made(now) or _left((), 0, False, now, now)

    def total(self, steps: Sequence[Step]) -> Array:
        turns = np.zeros(self.outcome.count)
        for place, turn in steps:
            turns[place] += turn
        return turns

    def _planned(self, now: Expected, to_the_letter: bool = False) -> Left | None:
        """The plan of a whole pass; `to_the_letter`: in its order, since it brings down what stands above the limit."""
        plan = make_plan(self.state, self.options)
        if not plan.moves or not (to_the_letter or self._worth(plan.turns, now, plan.expected)):
            return None
        index_of = self.state.wheel.index_of
        steps = tuple((index_of[move.spoke], move.turns) for move in plan.moves)
        in_order = plan.eased_first or len(steps) if to_the_letter else plan.eased_first or 1
        return _left(steps, in_order, False, now, plan.expected)

    def _room_made(self, now: Expected) -> Left | None:
        """Where all that gains would lift what stands near the limit: that comes down first."""
        state, bounds = self.state, self.sparse.bounds
        near_n = (1 - MARGIN_SHARE) * self.limit_n
        within = (bounds.lowest, bounds.highest)
        cap_n = np.full(self.outcome.count, near_n)
        eased = relieve(state.tension_n, state.influence.tension_n, within, near_n, cap_n, self.floor_n, bounds.step)
        if not eased.turns:
            return None
        return _left(eased.turns, len(eased.turns), False, now, self.outcome.expected(self.total(eased.turns)))

    def unsure(self) -> int | None:
        """The spoke that is least known, where that takes too much of its room."""
        outcome, state = self.outcome, self.state
        if "tension" in self.options.unread:
            return None
        first = 2 * outcome.angles + 1
        room = outcome.tolerance(state.tension_n)[first : first + outcome.count]
        share = np.where(outcome.present, state.tension_sd_n / room, 0.0)
        worst = int(np.argmax(share))
        return worst if share[worst] > UNSURE_SHARE else None

    def _worth(self, turns: Array, now: Expected, after: Expected) -> bool:
        if not np.any(turns):
            return False
        shares = [float(self.outcome.middle_shares(t).max()) for t in (np.zeros_like(turns), turns)]
        return after.chance - now.chance >= WORTH_CHANCE or shares[0] - shares[1] >= WORTH_SHARE

    def _shortened(self, start: Array) -> tuple[Array, float]:
        """As few nipples of `start` (n,) as are enough, settled anew, with their chance; all of them where they are not."""
        nipples = [int(i) for i in np.flatnonzero(np.abs(start) >= self.options.step_turns / 2)]
        if not nipples:
            return np.zeros(len(start)), 0.0
        turns = np.zeros(len(start))
        turns[nipples] = start[nipples]
        kept = self.outcome.chance(turns, FEWER_DRAWS)[0]
        settled, middle, curve = self.sparse.settled(turns, nipples)
        chance = self.outcome.chance(settled, FEWER_DRAWS)[0]
        if kept >= chance:
            chance = kept
        else:
            turns = settled
        best = turns
        while chance >= self.options.chance and len(nipples) > 1:
            price = turns[nipples] ** 2 / np.diag(np.linalg.inv(curve))[: len(nipples)]
            turns = turns.copy()
            for drop in sorted(np.argsort(price)[: max(1, int(DROPPED_SHARE * len(nipples)))], reverse=True):
                turns[nipples.pop(int(drop))] = 0.0
            turns, middle, curve = self.sparse.settled(turns, nipples, middle, 1)
            fewer = self.outcome.chance(turns, FEWER_DRAWS)[0]
            if fewer < self.options.chance:
                break
            best, chance = turns, fewer
        return best, chance

    def _safe(self, place: int, turns: float) -> bool:
        return bool(self._safe_ones(np.array([place]), np.array([turns]))[0])

    def _safe_ones(self, places: NDArray[np.intp], turns: Array) -> NDArray[np.bool_]:
        """Which single turns leave all tensions below the limit, or no higher than now, and above their floors."""
        state = self.state
        tension = state.tension_n[:, None] + state.influence.tension_n[:, places] * turns
        safe = (tension <= self.most_n[:, None] + 1e-6).all(axis=0)
        return np.asarray(safe & (tension >= np.minimum(self.floor_n, state.tension_n)[:, None] - 1e-6).all(axis=0))

    def _next(self, turns: Array) -> Step | None:
        """The nipple that does most by itself, by its whole turn, else half, else one step, and leaves the limits alone."""
        step = self.options.step_turns
        places = np.flatnonzero(turns)
        signs = np.sign(turns[places])
        for parts in (turns[places], signs * np.maximum(np.abs(turns[places]) // (2 * step), 1) * step, signs * step):
            safe = self._safe_ones(places, parts)
            if safe.any():
                one = np.zeros((len(turns), len(places)))
                one[places, np.arange(len(places))] = parts
                best = int(np.argmin(np.where(safe, self.sparse.cost(one), np.inf)))
                return int(places[best]), float(parts[best])
        return None


def _left(steps: tuple[Step, ...], in_order: int, enough: bool, now: Expected, after: Expected) -> Left:
    return Left(steps, in_order, after.chance, enough, now, after)


def _steps(turns: Array) -> tuple[Step, ...]:
    """Turns (n,) from the valve on, those that are any."""
    return tuple((int(i), float(turns[i])) for i in np.flatnonzero(turns))
