"""How well live truing does, beside the pass-wise plan on the same wheels; and which slips of the hand it notices.

An argument gives the number of wheels per kind (default 4), six kinds in each of three workshops; the third is kept apart.
"""

from __future__ import annotations

import multiprocessing
import sys
from dataclasses import replace
from typing import Any

import numpy as np

from felloe.core.mechanics.follow import Followed
from felloe.core.mechanics.joint import estimate_joint
from felloe.core.mechanics.mistaken import mistaken
from felloe.core.practice.hands import worked
from felloe.core.truing.tiers import TIERS
from tests.bench.live import LiveTrued, trace, true_live
from tests.bench.passes import Trued, true_by_plan
from tests.bench.timing import row
from tests.bench.workshops import WORKSHOPS
from tests.progress import bar


def _row(name: str, value: float, unit: str = "") -> None:
    row(name, f"{value:.1f} {unit}".strip())


PASSES = {"sound": 2, "fine": 3}
#: A pass turns the wheel once for each of: tensions, lateral, radial. Live begins from one such reading.
SPINS_A_PASS = 3
Task = tuple[str, str, str, int]


def one(task: Task) -> tuple[Task, Any]:
    what, workshop, kind, seed = task
    if what == "slips":
        return task, slips(workshop, kind, seed)
    way, tier, *dials = what.split()
    if way == "pass":
        return task, true_by_plan(workshop, kind, seed, tier, PASSES[tier])
    return task, true_live(workshop, kind, seed, tier, tuple(dials))


def slips(workshop: str, kind: str, seed: int) -> list[tuple[str, bool]]:
    """One nipple turned by a quarter or half, as noted and otherwise: what was done, and whether it was told right."""
    stand = WORKSHOPS[workshop].start(kind, seed)
    rng, count = stand.rng, stand.wheel.spoke_count
    before = Followed.begun(estimate_joint(stand.wheel, stand.reader.full(stand.virtual, rng)))
    hand = replace(stand.hand, settles=0.0)
    found = []
    for size in (0.25, 0.5):
        place = int(rng.integers(count))
        done = {"as noted": (place, size), "not turned": (place, 0.0), "other way": (place, -size)}
        done["neighbour"] = ((place + int(rng.choice([-2, -1, 1, 2]))) % count, size)
        for name, (really, turns) in done.items():
            one_turn = np.zeros(count)
            one_turn[really] = turns
            seen = trace(worked(stand.virtual, one_turn, hand, rng), stand.reader, rng, ("lateral",), 0)
            told = mistaken(before, place, size, seen)
            right = told is None if name == "as noted" else told is not None and (told.place, told.turns) == (really, turns)
            found.append((f"{name}, {size:g}", right))
    return found


def main() -> None:
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 4
    wheels = [(shop, kind, 500 + seed) for shop in WORKSHOPS for kind in WORKSHOPS[shop].kinds for seed in range(each)]
    ways = [f"{way} {tier}" for tier in PASSES for way in ("pass", "live")]
    ways = [way + (" lateral radial" if way.startswith("live") else "") for way in ways] + ["live sound lateral", "slips"]
    tasks = [(way, *wheel) for way in ways for wheel in wheels]
    results: dict[tuple[str, str], list[Any]] = {}
    with multiprocessing.Pool() as pool:
        for done, (task, found) in enumerate(pool.imap_unordered(one, tasks, chunksize=1), start=1):
            results.setdefault((task[0], task[1]), []).append(found)
            if sys.stderr.isatty() or done % 50 == 0:
                bar(done, len(tasks))
    for way in ways[:-1]:
        tier = TIERS[way.split()[1]]
        for shop in WORKSHOPS:
            found = results[way, shop]
            _row(f"{way}, {shop}, wheels", float(len(found)), "")
            if way.startswith("live"):
                _live_rows(way, shop, found, tier)
            else:
                _pass_rows(way, shop, found, tier)
    told: dict[str, list[bool]] = {}
    for shop in WORKSHOPS:
        for one_wheel in results["slips", shop]:
            for name, right in one_wheel:
                told.setdefault(name, []).append(right)
    for name, rights in told.items():
        _row(f"told right: {name} of a turn", 100 * float(np.mean(rights)), "%")


def _live_rows(way: str, shop: str, found: list[LiveTrued], tier: Any) -> None:
    _row(f"{way}, {shop}: truly inside at the end", 100 * float(np.mean([t.after.inside(tier) for t in found])), "%")
    _row(f"{way}, {shop}: said enough", 100 * float(np.mean([t.enough for t in found])), "%")
    said = [t.after.inside(tier) for t in found if t.enough]
    _row(f"{way}, {shop}: truly inside of those", 100 * float(np.mean(said)) if said else 0.0, "%")
    _row(f"{way}, {shop}: nipples, median", float(np.median([t.touches for t in found])), "")
    _row(f"{way}, {shop}: turns of the wheel, median", float(np.median([t.spins for t in found])), "")
    _row(f"{way}, {shop}: spokes read by the way, mean", float(np.mean([t.meter for t in found])), "")
    below = [t.worst_over for t in found if t.before.over <= 1]
    _row(f"{way}, {shop}: limit passed on the way, of {len(below)}", float(sum(over > 1 for over in below)), "")
    _row(f"{way}, {shop}: an answer, middle", 1000 * float(np.median([t.middle_s for t in found])), "ms")
    _row(f"{way}, {shop}: the slowest", 1000 * max(t.slowest_s for t in found), "ms")


def _pass_rows(way: str, shop: str, found: list[Trued], tier: Any) -> None:
    passes = PASSES[way.split()[1]]
    _row(
        f"{way}, {shop}: truly inside after {passes}", 100 * float(np.mean([t.inside_after(passes, tier) for t in found])), "%"
    )
    _row(f"{way}, {shop}: nipples until inside, median", float(np.median([t.nipples_until(tier) for t in found])), "")
    needed = [next((n for n in range(passes + 1) if t.found[n].inside(tier)), passes) for t in found]
    _row(f"{way}, {shop}: turns of the wheel, median", float(np.median([SPINS_A_PASS * (n + 1) for n in needed])), "")


if __name__ == "__main__":
    main()
