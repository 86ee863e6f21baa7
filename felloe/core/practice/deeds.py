"""What a hand does to a practice wheel, nipple by nipple, and what it costs."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.errors import BadReading
from felloe.core.mechanics.readings import DIAL_SD_MM, DishReading, Readings, RunoutReading, TensionReading
from felloe.core.practice.hands import HELD_SHARE, settled, turn_nipples
from felloe.core.practice.instruments import dial_mm
from felloe.core.practice.spoilt import FREED_FRICTION, SEIZED_FRICTION, Subject
from felloe.core.said import say

Array = NDArray[np.float64]

#: A spoke twisted so far breaks at its thread [turns]; common practice, no source.
SNAPS_TURNS = 1.0
#: Turning one nipple at once further than this is no truing.
MOST_TURNS = 3.0
#: The share of every twist that squeezing the spokes in pairs lets out.
SETTLES = 0.8
#: A blade of which more than this is seen stands askew [turns]: about 15°.
ASKEW_TURNS = 0.04
#: What a snapped spoke's nipple stands off by, so that it carries nothing [turns].
_OFF = -60.0
METER_SD_N = 20.0


def turn(subject: Subject, place: int, turns: float, held: bool) -> Subject:
    """The wheel after one nipple was turned; `held`: its spoke was kept from turning along, which is done with blades.

    A thread of the wrong kind takes up a share of it, a seized one nothing until its spoke is twisted off.
    """
    if not 0 < abs(turns) <= MOST_TURNS:
        raise BadReading(say("a nipple is turned by up to {most:g} turns at a time", most=MOST_TURNS), "turns")
    if place in subject.snapped:
        raise BadReading(say("this spoke is broken: its nipple turns nothing"), "spoke")
    wheel, virtual = subject.wheel, subject.virtual
    by_place = np.zeros(wheel.spoke_count)
    by_place[place] = turns
    if subject.friction[place] >= SEIZED_FRICTION:
        # Corrosion holds whatever the spoke pulls: the whole turn goes into the spoke.
        after = virtual.twisted(virtual.twist_turns + by_place)
    else:
        blade = wheel.side(wheel.names[place].side).spoke.blade_thickness_mm is not None
        after = turn_nipples(virtual, by_place, subject.friction, HELD_SHARE if held and blade else 1.0)
    if abs(after.twist_turns[place]) > SNAPS_TURNS:
        return _snapped(subject, place)
    if subject.grip[place] < 1:
        lost = (1 - subject.grip[place]) * (after.turns - virtual.turns)
        after = after.turned(-lost)
    return replace(subject, virtual=after)


def _snapped(subject: Subject, place: int) -> Subject:
    off = np.zeros(subject.wheel.spoke_count)
    off[place] = _OFF
    twist = subject.virtual.twist_turns.copy()
    twist[place] = 0
    virtual = subject.virtual.turned(off).twisted(twist)
    return replace(subject, virtual=virtual, snapped=subject.snapped | {place})


def settle(subject: Subject) -> Subject:
    """Squeezed in pairs: most of each free spoke's twist goes into its thread; a seized one keeps its own."""
    wheel = subject.wheel
    share = np.where(subject.friction >= SEIZED_FRICTION, 0.0, SETTLES)
    blades = [wheel.side(name.side).spoke.blade_thickness_mm is not None for name in wheel.names]
    # A blade that stands askew was put so by a hand, and stays until a hand turns it back.
    share = np.where(blades, 0.0, share)
    return replace(subject, virtual=settled(subject.virtual, share))


def straighten(subject: Subject, place: int) -> Subject:
    """A blade turned back flat by its pliers: its twist goes, and the nipple stays in the rim."""
    twist = subject.virtual.twist_turns.copy()
    back = np.zeros(len(twist))
    back[place] = twist[place]
    twist[place] = 0
    return replace(subject, virtual=subject.virtual.turned(back).twisted(twist))


def oil(subject: Subject, place: int) -> Subject:
    """A drop into a nipple, and time for it: a seized thread turns again."""
    friction = subject.friction.copy()
    friction[place] = min(friction[place], FREED_FRICTION)
    return replace(subject, friction=friction)


def new_nipple(subject: Subject, place: int) -> Subject:
    """Another nipple of the spoke's own thread; it takes up every turn."""
    grip, friction = subject.grip.copy(), subject.friction.copy()
    grip[place], friction[place] = 1.0, FREED_FRICTION
    return replace(subject, grip=grip, friction=friction)


def is_blade(subject: Subject, place: int) -> bool:
    """Whether the spoke at a place is bladed."""
    return subject.wheel.side(subject.wheel.names[place].side).spoke.blade_thickness_mm is not None


def askew(subject: Subject) -> tuple[str, ...]:
    """Blades that stand askew, by name."""
    wheel = subject.wheel
    return tuple(
        str(name)
        for i, name in enumerate(wheel.names)
        if is_blade(subject, i) and abs(float(subject.virtual.twist_turns[i])) > ASKEW_TURNS
    )


def read_round(subject: Subject, rng: Generator, group: int) -> tuple[tuple[RunoutReading, ...], tuple[RunoutReading, ...]]:
    """Both dials at every spoke hole, in one turn of the wheel: lateral and radial readings with their noise."""
    angles = np.asarray(subject.wheel.angles_deg)
    rows = []
    for true in (subject.virtual.lateral_mm(angles), subject.virtual.radial_mm(angles)):
        shown = dial_mm(true, rng, float(true[0]))
        rows.append(tuple(RunoutReading(float(a), float(v), DIAL_SD_MM, group) for a, v in zip(angles, shown, strict=True)))
    return rows[0], rows[1]


def read_dish(subject: Subject, rng: Generator) -> DishReading:
    """A dish gauge held to both sides."""
    return DishReading(round(subject.virtual.dish_mm + float(rng.normal(0, 0.04)), 2))


def squeeze(subject: Subject, place: int, rng: Generator) -> TensionReading:
    """A meter on one spoke."""
    felt = max(0.0, float(subject.virtual.tension_n[place]) + float(rng.normal(0, METER_SD_N)))
    return TensionReading(str(subject.wheel.names[place]), round(felt), METER_SD_N)


def exact_readings(subject: Subject) -> Readings:
    """Everything that could be read, with next to no noise: what the best plan may know."""
    angles = subject.wheel.angles_deg
    virtual = subject.virtual
    at = np.asarray(angles)

    def dials(values: Array) -> list[RunoutReading]:
        return [RunoutReading(a, float(v), 0.005) for a, v in zip(angles, values, strict=True)]

    return Readings(
        tension=[
            TensionReading(str(name), float(t), 5.0)
            for i, (name, t) in enumerate(zip(subject.wheel.names, virtual.tension_n, strict=True))
            if i not in subject.snapped
        ],
        lateral=dials(virtual.lateral_mm(at)),
        radial=dials(virtual.radial_mm(at)),
        dish=[DishReading(virtual.dish_mm, 0.01)],
    )
