"""The state of a wheel from any subset of readings: linear Gaussian estimation with a prior.

Unknowns: each nipple's departure from an ideal build, a common departure per side, the free rim's own shape (harmonics 2 and
up, lateral and radial), local damage of the rim (mechanics.prior), and the dial's zero. The influence maps them to what can be
read.
Source: Bayesian linear least squares, e.g. Tarantola, *Inverse Problem Theory* (2005), ch. 3.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from math import isfinite

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.between import Between
from felloe.core.mechanics.evidence import Observed
from felloe.core.mechanics.influence import Influence
from felloe.core.mechanics.prior import Prior, prior_of
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.runout.figures import total_indicator_reading_mm
from felloe.core.said import say

Array = NDArray[np.float64]

#: A dial's zero may be anywhere.
DATUM_SD_MM = 50.0


@dataclass(frozen=True, eq=False)
class Doubt:
    """What is not known of a wheel beside its state.

    `factor_logs` (3,) are those of the factors found on EI sideways, EI in plane and GJ, `covariance` (3, 3) theirs.
    `meter_share`: by how much the meter reads high, with its spread.
    """

    factor_logs: Array
    meter_share: float
    meter_share_sd: float
    covariance: Array


@dataclass(frozen=True)
class WheelState:
    """The estimated state; arrays (n,) run over the spokes from the valve.

    Lateral and radial are deviations from the mean line; the mean lateral position, from where the rim belongs, is the
    dish. The standard
    deviations say how sure each figure is. A dial's reading less its group's datum (`datums_mm`, by kind and
    group) is the deviation from the mean line.
    """

    influence: Influence
    tension_n: Array
    tension_sd_n: Array
    lateral_mm: Array
    lateral_sd_mm: Array
    radial_mm: Array
    radial_sd_mm: Array
    dish_mm: float
    dish_sd_mm: float
    datums_mm: Mapping[tuple[str, int], float]
    displacement: Array
    _map: Array = field(repr=False)
    _tension_map: Array = field(repr=False)
    _covariance: Array = field(repr=False)
    #: Spokes that are broken or missing: they carry nothing and count in no mean.
    broken: frozenset[str] = frozenset()
    #: What is not known of how the wheel answers to turns; None where only its state was estimated.
    doubt: Doubt | None = None
    #: The readings as rows over the unknowns, where nothing else was fitted with them: whoever doubts them needs them again.
    seen: Observed | None = field(default=None, repr=False)

    @property
    def wheel(self) -> Wheel:
        return self.influence.wheel

    @cached_property
    def figures(self) -> Trace:
        """The trace at the angles where runout figures are taken, four to a spoke."""
        return self.trace(self.influence.figure_angles_deg)

    def present(self, side: Side) -> NDArray[np.bool_]:
        """Which spokes (n,) of a side are there."""
        whole = np.array([str(name) not in self.broken for name in self.wheel.names])
        return np.asarray(self.wheel.on_side(side) & whole)

    def rows(self, kind: str) -> tuple[Array, Array]:
        """From the unknowns to what a figure is taken of: lateral or radial at the figure angles (4n, u), from the mean line,
        or the tensions (n, u); and the covariance of the unknowns (u, u)."""
        if kind == "tension":
            return self._tension_map, self._covariance
        lateral_rows, radial_rows = _trace_rows(self, self.influence.between(self.influence.figure_angles_deg))
        return (lateral_rows if kind == "lateral" else radial_rows), self._covariance

    @property
    def node_map(self) -> Array:
        """From the unknowns to the node unknowns (6n, u)."""
        return self._map

    @cached_property
    def maps(self) -> tuple[Array, Array, Array]:
        """From the unknowns to tensions (n, u) and to lateral and radial movement at the holes (2n, u); covariance (u, u)."""
        return self._tension_map, np.vstack(at_holes(self.influence, self._map)), self._covariance

    def with_maps(self, node_map: Array, tension_map: Array, covariance: Array) -> WheelState:
        """The same wheel, known through other unknowns: from them to the nodes (6n, u) and the tensions (n, u), and their
        covariance (u, u)."""
        lateral, radial = at_holes(self.influence, node_map)
        return replace(
            self,
            _map=node_map,
            _tension_map=tension_map,
            _covariance=covariance,
            tension_sd_n=_sd(tension_map, covariance),
            lateral_sd_mm=_sd(lateral - lateral.mean(axis=0), covariance),
            radial_sd_mm=_sd(radial - radial.mean(axis=0), covariance),
            dish_sd_mm=float(_sd(lateral.mean(axis=0)[None, :], covariance)[0]),
        )

    def moved(self, displacement: Array, tension_n: Array) -> WheelState:
        """After its nodes moved by `displacement` (6n,) and its tensions changed by `tension_n` (n,)."""
        lateral, radial = at_holes(self.influence, displacement[:, None])
        return replace(
            self,
            tension_n=self.tension_n + tension_n,
            lateral_mm=self.lateral_mm + lateral[:, 0] - lateral.mean(),
            radial_mm=self.radial_mm + radial[:, 0] - radial.mean(),
            dish_mm=self.dish_mm + float(lateral.mean()),
            displacement=self.displacement + displacement,
        )

    def draws(self, rng: Generator, count: int) -> Iterator[WheelState]:
        """Wheels drawn from what the readings leave open: same standard deviations, other values."""
        values, vectors = np.linalg.eigh(self._covariance)
        root = vectors * np.sqrt(np.maximum(values, 0))
        cos, sin = np.cos(self.influence.lacing.rim_angle_rad), np.sin(self.influence.lacing.rim_angle_rad)
        for _ in range(count):
            off = root @ rng.standard_normal(len(values))
            moved = self._map @ off
            lateral, radial = moved[2::6], cos * moved[0::6] + sin * moved[1::6]
            yield replace(
                self,
                tension_n=self.tension_n + self._tension_map @ off,
                lateral_mm=self.lateral_mm + lateral - lateral.mean(),
                radial_mm=self.radial_mm + radial - radial.mean(),
                dish_mm=self.dish_mm + float(lateral.mean()),
                displacement=self.displacement + moved,
            )

    def trace(self, angles_deg: Array) -> Trace:
        """Lateral and radial deviation with standard deviations at any angles."""
        return _trace(self, np.asarray(angles_deg, dtype=float))


@dataclass(frozen=True)
class Trace:
    """Deviations from the mean line at `angles_deg`; every array (len(angles),) [mm]."""

    angles_deg: Array
    lateral_mm: Array
    lateral_sd_mm: Array
    radial_mm: Array
    radial_sd_mm: Array

    @property
    def lateral_tir_mm(self) -> float:
        return total_indicator_reading_mm(self.lateral_mm)

    @property
    def radial_tir_mm(self) -> float:
        return total_indicator_reading_mm(self.radial_mm)


def check_readings(wheel: Wheel, readings: Readings) -> None:
    """Raise UnknownSpoke or BadReading, with the reading's place, for what cannot be."""
    for i, reading in enumerate(readings.tension):
        if reading.spoke not in wheel.index_of:
            raise UnknownSpoke(
                say(
                    "this wheel has no spoke {spoke}; right R1-R{right}, left L1-L{left}",
                    spoke=reading.spoke,
                    right=wheel.right.count,
                    left=wheel.left.count,
                ),
                f"tension.{i}.spoke",
            )
        if not isfinite(reading.tension_n) or not 0 <= reading.tension_n <= 5000:
            raise BadReading(
                say("a tension of {tension_n:g} N cannot be", tension_n=reading.tension_n), f"tension.{i}.tension_n"
            )
        if not reading.sd_n > 0:
            raise BadReading(say("a standard deviation must be above 0"), f"tension.{i}.sd_n")
    for kind in ("lateral", "radial"):
        for i, runout in enumerate(getattr(readings, kind)):
            if not isfinite(runout.deviation_mm) or abs(runout.deviation_mm) > 60:
                raise BadReading(
                    say("a deviation of {deviation_mm:g} mm cannot be", deviation_mm=runout.deviation_mm),
                    f"{kind}.{i}.deviation_mm",
                )
            if not isfinite(runout.angle_deg) or not 0 <= runout.angle_deg < 360:
                raise BadReading(
                    say("angles run from 0 to below 360°; found {angle_deg:g}", angle_deg=runout.angle_deg),
                    f"{kind}.{i}.angle_deg",
                )
            if not runout.sd_mm > 0:
                raise BadReading(say("a standard deviation must be above 0"), f"{kind}.{i}.sd_mm")
    for i, dish in enumerate(readings.dish):
        if not isfinite(dish.dish_mm) or abs(dish.dish_mm - wheel.dish_target_mm) > 20 or not dish.sd_mm > 0:
            raise BadReading(say("a dish of {dish_mm:g} mm cannot be", dish_mm=dish.dish_mm), f"dish.{i}.dish_mm")


def datum_groups(readings: Readings) -> list[tuple[str, int]]:
    """Each kind and group of dial readings that has a zero of its own."""
    found = {("lateral", r.group) for r in readings.lateral} | {("radial", r.group) for r in readings.radial}
    return sorted(found)


def reading_rows(influence: Influence, prior: Prior, readings: Readings) -> tuple[Array, Array, Array]:
    """Observation rows over [unknowns, datum of each group of dial readings], values and standard deviations."""
    index_of = influence.wheel.index_of
    holes = np.arange(influence.wheel.spoke_count)
    mean_lateral = prior.displacement[6 * holes + 2].mean(axis=0)
    groups = datum_groups(readings)
    lateral_at = influence.between(np.array([r.angle_deg for r in readings.lateral]))
    radial_at = influence.between(np.array([r.angle_deg for r in readings.radial]))
    places = [index_of[r.spoke] for r in readings.tension]
    rows = np.vstack(
        [
            prior.tension[places],
            lateral_at.lateral_of(prior.displacement),
            radial_at.radial_of(prior.displacement),
            np.tile(mean_lateral, (len(readings.dish), 1)),
        ]
    )
    runout = [("lateral", r) for r in readings.lateral] + [("radial", r) for r in readings.radial]
    zeros = np.zeros((len(rows), len(groups)))
    for row, (kind, reading) in enumerate(runout, start=len(places)):
        zeros[row, groups.index((kind, reading.group))] = 1.0
    target_mm = influence.wheel.dish_target_mm
    values = [
        *(r.tension_n - prior.base_tension[i] for r, i in zip(readings.tension, places, strict=True)),
        *(reading.deviation_mm for _, reading in runout),
        *(dish.dish_mm - target_mm for dish in readings.dish),
    ]
    sds = [*(r.sd_n for r in readings.tension), *(r.sd_mm for _, r in runout), *(dish.sd_mm for dish in readings.dish)]
    return np.hstack([rows, zeros]), np.array(values, dtype=np.float64), np.array(sds, dtype=np.float64)


def observed(influence: Influence, readings: Readings) -> Observed:
    """The readings as rows over the unknowns, in the order tension, lateral, radial, dish. Raises UnknownSpoke, BadReading."""
    check_readings(influence.wheel, readings)
    prior = prior_of(influence)
    rows, values, sds = reading_rows(influence, prior, readings)
    return Observed(prior, rows / sds[:, None], values / sds, len(datum_groups(readings)), DATUM_SD_MM)


def estimate_state(influence: Influence, readings: Readings) -> WheelState:
    """Estimate tensions, lateral and radial profile and dish from `readings`.

    With full readings it gives them back within their uncertainty; with few it draws a plausible rim and says how
    sure it is. Raises UnknownSpoke or BadReading, with the reading's place, for what cannot be.
    """
    prior = prior_of(influence)
    groups = datum_groups(readings)
    seen = observed(influence, readings)
    fit = seen.fit()
    unknowns = len(prior.sd)
    datums = dict(zip(groups, fit.mean[unknowns:], strict=True))
    state = state_of(influence, prior, fit.mean[:unknowns], datums, fit.covariance[:unknowns, :unknowns])
    return replace(state, seen=seen)


def at_holes(influence: Influence, node_map: Array) -> tuple[Array, Array]:
    """Lateral and radial movement at the holes, (n, u) each, of node unknowns (6n, u)."""
    cos, sin = np.cos(influence.lacing.rim_angle_rad)[:, None], np.sin(influence.lacing.rim_angle_rad)[:, None]
    return node_map[2::6], cos * node_map[0::6] + sin * node_map[1::6]


def _sd(rows: Array, covariance: Array) -> Array:
    return np.asarray(np.sqrt(np.maximum(np.einsum("ij,ij->i", rows @ covariance, rows), 0)))


def state_of(
    influence: Influence, prior: Prior, mean: Array, datums: dict[tuple[str, int], float], covariance: Array
) -> WheelState:
    """The state of a wheel whose unknowns have `mean` (u,) and `covariance` (u, u); `datums`: zeros of its dials."""
    lateral, radial = at_holes(influence, prior.displacement)
    lateral_dev, radial_dev = lateral - lateral.mean(axis=0), radial - radial.mean(axis=0)
    mean_row = lateral.mean(axis=0)[None, :]
    return WheelState(
        influence=influence,
        tension_n=prior.base_tension + prior.tension @ mean,
        tension_sd_n=_sd(prior.tension, covariance),
        lateral_mm=lateral_dev @ mean,
        lateral_sd_mm=_sd(lateral_dev, covariance),
        radial_mm=radial_dev @ mean,
        radial_sd_mm=_sd(radial_dev, covariance),
        dish_mm=float(mean_row[0] @ mean),
        dish_sd_mm=float(_sd(mean_row, covariance)[0]),
        datums_mm={
            (kind, group): float(value + (mean_row[0] if kind == "lateral" else radial.mean(axis=0)) @ mean)
            for (kind, group), value in datums.items()
        },
        displacement=prior.displacement @ mean,
        _map=prior.displacement,
        _tension_map=prior.tension,
        _covariance=covariance,
    )


def _trace_rows(state: WheelState, at: Between) -> tuple[Array, Array]:
    """From the unknowns to lateral and radial deviation from the mean line."""
    cos = np.cos(state.influence.lacing.rim_angle_rad)[:, None]
    sin = np.sin(state.influence.lacing.rim_angle_rad)[:, None]
    lateral_mean = state._map[2::6].mean(axis=0)
    radial_mean = (cos * state._map[0::6] + sin * state._map[1::6]).mean(axis=0)
    return at.lateral_of(state._map) - lateral_mean, at.radial_of(state._map) - radial_mean


def _trace(state: WheelState, angles_deg: Array) -> Trace:
    at = state.influence.between(angles_deg)
    lateral_rows, radial_rows = _trace_rows(state, at)
    disp = state.displacement.reshape(-1, 6)
    radial_at_holes = (
        np.cos(state.influence.lacing.rim_angle_rad) * disp[:, 0] + np.sin(state.influence.lacing.rim_angle_rad) * disp[:, 1]
    )
    return Trace(
        angles_deg=angles_deg,
        lateral_mm=at.lateral_of(state.displacement[:, None])[:, 0] - disp[:, 2].mean(),
        lateral_sd_mm=_sd(lateral_rows, state._covariance),
        radial_mm=at.radial_of(state.displacement[:, None])[:, 0] - radial_at_holes.mean(),
        radial_sd_mm=_sd(radial_rows, state._covariance),
    )
