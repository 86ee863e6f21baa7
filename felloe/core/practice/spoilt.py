"""Practice wheels: an ideal wheel, spoilt by the faults of an exercise until it is well outside of its tier."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.components import Rim, Wheel
from felloe.core.naming import Side
from felloe.core.practice.damage import with_own_stiffness
from felloe.core.practice.exercises import FINDABLE, Exercise
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.spokes.twist import OILED_FRICTION
from felloe.core.tension.evenness import side_evenness
from felloe.core.truing.tiers import check_against
from felloe.core.wheel_kinds import WHEEL_KINDS

Array = NDArray[np.float64]

#: A corroded thread turns its spoke along, one of the wrong kind takes up only a part of a turn. Common practice, no source.
SEIZED_FRICTION = 3.0
FREED_FRICTION = 0.2
WRONG_THREAD_GRIP = 0.3
#: The figures that a fault puts out, and by how much of the tier at least.
OUT_BY = 1.8
_PUTS_OUT = {"lump": "lateral", "hop": "radial", "dish": "dish"}
#: A bend is no deeper than its tier can be reached with: by the lateral tolerance [mm per mm].
BEND_SHARE = 0.9


@dataclass(frozen=True)
class Subject:
    """A practice wheel as it is: the virtual wheel, each spoke's thread, and what cannot be seen.

    `friction`, `grip` (n,): of each thread, and the share of a turn that it takes up. `swapped`: two spokes in each other's hub
    holes. `snapped`: spokes that were twisted off.
    """

    virtual: VirtualWheel
    friction: Array
    grip: Array
    swapped: tuple[str, str] | None = None
    snapped: frozenset[int] = frozenset()

    @property
    def wheel(self) -> Wheel:
        return self.virtual.wheel


@dataclass(frozen=True)
class Spoilt:
    """A subject with the faults that were put in, each with the spokes that it is about."""

    subject: Subject
    faults: dict[str, tuple[str, ...]] = field(default_factory=dict)


def harmonics_for(count: int) -> int:
    """As fine as a practice wheel's ring is described: a little finer than its spokes can ask for."""
    return count // 2 + 6


def true_figures(virtual: VirtualWheel, without: frozenset[int] = frozenset()) -> tuple[float, float, float, float]:
    """Lateral and radial TIR [mm], dish [mm] from its target, the worse side's spread [%], as they truly are."""
    around = np.arange(0.0, 360.0, 2.5)
    lateral, radial = virtual.lateral_mm(around), virtual.radial_mm(around)
    wheel = virtual.wheel
    gone = [str(wheel.names[i]) for i in without]
    spreads = [side_evenness(wheel, virtual.tension_n.tolist(), side, 20, gone).spread_percent for side in Side]
    return float(np.ptp(lateral)), float(np.ptp(radial)), virtual.dish_mm - wheel.dish_target_mm, max(spreads)


def spoil(exercise: Exercise, rng: Generator) -> Spoilt:
    """Make a wheel for `exercise`: each fault at a place of its own, as large as puts its figure outside the tier."""
    wheel = WHEEL_KINDS[exercise.kind].wheel
    drawn = [str(rng.choice(FINDABLE))] if exercise.faults == ("any",) else list(exercise.faults)
    own = with_own_stiffness(wheel, rng, 0.15)
    ideal = replace(VirtualWheel.ideal(own), highest=harmonics_for(own.spoke_count))
    ideal = replace(ideal, free_shape=np.zeros(4 * (2 * ideal.highest + 1)))
    count = own.spoke_count
    spoilt = Spoilt(Subject(ideal.turned(rng.normal(0, 0.02, count)), np.full(count, OILED_FRICTION), np.ones(count)))
    # Faults about one nipple come last: they sit in what the others made.
    drawn.sort(key=lambda fault: fault in ("seized", "wrong_nipple", "twisted_blade", "mislaced"))
    start = int(rng.integers(count))
    for place, fault in enumerate(drawn):
        centre = (start + place * count // max(2, len(drawn))) % count
        inside = spoilt.faults.get("lump")
        spoilt = _with(spoilt, fault, centre, exercise, rng, inside)
    return spoilt


def _with(spoilt: Spoilt, fault: str, centre: int, exercise: Exercise, rng: Generator, lump: Sequence[str] | None) -> Spoilt:
    made = {
        "lump": _lump,
        "hop": _hop,
        "dish": _dish,
        "slack": _slack,
        "bent": _bent,
        "seized": _seized,
        "wrong_nipple": _wrong_nipple,
        "twisted_blade": _twisted,
        "mislaced": _mislaced,
    }[fault]
    figure = _PUTS_OUT.get(fault)
    sense = 1.0 if rng.random() < 0.5 else -1.0
    if lump and fault in ("seized", "wrong_nipple"):
        # The nipple that will not do its work is one that the lump asks for.
        centre = spoilt.subject.wheel.index_of[lump[0 if fault == "seized" else -1]]
    size = exercise.tier.lateral_mm * BEND_SHARE if fault == "bent" else 1.0
    for _ in range(12):
        subject, spokes = made(spoilt.subject, centre, size, sense, rng)
        out = {
            check.figure: check.value / check.limit for check in check_against(exercise.tier, *true_figures(subject.virtual))
        }
        if figure is None or out[figure] >= OUT_BY:
            break
        size *= 1.25
    return Spoilt(subject, {**spoilt.faults, fault: spokes})


def _arc(wheel: Wheel, centre: int, reach: int) -> dict[int, float]:
    """Places within `reach` of the centre, with a weight that falls off toward the ends."""
    return {(centre + k) % wheel.spoke_count: float(np.cos(np.pi / 2 * k / (reach + 1)) ** 2) for k in range(-reach, reach + 1)}


def _turned(subject: Subject, turns: dict[int, float]) -> Subject:
    by_place = np.zeros(subject.wheel.spoke_count)
    for place, amount in turns.items():
        by_place[place] = amount
    return replace(subject, virtual=subject.virtual.turned(by_place))


def _names(subject: Subject, places: Sequence[int]) -> tuple[str, ...]:
    return tuple(str(subject.wheel.names[i]) for i in places)


def _lump(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    weights = _arc(subject.wheel, centre, 3)
    turns = {i: 0.6 * size * sense * subject.wheel.names[i].side.sign * w for i, w in weights.items()}
    return _turned(subject, turns), _names(subject, [i for i, w in weights.items() if w > 0.3])


def _hop(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    weights = _arc(subject.wheel, centre, 3)
    return _turned(subject, {i: 0.6 * size * sense * w for i, w in weights.items()}), _names(
        subject, [i for i, w in weights.items() if w > 0.3]
    )


def _dish(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    wheel = subject.wheel
    # Toward the side that eases the tight one: no spoke goes above the rim's limit by being spoilt.
    tight = Side.RIGHT if wheel.bracing_mm(Side.RIGHT) < wheel.bracing_mm(Side.LEFT) else Side.LEFT
    return _turned(subject, {i: -0.4 * size * name.side.sign * tight.sign for i, name in enumerate(wheel.names)}), ()


def _slack(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    # Until the spokes carry a third of what they should.
    wanted = 0.35 * float(subject.virtual.tension_n.mean())
    now = subject
    for _ in range(40):
        if float(now.virtual.tension_n.mean()) <= wanted:
            break
        now = _turned(now, {i: -0.25 * float(rng.uniform(0.8, 1.2)) for i in range(subject.wheel.spoke_count)})
    return now, ()


def _bent(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    angle = subject.wheel.angles_deg[centre]
    virtual = subject.virtual.dented(angle, 12.0, 0.7 * size, size * sense)
    return replace(subject, virtual=virtual), _names(subject, [centre])


def _seized(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    friction = subject.friction.copy()
    friction[centre] = SEIZED_FRICTION
    # Too slack, and nobody could tighten it: that is how it is found.
    return _turned(replace(subject, friction=friction), {centre: -0.4}), _names(subject, [centre])


def _wrong_nipple(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    grip = subject.grip.copy()
    grip[centre] = WRONG_THREAD_GRIP
    return _turned(replace(subject, grip=grip), {centre: -0.6}), _names(subject, [centre])


def _twisted(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    wheel = subject.wheel
    blades = [i for i, n in enumerate(wheel.names) if wheel.side(n.side).spoke.blade_thickness_mm is not None]
    chosen = sorted(int(i) for i in rng.choice(blades, size=min(3, len(blades)), replace=False))
    twist = subject.virtual.twist_turns.copy()
    for i in chosen:
        twist[i] += sense * float(rng.uniform(0.12, 0.25))
    return replace(subject, virtual=replace(subject.virtual, twist_turns=twist)), _names(subject, chosen)


def _mislaced(subject: Subject, centre: int, size: float, sense: float, rng: Generator) -> tuple[Subject, tuple[str, ...]]:
    """Two neighbours of one side in each other's hub holes: drawn so, one too tight and one too slack.

    The virtual wheel keeps its geometry; what the wrong direction of the two does to the rim beside that is left out.
    """
    wheel = subject.wheel
    side = wheel.names[centre].side
    mine = [i for i, name in enumerate(wheel.names) if name.side is side]
    at = mine.index(centre)
    other = mine[(at + 2) % len(mine)]
    pair = (str(wheel.names[centre]), str(wheel.names[other]))
    return _turned(replace(subject, swapped=pair), {centre: 0.5, other: -0.5}), pair


def rim_of(kind: str, stiffness: Sequence[float]) -> Rim:
    """The rim of a kind with the stiffnesses of one practice wheel: EI lateral, EI radial, GJ [N·m²], EA [N]."""
    lateral, radial, torsion, stretch = stiffness
    rim = WHEEL_KINDS[kind].wheel.rim
    return replace(rim, ei_lat_nm2=lateral, ei_rad_nm2=radial, gj_nm2=torsion, ea_n=stretch)
