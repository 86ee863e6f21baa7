"""Sign-off: as left against as found and against the tier that was agreed."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.statics import tight_side
from felloe.core.truing.sureness import Unsure, unsure_figures
from felloe.core.truing.tiers import Tier, TierCheck, check_against, roadworthy_runout_mm

#: So few readings still count as measured: common practice, no source.
ENOUGH_RUNOUT_READINGS = 8
ENOUGH_TENSION_READINGS_A_SIDE = 4


@dataclass(frozen=True)
class Figures:
    """The figures of a state that a tier speaks of."""

    lateral_tir_mm: float
    radial_tir_mm: float
    dish_mm: float
    worst_spread_percent: float
    right_mean_n: float
    left_mean_n: float

    @property
    def by_name(self) -> dict[str, float]:
        """The four that a tier has limits for, by the names of `check_against`; dish either way."""
        return {
            "lateral": self.lateral_tir_mm,
            "radial": self.radial_tir_mm,
            "dish": abs(self.dish_mm),
            "tension": self.worst_spread_percent,
        }


@dataclass(frozen=True)
class SignOffCheck:
    """What a sign-off has to say. `not_measured` names figures that only the model knows."""

    as_found: Figures | None
    as_left: Figures
    checks: tuple[TierCheck, ...]
    not_measured: tuple[str, ...]
    roadworthy: bool
    roadworthy_limit_mm: float
    #: The tight side's mean over its target, and how far it may lie from 1.
    mean_share: float
    mean_within: float
    #: Whether the readings are those of the wheel as it leaves.
    as_left_read: bool
    #: Figures inside by the estimate, and not surely so.
    unsure: tuple[Unsure, ...] = ()

    @property
    def tight_enough(self) -> bool:
        """Whether the wheel as a whole is as tight as it should be: even spokes at a tenth of their tension hold nothing."""
        return abs(self.mean_share - 1) <= self.mean_within + 1e-9

    @property
    def short_of(self) -> tuple[str, ...]:
        """What is outside the tier, not measured, or not measured since the work: each asks for a written reason."""
        outside = [check.figure for check in self.checks if not check.met]
        slack = [] if self.tight_enough else ["mean_tension"]
        unread = [] if self.as_left_read else ["as_left"]
        # What was hardly measured is unsure by that alone.
        unsure = ["sureness"] if self.unsure and not self.not_measured else []
        return tuple(dict.fromkeys([*outside, *slack, *self.not_measured, *unread, *unsure]))

    @property
    def needs_reason(self) -> bool:
        return bool(self.short_of) or not self.roadworthy


def figures_of(state: WheelState) -> Figures:
    """Lateral and radial TIR, dish, the worse side's spread and both means of an estimated state."""
    sides = {side: side_evenness(state.wheel, state.tension_n.tolist(), side, 20, state.broken) for side in Side}
    return Figures(
        lateral_tir_mm=state.figures.lateral_tir_mm,
        radial_tir_mm=state.figures.radial_tir_mm,
        dish_mm=state.dish_mm,
        worst_spread_percent=max(e.spread_percent for e in sides.values()),
        right_mean_n=sides[Side.RIGHT].mean_n,
        left_mean_n=sides[Side.LEFT].mean_n,
    )


def not_measured(readings: Readings) -> tuple[str, ...]:
    """Which figures rest on too few readings to be called measured."""
    missing = []
    if len({r.angle_deg for r in readings.lateral}) < ENOUGH_RUNOUT_READINGS:
        missing.append("lateral")
    if len({r.angle_deg for r in readings.radial}) < ENOUGH_RUNOUT_READINGS:
        missing.append("radial")
    if not readings.dish:
        missing.append("dish")
    for side in Side:
        if len({r.spoke for r in readings.tension if r.spoke[0] == side.value}) < ENOUGH_TENSION_READINGS_A_SIDE:
            missing.append("tension")
            break
    return tuple(missing)


def check_sign_off(
    tier: Tier,
    as_found: WheelState | None,
    as_left: WheelState,
    as_left_readings: Readings,
    rim_brake: bool,
    as_left_read: bool,
) -> SignOffCheck:
    """Compare; a wheel beyond ISO 4210-2's runout (from memory) is never roadworthy, whatever the tier."""
    left = figures_of(as_left)
    wheel = as_left.wheel
    tight_n = left.right_mean_n if tight_side(wheel) is Side.RIGHT else left.left_mean_n
    limit = roadworthy_runout_mm(rim_brake)
    return SignOffCheck(
        as_found=figures_of(as_found) if as_found is not None else None,
        as_left=left,
        checks=check_against(tier, left.lateral_tir_mm, left.radial_tir_mm, left.dish_mm, left.worst_spread_percent),
        not_measured=not_measured(as_left_readings),
        roadworthy=max(left.lateral_tir_mm, left.radial_tir_mm) <= limit,
        roadworthy_limit_mm=limit,
        mean_share=tight_n / wheel.rim.tension_target_n,
        mean_within=tier.tension_percent / 100,
        as_left_read=as_left_read,
        unsure=unsure_figures(as_left, tier, tier.tension_percent / 100),
    )
