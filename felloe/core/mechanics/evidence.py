"""How well readings agree with the model of a wheel, as the logarithm of their likelihood, local damage fitted.

Source: evidence of a linear Gaussian model, MacKay, *Bayesian Interpolation* (Neural Computation 4, 1992).
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cho_factor, cho_solve
from scipy.linalg.lapack import dpotrf, dpotri, dpotrs, dtrtrs

from felloe.core.mechanics.prior import DAMAGE_SCALE_MM, Prior

Array = NDArray[np.float64]
Places = NDArray[np.intp]

#: So often the scales of local damage are fitted anew; after five nothing moves by a hundredth any more.
DAMAGE_ROUNDS = 6
#: Degrees of freedom of what is now and then far off: a nipple that slipped, or did not turn at all.
LOOSE_DEGREES = 4.0
#: A quick look at many changed readings takes damage as this plausible everywhere [mm], without fitting it.
SCREEN_DAMAGE_MM = 0.08


def _factor_and_half(system: Array) -> tuple[Array, Array]:
    """The lower Cholesky factor and the lower half of the inverse of a symmetric positive matrix; upper halves are scrap.

    By LAPACK's own inversion from the factor, a third of the work of solving for the unit matrix. Raises LinAlgError.
    """
    lower, info = dpotrf(system, lower=True, clean=False)
    if info:
        raise np.linalg.LinAlgError(f"the leading minor of order {info} is not positive")
    half, info = dpotri(lower, lower=True)
    if info:
        raise np.linalg.LinAlgError("the factor is singular")
    return lower, half


def _whole(half: Array) -> Array:
    """A symmetric matrix from its lower half."""
    lower = np.tril(half)
    return np.asarray(lower + np.tril(half, -1).T)


@dataclass(frozen=True, eq=False)
class _Eliminated:
    """The normal equations with the unknowns of known spread (f of them) eliminated, so that fitting the spreads of the others
    (m) anew takes a system of those alone: Schur's complement. `factor` is the lower Cholesky factor of the scaled block of
    the eliminated, `across` its inverse times the block between (f, m), `left` the complement without the others' spread.
    """

    known: Places
    fitted: Places
    known_sd: Array
    factor: Array
    across: Array
    left: Array

    @staticmethod
    def of(gram: Array, sd: Array, fitted: Places) -> _Eliminated:
        known = np.setdiff1d(np.arange(len(sd)), fitted)
        known_sd = sd[known]
        system = np.asfortranarray(known_sd[:, None] * gram[np.ix_(known, known)] * known_sd)
        system[np.diag_indices_from(system)] += 1
        factor, info = dpotrf(system, lower=True, clean=True)
        if info:
            raise np.linalg.LinAlgError(f"the leading minor of order {info} is not positive")
        across, _ = dtrtrs(factor, known_sd[:, None] * gram[np.ix_(known, fitted)], lower=True)
        return _Eliminated(known, fitted, known_sd, factor, across, gram[np.ix_(fitted, fitted)] - across.T @ across)

    def back(self, right: Array) -> Array:
        """The eliminated unknowns from what the factor left of them."""
        solved, _ = dtrtrs(self.factor, right, lower=True, trans=1)
        scale = self.known_sd if right.ndim == 1 else self.known_sd[:, None]
        return np.asarray(scale * solved)


@dataclass(frozen=True, eq=False)
class Fit:
    """The unknowns' mean (u,) and the log-evidence of the readings; their covariance is worked out when it is asked for."""

    mean: Array
    log_evidence: float
    _parts: _Eliminated
    _fitted_covariance: Array

    @cached_property
    def covariance(self) -> Array:
        """Covariance of the unknowns (u, u)."""
        parts, fitted = self._parts, self._fitted_covariance
        share = parts.back(parts.across)
        whole = np.empty((len(self.mean), len(self.mean)))
        both = -share @ fitted
        root = parts.back(np.eye(len(parts.known)))
        whole[np.ix_(parts.known, parts.known)] = root @ root.T - both @ share.T
        whole[np.ix_(parts.known, parts.fitted)] = both
        whole[np.ix_(parts.fitted, parts.known)] = both.T
        whole[np.ix_(parts.fitted, parts.fitted)] = fitted
        return whole


@dataclass(frozen=True, eq=False)
class Observed:
    """Readings as rows over [unknowns, others beside them, zeros of dials], each divided by its standard deviation: rows
    (k, u), values (k,).

    `zero_sd_mm` is the spread of each dial's zero, `beside_sd` that of the others; the first `loose` of those are now and then
    far larger (Student, LOOSE_DEGREES of freedom).
    """

    prior: Prior
    rows: Array
    values: Array
    zeros: int
    zero_sd_mm: float
    beside_sd: Array = field(default_factory=lambda: np.zeros(0))
    loose: int = 0

    def _sd(self, columns: int) -> Array:
        known = np.concatenate([self.prior.sd, self.beside_sd])
        return np.concatenate([known, np.full(columns - len(known), self.zero_sd_mm)])

    def fit(self, values: Array | None = None, extra: Array | None = None) -> Fit:
        """Fit all unknowns and the scales of damage. `values` stand in for those read; `extra` (k,) is the row of one more
        zero, with the spread of a dial's. Expectation-maximisation of the Student prior."""
        asked = self.values if values is None else values
        rows = self.rows if extra is None else np.column_stack([self.rows, extra])
        parts = self._eliminated if extra is None else self._eliminate(rows)
        told, sd = rows.T @ asked, self._sd(rows.shape[1])[parts.fitted]
        local = slice(0, len(self.prior.sd) - self.prior.first_local)
        misses = slice(local.stop, local.stop + self.loose)
        begun, _ = dtrtrs(parts.factor, parts.known_sd * told[parts.known], lower=True)
        pull = told[parts.fitted] - parts.across.T @ begun
        diagonal = np.diag_indices_from(parts.left)
        for once_more in reversed(range(DAMAGE_ROUNDS)):
            system = np.asfortranarray(sd[:, None] * parts.left * sd)
            system[diagonal] += 1
            lower, half = _factor_and_half(system)
            fitted = sd * dpotrs(lower, sd * pull, lower=True)[0]
            if once_more:
                variance = sd**2 * np.diag(half)
                sd[local] = np.sqrt((DAMAGE_SCALE_MM**2 + fitted[local] ** 2 + variance[local]) / 2)
                square = fitted[misses] ** 2 + variance[misses]
                sd[misses] = np.sqrt((LOOSE_DEGREES * self.beside_sd[: self.loose] ** 2 + square) / (LOOSE_DEGREES + 1))
        mean = np.empty(len(told))
        mean[parts.fitted], mean[parts.known] = fitted, parts.back(begun - parts.across @ fitted)
        unlike = float(asked @ asked - told @ mean)
        size = 2 * float(np.log(np.diag(lower)).sum() + np.log(np.diag(parts.factor)).sum())
        ratio = (sd[local] / DAMAGE_SCALE_MM) ** 2
        scales = float(np.sum(np.log(ratio) + 1 / ratio - 1))
        return Fit(mean, -0.5 * (unlike + size + scales), parts, sd[:, None] * _whole(half) * sd)

    @cached_property
    def _eliminated(self) -> _Eliminated:
        return self._eliminate(self.rows)

    def _eliminate(self, rows: Array) -> _Eliminated:
        """What does not hang on the values read: worked out once for all that are tried on the same rows."""
        fitted = np.arange(self.prior.first_local, len(self.prior.sd) + self.loose)
        return _Eliminated.of(rows.T @ rows, self._sd(rows.shape[1]), fitted)

    def with_values(self, values: Array) -> Observed:
        """The same rows with other values; what hangs on the rows alone comes along."""
        other = replace(self, values=values)
        for name in ("_eliminated", "precision"):
            if name in self.__dict__:
                other.__dict__[name] = self.__dict__[name]
        return other

    @cached_property
    def precision(self) -> Array:
        """Inverse covariance of the readings (k, k) where damage is plausible everywhere: for quick looks."""
        sd = self._sd(self.rows.shape[1])
        sd[self.prior.first_local : len(self.prior.sd)] = SCREEN_DAMAGE_MM
        scaled = self.rows * sd
        factor = cho_factor(np.eye(len(sd)) + scaled.T @ scaled)
        return np.asarray(np.eye(len(self.values)) - scaled @ cho_solve(factor, scaled.T))

    @cached_property
    def residual(self) -> Array:
        """What pulls at each reading (k,), at a quick look: the precision times what was read."""
        return np.asarray(self.precision @ self.values)

    def gain(self, places: Places, changed: Array) -> float:
        """By how much the log-evidence would grow, at a quick look, if `changed` (m,) had been read at `places` (m,)."""
        step = changed - self.values[places]
        return float(-(step @ self.residual[places]) - step @ self.precision[places[:, None], places] @ step / 2)

    def expected(self, i: int) -> tuple[float, float]:
        """What all other readings lead to expect of the i-th, and its standard deviation, in units of its own."""
        means, spreads = self._expected
        return means[i], spreads[i]

    @cached_property
    def _expected(self) -> tuple[list[float], list[float]]:
        own = np.diag(self.precision)
        return (self.values - self.residual / own).tolist(), (own**-0.5).tolist()
