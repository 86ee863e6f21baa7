"""Which readings to take: a quick look, and from there the reading that tells most.

The next reading is the one whose result would, on average, take most off the variance of what a plan weighs (the
objective's rows): for a candidate a with noise s, reduction = |M C a|² / (aᵀ C a + s²) (optimal experimental design,
A-criterion; Atkinson & Donev, *Optimum Experimental Designs*, 1992).
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import DIAL_SD_MM, FORCE_SD_N, Readings
from felloe.core.naming import Side
from felloe.core.truing.objective import objective_rows
from felloe.core.truing.tiers import Tier

#: Spokes a side in a quick look; four to six, common practice, no source.
QUICK_A_SIDE = 5
#: A wheel is known well enough when what is left of the variance of a plan's figures is below this many tolerance units: then
#: more readings no longer change what the plan reaches (tests.core.test_sampling holds it against wheels read in full).
ENOUGH_UNITS = 0.45


@dataclass(frozen=True)
class NextReading:
    """A reading to take: tension, lateral or radial at a spoke, or dish; `gain` is the share of the variance left it takes."""

    kind: str
    spoke: str
    gain: float


def quick_look(wheel: Wheel, a_side: int = QUICK_A_SIDE) -> tuple[str, ...]:
    """Spokes for a quick look, in the order from the valve: evenly spread on each side, the sides between each other."""
    chosen: set[str] = set()
    for side, shift in ((Side.RIGHT, 0.0), (Side.LEFT, 0.5)):
        mine = [str(name) for name in wheel.names if name.side is side]
        number = min(a_side, len(mine))
        places = (np.arange(number) + shift) * len(mine) / number
        chosen |= {mine[int(p) % len(mine)] for p in places}
    return tuple(str(name) for name in wheel.names if str(name) in chosen)


def next_readings(
    state: WheelState, readings: Readings, tier: Tier, count: int = 3, enough_units: float = ENOUGH_UNITS
) -> tuple[NextReading, ...]:
    """The readings that would make a plan surest, best first; greedy, each counted as taken before the next is chosen.

    Empty when enough is known. Places read already are not asked for again.
    """
    tension_map, shape_map, covariance = state.maps
    rows = objective_rows(state.influence, tier) @ np.vstack([tension_map, shape_map])
    candidates = _candidates(state, readings)
    found: list[NextReading] = []
    for _ in range(count):
        spread = rows @ covariance
        total = float(np.einsum("ij,ij->", spread, rows))
        if not candidates or np.sqrt(total / len(rows)) < enough_units:
            break
        vectors = np.array([vector for _, _, vector, _ in candidates])
        seen = vectors @ covariance
        noise = np.array([sd**2 for *_, sd in candidates])
        gains = np.sum((vectors @ spread.T) ** 2, axis=1) / (np.einsum("ij,ij->i", seen, vectors) + noise)
        best = int(np.argmax(gains))
        kind, spoke, vector, sd = candidates.pop(best)
        found.append(NextReading(kind, spoke, float(gains[best] / total)))
        covariance = covariance - np.outer(seen[best], seen[best]) / (float(vector @ seen[best]) + sd**2)
    return tuple(found)


def _candidates(state: WheelState, readings: Readings) -> list[tuple[str, str, np.ndarray, float]]:
    wheel = state.wheel
    tension_map, shape_map, _ = state.maps
    count = wheel.spoke_count
    names = [str(name) for name in wheel.names]
    read = {r.spoke for r in readings.tension}
    found = [("tension", name, tension_map[i], FORCE_SD_N) for i, name in enumerate(names) if name not in read]
    for kind, start in (("lateral", 0), ("radial", count)):
        taken = {round(r.angle_deg, 1) for r in getattr(readings, kind)}
        block = shape_map[start : start + count]
        # Readings past a pointer come in rows, so its zero is taken as known: what departs from the mean line is read.
        block = block - block.mean(axis=0)
        found += [
            (kind, name, block[i], DIAL_SD_MM) for i, name in enumerate(names) if round(wheel.angles_deg[i], 1) not in taken
        ]
    if not readings.dish:
        found.append(("dish", "", shape_map[:count].mean(axis=0), 0.05))
    return found
