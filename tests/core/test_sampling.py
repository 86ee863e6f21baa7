"""Which reading to take next, and what a quick look is made of."""

from __future__ import annotations

import unittest

import numpy as np

from felloe.core.measuring.sampling import next_readings, quick_look
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.objective import objective_rows
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.core.truing.tiers import SOUND
from tests.bench.passes import figures
from tests.core.wheels import ALL, REAR, influence, read_fully


def still_open(readings: Readings) -> float:
    """Variance that a set of readings leaves in what a plan weighs."""
    tension_map, shape_map, covariance = estimate_state(influence(REAR), readings).maps
    rows = objective_rows(influence(REAR), SOUND) @ np.vstack([tension_map, shape_map])
    return float(np.einsum("ij,jk,ik->", rows, covariance, rows))


def with_reading(readings: Readings, kind: str, spoke: str) -> Readings:
    """One more reading of any value: the variance does not depend on it."""
    angle = REAR.angles_deg[REAR.index_of[spoke]] if spoke else 0.0
    tension, lateral = list(readings.tension), list(readings.lateral)
    radial, dish = list(readings.radial), list(readings.dish)
    if kind == "tension":
        tension.append(TensionReading(spoke, 900))
    elif kind == "dish":
        dish.append(DishReading(0))
    else:
        (lateral if kind == "lateral" else radial).append(RunoutReading(angle, 0))
    return Readings(tension, lateral, radial, dish)


def only(full: Readings, wanted: list[tuple[str, str]]) -> Readings:
    """Of a wheel that was read in full, what is wanted alone."""

    def at(kind: str) -> set[float]:
        return {round(REAR.angles_deg[REAR.index_of[spoke]], 1) for k, spoke in wanted if k == kind}

    return Readings(
        [r for r in full.tension if ("tension", r.spoke) in wanted],
        [r for r in full.lateral if round(r.angle_deg, 1) in at("lateral")],
        [r for r in full.radial if round(r.angle_deg, 1) in at("radial")],
        full.dish if ("dish", "") in wanted else [],
    )


class QuickLook(unittest.TestCase):
    def test_it_is_spread_evenly(self) -> None:
        for name, wheel in ALL.items():
            chosen = quick_look(wheel)
            for side in Side:
                mine = sorted(wheel.angles_deg[wheel.index_of[n]] for n in chosen if n.startswith(side.value))
                self.assertTrue(4 <= len(mine) <= 6, name)
                gaps = np.diff([*mine, mine[0] + 360])
                self.assertLess(gaps.max(), 2.1 * gaps.min() + 1e-6, name)


class NextReading(unittest.TestCase):
    def test_none_takes_more_off_what_is_open(self) -> None:
        """The first choice against others, each by estimating anew."""
        quick = quick_look(REAR)
        places = [REAR.angles_deg[REAR.index_of[n]] for n in quick]
        dial = [RunoutReading(angle, 0.0) for angle in places]
        # Dials are at work already: their zeros are known.
        readings = Readings([TensionReading(n, 900.0) for n in quick], dial, dial, [DishReading(0)])
        state = estimate_state(influence(REAR), readings)
        best = next_readings(state, readings, SOUND, 1)[0]
        mine = still_open(with_reading(readings, best.kind, best.spoke))
        for kind, spoke in (("tension", "R2"), ("tension", "L16"), ("lateral", "R9"), ("lateral", "L3"), ("radial", "R5")):
            self.assertLessEqual(mine, still_open(with_reading(readings, kind, spoke)) * 1.02, (kind, spoke))

    def test_nothing_is_asked_twice(self) -> None:
        rng = np.random.default_rng(2)
        readings = read_fully(used_wheel(REAR, rng), rng)
        state = estimate_state(influence(REAR), readings)
        self.assertEqual(next_readings(state, readings, SOUND), ())

    def test_it_ends_when_more_would_not_change_what_a_plan_reaches(self) -> None:
        """Wheels read as advised until it ends, and read in full: their plans, carried out on the true wheels."""
        blind = Readings()
        state = estimate_state(influence(REAR), blind)
        advised = [(one.kind, one.spoke) for one in next_readings(state, blind, SOUND, 109)]
        self.assertLess(len(advised), 85)
        reached = []
        for seed in range(3):
            rng = np.random.default_rng(seed)
            virtual = used_wheel(REAR, rng, 0.35)
            full = read_fully(virtual, np.random.default_rng(seed + 1))
            for readings in (only(full, advised), full):
                plan = make_plan(estimate_state(influence(REAR), readings), PlanOptions(SOUND))
                reached.append(figures(virtual.turned(plan.turns)))
        for few, all_read in zip(reached[::2], reached[1::2], strict=True):
            self.assertTrue(few.inside(SOUND))
            self.assertLess(few.lateral_mm - all_read.lateral_mm, 0.1)
            self.assertLess(few.spread_percent - all_read.spread_percent, 4)

    def test_following_the_advice_beats_reading_in_order(self) -> None:
        """Twelve readings as advised leave less than half as much open as the first twelve spokes from the valve."""
        advised, in_order = Readings(), Readings()
        for step in range(12):
            state = estimate_state(influence(REAR), advised)
            first = next_readings(state, advised, SOUND, 1)[0]
            advised = with_reading(advised, first.kind, first.spoke)
            in_order = with_reading(in_order, "tension", str(REAR.names[step]))
        self.assertLess(still_open(advised), 0.5 * still_open(in_order))
