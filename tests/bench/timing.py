"""Timing for benches: medians of repeated runs in one process, so that machines compare as ratios."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable


def times_ms(run: Callable[[], object], repeats: int, warm_up: int = 2) -> list[float]:
    """Milliseconds of each of `repeats` runs, after `warm_up` unmeasured ones."""
    for _ in range(warm_up):
        run()
    found = []
    for _ in range(repeats):
        start = time.perf_counter()
        run()
        found.append((time.perf_counter() - start) * 1e3)
    return found


def median(values: list[float]) -> float:
    return statistics.median(values)


def percentile(values: list[float], percent: float) -> float:
    ordered = sorted(values)
    return ordered[min(len(ordered) - 1, round(percent / 100 * (len(ordered) - 1)))]


def row(name: str, found: str, goal: str = "") -> None:
    """One line of a bench's table."""
    print(f"  {name:<58} {found:>16}  {goal}")
