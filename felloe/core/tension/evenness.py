"""How even the tensions of a side are."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.naming import Side, SpokeName

#: Of fewer spokes of a side nothing is said about the rest.
FEWEST_FOR_A_SPREAD = 6


@dataclass(frozen=True)
class SideEvenness:
    """Figures of one side. `sd_n` is the sample standard deviation; `worst_percent` signed, from the mean."""

    side: Side
    count: int
    mean_n: float
    sd_n: float
    min_n: float
    max_n: float
    worst_spoke: str
    worst_percent: float
    outside: tuple[str, ...]
    band_percent: float

    @property
    def spread_percent(self) -> float:
        """The larger departure from the mean, in percent of it: what ±x % in a tolerance speaks of."""
        return abs(self.worst_percent)


def read_spread_percent(tension_n: Mapping[str, float]) -> float | None:
    """The wider of both sides' spreads, largest distance from its mean [%], of tensions as they were read, by spoke.

    None where a side has fewer than FEWEST_FOR_A_SPREAD: that says nothing of the others.
    """
    worst = 0.0
    for side in Side:
        mine = np.array([value for name, value in tension_n.items() if SpokeName.parse(name).side is side])
        if len(mine) < FEWEST_FOR_A_SPREAD or mine.mean() <= 1e-9:
            return None
        worst = max(worst, float(np.abs(mine - mine.mean()).max() / mine.mean() * 100))
    return worst


def side_evenness(
    wheel: Wheel, tension_n: Sequence[float], side: Side, band_percent: float, without: Collection[str] = ()
) -> SideEvenness:
    """Evenness of `side`, given every spoke's tension (n,) from the valve; `outside` is beyond ±`band_percent`.

    Spokes in `without` are broken or missing and count in nothing; a side with none left has no figures but zeros.
    """
    mine = [
        (str(name), float(t))
        for name, t in zip(wheel.names, tension_n, strict=True)
        if name.side is side and str(name) not in without
    ]
    if not mine:
        return SideEvenness(side, 0, 0.0, 0.0, 0.0, 0.0, "", 0.0, (), band_percent)
    values = np.array([t for _, t in mine])
    mean = float(values.mean())
    percents = 100 * (values - mean) / mean if mean > 1e-9 else np.zeros_like(values)
    worst = int(np.argmax(np.abs(percents)))
    return SideEvenness(
        side=side,
        count=len(mine),
        mean_n=mean,
        sd_n=float(values.std(ddof=1)) if len(mine) > 1 else 0.0,
        min_n=float(values.min()),
        max_n=float(values.max()),
        worst_spoke=mine[worst][0],
        worst_percent=float(percents[worst]),
        outside=tuple(name for (name, _), p in zip(mine, percents, strict=True) if abs(p) > band_percent),
        band_percent=band_percent,
    )
