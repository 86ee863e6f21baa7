"""Few nipples: turns that touch as few as may be, by leaving out one nipple after the other.

What is made small is a high power of each row's size over its room, variance included: what is out counts more than what is
in, and what is not known takes its own share of the room. From the best turns of all nipples the one whose loss costs least
is left out, again and again, the others each time made good by Newton's method; then turns become multiples of the step.
Source of the price of leaving one out: Hassibi & Stork, *Second order derivatives for network pruning* (1992).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.joint import HAND_SHARE, TWIST_SD_TURNS
from felloe.core.truing.outcome import LEAST_MEAN_N, Outcome

Array = NDArray[np.float64]

#: The power; half of it is that of a square. At six the worst row rules and the search still finds its way.
POWER = 6
#: So many standard deviations of a row take of its room.
DOUBT_SD = 1.5
#: A tension beyond floor or cap by so much [N] costs as much as a row that is out.
OUTSIDE_N = 8.0
#: Per newton further out than a spoke stood: more than anything else can gain.
FORBIDDEN = 1e9
#: With more nipples than this they are left out by twos.
MOST_BY_ONES = 18
#: Pairs are tried among so few nipples; with more of them singles find the way.
MOST_PAIRED = 16


@dataclass(frozen=True)
class Bounds:
    """What turns (n,) may be [turns], multiples of `step`, and where tensions after them should lie (n,) [N]."""

    lowest: Array
    highest: Array
    step: float
    floor_n: Array
    cap_n: Array


@dataclass(frozen=True)
class _Coarse:
    """The rows of an Outcome that the search goes by; the middles of lateral and radial are two more unknowns."""

    start: Array
    response: Array
    slopes: Array
    squared: Array
    variance: Array
    centre: Array
    first_spoke: int

    @classmethod
    def of(cls, outcome: Outcome) -> _Coarse:
        rows, half = outcome.coarse, outcome.angles // 2
        centre = np.zeros((len(rows), 2))
        centre[:half, 0] = centre[half : 2 * half, 1] = 1
        return cls(
            outcome.start[rows],
            outcome.response[rows],
            outcome.slopes[:, rows],
            outcome.squared[rows],
            outcome.variance[rows],
            centre,
            2 * half + 1,
        )


class Sparse:
    """Turns of few nipples for one Outcome within Bounds; `near` (n,): turns of all nipples that the best are close to."""

    def __init__(self, outcome: Outcome, bounds: Bounds, near: Array | None = None) -> None:
        self.outcome, self.bounds, self.near = outcome, bounds, near
        self._coarse = _Coarse.of(outcome)
        m = outcome.angles
        self.tension = outcome.turned[2 * m + 1 :]
        self.now_n = outcome.tension(np.zeros(outcome.count))

    @cached_property
    def _all(self) -> tuple[Array, Array, Array]:
        """Turns of all nipples that may be turned, the middles of lateral and radial, and the curvature there."""
        m, start = self.outcome.angles, self.outcome.start
        if self.near is not None:
            turns = np.clip(self.near, self.bounds.lowest, self.bounds.highest)
            return self.settled(turns, self._nipples, rounds=5)
        middle = np.array([_middle(start[:m]), _middle(start[m : 2 * m])])
        return self._settle(np.zeros(self.outcome.count), middle, self._nipples, 12)

    @property
    def _nipples(self) -> list[int]:
        return [int(i) for i in np.flatnonzero(self.bounds.highest > self.bounds.lowest)]

    def all_nipples(self) -> Array:
        """The turns (n,) where all nipples may be turned, not yet multiples of the step."""
        return self._all[0] if self._nipples else np.zeros(self.outcome.count)

    def path(self) -> dict[int, Array]:
        """For each count of nipples, from all that may be turned down to one, the turns (n,) that were found for it."""
        nipples = self._nipples
        if not nipples:
            return {}
        turns, middle, hessian = self._all
        turns = turns.copy()
        found = {len(nipples): turns.copy()}
        while len(nipples) > 1:
            price = turns[nipples] ** 2 / np.diag(np.linalg.inv(hessian))[: len(nipples)]
            # Where there are many, those that cost least go by twos.
            for drop in sorted(np.argsort(price)[: 2 if len(nipples) > MOST_BY_ONES else 1], reverse=True):
                turns[nipples.pop(int(drop))] = 0.0
            turns, middle, hessian = self._settle(turns, middle, nipples, 2 if len(nipples) > MOST_BY_ONES else 3)
            found[len(nipples)] = turns.copy()
        return found

    def settled(
        self, turns: Array, nipples: list[int], middle: Array | None = None, rounds: int = 2
    ) -> tuple[Array, Array, Array]:
        """`turns` (n,) of the `nipples` alone, settled anew from near where they were; the middles of lateral and radial, which
        may be given again, and the curvature there."""
        m, rows = self.outcome.angles, self.outcome.start + self.outcome.response @ turns
        if middle is None:
            middle = np.array([_middle(rows[:m]), _middle(rows[m : 2 * m])])
        return self._settle(turns, middle, nipples, rounds)

    def _settle(self, turns: Array, middle: Array, nipples: list[int], rounds: int) -> tuple[Array, Array, Array]:
        """Newton's method on the power of all rows for the `nipples` alone; turns, middles, and the last curvature."""
        outcome, bounds = self.outcome, self.bounds
        count, coarse = len(nipples), self._coarse
        own = np.arange(count)
        response, slopes, squared = coarse.response[:, nipples], coarse.slopes[:, :, nipples], coarse.squared[:, nipples]
        columns = np.hstack([response, -coarse.centre])
        means = outcome.side_means[:, nipples]
        low, high = bounds.lowest[nipples], bounds.highest[nipples]
        turns = turns.copy()
        for _ in range(rounds):
            tension = self.now_n + self.tension @ turns
            tolerance = outcome.tolerance(tension)[outcome.coarse]
            x = turns[nipples]
            rows = coarse.start + response @ x - coarse.centre @ middle
            moved = slopes @ x
            variance = coarse.variance + np.sum(moved**2, axis=0) + HAND_SHARE**2 * (squared @ x**2)
            size = (rows**2 + DOUBT_SD**2 * variance) / tolerance**2
            weight = size ** (POWER / 2 - 1) / tolerance**2
            # To raise a side's mean gives its spokes room.
            steeper = columns.copy()
            for side, mean in zip(outcome.sides, means, strict=True):
                at = coarse.first_spoke + side
                steeper[at, :count] -= np.outer(rows[at] / max(float(tension[side].mean()), LEAST_MEAN_N), mean)
            weighed = steeper.T * weight
            slope = weighed @ rows
            curve = (POWER - 1) * (weighed @ steeper)
            for part, along in zip(slopes, moved, strict=True):
                weighed_part = part.T * (DOUBT_SD**2 * weight)
                curve[:count, :count] += (POWER - 1) * (weighed_part @ part)
                slope[:count] += weighed_part @ along
            hands = DOUBT_SD**2 * HAND_SHARE**2 * (weight @ squared)
            curve[own, own] += (POWER - 1) * hands
            slope[:count] += hands * x
            self._keep_tensions(tension, nipples, curve, slope)
            every = np.arange(count + 2)
            curve[every, every] += 1e-6 * np.trace(curve) / len(curve)
            step = -np.linalg.solve(curve, slope)
            turns[nipples] = np.clip(x + step[:count], low, high)
            middle = middle + step[count:]
        return turns, middle, curve

    def _keep_tensions(self, tension: Array, nipples: list[int], curve: Array, slope: Array) -> None:
        out = np.maximum(tension - self.bounds.cap_n, 0) - np.maximum(self.bounds.floor_n - tension, 0)
        if np.any(out):
            rows = self.tension[np.ix_(out != 0, nipples)] / OUTSIDE_N
            curve[: len(nipples), : len(nipples)] += POWER * rows.T @ rows
            slope[: len(nipples)] += POWER / 3 * rows.T @ out[out != 0] / OUTSIDE_N

    def cost(self, turns: Array) -> Array:
        """The power of all rows for turns (n, c), (c,); tensions beyond what stood beyond before cost dearly."""
        outcome = self.outcome
        m = outcome.angles
        rows = outcome.start[:, None] + outcome.response @ turns
        for part in (slice(0, m), slice(m, 2 * m)):
            rows[part] -= (rows[part].max(axis=0) + rows[part].min(axis=0)) / 2
        variance = outcome.variance[:, None] + np.sum((outcome.slopes @ turns) ** 2, axis=0)
        variance += outcome.squared @ (HAND_SHARE**2 * turns**2 + TWIST_SD_TURNS**2 * (turns != 0))
        tension = self.now_n[:, None] + self.tension @ turns
        size = (rows**2 + DOUBT_SD**2 * variance) / outcome.tolerance(tension) ** 2
        over = np.maximum(tension - self.bounds.cap_n[:, None], 0) + np.maximum(self.bounds.floor_n[:, None] - tension, 0)
        further = self.further_out(tension).sum(axis=0)
        soft = (size ** (POWER // 2)).sum(axis=0) + (over.sum(axis=0) / OUTSIDE_N) ** 2
        return np.asarray(soft + FORBIDDEN * further)

    def further_out(self, tension: Array) -> Array:
        """By how much each of `tension` (n, c) lies beyond its cap or floor and further out than before [N]."""
        most = np.maximum(self.bounds.cap_n, self.now_n)[:, None]
        least = np.minimum(self.bounds.floor_n, self.now_n)[:, None]
        return np.maximum(tension - most, 0) + np.maximum(least - tension, 0)

    def keeps_to_limits(self, turns: Array) -> bool:
        """No spoke stands above its cap or below its floor after `turns` (n,) that did not stand further out before."""
        return bool(self.further_out(self.now_n[:, None] + self.tension @ turns[:, None]).max() <= 1e-6)

    def stepped(self, turns: Array) -> Array:
        """The best multiples of the step near `turns` (n,), for the same nipples or fewer."""
        step = self.bounds.step
        nipples = np.flatnonzero(turns)
        low = np.ceil(self.bounds.lowest / step - 1e-9) * step
        high = np.floor(self.bounds.highest / step + 1e-9) * step
        now = np.clip(np.rint(turns / step) * step, low, high)
        if not len(nipples):
            return now
        best = float(self.cost(now[:, None])[0])
        singles = np.zeros((len(now), 2 * len(nipples)))
        singles[nipples, 2 * np.arange(len(nipples))] = step
        singles[nipples, 2 * np.arange(len(nipples)) + 1] = -step
        tried = [singles]
        if len(nipples) <= MOST_PAIRED:
            a, b = np.triu_indices(2 * len(nipples), 1)
            apart = a // 2 != b // 2
            tried.append(singles[:, a[apart]] + singles[:, b[apart]])
        for _ in range(40):
            for changes in tried:
                if not changes.shape[1]:
                    continue
                after = now[:, None] + changes
                costs = self.cost(after)
                costs[((after > high[:, None] + 1e-9) | (after < low[:, None] - 1e-9)).any(axis=0)] = np.inf
                first = int(np.argmin(costs))
                if costs[first] < best - 1e-9:
                    best, now = float(costs[first]), after[:, first]
                    break
            else:
                break
        return now


def _middle(values: Array) -> float:
    return float(values.max() + values.min()) / 2
