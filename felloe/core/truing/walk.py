"""The order in which a plan's nipples are turned, so that no tension passes its cap on the way.

A spoke that stands above the rim's limit never rises above where it stands, not even for a moment.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Places = NDArray[np.int64]

MAX_LAPS = 4
#: Turns in parts: no nipple comes oftener than this on the average.
MOST_TURNS = 4
#: Less than this no hand and no meter can tell [N].
NOTHING_N = 0.5


def ceiling(tension_n: Array, cap_n: Array) -> Array:
    """What no spoke may pass on the way (n,) [N]: `cap_n`, and where it stands above that now, what it stands at."""
    return np.maximum(cap_n, tension_n + NOTHING_N)


@dataclass(frozen=True)
class Walk:
    """(place, steps) in their order, and how often the valve is passed. A nipple may come more than once."""

    turns: tuple[tuple[int, int], ...]
    laps: int

    @classmethod
    def of(cls, turns: list[tuple[int, int]]) -> Walk:
        """With its laps counted, and one turn where a nipple comes twice at once."""
        joined: list[tuple[int, int]] = []
        for place, steps in turns:
            if joined and joined[-1][0] == place:
                joined[-1] = (place, joined[-1][1] + steps)
            else:
                joined.append((place, steps))
        return cls(tuple(joined), 1 + sum(1 for (a, _), (b, _) in itertools.pairwise(joined) if b < a))


def safe_walk(tension_n: Array, per_step_n: Array, counts: Places, most: Array) -> Walk | None:
    """An order of the touched nipples from the valve that never takes a tension above `most` (n,) [N].

    A nipple whose turn would pass it is left for the next lap, when others have been eased. Where that is not enough all that
    are eased come first; then walks from a quarter on are tried, then the order that stays furthest below, and last one in
    which turns are made in parts. None where each of them gets stuck.
    """
    places = np.flatnonzero(counts)
    for start in dict.fromkeys(len(places) * quarter // 4 for quarter in range(4)):
        round_from = np.roll(places, -start)
        eased, tightened = round_from[counts[round_from] < 0], round_from[counts[round_from] > 0]
        for first in (round_from, np.concatenate([eased, tightened])):
            found = _walked([int(i) for i in first], tension_n, per_step_n, counts, most)
            if found is not None:
                return found
    return _careful_walk(tension_n, per_step_n, counts, most)


def _careful_walk(tension_n: Array, per_step_n: Array, counts: Places, most: Array) -> Walk | None:
    """Always the turn next that leaves the most room, whole where any whole one may be made, else half, else one step."""
    tension, left = tension_n.copy(), counts.copy()
    order: list[tuple[int, int]] = []
    while left.any():
        places = np.flatnonzero(left)
        signs = np.sign(left[places])
        for parts in (left[places], signs * np.maximum(np.abs(left[places]) // 2, 1), signs):
            after = tension[:, None] + per_step_n[:, places] * parts
            over = (after - most[:, None]).max(axis=0)
            best = int(np.argmin(over))
            if over[best] <= 1e-6:
                break
        else:
            return None
        tension = after[:, best]
        left[places[best]] -= parts[best]
        order.append((int(places[best]), int(parts[best])))
        if len(order) > MOST_TURNS * len(counts):
            return None
    return Walk.of(order)


def _walked(left: list[int], tension_n: Array, per_step_n: Array, counts: Places, most: Array) -> Walk | None:
    tension, order = tension_n.copy(), []
    for lap in range(1, MAX_LAPS + 1):
        deferred = []
        for i in left:
            after = tension + per_step_n[:, i] * counts[i]
            if np.all(after <= most + 1e-6):
                tension = after
                order.append((i, int(counts[i])))
            else:
                deferred.append(i)
        if not deferred:
            return Walk(tuple(order), lap)
        left = deferred
    return None


def walk_tensions(tension_n: Array, per_turn_n: Array, walk: Iterable[tuple[int, float]]) -> Array:
    """Tensions before and after each of the turns of `walk`, (place, turns) each, (len + 1, n) [N]."""
    changes = [per_turn_n[:, i] * turns for i, turns in walk]
    return np.asarray(tension_n + np.cumsum([np.zeros_like(tension_n), *changes], axis=0))
