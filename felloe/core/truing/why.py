"""Why each nipple of a plan is turned: what it moves, what would be without it, and why not its neighbour.

Each line comes from the model: figures are taken anew with the nipple left out, and with the next one of its side in its place.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.terms import term
from felloe.core.truing.outcome import Outcome

Array = NDArray[np.float64]

_FIGURES = ("lateral", "radial", "dish", "tension", "mean_tension")
#: A movement smaller than this is none [mm].
NOTHING_MM = 0.02


def whys(outcome: Outcome, turns: Array) -> dict[str, str]:
    """One line for each nipple that `turns` (n,) touch, by the spoke's name."""
    names = [str(name) for name in outcome.state.wheel.names]
    return {names[i]: why_of(outcome, turns, int(i)) for i in np.flatnonzero(turns)}


def why_of(outcome: Outcome, turns: Array, i: int) -> str:
    """The line for the nipple at place `i` of `turns` (n,)."""
    state = outcome.state
    wheel, influence = state.wheel, state.influence
    without = turns.copy()
    without[i] = 0.0
    free = [j for j in _neighbours(wheel.on_side(wheel.names[i].side), i) if turns[j] == 0 and outcome.present[j]]
    tried = np.column_stack([turns, without, *[without] * len(free)])
    tried[free, np.arange(2, 2 + len(free))] = turns[i]
    shares = outcome.middle_shares(tried)
    parts = [_moves(float(influence.lateral_mm[i, i] * turns[i]), float(influence.radial_mm[i, i] * turns[i]))]
    parts.append(say("Without it {worst}.", worst=_worst(outcome, without, shares[1])))
    if free:
        best = int(np.argmin(shares[2:].max(axis=1)))
        if shares[2 + best].max() > shares[0].max():
            worst = _worst(outcome, tried[:, 2 + best], shares[2 + best])
            parts.append(say("{neighbour} in its place: {worst}.", neighbour=str(wheel.names[free[best]]), worst=worst))
    return joined(" ", parts)


def _neighbours(mine: NDArray[np.bool_], i: int) -> list[int]:
    """The next places of the same side, one each way."""
    places = [int(j) for j in np.flatnonzero(mine)]
    at = places.index(i)
    return [places[at - 1], places[(at + 1) % len(places)]]


def _moves(lateral_mm: float, radial_mm: float) -> str:
    sideways = abs(lateral_mm) >= NOTHING_MM
    side = (Side.RIGHT if lateral_mm > 0 else Side.LEFT).said
    if sideways and abs(radial_mm) >= NOTHING_MM:
        way = say("in") if radial_mm < 0 else say("out")
        return say(
            "Moves the rim {lateral:.2f} mm {side} and {radial:.2f} mm {way} at its hole.",
            lateral=abs(lateral_mm),
            side=side,
            radial=abs(radial_mm),
            way=way,
        )
    if sideways:
        return say("Moves the rim {lateral:.2f} mm {side} at its hole.", lateral=abs(lateral_mm), side=side)
    return say("Hardly moves the rim: it brings its tension in line.")


def _worst(outcome: Outcome, turns: Array, shares: Array) -> str:
    """The figure that is worst after `turns`, in its own unit; its `shares` (5,) of the limits."""
    tier = outcome.tier
    k = int(np.argmax(shares))
    limits = (tier.lateral_mm, tier.radial_mm, tier.dish_mm, tier.tension_percent)
    if k == 4:
        mean = float(outcome.tension(turns)[outcome.tight].mean())
        return say("the mean would be {mean:.0f} N", mean=mean)
    value = float(shares[k]) * limits[k]
    if k == 3:
        return say("the spread would be ±{value:.0f} %", value=value)
    return say("{figure} would be {value:.2f} mm", figure=term(_FIGURES[k]), value=value)
