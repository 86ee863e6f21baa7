"""Promises on workshops played minute by minute: kept as often as was said, and whose turn it is by three rules.

Every shop is played over again with the same wheels, minutes, answers and absences, the promises of the first play given.
"""

from __future__ import annotations

import multiprocessing
import sys
import time

import numpy as np

from felloe.core.promise.simulate import play
from tests.bench.timing import row
from tests.shop_floor import SHOPS, Floor, Kept, Rule, Shop, by_due_date, by_latest_start, first_come, kept

#: Working-in that is not counted, and the days that a shop is played [days].
FROM_DAY, DAYS = 12, 40
RULES: tuple[tuple[str, Rule], ...] = (("due date alone", by_due_date), ("first come", first_come))


def _one(task: tuple[Shop, int]) -> tuple[Shop, int, Kept, list[Kept]]:
    shop, seed = task
    wheels = Floor(shop, DAYS, seed, by_latest_start).run()
    given = {w.key: (w.promised, w.chance, w.at_line) for w in wheels if w.promised is not None}
    others = [kept(Floor(shop, DAYS, seed, rule, given).run(), FROM_DAY) for _, rule in RULES]
    return shop, seed, kept(wheels, FROM_DAY), others


def main(count: int) -> None:
    tasks = [(shop, seed) for shop in SHOPS for seed in range(1, count + 1)]
    with multiprocessing.get_context("fork").Pool(2) as pool:
        done = pool.map(_one, tasks, chunksize=1)
    line("promises", "at 80 %", "said", "kept", "all kept", "late", *(name for name, _ in RULES))
    for shop in SHOPS:
        of = [(own, others) for s, _, own, others in done if s == shop]
        weight = np.array([own.of for own, _ in of], dtype=float)

        def mean(values: list[float], weight: np.ndarray = weight) -> float:
            return float(np.average(values, weights=weight))

        own = [own for own, _ in of]
        line(
            f"{shop.name}, {int(weight.sum())}",
            f"{mean([o.at_line for o in own]):.0%}",
            f"{mean([o.stated for o in own]):.0%}",
            f"{mean([o.given for o in own]):.0%}",
            f"{mean([o.share for o in own]):.1%}",
            f"{mean([o.late_h for o in own]):.1f} h",
            *(
                f"{mean([x[i].share for _, x in of]):.1%}, {mean([x[i].late_h for _, x in of]):.1f} h"
                for i in range(len(RULES))
            ),
        )
    _speed()


def _speed() -> None:
    """A question for dates with 150 jobs open, as at the counter: both worlds."""
    floor = Floor(Shop("fast", mechanics=6, wheels_a_day=200), 1, 1, by_latest_start)
    floor.open = floor.coming[:150]
    for wheel in floor.open:
        wheel.step = 1 + int(wheel.key[1:]) % 8
        wheel.decided = wheel.step > 5
    queue = floor.queue(floor.open[-1])
    now = floor.moment(9 * 60)
    spans = []
    for _ in range(12):
        began = time.perf_counter()
        play(queue, floor.workers(), now, worlds=2)
        spans.append(time.perf_counter() - began)
    row("dates asked with 150 jobs open, median", f"{np.median(spans[2:]) * 1000:.0f} ms", "goal ≤ 200 ms")
    row("the longest of ten", f"{max(spans[2:]) * 1000:.0f} ms")


def line(name: str, *cells: str) -> None:
    print(f"  {name:<24}" + "".join(f"{cell:>16}" for cell in cells))


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else 6)
