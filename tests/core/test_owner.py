"""The owner's numbers, against tables and other packages."""

from __future__ import annotations

import random
import unittest
from datetime import UTC, datetime, timedelta

import numpy as np
from scipy.stats import binomtest

from felloe.core.owner.comebacks import Visit, comebacks
from felloe.core.owner.shares import kept, quantile, ratio, share

START = datetime(2026, 3, 2, tzinfo=UTC)


class Shares(unittest.TestCase):
    def test_the_interval_is_scipys(self) -> None:
        for hits, of in ((0, 1), (1, 1), (3, 7), (0, 30), (29, 30), (80, 100), (4999, 5000)):
            found, other = share(hits, of), binomtest(hits, of).proportion_ci(method="wilson")
            self.assertAlmostEqual(found.low or 0.0, other.low, 12)
            self.assertAlmostEqual(found.high or 0.0, other.high, 12)
            self.assertEqual(found.share, hits / of)

    def test_of_nothing_nothing_is_said(self) -> None:
        self.assertEqual((share(0, 0).share, share(0, 0).low), (None, None))
        for hits, of in ((2, 1), (-1, 4)):
            with self.assertRaises(ValueError):
                share(hits, of)

    def test_quantiles_are_numpys(self) -> None:
        rng = random.Random(1)
        for n in (1, 2, 3, 10, 37):
            values = [rng.gauss(0, 3) for _ in range(n)]
            for q in (0, 0.1, 0.5, 0.9, 1):
                self.assertAlmostEqual(quantile(values, q) or 0.0, float(np.quantile(values, q)), 12)
        self.assertIsNone(quantile([], 0.5))

    def test_taken_over_estimated(self) -> None:
        self.assertEqual(ratio([(30, 20), (10, 10), (5, 10), (0, 10), (7, 0)]), 1.0)
        self.assertIsNone(ratio([(0, 0)]))


class Kept(unittest.TestCase):
    def test_by_the_promise_and_to_the_minute(self) -> None:
        minute = timedelta(minutes=1)
        found = kept([(START, START), (START + minute, START), (START, START + minute), (START, None)])
        self.assertEqual((found.hits, found.of), (2, 3))


class Comebacks(unittest.TestCase):
    def visit(self, wheel: str, came: float, left: float | None, cause: str = "", repaired: bool = True) -> Visit:
        at = START + timedelta(days=came)
        return Visit(wheel, at, None if left is None else START + timedelta(days=left), repaired, cause)

    def count(self, *visits: Visit, until: float = 400) -> tuple[int, int, dict[str, int]]:
        return comebacks(visits, START, START + timedelta(days=until))

    def test_within_ninety_days_and_by_what_was_found_then(self) -> None:
        found = self.count(
            self.visit("a", 0, 2), self.visit("a", 30, 31, "broken_spoke"), self.visit("a", 200, None, "buckled"),
            self.visit("b", 0, 1), self.visit("b", 91, None), self.visit("c", 5, 6),
            self.visit("d", 0, 1), self.visit("d", 92, None),
        )  # fmt: skip
        self.assertEqual(found, (5, 2, {"broken_spoke": 1, "not_known": 1}))

    def test_what_was_not_repaired_does_not_come_back(self) -> None:
        self.assertEqual(self.count(self.visit("a", 0, 2, repaired=False), self.visit("a", 3, 4)), (1, 0, {}))

    def test_a_second_tag_on_a_wheel_that_is_here_is_no_comeback(self) -> None:
        self.assertEqual(self.count(self.visit("a", 0, 10), self.visit("a", 4, 12)), (2, 0, {}))

    def test_only_repairs_of_the_days_asked_for(self) -> None:
        before = self.visit("a", -40, -10)
        self.assertEqual(self.count(before, self.visit("a", 3, None, "buckled")), (0, 0, {}))
        self.assertEqual(self.count(self.visit("a", 0, 400), self.visit("a", 401, None)), (0, 0, {}))
