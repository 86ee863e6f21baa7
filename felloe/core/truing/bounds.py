"""How far each figure of a wheel may reach beyond its estimate: what stands beside it in a report."""

from __future__ import annotations

import numpy as np
from numpy.random import Generator

from felloe.core.mechanics.estimate import WheelState
from felloe.core.truing.sign_off import figures_of

#: The share of wheels that fit the readings which lie below a bound.
SURE_SHARE = 0.95
DRAWS = 160


def upper_bounds(state: WheelState, rng: Generator, draws: int = DRAWS) -> dict[str, float]:
    """Lateral and radial TIR [mm], dish either way [mm], spread [%]: below which 95 of 100 wheels lie that fit the readings.

    Drawn from what the readings leave open; never below the estimate itself.
    """
    found: dict[str, list[float]] = {"lateral": [], "radial": [], "dish": [], "tension": []}
    for drawn in state.draws(rng, draws):
        figures = figures_of(drawn)
        found["lateral"].append(figures.lateral_tir_mm)
        found["radial"].append(figures.radial_tir_mm)
        found["dish"].append(abs(figures.dish_mm))
        found["tension"].append(figures.worst_spread_percent)
    here = figures_of(state)
    estimated = {
        "lateral": here.lateral_tir_mm,
        "radial": here.radial_tir_mm,
        "dish": abs(here.dish_mm),
        "tension": here.worst_spread_percent,
    }
    return {name: max(estimated[name], float(np.quantile(values, SURE_SHARE))) for name, values in found.items()}
