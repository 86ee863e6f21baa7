"""From slack to finished: laps and plans against the trade's way, on wheels laced until their spokes begin to pull.

The trade's way: every nipple alike by halves, then quarters, the tight side by as much more as statics asks; from half the
tension on the wheel is trued by eye and dial as it comes, dish looked at each time; the meter on six spokes says when it is
tight; spokes are squeezed between laps (common practice, no source). Both count minutes by one measure.
"""

from __future__ import annotations

import multiprocessing
import sys
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.mechanics.influence import influence_of
from felloe.core.mechanics.joint import EarlierSet, estimate_joint
from felloe.core.naming import Side
from felloe.core.practice.hands import Hand, settled, worked
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.laps import laps_ahead, mean_share
from felloe.core.truing.minutes import ALIKE_NIPPLE_MIN, LOOK_MIN, NIPPLE_MIN, READ_MIN, SETTLE_MIN
from felloe.core.truing.options import PlanOptions, suggested_step_turns
from felloe.core.truing.plan import make_plan
from felloe.core.truing.tiers import TIERS, Tier
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.bench.hand import trued_by_hand
from tests.bench.passes import Figures, figures
from tests.bench.timing import row
from tests.bench.workshops import FIRST_KINDS, Reader
from tests.progress import bar

Array = NDArray[np.float64]

#: Passes and laps that are given up after; and how near the mean is to come to its target.
MOST_PASSES, MEAN_WITHIN = 12, 0.1
#: So much of all laps is taken back: quite without tension a virtual wheel has no balance.
TAKEN_BACK = 0.78
#: A look at rim and dish without a meter, and a meter on six spokes [min]. Common practice, no source.
EYE_MIN, SIX_SPOKES_MIN = 1.5, 0.5


@dataclass(frozen=True)
class Built:
    """One wheel from slack: nipples turned in all, minutes, passes, the figures at the end, the tight side's mean over its
    target, and the highest tension on the way over the limit."""

    kind: str
    nipples: int
    minutes: float
    passes: int
    after: Figures
    mean_share: float
    worst_over: float

    def finished(self, tier: Tier) -> bool:
        return self.after.inside(tier) and abs(self.mean_share - 1) <= MEAN_WITHIN and self.worst_over <= 1


def laced(kind: str, seed: int) -> tuple[VirtualWheel, Hand, Generator]:
    """A wheel whose spokes begin to pull: slack by most of its laps, each nipple an eighth or so from where it should be."""
    rng = np.random.default_rng([41, seed, FIRST_KINDS.index(kind)])
    wheel = WHEEL_KINDS[kind].wheel
    rim = replace(wheel.rim, ei_lat_nm2=wheel.rim.ei_lat_nm2 * float(np.exp(rng.normal(0, 0.15))))
    virtual = VirtualWheel.ideal(replace(wheel, rim=rim))
    virtual = virtual.bent(
        {m: complex(*rng.normal(0, 0.15 / m, 2)) for m in range(2, 6)}, {2: complex(*rng.normal(0, 0.06, 2))}
    )
    laps = laps_ahead(influence_of(wheel))
    back = {Side.RIGHT: sum(lap.right_turns for lap in laps), Side.LEFT: sum(lap.left_turns for lap in laps)}
    turns = -TAKEN_BACK * np.array([back[name.side] for name in wheel.names]) + rng.normal(0, 0.12, wheel.spoke_count)
    return virtual.turned(turns), Hand.drawn(virtual, rng), rng


def tight_share(virtual: VirtualWheel) -> float:
    wheel = virtual.wheel
    tight = tight_side(wheel)
    return float(virtual.tension_n[wheel.on_side(tight)].mean()) / side_targets_n(wheel)[tight]


def by_laps(kind: str, seed: int, tier: Tier) -> Built:
    """By the laps and plans of Felloe, read after each."""
    virtual, hand, rng = laced(kind, seed)
    wheel = WHEEL_KINDS[kind].wheel
    reader = Reader()
    nipples, minutes, passes, worst = 0, 0.0, 0, 0.0
    earlier: list[EarlierSet] = []
    for _ in range(MOST_PASSES):
        readings = reader.full(virtual, rng)
        minutes += READ_MIN
        state = estimate_joint(wheel, readings, earlier)
        mode = "build" if mean_share(state) < 0.94 else "balanced"
        step = suggested_step_turns(state, tier) if mode == "balanced" else 1 / 8
        plan = make_plan(state, PlanOptions(tier=tier, mode=mode, step_turns=step))
        if not plan.moves:
            break
        passes += 1
        nipples += len(plan.moves)
        minutes += plan.minutes + SETTLE_MIN
        virtual = worked(virtual, plan.turns, hand, rng)
        worst = max(worst, figures(virtual).over)
        # Slack spokes hide how far they are turned: only readings under tension are carried on.
        earlier = [*earlier, EarlierSet(readings, plan.turns)] if mode == "balanced" else []
    return Built(kind, nipples, minutes, passes, figures(virtual), tight_share(virtual), worst)


def by_the_trade(kind: str, seed: int, tier: Tier) -> Built:
    """By the trade's way."""
    virtual, hand, rng = laced(kind, seed)
    wheel = WHEEL_KINDS[kind].wheel
    count = wheel.spoke_count
    laps = laps_ahead(influence_of(wheel))
    ratio = {Side.RIGHT: laps[0].right_turns, Side.LEFT: laps[0].left_turns}
    most = max(ratio.values())
    nipples, minutes, passes, worst = 0, 0.0, 0, 0.0
    for _ in range(MOST_PASSES):
        sample = rng.choice(np.flatnonzero(wheel.on_side(tight_side(wheel))), 6, replace=False)
        read = float((virtual.tension_n[sample] + rng.normal(0, 25, 6)).mean()) / side_targets_n(wheel)[tight_side(wheel)]
        minutes += SIX_SPOKES_MIN
        if read < 0.93:
            size = 0.5 if read < 0.5 else 0.25 if read < 0.8 else 0.125
            turns = np.array([round(8 * size * ratio[name.side] / most) / 8 for name in wheel.names])
            virtual = settled(worked(virtual, turns, hand, rng))
            nipples += int(np.count_nonzero(turns))
            minutes += ALIKE_NIPPLE_MIN * count + LOOK_MIN + SETTLE_MIN
            passes += 1
        if read > 0.4:
            near = tier if read >= 0.93 else TIERS["roadworthy"]
            virtual, touches, _ = trued_by_hand(virtual, near, rng, tighten_only=False)
            nipples += touches
            minutes += NIPPLE_MIN * touches + EYE_MIN * (1 + touches / 5)
            passes += 1
        worst = max(worst, figures(virtual).over)
        if read >= 0.93 and abs(tight_share(virtual) - 1) <= MEAN_WITHIN:
            break
    return Built(kind, nipples, minutes, passes, figures(virtual), tight_share(virtual), worst)


def one(task: tuple[str, str, int]) -> tuple[str, Built]:
    way, kind, seed = task
    return way, (by_laps if way == "laps" else by_the_trade)(kind, seed, TIERS["sound"])


def main() -> None:
    each = int(sys.argv[1]) if len(sys.argv) > 1 else 4
    tasks = [(way, kind, seed) for way in ("laps", "trade") for kind in FIRST_KINDS for seed in range(each)]
    results: dict[str, list[Built]] = {"laps": [], "trade": []}
    with multiprocessing.Pool(2) as pool:
        for done, (way, built) in enumerate(pool.imap_unordered(one, tasks), start=1):
            results[way].append(built)
            if sys.stderr.isatty() or done % 50 == 0:
                bar(done, len(tasks))
    sound = TIERS["sound"]
    row("wheels from slack, each way", f"{len(results['laps'])}")
    for way, found in results.items():
        said = {"laps": "laps and plans", "trade": "the trade's way"}[way]
        row(f"{said}: inside sound, tight, never over", f"{100 * np.mean([b.finished(sound) for b in found]):.0f} %")
        row(f"{said}: straight, round and centred alone", f"{100 * np.mean([_shape(b, sound) for b in found]):.0f} %")
        row(f"{said}: spread, median", f"± {np.median([b.after.spread_percent for b in found]):.0f} %")
        row(f"{said}: mean over target, least and most", f"{min(_means(found)):.2f} to {max(_means(found)):.2f}")
        row(f"{said}: limit passed on the way", f"{sum(b.worst_over > 1 for b in found)} of {len(found)}")
        row(f"{said}: nipples turned, median", f"{np.median([b.nipples for b in found]):.0f}")
        row(f"{said}: passes and laps, median", f"{np.median([b.passes for b in found]):.0f}")
        row(f"{said}: minutes by one measure, median", f"{np.median([b.minutes for b in found]):.0f}")


def _means(found: list[Built]) -> list[float]:
    return [built.mean_share for built in found]


def _shape(built: Built, tier: Tier) -> bool:
    after = built.after
    return after.lateral_mm <= tier.lateral_mm and after.radial_mm <= tier.radial_mm and after.dish_mm <= tier.dish_mm


if __name__ == "__main__":
    main()
