"""How well plans true wheels: a study over virtual wheels with fixed seeds, against two hand rules.

Every wheel has a rim of its own stiffness (±25 %), an imperfect rim, exact geometry and spokes that go slack; readings have
25 N and 0.02 mm of noise; hands miss by 4 %, threads twist their spokes with a friction of their own, and settling lets go of
70 % of what is left. Plans know none of it. An argument gives the number of wheels per kind.
"""

from __future__ import annotations

import csv
import multiprocessing
import sys
from pathlib import Path

import numpy as np

from felloe.core.measuring.sampling import next_readings
from felloe.core.mechanics.carry import carried
from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.learning import RimFactors, learn
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.hands import Hand, worked
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.curve import verdict
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan
from felloe.core.truing.tiers import FINE, SOUND, Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.bench.hand import trued_by_hand
from tests.bench.timing import row
from tests.core.wheels import influence, read_fully
from tests.progress import bar

KINDS = ("bladed-front-20", "bladed-rear-24", "disc-front-28", "disc-rear-32", "rim-brake-rear-36", "tandem-rear-40")
DOCS = Path(__file__).resolve().parents[2] / "docs"
PASSES = 3


def start_wheel(kind: str, seed: int) -> tuple[VirtualWheel, np.random.Generator]:
    rng = np.random.default_rng([seed, KINDS.index(kind)])
    slack, dish = rng.uniform(-0.1, 0.4), rng.normal(0, 0.25)
    return used_wheel(WHEEL_KINDS[kind].wheel, rng, 0.45, slack, dish), rng


def figures(virtual: VirtualWheel) -> tuple[float, float, float, float, float]:
    """True lateral and radial TIR [mm], dish [mm], worst spread [%], highest tension over the cap."""
    angles = np.arange(0, 360, 1.0)
    spread = 0.0
    for side in Side:
        mine = virtual.tension_n[virtual.wheel.on_side(side)]
        spread = max(spread, float(np.abs(mine / mine.mean() - 1).max()) * 100)
    lateral, radial = np.ptp(virtual.lateral_mm(angles)), np.ptp(virtual.radial_mm(angles))
    over = float(virtual.tension_n.max()) / virtual.wheel.rim.tension_cap_n
    return float(lateral), float(radial), abs(virtual.dish_mm), spread, over


def inside(found: tuple[float, float, float, float, float], tier: Tier) -> bool:
    limits = (tier.lateral_mm, tier.radial_mm, tier.dish_mm, tier.tension_percent)
    return all(value <= limit for value, limit in zip(found, limits, strict=False))


def quarter_of(readings: Readings, state, wheel, tier: Tier, last) -> Readings:
    """A quarter of all readings, chosen by the advice; those of earlier passes are carried over the turns."""
    taken = Readings(dish=readings.dish)
    most = readings.count / 4

    def known() -> Readings:
        return carried(state.influence, last[0], last[1], taken) if last is not None else taken

    everything = {("tension", r.spoke): r for r in readings.tension}
    for kind in ("lateral", "radial"):
        for name, reading in zip(wheel.names, getattr(readings, kind), strict=True):
            everything[(kind, str(name))] = reading
    while taken.count < most:
        now = known()
        state = estimate_state(state.influence, now)
        asked = next_readings(state, taken, tier, 4, enough_units=0.0)
        for following in asked:
            reading = everything.get((following.kind, following.spoke))
            lists = {k: list(getattr(taken, k)) for k in ("tension", "lateral", "radial")}
            if reading is not None:
                lists[following.kind].append(reading)
            taken = Readings(lists["tension"], lists["lateral"], lists["radial"], taken.dish)
        if not asked:
            break
    return known()


def by_plan(kind: str, seed: int, quarter: bool = False) -> dict[str, object]:
    """Three passes by plans; what was learnt from one goes into the next."""
    virtual, rng = start_wheel(kind, seed)
    wheel = WHEEL_KINDS[kind].wheel
    found = [figures(virtual)]
    touches, total, worst_over = [], 0.0, 0.0
    known: RimFactors | None = None
    last: tuple[Readings, np.ndarray] | None = None
    hand = Hand.drawn(virtual, rng)
    for number in range(PASSES):
        readings = read_fully(virtual, rng)
        model = influence(wheel) if known is None else influence_of(known.applied(wheel))
        state = estimate_state(model, readings)
        if quarter:
            readings = quarter_of(readings, state, wheel, SOUND, last)
            state = estimate_state(model, readings)
        elif last is not None:
            learnt = learn(wheel, last[0], readings, last[1], known)
            if learnt is not None:
                known = learnt.factors
                state = estimate_state(influence_of(known.applied(wheel)), readings)
        step = 1 / 16 if number == PASSES - 1 else 1 / 8
        plan = make_plan(state, PlanOptions(tier=FINE, step_turns=step))
        touches.append(int(np.count_nonzero(plan.turns)))
        total += plan.total_turns
        virtual = worked(virtual, plan.turns, hand, rng)
        last = (readings, plan.turns)
        found.append(figures(virtual))
        worst_over = max(worst_over, found[-1][4] if found[0][4] <= 1 else 0.0)
    return {"found": found, "touches": touches, "turns": total, "over": worst_over}


def one(task: tuple[str, str, int]) -> dict[str, object]:
    method, kind, seed = task
    if method in ("plan", "quarter"):
        return {"method": method, "kind": kind, "seed": seed, **by_plan(kind, seed, method == "quarter")}
    if method in ("bent", "straight"):
        virtual, rng = start_wheel(kind, seed)
        size = 3.0 + float(rng.uniform(0, 1)) if method == "bent" else float(rng.uniform(0, 0.7))
        virtual = virtual.dented(float(rng.uniform(0, 360)), 18.0, 0.0, size * float(rng.choice([-1, 1])))
        state = estimate_state(influence(WHEEL_KINDS[kind].wheel), read_fully(virtual, rng))
        can = verdict(state, SOUND, np.random.default_rng(1), draws=0).can
        return {"method": method, "kind": kind, "seed": seed, "right": can == (method == "straight")}
    virtual, rng = start_wheel(kind, seed)
    before = figures(virtual)
    after, touches, turns = trued_by_hand(virtual, SOUND, rng, tighten_only=method == "tighten")
    return {
        "method": method,
        "kind": kind,
        "seed": seed,
        "found": [before, figures(after)],
        "touches": [touches],
        "turns": turns,
    }


def main() -> None:
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 36
    methods = ("plan", "quarter", "hand", "tighten", "bent", "straight")
    tasks = [(m, kind, seed) for m in methods for kind in KINDS for seed in range(each if m != "quarter" else each // 2)]
    results = []
    with multiprocessing.Pool(2) as pool:
        for done, result in enumerate(pool.imap_unordered(one, tasks, chunksize=4), start=1):
            results.append(result)
            if sys.stderr.isatty() or done % 100 == 0 or done == len(tasks):
                bar(done, len(tasks))
    report(results, each)


def report(results: list[dict[str, object]], each: int) -> None:
    by = {m: [r for r in results if r["method"] == m] for m in ("plan", "quarter", "hand", "tighten", "bent", "straight")}
    plans = by["plan"]
    sound2 = np.mean([inside(r["found"][2], SOUND) for r in plans])
    fine3 = np.mean([inside(r["found"][3], FINE) for r in plans])
    quarter3 = np.mean([inside(r["found"][3], SOUND) for r in by["quarter"]])
    over = sum(r["over"] > 1.0 for r in plans)
    touches2 = np.mean([sum(r["touches"][:2]) for r in plans])
    row("wheels", f"{len(plans)}", "≥ 200")
    row("inside sound after two passes", f"{100 * sound2:.1f} %", "≥ 95 %")
    row("inside fine after three passes", f"{100 * fine3:.1f} %", "≥ 80 %")
    row("a quarter of the readings, sound after three", f"{100 * quarter3:.1f} %", "≥ 90 %")
    row("wheels ever above the cap (of those that began below)", f"{over}", "0")
    row("touches in two passes, and in three", f"{touches2:.0f}, {np.mean([sum(r['touches']) for r in plans]):.0f}")
    for name, label in (("hand", "balanced hand rule"), ("tighten", "tighten-only")):
        rows = by[name]
        runout = np.mean([all(r["found"][1][i] <= 0.5 for i in range(3)) for r in rows])
        sound = np.mean([inside(r["found"][1], SOUND) for r in rows])
        row(
            f"{label}: straight, round and centred; also even",
            f"{100 * runout:.0f} %, {100 * sound:.0f} %, {np.mean([r['touches'][0] for r in rows]):.0f} touches",
        )
    ratio = touches2 / np.mean([r["touches"][0] for r in by["hand"]])
    row("touches of the plan against the hand rule", f"{ratio:.2f}", "≤ 0.50")
    right = np.mean([r["right"] for r in by["bent"] + by["straight"]])
    row("verdict right: rim bent ≥ 3 mm, or ≤ 0.7 mm", f"{100 * right:.1f} %", "≥ 95 %")
    write_csv(results)
    draw(by)


def write_csv(results: list[dict[str, object]]) -> None:
    path = DOCS / "truing-study.csv"
    with path.open("w", newline="") as file:
        writer = csv.writer(file)
        writer.writerow(["method", "kind", "seed", "pass", "lateral_mm", "radial_mm", "dish_mm", "spread_percent", "touches"])
        for r in sorted(results, key=lambda r: (str(r["method"]), str(r["kind"]), int(r["seed"]))):
            for number, found in enumerate(r.get("found", [])):
                touched = r["touches"][number - 1] if 0 < number <= len(r["touches"]) else 0
                writer.writerow([r["method"], r["kind"], r["seed"], number, *(f"{v:.3f}" for v in found[:4]), touched])


def draw(by: dict[str, list[dict[str, object]]]) -> None:
    """Lateral TIR against spread, before and after, one cloud per method."""
    import matplotlib

    matplotlib.use("Agg")
    from matplotlib import pyplot

    figure, axes = pyplot.subplots(1, 3, figsize=(12, 4.2), sharey=True)
    for axis, (name, label, last) in zip(
        axes,
        (("plan", "two passes by plan", 2), ("hand", "balanced hand rule", 1), ("tighten", "tighten-only", 1)),
        strict=True,
    ):
        rows = by[name]
        axis.scatter([r["found"][0][3] for r in rows], [r["found"][0][0] for r in rows], s=9, c="#9a9384", label="as found")
        axis.scatter(
            [r["found"][last][3] for r in rows], [r["found"][last][0] for r in rows], s=9, c="#122226", label="as left"
        )
        axis.add_patch(pyplot.Rectangle((0, 0), 20, 0.5, color="#d5e6dc", zorder=0))
        axis.set(title=label, xlabel="worst spoke, ± % of its side", xlim=(0, 120), ylim=(0, 4))
        axis.legend(frameon=False)
    axes[0].set_ylabel("lateral TIR, mm")
    figure.tight_layout()
    figure.savefig(DOCS / "truing-study.png", dpi=90)


if __name__ == "__main__":
    main()
