"""Whether a wheel is surely inside what was agreed: each figure by its one-sided 95 % bound, else the readings that settle it.

A runout's bound is the largest, over every pair of places, of their difference and 1.645 of its standard deviation: a place
that nobody read counts with all that it may be. Source of the bound: one-sided normal quantile, NIST/SEMATECH e-Handbook
§1.3.6.7.1.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import DIAL_SD_MM
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.tension.statics import tight_side
from felloe.core.terms import term
from felloe.core.truing.headline import nearest_spoke
from felloe.core.truing.tiers import Tier

Array = NDArray[np.float64]

#: One-sided 95 % of a normal distribution.
ONE_SIDED = 1.6449
#: So many readings are named; where more would be needed the wheel is to be read in full.
MOST_NAMED = 3


@dataclass(frozen=True)
class Unsure:
    """A figure inside its limit by what is known and perhaps not: its bound, the limit, its unit, and what to read."""

    figure: str
    bound: float
    limit: float
    unit: str
    settle: tuple[tuple[str, str], ...]

    @property
    def said(self) -> str:
        figure = term(self.figure)
        if self.unit == "N":
            text = say(
                "{figure} may reach {bound_n:.0f} N, {limit_n:.0f} are allowed",
                figure=figure,
                bound_n=self.bound,
                limit_n=self.limit,
            )
        else:
            digits = 2 if self.unit == "mm" else 0
            bound, limit = f"{self.bound:.{digits}f}", f"{self.limit:.{digits}f}"
            text = say(
                "{figure} may reach {bound} {unit}, {limit} are allowed",
                figure=figure,
                bound=bound,
                limit=limit,
                unit=self.unit,
            )
        if not self.settle:
            return joined("", [text, say(": read it in full")])
        what = joined(", ", [say("{kind} {spoke}", kind=term(kind), spoke=spoke) for kind, spoke in self.settle])
        return joined("", [text, say("; would settle it: {what}", what=what)])


def unsure_figures(state: WheelState, tier: Tier, mean_within: float) -> tuple[Unsure, ...]:
    """Figures that lie inside by the estimate and not surely so. `mean_within`: how far the tight side's mean may lie from its
    target, as a share. Figures that lie outside are not unsure but outside."""
    found = [
        _runout(state, "lateral", tier.lateral_mm),
        _runout(state, "radial", tier.radial_mm),
        _dish(state, tier.dish_mm),
        _spread(state, tier.tension_percent),
        _mean(state, mean_within),
        _cap(state),
    ]
    return tuple(unsure for unsure in found if unsure is not None)


def _runout(state: WheelState, kind: str, limit_mm: float) -> Unsure | None:
    figures = state.figures
    values = figures.lateral_mm if kind == "lateral" else figures.radial_mm
    if np.ptp(values) > limit_mm:
        return None
    angles = figures.angles_deg
    rows, covariance = state.rows(kind)
    chosen: list[tuple[str, str]] = []
    first = 0.0
    while True:
        bound, a, b = _widest(values, rows @ covariance @ rows.T)
        first = first or bound
        if bound <= limit_mm:
            return Unsure(kind, first, limit_mm, "mm", tuple(chosen)) if chosen else None
        names = [nearest_spoke(state, float(angles[i])) for i in (a, b)]
        new = [name for name in dict.fromkeys(names) if (kind, name) not in chosen]
        if len(chosen) == MOST_NAMED or not new:
            return Unsure(kind, first, limit_mm, "mm", () if len(chosen) == MOST_NAMED else tuple(chosen))
        # Whichever of the two is known less well is read first.
        at = {
            name: int(np.argmin(np.abs((angles - state.wheel.angles_deg[state.wheel.index_of[name]] + 180) % 360 - 180)))
            for name in new
        }
        name = max(new, key=lambda n: float(rows[at[n]] @ covariance @ rows[at[n]]))
        chosen.append((kind, name))
        covariance = _after(covariance, rows[at[name]], DIAL_SD_MM)


def _widest(values: Array, spread: Array) -> tuple[float, int, int]:
    own = np.diag(spread)
    apart = np.sqrt(np.maximum(own[:, None] + own[None, :] - 2 * spread, 0))
    reach = values[:, None] - values[None, :] + ONE_SIDED * apart
    a, b = np.unravel_index(int(np.argmax(reach)), reach.shape)
    return float(reach[a, b]), int(a), int(b)


def _after(covariance: Array, row: Array, sd: float) -> Array:
    """The covariance once `row` was read with standard deviation `sd`."""
    seen = covariance @ row
    return np.asarray(covariance - np.outer(seen, seen) / (float(row @ seen) + sd**2))


def _dish(state: WheelState, limit_mm: float) -> Unsure | None:
    bound = abs(state.dish_mm) + ONE_SIDED * state.dish_sd_mm
    if abs(state.dish_mm) > limit_mm or bound <= limit_mm:
        return None
    return Unsure("dish", bound, limit_mm, "mm", (("dish", ""),))


def _spread(state: WheelState, limit_percent: float) -> Unsure | None:
    rows, covariance = state.rows("tension")
    reach: list[tuple[float, float, str]] = []
    for side in Side:
        mine = [i for i in np.flatnonzero(state.wheel.on_side(side)) if str(state.wheel.names[i]) not in state.broken]
        if not mine:
            continue
        mean = float(state.tension_n[mine].mean())
        mean_row = rows[mine].mean(axis=0)
        if mean < 1:
            return None
        for i in mine:
            share = float(state.tension_n[i]) / mean
            row = (rows[i] - share * mean_row) / mean
            off, sd = 100 * abs(share - 1), 100 * float(np.sqrt(max(row @ covariance @ row, 0)))
            reach.append((off + ONE_SIDED * sd, off, str(state.wheel.names[i])))
    over = sorted((r for r in reach if r[0] > limit_percent), reverse=True)
    if not over or max(off for _, off, _ in reach) > limit_percent:
        return None
    settle = tuple(("tension", name) for *_, name in over) if len(over) <= MOST_NAMED else ()
    return Unsure("tension", over[0][0], limit_percent, "%", settle)


def _mean(state: WheelState, within: float) -> Unsure | None:
    rows, covariance = state.rows("tension")
    mine = state.present(tight_side(state.wheel))
    if not mine.any():
        return None
    target = state.wheel.rim.tension_target_n
    off = abs(float(state.tension_n[mine].mean()) / target - 1)
    row = rows[mine].mean(axis=0) / target
    bound = off + ONE_SIDED * float(np.sqrt(max(row @ covariance @ row, 0)))
    if off > within or bound <= within:
        return None
    return Unsure("mean_tension", 100 * bound, 100 * within, "%", ())


def _cap(state: WheelState) -> Unsure | None:
    cap = state.wheel.rim.tension_cap_n
    reach = state.tension_n + ONE_SIDED * state.tension_sd_n
    if float(state.tension_n.max()) > cap or float(reach.max()) <= cap:
        return None
    over = [int(i) for i in np.argsort(-reach) if reach[i] > cap]
    settle = tuple(("tension", str(state.wheel.names[i])) for i in over) if len(over) <= MOST_NAMED else ()
    return Unsure("highest_tension", float(reach.max()), cap, "N", settle)
