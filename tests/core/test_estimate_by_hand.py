"""The estimate against the same thing said another way: the gain form of the normal posterior, scipy's normal density,
borders."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np
from scipy.stats import multivariate_normal

from felloe.core.errors import BadReading
from felloe.core.mechanics.estimate import estimate_state, observed
from felloe.core.mechanics.prior import bumps, prior_of
from felloe.core.mechanics.readings import (
    DishReading,
    Readings,
    RunoutReading,
    TensionReading,
    entered_deviation_mm,
    entered_force_n,
)
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.tension.statics import side_targets_n
from tests.core.wheels import ALL, REAR, influence, read_fully

SMALL = ALL["small-front-20"]


def some_readings() -> Readings:
    """Half the places of a used wheel, the dial set to zero twice."""
    rng = np.random.default_rng(11)
    full = read_fully(used_wheel(SMALL, rng, 0.4), rng)
    again = [replace(r, deviation_mm=r.deviation_mm - 1.7, group=1) for r in full.lateral[10:14]]
    return Readings(full.tension[::2], [*full.lateral[:10], *again], full.radial[3:], full.dish)


def posterior(seen, values: np.ndarray | None = None):  # type: ignore[no-untyped-def]
    """Mean and covariance by the gain form, S − SHᵀ(HSHᵀ + I)⁻¹HS, and the Student prior's scales renewed five times: each
    variance becomes half of 0.03² and the place's expected square. Then the density of the readings by scipy, less what it has
    of 2π, and the price of the scales."""
    asked = seen.values if values is None else values
    rows = seen.rows
    variance = np.concatenate([seen.prior.sd**2, np.full(seen.zeros, seen.zero_sd_mm**2)])
    n = len(seen.prior.base_tension)
    local = np.arange(len(seen.prior.sd) - 2 * n, len(seen.prior.sd))
    for last in (False, False, False, False, False, True):
        total = (rows * variance) @ rows.T + np.eye(len(asked))
        gain = np.linalg.solve(total, rows * variance).T
        mean, covariance = gain @ asked, np.diag(variance) - gain @ (rows * variance)
        if not last:
            variance[local] = (0.03**2 + mean[local] ** 2 + np.diag(covariance)[local]) / 2
    density = multivariate_normal(np.zeros(len(asked)), total).logpdf(asked) + len(asked) / 2 * np.log(2 * np.pi)
    ratio = variance[local] / 0.03**2
    return mean, covariance, float(density - 0.5 * np.sum(np.log(ratio) + 1 / ratio - 1))


class Posterior(unittest.TestCase):
    def test_mean_covariance_and_evidence(self) -> None:
        seen = observed(influence(SMALL), some_readings())
        mean, covariance, evidence = posterior(seen)
        fit = seen.fit()
        sd = np.sqrt(np.diag(covariance))
        np.testing.assert_allclose(fit.mean / sd, mean / sd, atol=1e-4)
        np.testing.assert_allclose(fit.covariance / np.outer(sd, sd), covariance / np.outer(sd, sd), atol=1e-4)
        self.assertAlmostEqual(fit.log_evidence, evidence, 3)

    def test_other_values_and_one_more_zero(self) -> None:
        seen = observed(influence(SMALL), some_readings())
        changed = seen.values.copy()
        changed[3] += 8
        self.assertAlmostEqual(seen.fit(changed).log_evidence, posterior(seen, changed)[2], 3)
        column = np.zeros(len(changed))
        column[10:20] = 1 / 0.03
        wider = replace(seen, rows=np.column_stack([seen.rows, column]), zeros=seen.zeros + 1)
        self.assertAlmostEqual(seen.fit(extra=column).log_evidence, posterior(wider)[2], 3)

    def test_a_quick_look_is_the_normal_density_with_damage_a_little_everywhere(self) -> None:
        seen = observed(influence(SMALL), some_readings())
        variance = np.concatenate([seen.prior.sd**2, np.full(seen.zeros, seen.zero_sd_mm**2)])
        first = len(seen.prior.sd) - 2 * SMALL.spoke_count
        variance[first : len(seen.prior.sd)] = 0.08**2
        total = (seen.rows * variance) @ seen.rows.T + np.eye(len(seen.values))
        density = multivariate_normal(np.zeros(len(total)), total)
        changed = seen.values.copy()
        changed[5] -= 4
        self.assertAlmostEqual(
            seen.gain(np.array([5]), changed[[5]]), float(density.logpdf(changed) - density.logpdf(seen.values)), 3
        )
        changed[[2, 9, 30]] += (1.0, -2.0, 0.5)
        places = [5, 2, 9, 30]
        together = float(density.logpdf(changed) - density.logpdf(seen.values))
        self.assertAlmostEqual(seen.gain(np.array(places), changed[places]), together, 3)
        # What the others lead to expect of one: the conditional normal.
        for i in (0, 7, 25):
            others = np.arange(len(total)) != i
            weights = np.linalg.solve(total[np.ix_(others, others)], total[others, i])
            value, sd = seen.expected(i)
            self.assertAlmostEqual(value, float(weights @ seen.values[others]), 2)
            self.assertAlmostEqual(sd, float(np.sqrt(total[i, i] - weights @ total[others, i])), 4)

    def test_the_state_is_the_posterior_through_the_maps(self) -> None:
        readings = some_readings()
        seen = observed(influence(SMALL), readings)
        mean, covariance, _ = posterior(seen)
        state = estimate_state(influence(SMALL), readings)
        u = len(seen.prior.sd)
        tension = seen.prior.tension @ mean[:u] + seen.prior.base_tension
        np.testing.assert_allclose(state.tension_n, tension, atol=0.05)
        np.testing.assert_allclose(
            state.tension_sd_n**2, np.diag(seen.prior.tension @ covariance[:u, :u] @ seen.prior.tension.T), rtol=1e-3
        )
        moved = (seen.prior.displacement @ mean[:u]).reshape(-1, 6)
        self.assertAlmostEqual(state.dish_mm, float(moved[:, 2].mean()), 4)
        np.testing.assert_allclose(state.lateral_mm, moved[:, 2] - moved[:, 2].mean(), atol=1e-4)
        # What a dial shows less its datum is the deviation from the mean line, within its noise; the second zero lies
        # 1.7 lower.
        self.assertAlmostEqual(state.datums_mm["lateral", 0] - state.datums_mm["lateral", 1], 1.7, delta=0.06)
        for reading in readings.radial:
            at = state.trace(np.array([reading.angle_deg])).radial_mm[0]
            self.assertAlmostEqual(reading.deviation_mm - state.datums_mm["radial", 0], at, delta=0.1)

    def test_standard_deviations_of_every_figure_by_drawing_wheels(self) -> None:
        state = estimate_state(influence(SMALL), some_readings())
        drawn = list(state.draws(np.random.default_rng(2), 1500))
        for what in ("tension", "lateral", "radial"):
            unit = "_n" if what == "tension" else "_mm"
            values = np.array([getattr(one, what + unit) for one in drawn])
            np.testing.assert_allclose(values.std(axis=0), getattr(state, f"{what}_sd{unit}"), rtol=0.12)
            off = np.abs(values.mean(axis=0) - getattr(state, what + unit)) / getattr(state, f"{what}_sd{unit}")
            self.assertLess(off.max(), 0.15)
        dishes = np.array([one.dish_mm for one in drawn])
        self.assertAlmostEqual(dishes.std() / state.dish_sd_mm, 1, delta=0.08)
        self.assertAlmostEqual(float(dishes.mean()), state.dish_mm, delta=0.2 * state.dish_sd_mm)
        traces = np.array([one.figures.radial_mm for one in drawn[:600]])
        np.testing.assert_allclose(traces.std(axis=0), state.figures.radial_sd_mm, rtol=0.2)
        rows, covariance = state.rows("radial")
        np.testing.assert_allclose(np.sqrt(np.diag(rows @ covariance @ rows.T)), state.figures.radial_sd_mm, rtol=1e-6)
        tension_map, places, _ = state.maps
        holes = SMALL.spoke_count
        self.assertEqual((tension_map.shape[0], places.shape[0]), (holes, 2 * holes))
        free = places[holes:] - places[holes:].mean(axis=0)
        np.testing.assert_allclose(np.sqrt(np.diag(free @ covariance @ free.T)), state.radial_sd_mm, rtol=1e-6)


class Plausible(unittest.TestCase):
    def test_what_is_plausible_beforehand(self) -> None:
        """0.8 turns a nipple, 3 a side, the rim's harmonics from 0.7 and 0.3 mm down with the square, half a
        millimetre of damage
        to begin with: from memory of repair work."""
        for wheel, highest in ((SMALL, 6), (REAR, 8)):
            n = wheel.spoke_count
            falling = [(2 / m) ** 2 for m in range(2, highest + 1) for _ in range(2)]
            expected = [0.8] * n + [3.0] * 2 + [0.7 * f for f in falling] + [0.3 * f for f in falling] + [0.5] * (2 * n)
            prior = prior_of(influence(wheel))
            np.testing.assert_allclose(prior.sd, expected)
            self.assertEqual(prior.first_local, len(expected) - 2 * n)
            targets = side_targets_n(wheel)
            np.testing.assert_allclose(prior.base_tension, [targets[name.side] for name in wheel.names])

    def test_turns_of_nipples_and_of_sides(self) -> None:
        inf = influence(SMALL)
        prior, n = prior_of(inf), SMALL.spoke_count
        np.testing.assert_allclose(prior.tension[:, :n], inf.tension_n)
        right = SMALL.on_side(Side.RIGHT)
        np.testing.assert_allclose(prior.tension[:, n], inf.tension_n[:, right].sum(axis=1), atol=1e-9)
        np.testing.assert_allclose(prior.tension[:, n + 1], inf.tension_n[:, ~right].sum(axis=1), atol=1e-9)

    def test_a_bump_is_a_gauss_of_half_a_hole_at_its_hole(self) -> None:
        """Against scipy-free sums: a Gauss curve of half a hole's standard deviation, less its mean and first harmonic."""
        lateral, radial = bumps(influence(REAR))
        n = REAR.spoke_count
        angles = influence(REAR).lacing.rim_angle_rad
        width = 2 * np.pi / n * 0.5
        fine = np.linspace(-np.pi, np.pi, 20001)[:-1]
        curve = np.exp(-(fine**2) / (2 * width**2))
        step = fine[1] - fine[0]
        for hole in (0, 5):
            shape = np.zeros(n)
            for m in range(2, n // 2 + 1):
                amplitude = float(np.sum(curve * np.cos(m * fine)) * step / np.pi)
                shape += amplitude * np.cos(m * (angles - angles[hole]))
            np.testing.assert_allclose(lateral[2::6, hole], shape, atol=1e-6)
            outward = np.cos(angles) * radial[0::6, hole] + np.sin(angles) * radial[1::6, hole]
            np.testing.assert_allclose(outward, shape, atol=1e-6)


class Borders(unittest.TestCase):
    def refused(self, **readings) -> str:  # type: ignore[no-untyped-def]
        with self.assertRaises(BadReading) as caught:
            estimate_state(influence(SMALL), Readings(**readings))
        return str(caught.exception.field)

    def taken(self, **readings) -> None:  # type: ignore[no-untyped-def]
        estimate_state(influence(SMALL), Readings(**readings))

    def test_what_a_reading_may_be(self) -> None:
        first = str(SMALL.names[0])
        self.taken(tension=[TensionReading(first, 0.0), TensionReading(first, 5000.0)])
        for bad in (-0.1, 5000.1, float("nan")):
            self.assertEqual(
                self.refused(tension=[TensionReading(first, 900), TensionReading(first, bad)]), "tension.1.tension_n"
            )
        self.assertEqual(self.refused(tension=[TensionReading(first, 900, 0.0)]), "tension.0.sd_n")
        for kind in ("lateral", "radial"):
            self.taken(**{kind: [RunoutReading(0.0, 60.0), RunoutReading(359.99, -60.0)]})
            for bad in (60.1, -60.1, float("inf")):
                self.assertEqual(self.refused(**{kind: [RunoutReading(0.0, bad)]}), f"{kind}.0.deviation_mm")
            for angle in (-0.1, 360.0, float("nan")):
                self.assertEqual(self.refused(**{kind: [RunoutReading(angle, 0.0)]}), f"{kind}.0.angle_deg")
            self.assertEqual(self.refused(**{kind: [RunoutReading(0.0, 0.0, 0.0)]}), f"{kind}.0.sd_mm")
        self.taken(dish=[DishReading(20.0), DishReading(-20.0)])
        for dish in (DishReading(20.1), DishReading(-20.1), DishReading(0.0, 0.0), DishReading(float("nan"))):
            self.assertEqual(self.refused(dish=[dish]), "dish.0.dish_mm")

    def test_what_may_be_entered(self) -> None:
        """A kilogram-force is 9.80665 N by definition, a pound 0.45359237 kg, an inch 25.4 mm."""
        self.assertAlmostEqual(entered_force_n(100, "kgf"), 980.665)
        self.assertAlmostEqual(entered_force_n(200, "lbf"), 200 * 0.45359237 * 9.80665)
        self.assertAlmostEqual(entered_deviation_mm(0.02, "in"), 0.508)
        self.assertEqual((entered_force_n(5000, "N"), entered_force_n(0, "N")), (5000, 0))
        self.assertEqual((entered_deviation_mm(30), entered_deviation_mm(-30)), (30, -30))
        for force in (-1, 5001, float("nan")):
            with self.assertRaises(BadReading):
                entered_force_n(force, "N")
        for deviation in (30.1, -30.1, float("nan")):
            with self.assertRaises(BadReading):
                entered_deviation_mm(deviation)

    def test_four_readings_of_any_kind_are_ground_for_a_plan(self) -> None:
        one = Readings([TensionReading("R1", 900)], [RunoutReading(0, 0)], [RunoutReading(0, 0)])
        self.assertEqual((one.count, one.enough_for_a_plan), (3, False))
        more = replace(one, dish=[DishReading(0.0)])
        self.assertEqual((more.count, more.enough_for_a_plan), (4, True))


if __name__ == "__main__":
    unittest.main()
