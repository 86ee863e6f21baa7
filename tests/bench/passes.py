"""Wheels trued by plans in the workshops: pass after pass as at the stand, each judged on the wheel as it truly is."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.measuring.sampling import next_readings
from felloe.core.mechanics.joint import EarlierSet, estimate_joint
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.practice.hands import worked
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.options import PlanOptions, suggested_step_turns
from felloe.core.truing.plan import TruingPlan, make_plan
from felloe.core.truing.tiers import TIERS, Tier
from tests.bench.workshops import WORKSHOPS, Stand

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Figures:
    """What a wheel truly measures; `over`: its highest tension over the rim's limit."""

    lateral_mm: float
    radial_mm: float
    dish_mm: float
    spread_percent: float
    over: float

    def inside(self, tier: Tier) -> bool:
        return (
            self.lateral_mm <= tier.lateral_mm
            and self.radial_mm <= tier.radial_mm
            and self.dish_mm <= tier.dish_mm
            and self.spread_percent <= tier.tension_percent
        )


def figures(virtual: VirtualWheel) -> Figures:
    angles = np.arange(0, 360, 1.0)
    spread = 0.0
    for side in Side:
        mine = virtual.tension_n[virtual.wheel.on_side(side)]
        spread = max(spread, float(np.abs(mine / mine.mean() - 1).max()) * 100)
    return Figures(
        float(np.ptp(virtual.lateral_mm(angles))),
        float(np.ptp(virtual.radial_mm(angles))),
        abs(virtual.dish_mm),
        spread,
        float(virtual.tension_n.max()) / virtual.wheel.rim.tension_cap_n,
    )


@dataclass(frozen=True)
class Trued:
    """One wheel through its passes: figures as found and after each, nipples and turns of each plan, the chance each stated,
    and how high the highest tension came over the limit on the way."""

    workshop: str
    kind: str
    seed: int
    tier: str
    found: tuple[Figures, ...]
    nipples: tuple[int, ...]
    moves: tuple[int, ...]
    stated: tuple[float, ...]
    worst_over: float
    rose: float

    def inside_after(self, passes: int, tier: Tier) -> bool:
        return self.found[passes].inside(tier)

    def nipples_until(self, tier: Tier) -> int:
        """Nipples of all passes until the wheel was inside, or of all."""
        total = 0
        for number, touched in enumerate(self.nipples, start=1):
            if self.found[number - 1].inside(tier):
                break
            total += touched
        return total


def on_the_way(virtual: VirtualWheel, plan: TruingPlan, rng: Generator, miss: float) -> tuple[float, float]:
    """The highest tension over the limit after any nipple of the walk, and by how much a spoke that stood above the limit rose
    above where it stood [N]; each turn misses like a hand's."""
    limit_n = virtual.wheel.rim.tension_cap_n
    found = virtual.tension_n
    highest, rose = float(found.max()) / limit_n, 0.0
    for move in plan.moves:
        turns = np.zeros(len(found))
        turns[virtual.wheel.index_of[move.spoke]] = move.turns * (1 + rng.normal(0, miss))
        virtual = virtual.turned(turns)
        highest = max(highest, float(virtual.tension_n.max()) / limit_n)
        rose = max(rose, float((virtual.tension_n - found)[found > limit_n].max(initial=0.0)))
    return highest, rose


def quarter_of(stand: Stand, readings: Readings, earlier: list[EarlierSet], tier: Tier) -> Readings:
    """A quarter of all readings, chosen by the advice; what earlier passes read is known beside them."""
    taken = Readings(dish=readings.dish)
    everything = {("tension", r.spoke): r for r in readings.tension}
    for kind in ("lateral", "radial"):
        for name, reading in zip(stand.wheel.names, getattr(readings, kind), strict=True):
            everything[(kind, str(name))] = reading
    while taken.count < readings.count / 4:
        asked = next_readings(estimate_joint(stand.wheel, taken, earlier), taken, tier, 4, enough_units=0.0)
        lists = {k: list(getattr(taken, k)) for k in ("tension", "lateral", "radial")}
        for following in asked:
            if (following.kind, following.spoke) in everything:
                lists[following.kind].append(everything[following.kind, following.spoke])
        if not asked:
            break
        taken = Readings(lists["tension"], lists["lateral"], lists["radial"], taken.dish)
    return taken


def true_by_plan(
    workshop: str, kind: str, seed: int, tier_name: str, passes: int, quarter: bool = False, stiffness: float = 1.0
) -> Trued:
    """True one wheel; `stiffness` makes its rim so much stiffer than the workshop drew it."""
    tier = TIERS[tier_name]
    stand = WORKSHOPS[workshop].start(kind, seed)
    virtual, rng = stand.virtual, stand.rng
    if stiffness != 1.0:
        rim = virtual.wheel.rim
        names = ("ei_lat_nm2", "ei_rad_nm2", "gj_nm2")
        rim = replace(rim, **{name: stiffness * getattr(rim, name) for name in names})
        virtual = replace(virtual, wheel=replace(virtual.wheel, rim=rim), near=None)
    found, nipples, moves, stated = [figures(virtual)], [], [], []
    earlier: list[EarlierSet] = []
    worst, rose = 0.0, 0.0
    for number in range(passes):
        readings = stand.reader.full(virtual, rng)
        if quarter:
            readings = quarter_of(stand, readings, earlier, tier)
        state = estimate_joint(stand.wheel, readings, earlier)
        plan = make_plan(state, PlanOptions(tier=tier, step_turns=suggested_step_turns(state, tier)))
        if number == 0:
            worst, rose = on_the_way(virtual, plan, np.random.default_rng(seed), stand.hand.miss)
        nipples.append(plan.nipples)
        moves.append(len(plan.moves))
        stated.append(plan.expected.chance)
        virtual = worked(virtual, plan.turns, stand.hand, rng)
        found.append(figures(virtual))
        worst = max(worst, found[-1].over)
        earlier.append(EarlierSet(readings, plan.turns))
    return Trued(workshop, kind, seed, tier_name, tuple(found), tuple(nipples), tuple(moves), tuple(stated), worst, rose)
