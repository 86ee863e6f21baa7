"""Tolerance tiers: what a job promises. The figures are common practice, no source; a shop edits them and adds its own."""

from __future__ import annotations

from dataclasses import dataclass

from felloe.core.components import require
from felloe.core.said import say

#: New bicycles: at most this runout, where rim brakes are used and otherwise [mm]. ISO 4210-2, from memory.
ISO_4210_RUNOUT_RIM_BRAKE_MM = 1.0
ISO_4210_RUNOUT_OTHER_MM = 2.0


@dataclass(frozen=True)
class Tier:
    """Lateral and radial TIR [mm], dish either way [mm], tension ± [% of the side's mean]."""

    name: str
    lateral_mm: float
    radial_mm: float
    dish_mm: float
    tension_percent: float

    def __post_init__(self) -> None:
        for name in ("lateral_mm", "radial_mm", "dish_mm"):
            require(name, getattr(self, name), 0.01, 10, "mm", say("A tolerance"))
        require("tension_percent", self.tension_percent, 1, 100, "%", say("A tolerance of tension"))

    @property
    def said(self) -> str:
        """The tier in a sentence; `name` is its key, and the very word of a tier that the shop added."""
        return TIER_WORDS.get(self.name, self.name)

    @property
    def kin(self) -> str:
        """The narrowest of the four usual tiers that this one lies inside in every figure: what may be said of it, and what
        hands it takes. The widest where it is wider than all.
        """
        for usual in reversed(TIERS.values()):
            if all(mine <= its + 1e-9 for mine, its in zip(self.figures, usual.figures, strict=True)):
                return usual.name
        return ROADWORTHY.name

    @property
    def figures(self) -> tuple[float, float, float, float]:
        """Lateral, radial, dish [mm], tension [%]: what a job keeps of its tier."""
        return self.lateral_mm, self.radial_mm, self.dish_mm, self.tension_percent


TIER_WORDS = {
    "roadworthy": say("roadworthy"),
    "sound": say("sound"),
    "fine": say("fine"),
    "race": say("race"),
    "ride_home": say("clear to ride home"),
}
ROADWORTHY = Tier("roadworthy", 1.0, 1.0, 1.0, 25)
SOUND = Tier("sound", 0.5, 0.5, 0.5, 20)
FINE = Tier("fine", 0.3, 0.3, 0.3, 15)
RACE = Tier("race", 0.2, 0.2, 0.2, 10)

#: What a ride home aims at: the rim clears brake and frame, and no spoke is slack. Common practice, no source.
CLEARING = Tier("ride_home", 1.5, 2.0, 2.0, 100)

#: From the widest to the narrowest.
TIERS: dict[str, Tier] = {tier.name: tier for tier in (ROADWORTHY, SOUND, FINE, RACE)}


@dataclass(frozen=True)
class TierCheck:
    """One figure against its tolerance."""

    figure: str
    value: float
    limit: float
    unit: str

    @property
    def met(self) -> bool:
        return self.value <= self.limit + 1e-9


def check_against(
    tier: Tier, lateral_tir_mm: float, radial_tir_mm: float, dish_mm: float, worst_spread_percent: float
) -> tuple[TierCheck, ...]:
    """Each figure of a wheel against `tier`; the wheel is inside when all are met."""
    return (
        TierCheck("lateral", lateral_tir_mm, tier.lateral_mm, "mm"),
        TierCheck("radial", radial_tir_mm, tier.radial_mm, "mm"),
        TierCheck("dish", abs(dish_mm), tier.dish_mm, "mm"),
        TierCheck("tension", worst_spread_percent, tier.tension_percent, "%"),
    )


def roadworthy_runout_mm(rim_brake: bool) -> float:
    """The runout beyond which no wheel is signed off as roadworthy [mm]: ISO 4210-2, from memory."""
    return ISO_4210_RUNOUT_RIM_BRAKE_MM if rim_brake else ISO_4210_RUNOUT_OTHER_MM
