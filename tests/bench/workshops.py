"""Three workshops to judge plans in: where their wheels come from, what was done to them, who reads and who turns.

Each draws its wheels from one seed for each kind and number. Plans know none of it. The first and the second are there to
work on; the third is kept apart and judges the result only.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.hands import Hand
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Reader:
    """Who reads: noise of the meter [N] and of the dial [mm], the share by which the meter reads high, and its step [N]."""

    tension_n: float = 25.0
    dial_mm: float = 0.02
    meter_share: float = 0.0
    meter_step_n: float = 0.0

    def full(self, virtual: VirtualWheel, rng: Generator) -> Readings:
        """Every spoke, every hole and the dish."""
        wheel = virtual.wheel
        count = wheel.spoke_count
        angles = np.array(wheel.angles_deg)
        shown = virtual.tension_n * (1 + self.meter_share) + rng.normal(0, self.tension_n, count)
        if self.meter_step_n:
            shown = np.round(shown / self.meter_step_n) * self.meter_step_n
        lateral = virtual.lateral_mm(angles) + rng.normal(0, self.dial_mm, count) + 3.0
        radial = virtual.radial_mm(angles) + rng.normal(0, self.dial_mm, count) - 1.0
        return Readings(
            tension=[TensionReading(str(n), max(0.0, float(t)), 25.0) for n, t in zip(wheel.names, shown, strict=True)],
            lateral=[RunoutReading(float(a), round(float(v), 2), 0.03) for a, v in zip(angles, lateral, strict=True)],
            radial=[RunoutReading(float(a), round(float(v), 2), 0.03) for a, v in zip(angles, radial, strict=True)],
            dish=[DishReading(wheel.dish_target_mm + virtual.dish_mm + float(rng.normal(0, 0.05)))],
        )


@dataclass(frozen=True)
class Stand:
    """A wheel in the stand, as the plan knows it and as it is, with who reads it and who turns its nipples."""

    wheel: Wheel
    virtual: VirtualWheel
    reader: Reader
    hand: Hand
    rng: Generator


@dataclass(frozen=True)
class Workshop:
    """A source of stands: `start` draws one for a kind and a seed."""

    name: str
    kinds: tuple[str, ...]
    start: Callable[[str, int], Stand]


FIRST_KINDS = ("bladed-front-20", "bladed-rear-24", "disc-front-28", "disc-rear-32", "rim-brake-rear-36", "tandem-rear-40")
SECOND_KINDS = (
    "small-front-20",
    "rear-24-two-to-one",
    "small-rear-28",
    "rim-brake-front-32",
    "offset-rear-32",
    "track-rear-36",
)
THIRD_KINDS = ("bladed-rear-24", "disc-front-32", "rim-brake-rear-32", "disc-rear-32", "hub-gear-rear-36", "tandem-rear-40")


def first_start(kind: str, seed: int) -> Stand:
    """Wheels after some years: nipples that wandered, a slack or tight wheel, a dish error; a rim ±25 % as stiff."""
    rng = np.random.default_rng([seed, FIRST_KINDS.index(kind)])
    slack, dish = rng.uniform(-0.1, 0.4), rng.normal(0, 0.25)
    wheel = WHEEL_KINDS[kind].wheel
    virtual = used_wheel(wheel, rng, 0.45, slack, dish)
    return Stand(wheel, virtual, Reader(), Hand.drawn(virtual, rng), rng)


def _stiffened(wheel: Wheel, factors: Array) -> Wheel:
    rim = wheel.rim
    names = ("ei_lat_nm2", "ei_rad_nm2", "gj_nm2", "ea_n")
    return replace(wheel, rim=replace(rim, **{n: getattr(rim, n) * float(f) for n, f in zip(names, factors, strict=True)}))


def second_start(kind: str, seed: int) -> Stand:
    """Wheels after a knock: a bend at one place, nipples there that somebody pulled at, a few that unwound, one side down.

    Rims are as stiff as thought but for a common factor and one for each (lognormal, 15 % and 12 %); meters read 3 % high or
    low and to 10 N; hands miss by 6 % and let less of the twist go.
    """
    rng = np.random.default_rng([7001, seed, SECOND_KINDS.index(kind)])
    wheel = WHEEL_KINDS[kind].wheel
    count = wheel.spoke_count
    true = _stiffened(wheel, np.exp(rng.normal(0, 0.15) + rng.normal(0, 0.12, 4)))
    virtual = VirtualWheel.ideal(true)
    virtual = virtual.bent(
        {m: complex(*rng.normal(0, 0.08 / m, 2)) for m in range(2, 7)}, {2: complex(*rng.normal(0, 0.05, 2))}
    )
    virtual = virtual.dented(
        float(rng.uniform(0, 360)), float(rng.uniform(8, 25)), float(rng.uniform(0, 0.3)), float(rng.normal(0, 0.25))
    )
    turns = rng.laplace(0, 0.16, count)
    unwound = rng.choice(count, int(rng.integers(1, 4)), replace=False)
    turns[unwound] -= rng.uniform(0.3, 0.9, len(unwound))
    pulled = int(rng.integers(count))
    for step in range(-2, 3):
        j = (pulled + step) % count
        turns[j] += rng.normal(0.2, 0.15) * wheel.names[j].side.sign * float(rng.choice([-1, 1]))
    turns -= np.where(wheel.on_side(Side.RIGHT), rng.uniform(0, 0.35), rng.uniform(0, 0.35))
    virtual = virtual.turned(turns)
    friction = rng.uniform(0.08, 0.2) * (1 + rng.uniform(-0.3, 0.3, count))
    hand = Hand(friction, miss=0.06, goes_past=bool(rng.random() < 0.7), settles=0.6)
    return Stand(wheel, virtual, Reader(20.0, 0.015, float(rng.normal(0, 0.03)), 10.0), hand, rng)


def third_start(kind: str, seed: int) -> Stand:
    """Wheels that were trued by eye alone: a rim bent in long waves, pulled straight with no look at the tension, then used.

    Rims are ±22 % as stiff, each stiffness for itself; meters read 2 % high or low; hands miss by 5 %.
    """
    rng = np.random.default_rng([93, seed, THIRD_KINDS.index(kind)])
    wheel = WHEEL_KINDS[kind].wheel
    count = wheel.spoke_count
    true = _stiffened(wheel, 1 + rng.uniform(-0.22, 0.22, 4))
    virtual = VirtualWheel.ideal(true)
    virtual = virtual.bent(
        {2: complex(*rng.normal(0, 0.15, 2)), 3: complex(*rng.normal(0, 0.06, 2)), 4: complex(*rng.normal(0, 0.03, 2))},
        {m: complex(*rng.normal(0, 0.06 / m, 2)) for m in range(2, 8)},
    )
    angles = np.radians(wheel.angles_deg)
    wave = sum(rng.normal(0, 0.22) * np.cos(m * angles + rng.uniform(0, 2 * np.pi)) for m in (2, 3, 5))
    sign = np.array([name.side.sign for name in wheel.names])
    turns = wave * sign + rng.standard_t(4, count) * 0.14 + rng.normal(-0.1, 0.12) + sign * rng.normal(0, 0.15)
    virtual = virtual.turned(turns)
    friction = rng.uniform(0.10, 0.24) * (1 + rng.uniform(-0.2, 0.2, count))
    hand = Hand(friction, miss=0.05, goes_past=True, settles=0.65)
    return Stand(wheel, virtual, Reader(22.0, 0.02, float(rng.normal(0, 0.02)), 5.0), hand, rng)


WORKSHOPS = {
    "first": Workshop("first", FIRST_KINDS, first_start),
    "second": Workshop("second", SECOND_KINDS, second_start),
    "third": Workshop("third", THIRD_KINDS, third_start),
}
