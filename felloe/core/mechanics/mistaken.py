"""Which nipple was really turned: what the rim shows after a turn, against what was noted.

A slip of the hand at the stand: the neighbour was turned, the nipple was turned the other way, or its thread did not take it.
Each is followed as if it had been noted, and the one that the look at the rim fits far better is named.
Source: ratio of likelihoods of linear Gaussian models, Kay, *Fundamentals of Statistical Signal Processing* II (1998).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.readings import Readings

#: What was noted is not doubted for less than this, twice the logarithm of the likelihoods' ratio: on virtual wheels turns that
#: were made as noted stay below 10.
DOUBTED = 20.0
#: Places to both sides where a hand may have taken the wrong nipple.
NEAR = 2


@dataclass(frozen=True)
class Mistaken:
    """What seems to have been done instead: the nipple at `place` was turned by `turns`; 0 where none was."""

    place: int
    turns: float


def mistaken(before: Followed, place: int, turns: float, readings: Readings) -> Mistaken | None:
    """What seems to have been done where the nipple at `place` was noted to be turned by `turns`; None where that fits.

    `before`: the wheel before the turn; `readings`: the look at the rim after it.
    """
    if not turns:
        return None
    count = len(before.state.tension_n)
    noted = before.turned(place, turns).read(readings).unlikeness
    others = [Mistaken(place, 0.0), Mistaken(place, -turns)]
    others += [Mistaken((place + k) % count, turns) for k in range(-NEAR, NEAR + 1) if k]
    unlike = [before.turned(other.place, other.turns).read(readings).unlikeness for other in others]
    best = int(np.argmin(unlike))
    return others[best] if noted - unlike[best] > DOUBTED else None
