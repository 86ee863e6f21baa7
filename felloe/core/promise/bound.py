"""The fewest jobs that can be late on one bench: what no order can beat."""

from __future__ import annotations

import heapq
from collections.abc import Sequence


def fewest_late(jobs: Sequence[tuple[float, float]]) -> int:
    """The least number late of jobs (minutes of work, minutes until due) that one bench does one after the other from now.

    Moore and Hodgson's rule: by due date, and whenever a job comes late, the longest so far is put off to the end
    (J. M. Moore, Management Science 15, 1968; M. Pinedo, *Scheduling*, ch. 3, from memory). A bound, not an order to work
    by: who is put off would wait for ever.
    """
    kept: list[float] = []
    ends = 0.0
    for work, due in sorted(jobs, key=lambda job: job[1]):
        heapq.heappush(kept, -work)
        ends += work
        if ends > due:
            ends += heapq.heappop(kept)
    return len(jobs) - len(kept)
