"""The model's speed: influence against a general-purpose frame package, the plan, growth with the spoke count."""

from __future__ import annotations

import math

import numpy as np

from felloe.core.mechanics.estimate import estimate_state
from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.joint import EarlierSet, estimate_joint
from felloe.core.mechanics.learning import learn
from felloe.core.practice.damage import used_wheel
from felloe.core.truing.curve import straight_against_even, verdict
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.plan import make_plan, trade_off
from felloe.core.truing.tiers import RACE, SOUND
from tests.bench.timing import median, row, times_ms
from tests.core.wheels import ALL, read_fully
from tests.outside.fewest import fewest_nipples, worst_share

REAR = ALL["rim-brake-rear-36"]


def influence_against_frame() -> None:
    """One whole influence (36 columns) against the package solving the same mesh for the same 36 turns."""
    from tests.outside.frame import frame_of, orient_rim, turn_nipple

    ours = median(times_ms(lambda: influence_of(REAR, tensioned=False), 15))

    def one_column() -> object:
        model = frame_of(REAR)
        orient_rim(model, 36)
        return turn_nipple(model, REAR, 0, 1.0)

    column = median(times_ms(one_column, 5, 1))
    inf = influence_of(REAR, tensioned=False)
    found = one_column()
    worst = max(float(np.abs(getattr(inf, n)[:, 0] - found[n]).max() / np.abs(getattr(inf, n)[:, 0]).max()) for n in found)
    row("influence, 36 spokes, all columns", f"{ours:.1f} ms")
    row("frame package, one column", f"{column:.0f} ms")
    row("ratio, whole influence against a single column", f"{column / ours:.0f} ×")
    row("ratio, the same 36 columns by both", f"{36 * column / ours:.0f} ×", "goal ≥ 50 ×")
    row("largest difference between the two", f"{100 * worst:.2f} %", "goal ≤ 0.5 %")


def plan_speed() -> None:
    """The plan and the whole trade-off beyond the influence, over wheels at several stages of a job."""
    inf = influence_of(REAR)
    plans: list[float] = []
    curves: list[float] = []
    for seed in range(12):
        rng = np.random.default_rng(seed)
        virtual = used_wheel(REAR, rng, 0.35, slack_turns=0.3 * (seed % 3))
        state = estimate_state(inf, read_fully(virtual, rng))
        plans += times_ms(lambda state=state: make_plan(state), 3, 1)
        curves += times_ms(lambda state=state: trade_off(state), 2, 1)
    row("short plan, 36 spokes, median, longest", f"{median(plans):.0f}, {max(plans):.0f} ms", "≤ 60, ≤ 150 ms")
    row("curve of five and the proposed, median, longest", f"{median(curves):.0f}, {max(curves):.0f} ms", "≤ 300 ms")


def gap_to_fewest() -> None:
    """Nipples above the fewest that HiGHS proves for the finish each plan foresees, where it proves any in time."""
    gaps = []
    for key in ("small-front-20", "bladed-rear-24", "disc-front-28"):
        wheel = ALL[key]
        for seed in range(4):
            rng = np.random.default_rng(seed)
            state = estimate_state(influence_of(wheel), read_fully(used_wheel(wheel, rng, 0.25), rng))
            plan = make_plan(state, PlanOptions(limit_turns=1.0))
            cap = np.maximum(wheel.rim.tension_cap_n, state.tension_n)
            found = fewest_nipples(state, SOUND, worst_share(state, plan.turns, SOUND), 1.0, cap, 20)
            if found is not None:
                gaps.append(plan.nipples - found.at_least)
    row(
        "nipples above the fewest proven for the same foreseen finish",
        f"{np.mean(gaps):.1f}, at most {max(gaps)}",
        f"of {len(gaps)}",
    )


def estimate_speed() -> None:
    rng = np.random.default_rng(1)
    readings = read_fully(used_wheel(REAR, rng), rng)
    inf = influence_of(REAR)
    found = times_ms(lambda: estimate_state(inf, readings).figures, 15)
    row("state from 109 readings, 36 spokes", f"{median(found):.1f} ms")


def verdict_speed() -> None:
    """A rim judged anew: where it is clear, and where it stands at the edge of a tier; and the curve."""
    rng = np.random.default_rng(3)
    state = estimate_state(influence_of(REAR), read_fully(used_wheel(REAR, rng, 0.5), rng))
    for tier in (SOUND, RACE):
        made = times_ms(lambda tier=tier: verdict(state, tier, np.random.default_rng(5)), 5, 1)
        chance = verdict(state, tier, np.random.default_rng(5)).chance
        row(f"verdict against {tier.name}, chance {chance:.2f}", f"{median(made):.0f} ms", "goal ≤ 150 ms")
    row("the curve", f"{median(times_ms(lambda: straight_against_even(state, SOUND), 5, 1)):.0f} ms", "goal ≤ 80 ms")


def after_a_pass() -> None:
    """What a pass teaches of the rim, and the state from the sets before and after it together."""
    rng = np.random.default_rng(3)
    virtual, inf = used_wheel(REAR, rng, 0.4), influence_of(REAR)
    first = read_fully(virtual, rng)
    turns = make_plan(estimate_state(inf, first)).turns
    second = read_fully(virtual.turned(turns * rng.normal(1, 0.05, REAR.spoke_count)), rng)
    learnt = times_ms(lambda: learn(REAR, first, second, turns), 9)
    joint = times_ms(lambda: estimate_joint(REAR, second, [EarlierSet(first, turns)]), 9)
    row("what a pass teaches", f"{median(learnt):.0f} ms", "goal ≤ 50 ms")
    row("the state from two sets with a pass between", f"{median(joint):.0f} ms")


def growth() -> None:
    """Exponent of the plan's cost in the spoke count, from 20 to 40 spokes."""
    points = []
    for key in ("small-front-20", "disc-front-28", "rim-brake-rear-36", "tandem-rear-40"):
        wheel = ALL[key]
        inf = influence_of(wheel)
        runs: list[float] = []
        for seed in range(6):
            rng = np.random.default_rng(seed)
            state = estimate_state(inf, read_fully(used_wheel(wheel, rng, 0.35), rng))
            runs += times_ms(lambda state=state: make_plan(state, PlanOptions(limit_turns=1.0)), 2, 1)
        points.append((math.log(wheel.spoke_count), math.log(median(runs))))
    x, y = np.array(points).T
    row("plan's cost grows with the spoke count to the power", f"{np.polyfit(x, y, 1)[0]:.1f}", "goal ≤ 3")


if __name__ == "__main__":
    print("model")
    influence_against_frame()
    estimate_speed()
    after_a_pass()
    verdict_speed()
    plan_speed()
    gap_to_fewest()
    growth()
