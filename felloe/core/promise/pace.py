"""A shop's own pace, learned from the jobs it has finished: a robust update of what is usual.

Taken over usual minutes, as logarithms r, are taken as normal about the shop's own shift; the shift has a normal prior about 0
and the spread a prior worth a few jobs. An observation far out (a forgotten clock, a wheel from another world) counts by
Huber's weight (P. J. Huber, Robust Estimation of a Location Parameter, 1964; k = 1.5 from memory).
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np

from felloe.core.promise.work import USUAL_LOG_SD, Pace, Paces

#: Shops differ from the usual by about half as much again or less, and from themselves by tier by less.
SHIFT_LOG_SD, TIER_LOG_SD = 0.4, 0.2
#: The usual spread counts as so many jobs.
SPREAD_JOBS = 6.0
HUBER_K = 1.5
#: Weighted squares of a normal fall short of its variance by this factor: E[w z²] / E[w] at HUBER_K.
HUBER_SHARE = 0.8902
ROUNDS = 30
#: Nobody takes less than a tenth or more than ten times the usual: such a time was not timed.
FAR = 10.0


@dataclass(frozen=True)
class Timed:
    """One finished step: its stage, tier, minutes taken and the usual minutes for such a one."""

    stage: str
    tier: str
    taken_min: float
    usual_min: float


def learn(timed: Iterable[Timed]) -> Paces:
    """The pace of a shop by step, and by step and tier under it."""
    logs: dict[str, dict[str, list[float]]] = {}
    for one in timed:
        if one.usual_min > 0 and one.usual_min / FAR < one.taken_min < one.usual_min * FAR:
            by_tier = logs.setdefault(one.stage, {})
            by_tier.setdefault(one.tier, []).append(math.log(one.taken_min / one.usual_min))
    paces: dict[str, Pace] = {}
    for stage, by_tier in logs.items():
        every = [value for values in by_tier.values() for value in values]
        shift, log_sd = robust(every, 0.0, SHIFT_LOG_SD)
        paces[stage] = Pace(math.exp(shift), log_sd, len(every))
        for tier, values in by_tier.items():
            own, own_sd = robust(values, shift, TIER_LOG_SD)
            paces[f"{stage}/{tier}"] = Pace(math.exp(own), own_sd, len(values))
    return Paces(paces)


@dataclass(frozen=True)
class Wait:
    """How often a job has to wait for something, and for how many hours of the clock: median and log spread."""

    chance: float
    median_h: float
    log_sd: float


#: What jobs wait for before a shop has seen its own: the customer's word, the owner's, parts. `chance` is that of a job on
#: which nobody has decided yet. Common practice, no source.
USUAL_WAITS: Mapping[str, Wait] = MappingProxyType(
    {
        "customer": Wait(0.4, 3.0, 1.2),
        "owner": Wait(0.0, 3.0, 0.8),
        "parts": Wait(0.1, 48.0, 0.8),
    }
)
#: The usual chance counts as so many jobs.
CHANCE_JOBS = 15.0


def learn_waits(waited: Iterable[tuple[str, float]], jobs: int) -> dict[str, Wait]:
    """How long this shop's jobs wait: hours of each wait that ended, by what it was for, out of so many `jobs`."""
    logs: dict[str, list[float]] = {}
    for kind, hours in waited:
        if kind in USUAL_WAITS and hours > 0:
            logs.setdefault(kind, []).append(math.log(hours / USUAL_WAITS[kind].median_h))
    found = dict(USUAL_WAITS)
    for kind, usual in USUAL_WAITS.items():
        own = logs.get(kind, [])
        shift, log_sd = robust(own, 0.0, 1.0, usual.log_sd)
        chance = min((len(own) + CHANCE_JOBS * usual.chance) / (jobs + CHANCE_JOBS), 1.0)
        found[kind] = Wait(chance, usual.median_h * math.exp(shift), log_sd)
    return found


def robust(logs: Iterable[float], about: float, prior_sd: float, usual_sd: float = USUAL_LOG_SD) -> tuple[float, float]:
    """Shift of log ratios with a normal prior about `about`, and the spread of the next one, the shift's own doubt included."""
    r = np.asarray(list(logs), dtype=float)
    shift, spread = about, usual_sd
    weight = np.ones_like(r)
    for _ in range(ROUNDS):
        precision = 1 / prior_sd**2 + weight.sum() / spread**2
        shift = (about / prior_sd**2 + (weight * r).sum() / spread**2) / precision
        far = np.abs(r - shift) / spread
        weight = np.minimum(1.0, HUBER_K / np.maximum(far, 1e-12))
        spread = math.sqrt(
            (SPREAD_JOBS * usual_sd**2 + (weight * (r - shift) ** 2).sum() / HUBER_SHARE) / (SPREAD_JOBS + weight.sum())
        )
    return float(shift), math.sqrt(spread**2 + 1 / (1 / prior_sd**2 + weight.sum() / spread**2))
