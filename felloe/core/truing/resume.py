"""Going on after an interruption: the two readings that best show whether anybody turned a nipple meanwhile.

Of all pairs of places the one is asked for whose readings would stand out at the most nipples, had one of them been turned;
nipples of the plan count double, since whoever goes on with a wheel goes on with them. What stands out is judged by the
distance from what was foreseen, in the spread of both readings together (Mahalanobis; 99 of 100 lie within it by chance).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray
from scipy.special import chdtri, ndtr

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import WheelState
from felloe.core.said import joined, say

Array = NDArray[np.float64]

#: A turn of somebody else is about so large.
STRANGE_TURN = 0.5
#: What a hand misses of a turn, and how well one tension and one runout are read.
HAND_SHARE, TENSION_SD_N, RUNOUT_SD_MM = 0.05, 25.0, 0.05
#: A dial that was set anew reads from another zero; only two of a kind say something together.
ZERO_SD_MM = 50.0
CHANCE = 0.99
_LIMIT = float(chdtri(2, 1 - CHANCE))


@dataclass(frozen=True)
class Asked:
    """One reading to take: `kind` is tension [N] or lateral [mm]; `foreseen` with its spread."""

    kind: str
    spoke: str
    foreseen: float
    sd: float


@dataclass(frozen=True)
class Proof:
    """The two readings, their spread together (2, 2), and the share of all nipples at which half a turn would show."""

    asked: tuple[Asked, Asked]
    covariance: Array
    shows: float


@dataclass(frozen=True)
class Judged:
    """`held`: both agree with a wheel that nobody touched. `said` is one sentence."""

    held: bool
    said: str


def proving(state: WheelState, made_turns: Array, planned: Sequence[str] = ()) -> Proof:
    """The two readings for a wheel in `state`, in which `made_turns` (n,) were already counted; `planned` names the nipples
    that are still to be turned."""
    influence, count = state.influence, state.wheel.spoke_count
    tension_map, at_holes, covariance = state.maps
    rows = np.vstack([tension_map, at_holes[:count]])
    hand = np.vstack([influence.tension_n, influence.lateral_mm]) * (HAND_SHARE * made_turns)
    spread = rows @ covariance @ rows.T + hand @ hand.T
    noise = np.repeat([TENSION_SD_N, RUNOUT_SD_MM], count)
    spread += np.diag(noise**2)
    spread[count:, count:] += ZERO_SD_MM**2
    shift = np.vstack([influence.tension_n, influence.lateral_mm]) * STRANGE_TURN
    names = [str(name) for name in state.wheel.names]
    weight = np.array([0.0 if name in state.broken else 2.0 if name in planned else 1.0 for name in names])
    open_places = [place for place in range(2 * count) if names[place % count] not in state.broken]
    best, pair = -1.0, (0, 1)
    for one, other in combinations(open_places, 2):
        seen = _seen(spread[np.ix_([one, other], [one, other])], shift[[one, other]])
        score = float(seen @ weight)
        if score > best:
            best, pair = score, (one, other)
    chosen = spread[np.ix_(pair, pair)]
    shows = float((_seen(chosen, shift[list(pair)]) * (weight > 0)).sum() / max(1, np.count_nonzero(weight)))
    values = np.concatenate([state.tension_n, state.lateral_mm])
    asked = [
        Asked(
            "tension" if place < count else "lateral",
            names[place % count],
            float(values[place]),
            float(np.sqrt(spread[place, place])),
        )
        for place in pair
    ]
    return Proof((asked[0], asked[1]), chosen, shows)


def _seen(covariance: Array, shift: Array) -> Array:
    """How likely half a turn at each nipple (n,) stands out in two readings that it shifts by `shift` (2, n).

    By the normal approximation of the distance's root, within a few hundredths of the noncentral distribution.
    """
    apart = np.sqrt(np.einsum("in,ij,jn->n", shift, np.linalg.inv(covariance), shift))
    return np.asarray(ndtr(apart - np.sqrt(_LIMIT)))


def judge(proof: Proof, read: Mapping[tuple[str, str], float]) -> Judged:
    """What two readings say, by kind and spoke. Raises BadReading where one is missing or is no number."""
    for asked in proof.asked:
        value = read.get((asked.kind, asked.spoke))
        if value is None or not np.isfinite(value):
            raise BadReading(say("read {spoke} too", spoke=asked.spoke), f"{asked.kind}.{asked.spoke}")
    off = np.array([read[asked.kind, asked.spoke] - asked.foreseen for asked in proof.asked])
    if float(off @ np.linalg.solve(proof.covariance, off)) <= _LIMIT:
        return Judged(True, say("As it was left: go on."))
    one, other = proof.asked
    if one.kind == other.kind == "lateral":
        # Only what lies between the two means anything: the dial's zero may be any.
        change = float(off[1] - off[0])
        what = say("{spoke} against {other} reads {change:+.2f} mm", spoke=other.spoke, other=one.spoke, change=change)
        return Judged(False, _moved(what))
    parts = [
        say("{spoke} reads {change:+.0f} N", spoke=asked.spoke, change=change)
        if asked.kind == "tension"
        else say("{spoke} reads {change:+.2f} mm", spoke=asked.spoke, change=change)
        for asked, change in zip(proof.asked, off, strict=True)
    ]
    return Judged(False, _moved(joined(", ", parts)))


def _moved(what: str) -> str:
    return say(
        "Not as it was left: {what} from what was foreseen. Somebody or something moved it: measure again before going on.",
        what=what,
    )
