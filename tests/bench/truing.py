"""How well plans true wheels: a study over virtual wheels with fixed seeds in three workshops, against two hand rules.

The first two workshops (tests.bench.workshops) are there to work on, the third is kept apart and judges. Plans know nothing of
a wheel but its readings. An argument gives the number of wheels per kind; six kinds in each workshop.
"""

from __future__ import annotations

import csv
import multiprocessing
import sys
from pathlib import Path
from typing import Any

import numpy as np

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.truing.curve import verdict
from felloe.core.truing.tiers import FINE, SOUND, TIERS, Tier
from tests.bench.hand import trued_by_hand
from tests.bench.passes import Figures, Trued, figures, true_by_plan
from tests.bench.reach import best_share
from tests.bench.timing import row
from tests.bench.workshops import WORKSHOPS
from tests.core.wheels import influence
from tests.progress import bar

DOCS = Path(__file__).resolve().parents[2] / "docs"
#: Passes that each tier is given.
PASSES = {"sound": 2, "fine": 3, "race": 4}
Task = tuple[str, str, str, int]


def one(task: Task) -> tuple[str, Any]:
    method, workshop, kind, seed = task
    if method in PASSES:
        return method, true_by_plan(workshop, kind, seed, method, PASSES[method])
    if method == "quarter":
        return method, true_by_plan(workshop, kind, seed, "sound", 3, quarter=True)
    if method == "quarter fine":
        return method, true_by_plan(workshop, kind, seed, "fine", 3, quarter=True)
    if method == "half stiff":
        return method, true_by_plan(workshop, kind, seed, "fine", 3, stiffness=0.5)
    stand = WORKSHOPS[workshop].start(kind, seed)
    if method == "reach":
        return method, {tier: best_share(stand.virtual, TIERS[tier]) for tier in PASSES}
    if method in ("bent", "straight"):
        size = 3.0 + float(stand.rng.uniform(0, 1)) if method == "bent" else float(stand.rng.uniform(0, 0.7))
        virtual = stand.virtual.dented(float(stand.rng.uniform(0, 360)), 18.0, 0.0, size * float(stand.rng.choice([-1, 1])))
        state = estimate_state(influence(stand.wheel), stand.reader.full(virtual, stand.rng))
        return method, verdict(state, SOUND, np.random.default_rng(1), draws=0).can == (method == "straight")
    before = figures(stand.virtual)
    after, touches, _ = trued_by_hand(stand.virtual, SOUND, stand.rng, tighten_only=method == "tighten")
    return method, (before, figures(after), touches)


def main() -> None:
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 17
    tasks: list[Task] = [
        (tier, shop, kind, seed)
        for tier in PASSES
        for shop in WORKSHOPS
        for kind in WORKSHOPS[shop].kinds
        for seed in range(each)
    ]
    first = WORKSHOPS["first"].kinds
    for method in ("quarter", "quarter fine", "half stiff"):
        tasks += [(method, "first", kind, seed) for kind in first for seed in range(max(1, each // 2))]
    for method in ("hand", "tighten", "bent", "straight"):
        tasks += [(method, "first", kind, seed) for kind in first for seed in range(max(1, each // 2))]
    for shop in WORKSHOPS:
        tasks += [("reach", shop, kind, seed) for kind in WORKSHOPS[shop].kinds for seed in range(max(1, each // 3))]
    results: list[tuple[Task, Any]] = []
    with multiprocessing.Pool(2) as pool:
        for done, (task, found) in enumerate(zip(tasks, pool.imap(one, tasks, chunksize=4), strict=False), start=1):
            results.append((task, found[1]))
            if sys.stderr.isatty() or done % 100 == 0 or done == len(tasks):
                bar(done, len(tasks))
    report(results)


def report(results: list[tuple[Task, Any]]) -> None:
    def of(method: str, shop: str = "") -> list[Any]:
        return [found for task, found in results if task[0] == method and shop in ("", task[1])]

    row("wheels in three workshops", f"{len(of('sound'))}", "≥ 300")
    for shop in WORKSHOPS:
        sound, fine, race = of("sound", shop), of("fine", shop), of("race", shop)
        reach = of("reach", shop)
        can = [100 * np.mean([r[t] <= 1 for r in reach]) for t in PASSES]
        row(
            f"{shop}: inside sound after one, two",
            f"{_share(sound, 1)}, {_share(sound, 2)} (possible {can[0]:.0f})",
            "≥ 75, ≥ 99 %",
        )
        row(f"{shop}: inside fine after three", f"{_share(fine, 3)} (possible {can[1]:.0f})", "≥ 95 %")
        row(f"{shop}: inside race after four", f"{_share(race, 4)} (possible {can[2]:.0f})", "≥ 75 %")
        row(f"{shop}: nipples until sound, until fine", f"{_until(sound, SOUND)}, {_until(fine, FINE)}", "≤ 16, ≤ 26")
    every: list[Trued] = [*of("sound"), *of("fine"), *of("race")]
    for low, high, middle in ((0.4, 0.6, 50), (0.7, 0.86, 80), (0.86, 0.94, 90)):
        said, found = _calibration(every, low, high)
        row(
            f"chance stated near {middle} %: stated, found",
            f"{100 * np.mean(said):.0f}, {100 * np.mean(found):.0f} % of {len(said)}",
            "within 5",
        )
    below = [r for r in every if r.found[0].over <= 1]
    over = [r for r in below if r.worst_over > 1]
    worst = max((r.worst_over for r in below), default=1.0)
    row(
        "limit passed on the way, of those that began below it",
        f"{len(over)} of {len(below)}, at worst {100 * (worst - 1):+.1f} %",
        "≤ 1 %",
    )
    rose = [r for r in every if r.found[0].over > 1]
    row("above the limit at first: rose by more than 10 N on the way", f"{sum(r.rose > 10 for r in rose)} of {len(rose)}", "0")
    row("a rim half as stiff as thought: fine after three", _share(of("half stiff"), 3), "≥ 85 %")
    row(
        "a quarter of the readings: sound, fine after three",
        f"{_share(of('quarter'), 3)}, {_share(of('quarter fine'), 3)}",
        "keep, ≥ 70 %",
    )
    for name, label in (("hand", "balanced hand rule"), ("tighten", "tighten-only")):
        rows = of(name)
        straight = np.mean([max(f.lateral_mm, f.radial_mm, f.dish_mm) <= 0.5 for _, f, _ in rows])
        even = np.mean([f.inside(SOUND) for _, f, _ in rows])
        touches = np.mean([t for *_, t in rows])
        row(
            f"{label}: straight, round, centred; also even",
            f"{100 * straight:.0f} %, {100 * even:.0f} %, {touches:.0f} touches",
        )
    row("verdict right: rim bent ≥ 3 mm, or ≤ 0.7 mm", f"{100 * np.mean(of('bent') + of('straight')):.1f} %", "≥ 95 %")
    write_csv(results)
    draw(of("sound", "first"), of("hand"), of("tighten"))


def _share(found: list[Trued], passes: int) -> str:
    return f"{100 * np.mean([r.found[passes].inside(TIERS[r.tier]) for r in found]):.1f} %"


def _until(found: list[Trued], tier: Tier) -> str:
    return f"{np.median([r.nipples_until(tier) for r in found]):.0f}"


def _calibration(found: list[Trued], low: float, high: float) -> tuple[list[float], list[bool]]:
    said, true = [], []
    for r in found:
        for number, chance in enumerate(r.stated):
            if low <= chance <= high:
                said.append(chance)
                true.append(r.found[number + 1].inside(TIERS[r.tier]))
    return said, true


def write_csv(results: list[tuple[Task, Any]]) -> None:
    path = DOCS / "truing-study.csv"
    with path.open("w", newline="") as file:
        writer = csv.writer(file)
        figures_named = ["lateral_mm", "radial_mm", "dish_mm", "spread_percent"]
        writer.writerow(["tier", "workshop", "kind", "seed", "pass", *figures_named, "nipples", "chance_stated"])
        for (method, *_), found in results:
            if method not in PASSES:
                continue
            for number, f in enumerate(found.found):
                last = number - 1
                touched, chance = (found.nipples[last], found.stated[last]) if number else (0, 0.0)
                values = (f"{v:.3f}" for v in (f.lateral_mm, f.radial_mm, f.dish_mm, f.spread_percent))
                writer.writerow([method, found.workshop, found.kind, found.seed, number, *values, touched, f"{chance:.2f}"])


def draw(plans: list[Trued], hand: list[Any], tighten: list[Any]) -> None:
    """Lateral TIR against spread, before and after, one cloud per method."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import pyplot

    clouds: list[tuple[str, list[tuple[Figures, Figures]]]] = [
        ("two passes by plan", [(r.found[0], r.found[2]) for r in plans]),
        ("balanced hand rule", [(before, after) for before, after, _ in hand]),
        ("tighten-only", [(before, after) for before, after, _ in tighten]),
    ]
    figure, axes = pyplot.subplots(1, 3, figsize=(12, 4.2), sharey=True)
    for axis, (label, pairs) in zip(axes, clouds, strict=True):
        for at, colour, name in ((0, "#9a9384", "as found"), (1, "#122226", "as left")):
            axis.scatter([p[at].spread_percent for p in pairs], [p[at].lateral_mm for p in pairs], s=9, c=colour, label=name)
        axis.add_patch(pyplot.Rectangle((0, 0), 20, 0.5, color="#d5e6dc", zorder=0))
        axis.set(title=label, xlabel="worst spoke, ± % of its side", xlim=(0, 120), ylim=(0, 4))
        axis.legend(frameon=False)
    axes[0].set_ylabel("lateral TIR, mm")
    figure.tight_layout()
    figure.savefig(DOCS / "truing-study.png", dpi=90)


if __name__ == "__main__":
    main()
