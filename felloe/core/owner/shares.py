"""A share of few, with what chance alone would do to it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime
from math import sqrt

#: 95 % of a normal distribution lies within so many standard deviations.
Z95 = 1.959963984540054


@dataclass(frozen=True)
class Share:
    """`hits` of `of`; `low` and `high` are the 95 % interval, 0 to 1, all None where there is nothing to count."""

    hits: int
    of: int
    share: float | None
    low: float | None
    high: float | None


def share(hits: int, of: int) -> Share:
    """The share with its score interval (Wilson 1927, as in Brown, Cai and DasGupta, Statist. Sci. 16, 2001).

    Raises ValueError where more were hit than there were.
    """
    if not 0 <= hits <= of:
        raise ValueError(f"{hits} of {of}")
    if of == 0:
        return Share(0, 0, None, None, None)
    p, z2 = hits / of, Z95**2
    middle = (p + z2 / (2 * of)) / (1 + z2 / of)
    half = Z95 / (1 + z2 / of) * sqrt(p * (1 - p) / of + z2 / (4 * of**2))
    return Share(hits, of, p, max(0.0, middle - half), min(1.0, middle + half))


def quantile(values: Sequence[float], q: float) -> float | None:
    """The q-quantile between the two nearest of a sample (type 7 of Hyndman and Fan); None of nothing."""
    if not values:
        return None
    ranked = sorted(values)
    at = q * (len(ranked) - 1)
    low = int(at)
    high = min(low + 1, len(ranked) - 1)
    return ranked[low] + (at - low) * (ranked[high] - ranked[low])


def ratio(pairs: Iterable[tuple[float, float]]) -> float | None:
    """The median of taken over estimated, of the pairs (taken, estimated) with both above nothing."""
    return quantile([taken / estimated for taken, estimated in pairs if taken > 0 and estimated > 0], 0.5)


def kept(wheels: Iterable[tuple[datetime, datetime | None]]) -> Share:
    """Promises kept, of (ready at, promised at): kept is ready by the promise; what nobody promised counts neither way."""
    promised = [(ready, at) for ready, at in wheels if at is not None]
    return share(sum(ready <= at for ready, at in promised), len(promised))
