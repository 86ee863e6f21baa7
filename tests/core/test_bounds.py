"""Bounds of a report's figures, drawn, against true wheels and against the bound by which a sign-off is judged, worked out."""

from __future__ import annotations

import unittest

import numpy as np

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.truing.bounds import upper_bounds
from felloe.core.truing.sign_off import figures_of
from felloe.core.truing.sureness import unsure_figures
from felloe.core.truing.tiers import Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.core.test_sureness import KINDS, even_wheel, influence, read, used_wheel


class Bounds(unittest.TestCase):
    def test_about_as_many_true_wheels_stay_below_as_is_said(self) -> None:
        rng = np.random.default_rng(12)
        below = {"lateral": 0, "radial": 0}
        wheels = 60
        for number in range(wheels):
            kind = KINDS[number % len(KINDS)]
            virtual = used_wheel(WHEEL_KINDS[kind].wheel, rng, rng.uniform(0.05, 0.2))
            state = estimate_state(influence(kind), read(virtual, rng))
            bounds = upper_bounds(state, rng, 80)
            angles = state.influence.figure_angles_deg
            below["lateral"] += float(np.ptp(virtual.lateral_mm(angles))) <= bounds["lateral"]
            below["radial"] += float(np.ptp(virtual.radial_mm(angles))) <= bounds["radial"]
        # 95 of 100 are said; of 60 at least 52 is two and a half standard deviations of counting below that.
        for figure, count in below.items():
            self.assertGreaterEqual(count, 52, figure)

    def test_drawn_and_worked_out_agree(self) -> None:
        _, state = even_wheel(KINDS[0], 5)
        bounds, here = upper_bounds(state, np.random.default_rng(1)), figures_of(state)
        for figure, value in (("lateral", here.lateral_tir_mm), ("radial", here.radial_tir_mm)):
            # By the other way: somewhat beyond the drawn bound nothing is unsure, and just above the estimate it is.
            wide = bounds[figure] + 0.6 * (bounds[figure] - value) + 0.02
            for limit, sure in ((wide, True), (value + 0.001, False)):
                tier = Tier("own", max(limit, 0.01), max(limit, 0.01), 5.0, 90)
                names = {unsure.figure for unsure in unsure_figures(state, tier, 0.9)}
                with self.subTest(figure=figure, limit=limit):
                    self.assertEqual(figure not in names, sure)

    def test_never_below_the_estimate_and_the_same_for_the_same_readings(self) -> None:
        _, state = even_wheel(KINDS[0], 6)
        one, other = (upper_bounds(state, np.random.default_rng(3), 40) for _ in range(2))
        self.assertEqual(one, other)
        here = figures_of(state)
        for figure, value in (
            ("lateral", here.lateral_tir_mm), ("radial", here.radial_tir_mm), ("dish", abs(here.dish_mm)),
            ("tension", here.worst_spread_percent),
        ):  # fmt: skip
            self.assertGreaterEqual(one[figure], value, figure)
