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
    drawn = [figures_of(wheel).by_name for wheel in state.draws(rng, draws)]
    return {
        name: max(estimate, float(np.quantile([figures[name] for figures in drawn], SURE_SHARE)))
        for name, estimate in figures_of(state).by_name.items()
    }
