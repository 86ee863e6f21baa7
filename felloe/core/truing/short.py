"""The short plan: the fewest nipples that bring the wheel inside its tier with a stated chance, then the least turning.

The chance is counted over all that is not known (truing.outcome), and with it the margins that tensions keep below the rim's
limit. Where no plan reaches the chance, the one is taken that leaves least to do: another pass and its nipples have a price.
"""

from __future__ import annotations

from copy import copy
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.truing.options import RIDE_HOME_NIPPLES, PlanOptions, floors_n, free_nipples
from felloe.core.truing.outcome import Expected, Outcome
from felloe.core.truing.room import room_of
from felloe.core.truing.sparse import Bounds, Sparse
from felloe.core.truing.walk import NOTHING_N, ceiling, safe_walk

Array = NDArray[np.float64]

#: Another pass costs as much as so many nipples: the wheel is read again. And a figure that is out by its whole room so many.
PASS_NIPPLES, EXCESS_NIPPLES = 30.0, 40.0
#: Figures as estimated are to keep so much of their room free.
ROOM_SHARE = 0.5
#: So many nipples are turned rather than to leave a spoke above the rim's limit.
ABOVE_NIPPLES = 40.0
#: A wheel that is inside by the estimate, and with this chance, is not touched.
LEAVE_CHANCE = 0.88
#: Chances are compared over so many draws, and said over all of them.
FEWER_DRAWS = 128
#: So many plans are made in full to choose from, more only where none of them can be walked.
CANDIDATES = 3
#: The nipples that the picture of the trade-off shows, beside all.
CURVE = (4, 7, 10, 16)


@dataclass(frozen=True)
class Found:
    """Turns in their order, (place, turns), with what they lead to; `laps` of the walk, `eased_first` of them come before it
    and bring down what stands above the limit. `alike` (n,): what every nipple of a side is turned in a lap."""

    walk: tuple[tuple[int, float], ...]
    turns: Array
    laps: int
    eased_first: int
    expected: Expected
    alike: Array | None = None

    @property
    def as_alike(self) -> int:
        """How many nipples are turned as every other one of their side."""
        return 0 if self.alike is None else int(np.count_nonzero((self.turns == self.alike) & (self.turns != 0)))

    @property
    def nipples(self) -> int:
        return int(np.count_nonzero(self.turns))


class Shortest:
    """Plans of few nipples for a `state`, by how many they may touch; `made` (n,) of this pass's turns were made before."""

    #: By so much, the least that is enough, a spoke above the rim's limit may rise on the way [N].
    yields_n: tuple[float, ...] = (0.0,)

    def __init__(self, state: WheelState, options: PlanOptions, limit_turns: float, made: Array | None = None) -> None:
        self.state, self.options = state, options
        wheel = state.wheel
        self.made = np.zeros(wheel.spoke_count) if made is None else made
        self.outcome = Outcome.of(state, options)
        free = free_nipples(state, options)
        most = np.floor(limit_turns / options.step_turns + 1e-9) * options.step_turns
        # A mode that only tightens never eases, one that only eases never tightens.
        self.lowest = np.where(free & (options.mode != "tighten_only"), np.minimum(-most - self.made, 0), 0.0)
        self.highest = np.where(free & (options.mode != "ease_only"), np.maximum(most - self.made, 0), 0.0)
        self.floor_n = floors_n(state, options)
        self.limit_n = wheel.rim.tension_cap_n
        first = Sparse(self.outcome, self._bounds(np.zeros(wheel.spoke_count)))
        all_turns = first.all_nipples()
        # How unsure the tensions are depends on how much is turned.
        self.sparse = Sparse(self.outcome, self._bounds(all_turns), all_turns)
        self._tried: dict[int, Found | None] = {}

    def _bounds(self, turns: Array) -> Bounds:
        room = room_of(self.state, self.options, self.outcome, turns)
        self.margin_n, self.way_margin_n = room.margin_n, room.way_margin_n
        return Bounds(self.lowest, self.highest, self.options.step_turns, self.floor_n, room.cap_n)

    def yielding(self, yields_n: tuple[float, ...]) -> Shortest:
        """The same search, in which spokes above the limit may rise by one of `yields_n` on the way [N]."""
        other = copy(self)
        other.yields_n, other._tried = yields_n, {}
        return other

    @cached_property
    def path(self) -> dict[int, Array]:
        found = self.sparse.path()
        if self.options.mode == "ride_home":
            return {k: turns for k, turns in found.items() if k <= RIDE_HOME_NIPPLES}
        return found

    @cached_property
    def untouched(self) -> Expected:
        """What is to be expected where nothing is turned."""
        return self.outcome.expected(np.zeros(self.outcome.count))

    @property
    def is_enough(self) -> bool:
        """Whether the wheel is inside as it is: as surely as was asked, or by the estimate and with LEAVE_CHANCE."""
        if (self.state.tension_n > self.limit_n).any() or self.options.target_share < 1:
            return False
        nothing = np.zeros(self.outcome.count)
        inside = float((self.outcome.weights * self.outcome.middle_shares(nothing)).max()) <= 1
        return self.outcome.chance(nothing)[0] >= (LEAVE_CHANCE if inside else self.options.chance)

    def chosen(self) -> Found | None:
        """The fewest nipples that reach the chance asked for; else what leaves least to do; None where nothing can be done."""
        screened: dict[int, tuple[float, float]] = {}

        def enough(k: int) -> bool:
            if k not in screened:
                screened[k] = self.outcome.chance(self.path[k], FEWER_DRAWS)
            return screened[k][0] >= self.options.chance

        counts = sorted(self.path)
        # The chance grows with the nipples: every third is looked at, then those before the first that is enough.
        first = next((at for at in [*range(0, len(counts), 3), len(counts) - 1] if enough(counts[at])), None)
        if first is not None:
            for k in counts[max(first - 2, 0) :]:
                # Turns to the step lose a little of what the exact ones promise.
                if not enough(k):
                    continue
                found = self.of(k)
                sure = found is not None and self.outcome.chance(found.turns)[0] >= self.options.chance - 0.01
                if found is not None and sure and self._price(found.turns, 1.0, 0.0) < ABOVE_NIPPLES:
                    return found
        by_price = sorted(screened, key=lambda k: self._price(self.path[k], *screened[k]))
        others = [k for k in reversed(counts) if k not in screened]
        found_ones: list[Found] = []
        for tried, k in enumerate([*by_price, *others], start=1):
            if tried > CANDIDATES and found_ones:
                break
            found = self.of(k)
            if found is not None:
                found_ones.append(found)
        return min(found_ones, key=lambda f: self._price(f.turns, *self.outcome.chance(f.turns)), default=None)

    def _price(self, turns: Array, chance: float, excess: float) -> float:
        above = bool((self.outcome.tension(turns) > self.limit_n + NOTHING_N).any())
        price = int(np.count_nonzero(turns)) + PASS_NIPPLES * max(0.0, self.options.chance - chance)
        # What is little known is out in many draws whatever is turned: the figures as estimated count beside them.
        near = max(0.0, float((self.outcome.weights * self.outcome.middle_shares(turns)).max()) - ROOM_SHARE)
        return price + EXCESS_NIPPLES * (excess + near) + ABOVE_NIPPLES * above

    def of(self, nipples: int) -> Found | None:
        """The plan of at most so many nipples; None where it would leave the limits, or no order of turns keeps to them."""
        if nipples not in self._tried:
            fits = [k for k in self.path if k <= nipples]
            self._tried[nipples] = self._made(self.path[max(fits)]) if fits else None
        return self._tried[nipples]

    def _made(self, exact: Array) -> Found | None:
        turns = self.sparse.stepped(exact)
        if not np.any(turns) or not self.sparse.keeps_to_limits(turns):
            return None
        counts = np.rint(turns / self.options.step_turns).astype(np.int64)
        state = self.state
        per_step = state.influence.tension_n * self.options.step_turns
        over = state.tension_n > self.limit_n
        for rises_n in self.yields_n:
            most = ceiling(state.tension_n, self.limit_n - self.way_margin_n) + rises_n * over
            walk = safe_walk(state.tension_n, per_step, counts, most)
            if walk is not None:
                break
        else:
            return None
        steps = tuple((i, count * self.options.step_turns) for i, count in walk.turns)
        return Found(steps, turns, walk.laps, 0, self.outcome.expected(turns))
