"""How to plan: the tier to reach, what a hand can turn, which nipples may be turned, and how surely."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.objective import MODES
from felloe.core.truing.sign_off import not_measured
from felloe.core.truing.tiers import SOUND, Tier

#: What a tier speaks of.
FIGURES = ("lateral", "radial", "dish", "tension")
#: Where no tension was read no nipple is turned further in one pass: the hand feels no limit. Common practice, no source.
UNREAD_LIMIT_TURNS = 0.5
#: Steps that a mechanic can turn by eye.
STEPS_TURNS: tuple[float, ...] = (1 / 4, 1 / 8, 1 / 16)
#: Largest turn of one pass that may be asked for.
MAX_PASS_LIMIT_TURNS = 2.0
#: What may be asked for as the chance to be inside; below the half a plan is a guess.
LEAST_CHANCE, MOST_CHANCE = 0.5, 0.99
#: A tier whose lateral is no wider than this is narrow: an eighth moves a rim by a third of it.
NARROW_TIER_MM = 0.3
#: A wheel is out where its worst figure is this share of what the tier allows.
FAR_OUT = 1.2
#: A ride-home plan stays so near the gap, touches so few nipples, each by so much at most: at the roadside.
#: Common practice, no source.
RIDE_HOME_HOLES, RIDE_HOME_NIPPLES, RIDE_HOME_LIMIT_TURNS = 5, 6, 1.0
#: No spoke is planned below this share of its side's target: a slacker spoke lets its nipple unwind.
FLOOR_SHARE = 0.2


@dataclass(frozen=True)
class PlanOptions:
    """How to plan.

    `mode`: one of MODES, the schools of hand work. `between`: first and last spoke of the stretch for "local", in
    the direction of travel. `step_turns`: every turn is a multiple of it. `limit_turns`: most for one nipple in this
    pass; None chooses by how far out the wheel is. `chance`: how surely the wheel is to be inside its tier after the pass.
    `nipples`: touch at most so many; None takes the fewest that are enough. `untouchable`: names of seized or broken
    spokes' nipples.
    `target_share`: how much of the target tension this pass goes for; less than 1 for a wheel under construction.
    `unread`: figures (of FIGURES) of which nothing or too little was read: they are not to be spoilt, and the plan claims
    nothing of them.
    `by_eye`: figures that were only told by eye: they are taken as they were told, and no chance is stated.
    """

    tier: Tier = SOUND
    step_turns: float = 1 / 8
    limit_turns: float | None = None
    chance: float = 0.9
    nipples: int | None = None
    untouchable: frozenset[str] = frozenset()
    mode: str = "balanced"
    between: tuple[str, str] | None = None
    target_share: float = 1.0
    unread: frozenset[str] = frozenset()
    by_eye: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        if self.mode not in MODES:
            raise BadReading(say("the mode must be one of {modes}", modes=joined(", ", MODES)), "mode")
        if (self.mode == "local") != (self.between is not None):
            raise BadReading(say("a local plan needs the first and the last spoke of its stretch, and only it does"), "between")
        if not any(abs(self.step_turns - s) < 1e-9 for s in STEPS_TURNS):
            raise BadReading(say("the step must be 1/4, 1/8 or 1/16 of a turn"), "step_turns")
        if self.limit_turns is not None and not self.step_turns <= self.limit_turns <= MAX_PASS_LIMIT_TURNS:
            raise BadReading(
                say(
                    "the limit of a pass must lie between one step and {max_pass_limit_turns:g} turns; found {limit_turns:g}",
                    max_pass_limit_turns=MAX_PASS_LIMIT_TURNS,
                    limit_turns=self.limit_turns,
                ),
                "limit_turns",
            )
        if not 0.1 <= self.target_share <= 1:
            raise BadReading(say("the share of the target must lie between 0.1 and 1"), "target_share")
        if not LEAST_CHANCE <= self.chance <= MOST_CHANCE:
            raise BadReading(say("the chance must lie between 50 and 99 percent"), "chance")
        for figure in sorted(self.unread | self.by_eye):
            if figure not in FIGURES:
                raise BadReading(say("a figure is one of {figures}", figures=joined(", ", FIGURES)), "unread")
        if self.nipples is not None and self.nipples < 1:
            raise BadReading(say("a plan must be allowed one nipple at least"), "nipples")


def how_far_out(state: WheelState, tier: Tier) -> float:
    """The worst figure as a share of what the tier allows: lateral, radial, dish, and the spread of each side."""
    trace = state.figures
    out = [trace.lateral_tir_mm / tier.lateral_mm, trace.radial_tir_mm / tier.radial_mm, abs(state.dish_mm) / tier.dish_mm]
    for side in Side:
        mine = state.tension_n[state.present(side)]
        mean = max(float(mine.mean()), 1.0)
        out.append(100 * float(np.abs(mine / mean - 1).max()) / tier.tension_percent)
    return max(out)


def _mean_off(state: WheelState) -> float:
    """How far the tight side's mean is from its target, as a share."""
    tight = state.wheel.on_side(tight_side(state.wheel))
    return float(abs(state.tension_n[tight].mean() / state.wheel.rim.tension_target_n - 1))


def suggested_limit_turns(state: WheelState, tier: Tier) -> float:
    """A whole turn for a wheel that is out or far from its tension, half for one near, a quarter for the last touch.

    One spoke that is far off its side needs its whole turn, however straight the rim is still held by the others.
    """
    out, mean_off = how_far_out(state, tier), _mean_off(state)
    if out > FAR_OUT or mean_off > 0.2:
        return 1.0
    return 0.5 if out > 0.6 or mean_off > 0.08 else 0.25


def pass_limit_turns(state: WheelState, options: PlanOptions) -> float:
    """Most for one nipple in this pass: as asked, else as suggested, and less where no tension was read."""
    suggested = options.limit_turns or suggested_limit_turns(state, options.tier)
    return min(suggested, UNREAD_LIMIT_TURNS) if "tension" in options.unread else suggested


def unread_figures(readings: Iterable[Readings]) -> frozenset[str]:
    """The figures of FIGURES that none of these readings is of, and tension where too few spokes of a side were read."""
    read = list(readings)
    none = {figure for figure in FIGURES if not any(getattr(one, figure) for one in read)}
    tensions = Readings(tension=[reading for one in read for reading in one.tension])
    return frozenset(none | {"tension"} & set(not_measured(tensions)))


def suggested_step_turns(state: WheelState, tier: Tier) -> float:
    """An eighth; a sixteenth once the wheel is near, where an eighth would step over what is left: for a narrow tier sooner."""
    near, mean_near = (2.5, 0.2) if tier.lateral_mm <= NARROW_TIER_MM else (1.2, 0.08)
    return 1 / 16 if how_far_out(state, tier) <= near and _mean_off(state) <= mean_near else 1 / 8


def stretch(wheel: Wheel, first: str, last: str) -> NDArray[np.bool_]:
    """Which spokes lie from `first` to `last` in the direction of travel, both included, (n,); raises UnknownSpoke."""
    for name in (first, last):
        if name not in wheel.index_of:
            raise UnknownSpoke(say("this wheel has no spoke {name}", name=name[:8]), "between")
    start, end = wheel.index_of[first], wheel.index_of[last]
    places = np.arange(wheel.spoke_count)
    return np.asarray((places - start) % wheel.spoke_count <= (end - start) % wheel.spoke_count)


def free_nipples(state: WheelState, options: PlanOptions) -> NDArray[np.bool_]:
    """Which nipples (n,) may be turned; raises UnknownSpoke for an untouchable one that the wheel does not have."""
    wheel = state.wheel
    for name in sorted(options.untouchable):
        if name not in wheel.index_of:
            raise UnknownSpoke(say("this wheel has no spoke {name}", name=name), "untouchable")
    free = np.array([str(name) not in options.untouchable for name in wheel.names])
    free &= state.influence.stiffness_n_mm > 0
    if options.between is not None:
        free &= stretch(wheel, *options.between)
    if options.mode == "ride_home":
        free &= near_the_gap(state)
    return free


def floors_n(state: WheelState, options: PlanOptions) -> NDArray[np.float64]:
    """Below what no spoke is eased (n,) [N]; a spoke that is missing has no floor."""
    targets = side_targets_n(state.wheel)
    floors = [FLOOR_SHARE * options.target_share * targets[name.side] for name in state.wheel.names]
    return np.where(state.influence.stiffness_n_mm > 0, floors, -np.inf)


def near_the_gap(state: WheelState) -> NDArray[np.bool_]:
    """Which spokes (n,) stand within RIDE_HOME_HOLES of one that is missing; all where none is."""
    count = state.wheel.spoke_count
    gaps = np.flatnonzero(state.influence.stiffness_n_mm <= 0)
    if not len(gaps):
        return np.ones(count, dtype=bool)
    away = np.abs((np.arange(count)[:, None] - gaps + count // 2) % count - count // 2)
    return np.asarray(away.min(axis=1) <= RIDE_HOME_HOLES)
