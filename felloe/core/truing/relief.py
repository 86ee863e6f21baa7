"""Spokes above the rim's limit come down first: eases and turns, one after the other, in which none rises above where it stood.

To ease one spoke lifts others a little. So each turn is taken only where none of those found above the limit comes to stand
higher than it was; often the opposite spokes between them help.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: Turns that are tried, the smallest that does as well as any is taken.
SIZES_TURNS = (1 / 8, 1 / 4, 1 / 2)
#: A smaller turn that does so much of what the best one does is preferred.
NEARLY = 0.8
#: So many turns at most; with as many nothing more comes of it.
MOST_TURNS = 60
#: A turn that takes off less is not worth it [N].
LEAST_GAIN_N = 1.0


@dataclass(frozen=True)
class Relief:
    """Turns in their order: (place of the nipple, turns). `left`: how many are still above the limit."""

    turns: tuple[tuple[int, float], ...]
    left: int

    def total(self, count: int) -> Array:
        """The sum for each nipple (n,) [turns]."""
        found = np.zeros(count)
        for i, turn in self.turns:
            found[i] += turn
        return found


def relieve(
    tension_n: Array,
    per_turn_n: Array,
    within: tuple[Array, Array],
    limit_n: float,
    cap_n: Array,
    floor_n: Array,
    step_turns: float = SIZES_TURNS[0],
) -> Relief:
    """Bring what stands above `limit_n` in `tension_n` (n,) below its `cap_n`.

    `within`: the least and the most turns (n,) of each nipple in all. No other spoke passes its `cap_n` (n,), none is eased
    below its `floor_n` (n,) [N]; no turn is smaller than `step_turns`.
    """
    sizes = tuple(size for size in SIZES_TURNS if size >= step_turns)
    tension, made = tension_n.copy(), np.zeros(len(tension_n))
    goal = np.where(tension > limit_n, np.minimum(cap_n, limit_n), np.maximum(tension, limit_n))
    turns: list[tuple[int, float]] = []
    while (tension > goal).any() and len(turns) < MOST_TURNS:
        step = _step(tension, per_turn_n, within, limit_n, goal, tension_n, cap_n, floor_n, made, sizes)
        if step is None:
            break
        i, turn = step
        tension = tension + per_turn_n[:, i] * turn
        made[i] += turn
        if turns and turns[-1][0] == i:
            turns[-1] = (i, turns[-1][1] + turn)
        else:
            turns.append((i, turn))
    return Relief(tuple(turns), int((tension > limit_n).sum()))


def _step(
    tension: Array,
    per_turn: Array,
    within: tuple[Array, Array],
    limit_n: float,
    goal: Array,
    found: Array,
    cap: Array,
    floor: Array,
    made: Array,
    sizes_turns: tuple[float, ...],
) -> tuple[int, float] | None:
    over = found > limit_n
    now = float(np.maximum(tension - goal, 0).sum())
    nipples = np.flatnonzero(within[1] > within[0])
    each = np.array([size * sign for size in sizes_turns for sign in (-1, 1)])
    places, sizes = np.repeat(nipples, len(each)), np.tile(each, len(nipples))
    after = tension[:, None] + per_turn[:, places] * sizes
    total = made[places] + sizes
    allowed = (total <= within[1][places] + 1e-9) & (total >= within[0][places] - 1e-9)
    allowed &= (after[~over] <= np.maximum(cap, tension)[~over, None] + 1e-6).all(axis=0)
    allowed &= (after >= np.minimum(floor, tension)[:, None] - 1e-6).all(axis=0)
    gain = now - np.maximum(after - goal[:, None], 0).sum(axis=0)
    rise = (after[over] - found[over, None]).max(axis=0, initial=0.0)
    allowed &= gain >= LEAST_GAIN_N
    allowed &= rise <= 1e-6
    if not allowed.any():
        return None
    fit = np.flatnonzero(allowed & (gain >= NEARLY * float(gain[allowed].max())))
    chosen = int(fit[np.lexsort((-gain[fit], np.abs(sizes[fit])))[0]])
    return int(places[chosen]), float(sizes[chosen])
