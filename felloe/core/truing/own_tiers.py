"""A shop's own tiers: the usual four with its own figures, and any that it adds; within what can be measured and signed off."""

from __future__ import annotations

from collections.abc import Collection

from felloe.core.components import require
from felloe.core.errors import BadRecord
from felloe.core.said import say
from felloe.core.truing.tiers import CLEARING, ISO_4210_RUNOUT_OTHER_MM, SOUND, TIERS, Tier

LONGEST_NAME = 20
#: What a tier's figures may be. Finer than the first no dial of a workshop tells; wider than the second nothing is signed
#: off as roadworthy (ISO 4210-2, from memory), so that a tier beyond it would promise what cannot be kept.
TIER_LIMITS: dict[str, tuple[float, float]] = {
    "lateral_mm": (0.05, ISO_4210_RUNOUT_OTHER_MM),
    "radial_mm": (0.05, ISO_4210_RUNOUT_OTHER_MM),
    "dish_mm": (0.05, ISO_4210_RUNOUT_OTHER_MM),
    "tension_percent": (3.0, 40.0),
}
_WHAT = {
    "lateral_mm": say("Lateral runout"),
    "radial_mm": say("Radial runout"),
    "dish_mm": say("Dish"),
    "tension_percent": say("The spread of tension"),
}
#: Names that mean something else already.
_TAKEN = {CLEARING.name, "lap"}


def own_tier(name: str, lateral_mm: float, radial_mm: float, dish_mm: float, tension_percent: float) -> Tier:
    """A tier with a shop's figures; raises BadRecord for its name, ImpossibleGeometry for a figure, each at its field."""
    called = " ".join(name.split())
    if not called or len(called) > LONGEST_NAME:
        raise BadRecord(say("A tier needs a name of at most {longest} characters.", longest=LONGEST_NAME), "name")
    if called.casefold() in {*_TAKEN, *(usual for usual in TIERS if usual != called)}:
        raise BadRecord(say("That name has a meaning already: take another."), "name")
    figures = dict(zip(TIER_LIMITS, (lateral_mm, radial_mm, dish_mm, tension_percent), strict=True))
    for field, (low, high) in TIER_LIMITS.items():
        require(field, figures[field], low, high, "%" if field == "tension_percent" else "mm", _WHAT[field])
    return Tier(called, **figures)


def with_own(own: Collection[Tier]) -> dict[str, Tier]:
    """All tiers of a shop by name, from the widest to the narrowest: the usual ones, changed where the shop changed them."""
    every = {**TIERS, **{tier.name: tier for tier in own}}
    return {tier.name: tier for tier in sorted(every.values(), key=lambda tier: tier.figures, reverse=True)}


def first_choice(tiers: Collection[Tier]) -> Tier:
    """What a new job is held to where nobody chose: sound, or what lies nearest to it of what the shop does."""
    return min(tiers, key=lambda tier: (tier.name != SOUND.name, abs(tier.lateral_mm - SOUND.lateral_mm)))
