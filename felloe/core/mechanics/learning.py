"""Learning a wheel: how its rim answers to turns, from the readings before and after a pass.

Log-factors on the rim's stiffnesses are fitted by regularised Gauss-Newton (Nocedal & Wright, *Numerical Optimization*,
ch. 10) to the change of every place that was read both times. A nipple whose change is missing is named: it twisted, slipped,
or was not turned.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.mechanics.influence import Influence, influence_of
from felloe.core.mechanics.readings import Readings, RunoutReading
from felloe.core.mechanics.stiffness import stiffness_slopes

Array = NDArray[np.float64]

#: Spread of the factors before anything was learnt (a quarter either way, on a log scale), and of a hand's turn.
LOG_SD = 0.22
HAND_SHARE = 0.05
#: Rims of one make differ by so much among themselves (log scale); from memory, not from a published source.
ALIKE_LOG_SD = 0.06
#: So few changes teach nothing.
FEWEST_CHANGES = 8
#: A nipple is named when it did less than this share of its turn, and that by this many standard deviations.
DID_ITS_SHARE, SURE_SD = 0.6, 3.0
BACKWARD_SHARE = -0.3
_NAMES = ("ei_lat_nm2", "ei_rad_nm2", "gj_nm2")


@dataclass(frozen=True)
class RimFactors:
    """Factors on EI sideways, EI in plane and GJ, with the standard deviations of their logarithms."""

    ei_lat: float = 1.0
    ei_rad: float = 1.0
    gj: float = 1.0
    log_sd: tuple[float, float, float] = (LOG_SD, LOG_SD, LOG_SD)

    def applied(self, wheel: Wheel) -> Wheel:
        """The wheel with a rim as stiff as was learnt."""
        factors = (self.ei_lat, self.ei_rad, self.gj)
        values = {name: getattr(wheel.rim, name) * f for name, f in zip(_NAMES, factors, strict=True)}
        return replace(wheel, rim=replace(wheel.rim, **values))

    @classmethod
    def of_logs(cls, logs: Array, log_sd: tuple[float, float, float] = (LOG_SD, LOG_SD, LOG_SD)) -> RimFactors:
        """The factors whose logarithms are `logs` (3,)."""
        lateral, radial, torsion = (float(f) for f in np.exp(logs))
        return cls(lateral, radial, torsion, log_sd)

    @property
    def logs(self) -> Array:
        return np.log([self.ei_lat, self.ei_rad, self.gj])


def pooled(found: Sequence[RimFactors]) -> RimFactors | None:
    """What rims of the same kind teach of another one, newest last; None where there are none.

    A mean of the logarithms weighed by what each is sure of, and what rims of one kind differ among themselves.
    """
    if not found:
        return None
    weights = np.array([1 / (np.array(f.log_sd) ** 2 + ALIKE_LOG_SD**2) for f in found])
    prior = 1 / LOG_SD**2
    total = weights.sum(axis=0) + prior
    logs = (weights * np.array([f.logs for f in found])).sum(axis=0) / total
    spread = np.sqrt(1 / total + ALIKE_LOG_SD**2)
    return RimFactors.of_logs(logs, (float(spread[0]), float(spread[1]), float(spread[2])))


@dataclass(frozen=True)
class Shirker:
    """A nipple that did not do its share: what it did of the turn asked, with the standard deviation."""

    spoke: str
    share: float
    sd: float


@dataclass(frozen=True)
class Learnt:
    """What a pass taught: factors, how many changes were compared, the residual of the changes in standard deviations before
    and after, and the nipples that did not do their share.
    """

    factors: RimFactors
    changes: int
    misfit_before: float
    misfit_after: float
    shirkers: tuple[Shirker, ...]


@dataclass(frozen=True)
class _Changes:
    """Changes of readings with their standard deviations, and rows that read them from (tensions, node unknowns)."""

    value: Array
    sd: Array
    spokes: NDArray[np.int64]
    angles_deg: Array
    kind: NDArray[np.int64]


_TENSION, _LATERAL, _RADIAL, _DISH = range(4)


def _changes(wheel: Wheel, before: Readings, after: Readings) -> _Changes:
    rows: list[tuple[int, int, float, float, float]] = []
    earlier = {r.spoke: r for r in before.tension}
    for later in after.tension:
        was = earlier.get(later.spoke)
        if was is not None and later.spoke in wheel.index_of:
            sd = float(np.hypot(was.sd_n, later.sd_n))
            rows.append((_TENSION, wheel.index_of[later.spoke], 0.0, later.tension_n - was.tension_n, sd))
    rows += _dial_changes(_LATERAL, before.lateral, after.lateral)
    rows += _dial_changes(_RADIAL, before.radial, after.radial)
    if before.dish and after.dish:
        first, last = before.dish[-1], after.dish[-1]
        rows.append((_DISH, 0, 0.0, last.dish_mm - first.dish_mm, float(np.hypot(first.sd_mm, last.sd_mm))))
    table = np.array(rows, dtype=float).reshape(-1, 5)
    return _Changes(table[:, 3], table[:, 4], table[:, 1].astype(np.int64), table[:, 2], table[:, 0].astype(np.int64))


def _dial_changes(
    kind: int, before: Sequence[RunoutReading], after: Sequence[RunoutReading]
) -> list[tuple[int, int, float, float, float]]:
    earlier = {round(r.angle_deg, 2): r for r in before if r.group == 0}
    found = []
    for later in after:
        was = earlier.get(round(later.angle_deg, 2))
        if later.group == 0 and was is not None:
            sd = float(np.hypot(was.sd_mm, later.sd_mm))
            found.append((kind, 0, later.angle_deg, later.deviation_mm - was.deviation_mm, sd))
    return found


def _rows(influence: Influence, changes: _Changes, tension: Array, displacement: Array) -> Array:
    """What each change shows (changes, c) where the spokes' tensions change by (n, c) and the nodes move by (6n, c)."""
    rim = influence.between(changes.angles_deg)
    dish = displacement[2::6].mean(axis=0)
    rows = np.where((changes.kind == _TENSION)[:, None], tension[changes.spokes], 0.0)
    rows = np.where((changes.kind == _LATERAL)[:, None], rim.lateral_of(displacement), rows)
    rows = np.where((changes.kind == _RADIAL)[:, None], rim.radial_of(displacement), rows)
    return np.asarray(np.where((changes.kind == _DISH)[:, None], dish, rows))


def _centred(values: Array, changes: _Changes) -> Array:
    """Dials are set to zero anew before each set: only changes from their mean count."""
    out = np.array(values, dtype=float)
    for kind in (_LATERAL, _RADIAL):
        mine = changes.kind == kind
        if mine.any():
            out[mine] -= out[mine].mean(axis=0)
    return out


def learn(wheel: Wheel, before: Readings, after: Readings, turns: Array, known: RimFactors | None = None) -> Learnt | None:
    """Fit the rim's factors to what moved; `turns` (n,) are those really made, `known` what earlier passes taught.

    None where too little was read both times, or nothing was turned.
    """
    changes = _changes(wheel, before, after)
    if len(changes.value) < FEWEST_CHANGES or not np.any(turns):
        return None
    prior = known or RimFactors()
    start, prior_sd = prior.logs, np.array(prior.log_sd)
    observed = _centred(changes.value, changes)
    logs = start.copy()

    def predicted(at: Array) -> tuple[Array, Array, Array]:
        """What the turns change, what one turn of each nipple changes, and the slopes of the former by the logarithms."""
        influence = influence_of(RimFactors.of_logs(at).applied(wheel))
        columns = _centred(_rows(influence, changes, influence.tension_n, influence.displacement), changes)
        moved = influence.displacement @ turns[:, None]
        nodes, tensions = stiffness_slopes(influence, np.zeros_like(moved), moved)
        slopes = _rows(influence, changes, tensions[:, :, 0].T, nodes[:, :, 0].T)
        return columns @ turns, columns, _centred(slopes, changes)

    now, columns, slopes = predicted(logs)
    asked = turns
    # A hand misses each turn by a few per cent: that is noise too, and it is shared by all places of a nipple.
    sd = np.sqrt(changes.sd**2 + np.sum((columns * turns * HAND_SHARE) ** 2, axis=1))
    misfit_before = float(np.sqrt(np.mean(((observed - now) / sd) ** 2)))
    shirkers = _shirkers(wheel, columns, asked, observed - now, sd, slopes, prior_sd)
    # What a nipple did not do says nothing of the rim.
    turns = turns.copy()
    for shirker in shirkers:
        turns[wheel.index_of[shirker.spoke]] *= shirker.share
    if shirkers:
        now, columns, slopes = predicted(logs)
    for _ in range(4):
        rows = np.vstack([slopes / sd[:, None], np.diag(1 / prior_sd)])
        values = np.concatenate([(observed - now) / sd, (start - logs) / prior_sd])
        step = np.linalg.lstsq(rows, values, rcond=None)[0]
        logs = logs + np.clip(step, -0.4, 0.4)
        now, columns, slopes = predicted(logs)
        if np.abs(step).max() < 0.01:
            break
    covariance = np.linalg.inv(rows.T @ rows)
    spread = np.sqrt(np.diag(covariance))
    residual = observed - now
    factors = RimFactors.of_logs(logs, (float(spread[0]), float(spread[1]), float(spread[2])))
    misfit_after = float(np.sqrt(np.mean((residual / sd) ** 2)))
    return Learnt(factors, len(changes.value), misfit_before, misfit_after, shirkers)


def _shirkers(
    wheel: Wheel, columns: Array, turns: Array, residual: Array, sd: Array, slopes: Array, prior_sd: Array
) -> tuple[Shirker, ...]:
    """Nipples whose own part of the change is missing, the clearest first; the rim's factors are left free beside each."""
    found: list[Shirker] = []
    left = residual / sd
    parts = columns * turns / sd[:, None]
    base = np.vstack([slopes / sd[:, None], np.diag(1 / prior_sd)])
    zeros = np.zeros(3)
    open_places = [int(i) for i in np.flatnonzero(np.abs(turns) > 0)]
    for _ in range(4):
        best: tuple[float, int, float, float] | None = None
        for i in open_places:
            rows = np.column_stack([base, np.concatenate([parts[:, i], zeros])])
            inverse = np.linalg.pinv(rows.T @ rows)
            missing = float((inverse @ (rows.T @ np.concatenate([left, zeros])))[3])
            spread = float(np.sqrt(inverse[3, 3]))
            clear = -missing / np.hypot(spread, HAND_SHARE)
            # A nipple may have turned not at all, but hardly the other way; the best explanation takes most off the misfit.
            if clear < SURE_SD or not BACKWARD_SHARE <= 1 + missing < DID_ITS_SHARE:
                continue
            explained = (missing / spread) ** 2
            if best is None or explained > best[0]:
                best = (explained, i, missing, spread)
        if best is None:
            break
        _, i, missing, spread = best
        found.append(Shirker(str(wheel.names[i]), max(1 + missing, 0.0), spread))
        left = left - parts[:, i] * missing
        open_places.remove(i)
    return tuple(found)
