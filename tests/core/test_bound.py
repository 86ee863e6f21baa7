"""The fewest late jobs on one bench, against every order tried, and how far the rail's order stays from it."""

from __future__ import annotations

import random
import unittest
from datetime import UTC, datetime, timedelta
from itertools import permutations

from felloe.core.promise.bound import fewest_late
from felloe.core.promise.sequence import Hanging, in_order

START = datetime(2026, 3, 2, 9, tzinfo=UTC)


def late(order: list[tuple[float, float]]) -> int:
    ends, count = 0.0, 0
    for work, due in order:
        ends += work
        count += ends > due
    return count


def by_the_rail(jobs: list[tuple[float, float]]) -> list[tuple[float, float]]:
    hung = [
        Hanging(str(i), START, promised_at=START + timedelta(minutes=due), work_min=work) for i, (work, due) in enumerate(jobs)
    ]
    return [jobs[int(job.job_id)] for job in in_order(hung)]


class FewestLate(unittest.TestCase):
    def test_no_order_of_all_has_fewer(self) -> None:
        rng = random.Random(2)
        for _ in range(120):
            jobs = [(rng.randint(5, 90), rng.randint(10, 240)) for _ in range(rng.randint(1, 6))]
            self.assertEqual(fewest_late(jobs), min(late(list(order)) for order in permutations(jobs)), jobs)

    def test_of_none_none(self) -> None:
        self.assertEqual(fewest_late([]), 0)

    def test_promises_with_room_can_all_be_kept_and_the_rails_order_never_beats_the_bound(self) -> None:
        rng = random.Random(3)
        for _ in range(300):
            jobs = [(rng.uniform(10, 80), 0.0) for _ in range(8)]
            # Promises as they are given: after the work before them, with room.
            ends, given = 0.0, []
            for work, _ in jobs:
                ends += work
                given.append((work, ends + rng.uniform(0, 120)))
            rng.shuffle(given)
            self.assertEqual(fewest_late(given), 0)
            crowded = [(work, due * rng.uniform(0.4, 1.0)) for work, due in given]
            self.assertGreaterEqual(late(by_the_rail(crowded)), fewest_late(crowded))
