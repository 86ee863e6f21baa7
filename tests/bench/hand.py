"""Two baselines as honest as they can be made from the trade's rules: lump by lump, by eye and dial, no meter.

Both look at the worst of lateral, radial and dish, correct that, and look again: full in the middle, half at the ends; both
sides in balance; ½ for big, ¼ usual, ⅛ for the last; dish by a quarter on every nipple of a side (common practice, no source).
Tighten-only never eases.
"""

from __future__ import annotations

import numpy as np
from numpy.random import Generator

from felloe.core.naming import Side
from felloe.core.practice.hands import Hand, worked
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.truing.tiers import Tier

#: Looks before a hand gives up.
MOST_LOOKS = 50
DIAL_SD_MM = 0.02


def size_turns(out_mm: float, allowed_mm: float) -> float:
    """½ for big, ¼ usual, ⅛ for the last."""
    ratio = out_mm / allowed_mm
    return 0.5 if ratio > 3 else 0.25 if ratio > 1.5 else 0.125


def trued_by_hand(virtual: VirtualWheel, tier: Tier, rng: Generator, tighten_only: bool) -> tuple[VirtualWheel, int, float]:
    """True by hand until lateral, radial and dish look right; the wheel then, touches, and turns in all."""
    wheel = virtual.wheel
    angles = np.array(wheel.angles_deg)
    touches, total = 0, 0.0
    hand = Hand.drawn(virtual, rng)
    for _ in range(MOST_LOOKS):
        lateral = virtual.lateral_mm(angles) + rng.normal(0, DIAL_SD_MM, len(angles))
        radial = virtual.radial_mm(angles) + rng.normal(0, DIAL_SD_MM, len(angles))
        dish = virtual.dish_mm + float(rng.normal(0, 0.05))
        middle = (lateral.max() + lateral.min()) / 2
        out = {
            "lateral": float(np.ptp(lateral)) / tier.lateral_mm,
            "radial": float(np.ptp(radial)) / tier.radial_mm,
            # Dish is judged only on a wheel that is already straight.
            "dish": abs(dish) / tier.dish_mm if np.ptp(lateral) < 1.5 * tier.lateral_mm else 0.0,
        }
        worst = max(out, key=lambda name: out[name])
        if out[worst] <= 0.9:
            break
        if worst == "dish":
            turns = _dish(virtual, dish, tighten_only)
        elif worst == "lateral":
            i = int(np.argmax(np.abs(lateral - middle)))
            turns = _lateral(
                virtual, i, float(lateral[i] - middle), size_turns(float(np.ptp(lateral)), tier.lateral_mm), tighten_only
            )
        else:
            i = int(np.argmax(np.abs(radial)))
            turns = _radial(virtual, i, float(radial[i]), size_turns(float(np.ptp(radial)), tier.radial_mm), tighten_only)
        if not np.any(turns):
            break
        touches += int(np.count_nonzero(turns))
        total += float(np.abs(turns).sum())
        virtual = worked(virtual, turns, hand, rng)
    return virtual, touches, total


def _arc(count: int, i: int) -> list[tuple[int, float]]:
    return [((i + step) % count, 1.0 - abs(step) / 3) for step in (-2, -1, 0, 1, 2)]


def _lateral(virtual: VirtualWheel, i: int, off_mm: float, size: float, tighten_only: bool) -> np.ndarray:
    """The far side tightened, the near side eased as much, over the arc round hole `i`."""
    names = virtual.wheel.names
    turns = np.zeros(len(names))
    pulls = Side.LEFT if off_mm > 0 else Side.RIGHT
    for j, share in _arc(len(names), i):
        if names[j].side is pulls:
            turns[j] = size * share
        elif not tighten_only:
            turns[j] = -size * share
    return turns


def _radial(virtual: VirtualWheel, i: int, off_mm: float, size: float, tighten_only: bool) -> np.ndarray:
    """A hop pulled in by both sides alike, a flat let out; a hand that only tightens pulls the rest in."""
    count = len(virtual.wheel.names)
    turns = np.zeros(count)
    if off_mm < 0 and tighten_only:
        for j in range(count):
            away = min((j - i) % count, (i - j) % count)
            turns[j] = size / 2 if away > count // 4 else 0.0
        return turns
    for j, share in _arc(count, i):
        turns[j] = (size if off_mm > 0 else -size) * share
    return turns


def _dish(virtual: VirtualWheel, dish_mm: float, tighten_only: bool) -> np.ndarray:
    """A quarter on every nipple of the far side, or an eighth each way."""
    names = virtual.wheel.names
    far = Side.LEFT if dish_mm > 0 else Side.RIGHT
    size = 0.25 if abs(dish_mm) > 0.5 else 0.125
    if tighten_only:
        return np.array([size if name.side is far else 0.0 for name in names])
    return np.array([size / 2 if name.side is far else -size / 2 for name in names])
