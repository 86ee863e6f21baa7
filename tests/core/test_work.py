"""How long work takes: the estimate's spread against drawn jobs, the pace against a direct posterior."""

from __future__ import annotations

import math
import unittest

import numpy as np
from scipy.stats import norm

from felloe.core.promise.pace import USUAL_WAITS, Timed, learn, learn_waits, robust
from felloe.core.promise.skills import needs_of
from felloe.core.promise.work import BENCH_STEPS, USUAL_LOG_SD, JobFacts, Pace, Paces, Step, steps_ahead, together
from felloe.core.stages import DONE
from felloe.core.truing.tiers import FINE, RACE, SOUND

FRESH = JobFacts("take_in")


def middle(facts: JobFacts, paces: Paces | None = None) -> float:
    return together(steps_ahead(facts, paces)).middle_min


class Estimates(unittest.TestCase):
    def test_the_spread_holds_eight_of_ten_drawn_jobs(self) -> None:
        """Against draws of the steps themselves, which know nothing of the sum's formula."""
        rng = np.random.default_rng(4)
        for facts in (FRESH, JobFacts("true", RACE, 36), JobFacts("decide", agreed=("rebuild",))):
            steps = steps_ahead(facts)
            drawn = np.zeros(40_000)
            for step in steps:
                minutes = step.median_min * np.exp(step.log_sd * rng.standard_normal(drawn.size))
                drawn += minutes * (rng.random(drawn.size) < step.chance)
            found = together(steps)
            inside = ((drawn > found.low_min) & (drawn < found.high_min)).mean()
            self.assertAlmostEqual(inside, 0.8, delta=0.04)
            self.assertAlmostEqual(float(np.median(drawn)), found.middle_min, delta=0.05 * found.middle_min)

    def test_one_step_is_its_own_log_normal(self) -> None:
        found = together([Step("true", 30, 0.4)])
        self.assertAlmostEqual(found.middle_min, 30, 6)
        self.assertAlmostEqual(found.high_min, 30 * math.exp(0.4 * norm.ppf(0.9)), 2)
        self.assertEqual(together([]).high_min, 0)

    def test_work_shrinks_from_stage_to_stage_and_ends_ready(self) -> None:
        left = [middle(JobFacts(stage, agreed=("true",))) for stage in BENCH_STEPS]
        self.assertEqual(left, sorted(left, reverse=True))
        self.assertEqual(steps_ahead(JobFacts("hand_back")), ())
        self.assertEqual(steps_ahead(JobFacts(DONE)), ())

    def test_what_asks_for_more_work_takes_longer(self) -> None:
        for less, more in (
            (JobFacts("true", SOUND), JobFacts("true", FINE)),
            (JobFacts("true", spokes=20), JobFacts("true", spokes=36)),
            (JobFacts("strip_lace", agreed=("replace",), to_replace=1),
             JobFacts("strip_lace", agreed=("replace",), to_replace=4)),
            (JobFacts("strip_lace", agreed=("replace",), to_replace=2),
             JobFacts("strip_lace", agreed=("replace",), to_replace=2, rear=True)),
            (JobFacts("strip_lace", agreed=("rebuild_side",)), JobFacts("strip_lace", agreed=("rebuild",))),
            (JobFacts("true", spread_percent=5), JobFacts("true", spread_percent=50)),
            (JobFacts("true"), JobFacts("true", stuck=3)),
            (JobFacts("true", plan_moves=4), JobFacts("true", plan_moves=20)),
            (JobFacts("decide", agreed=()), JobFacts("decide", agreed=("true",))),
            (JobFacts("decide", agreed=("leave",)), JobFacts("decide", agreed=("true",))),
        ):  # fmt: skip
            with self.subTest(more):
                self.assertLess(middle(less), middle(more))

    def test_a_plan_counts_only_where_it_is_worked(self) -> None:
        self.assertEqual(middle(JobFacts("as_found", plan_moves=2)), middle(JobFacts("as_found")))

    def test_skills_follow_what_was_agreed(self) -> None:
        self.assertEqual(needs_of(FRESH), {"truing"})
        self.assertEqual(needs_of(JobFacts("true", RACE, agreed=("new_rim", "hub_overhaul"))), {"fine", "lacing", "hubs"})


class OwnPace(unittest.TestCase):
    def test_the_shift_is_the_posterior_of_a_grid(self) -> None:
        """Without outliers: the posterior of a normal with a normal prior, worked out point by point on a grid."""
        rng = np.random.default_rng(8)
        logs = rng.normal(0.25, 0.3, 12)
        shift, spread = robust(logs, 0.0, 0.4)
        # The spread that the shift was found with, taken back out of the spread of the next one.
        within = math.sqrt(spread**2 - 1 / (1 / 0.4**2 + 12 / 0.36**2))
        grid = np.linspace(-1.5, 1.5, 6001)
        weight = norm.pdf(grid, 0, 0.4) * np.prod(norm.pdf(logs[:, None], grid, within), axis=0)
        self.assertAlmostEqual(shift, float((grid * weight).sum() / weight.sum()), delta=0.02)

    def test_a_forgotten_clock_hardly_counts(self) -> None:
        honest = [math.log(1.2)] * 20
        clean, _ = robust(honest, 0.0, 0.4)
        for wild in (math.log(8), math.log(0.12)):
            shift, _ = robust([*honest, wild], 0.0, 0.4)
            self.assertLess(abs(shift - clean), 0.05)

    def test_the_spread_of_many_honest_jobs_is_theirs(self) -> None:
        rng = np.random.default_rng(3)
        for true in (0.2, 0.45, 0.7):
            _, spread = robust(rng.normal(0.1, true, 3000), 0.0, 0.4)
            self.assertAlmostEqual(spread, true, delta=0.03)

    def test_nothing_learned_is_the_usual(self) -> None:
        self.assertEqual(learn([]).of, {})
        shift, spread = robust([], 0.0, 0.4)
        self.assertEqual(shift, 0)
        self.assertGreater(spread, USUAL_LOG_SD)

    def test_a_tier_of_its_own_leans_on_the_step(self) -> None:
        timed = [Timed("true", "sound", 45, 30)] * 30 + [Timed("true", "race", 90, 75)]
        paces = learn(timed)
        self.assertAlmostEqual(paces.factor("true", "sound"), 1.5, delta=0.05)
        self.assertTrue(1.2 < paces.factor("true", "race") < paces.factor("true", "fine") + 1e-9)
        self.assertEqual(paces.factor("settle"), 1)

    def test_times_that_nobody_timed_are_left_out(self) -> None:
        untimed = [Timed("true", "sound", taken, usual) for taken, usual in ((0, 30), (900, 30), (9, 0))]
        self.assertEqual(learn(untimed).of, {})

    def test_the_pace_moves_the_estimate(self) -> None:
        slow = Paces({"true": Pace(2.0, 0.5, 40)})
        plain = next(s for s in steps_ahead(JobFacts("true")) if s.stage == "true")
        moved = next(s for s in steps_ahead(JobFacts("true"), slow) if s.stage == "true")
        self.assertAlmostEqual(moved.median_min, 2 * plain.median_min)

    def test_waits_of_a_shop_with_slow_parts(self) -> None:
        found = learn_waits([("parts", 100.0)] * 30 + [("weather", 3.0)], jobs=100)
        self.assertAlmostEqual(found["parts"].median_h, 100, delta=8)
        self.assertTrue(USUAL_WAITS["parts"].chance < found["parts"].chance < 0.3)
        self.assertLess(found["customer"].chance, USUAL_WAITS["customer"].chance)
        self.assertNotIn("weather", found)
