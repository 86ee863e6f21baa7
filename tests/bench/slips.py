"""Slips put into clean sets of readings of virtual wheels: how many are found by name, and how often a clean set is accused.

The wheels are nonlinear, of a stiffness that the model does not know, some dented, some with a slack spoke: none of them is
made by the model that looks for the slips.
"""

from __future__ import annotations

import sys
from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from functools import lru_cache, partial

import numpy as np
from numpy.random import Generator

from felloe.core.measuring.slips import Entry, Slip, slips
from felloe.core.mechanics.influence import Influence, influence_of
from felloe.core.mechanics.readings import (
    DishReading,
    Readings,
    RunoutReading,
    TensionReading,
    entered_deviation_mm,
    entered_force_n,
)
from felloe.core.practice.damage import used_wheel
from felloe.core.practice.instruments import dial_mm
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.wheel_kinds import WHEEL_KINDS
from tests.progress import bar

KINDS = ("rim-brake-front-32", "rim-brake-rear-36", "disc-front-28", "bladed-rear-24", "small-front-20", "disc-rear-32")
SLIPS = ("lost", "added", "sign", "swapped", "shifted", "turned_round", "table", "dial_moved")
#: Slips smaller than this lie in the noise of readings and rim, and are not planted [N], [mm].
WORTH_N, WORTH_MM = 150.0, 0.35
#: What each planted slip may be called.
NAMED = {"lost": {"digit"}, "added": {"digit"}, "sign": {"sign"}, "table": {"table"}, "dial_moved": {"dial_moved"},
         "swapped": {"swapped"}, "shifted": {"shifted"}, "turned_round": {"turned_round"}}  # fmt: skip


@lru_cache
def _influence(kind: str) -> Influence:
    return influence_of(WHEEL_KINDS[kind].wheel)


@dataclass(frozen=True)
class Clean:
    """A set of readings as typed, in the order of typing: (kind, spoke) → number."""

    kind: str
    shown: dict[tuple[str, str], float]
    dish_mm: float


def clean_set(rng: Generator, kind: str, dented: float = 1 / 3) -> Clean:
    """A full set on a used wheel; every third (`dented`, a share) dented, every fourth with a spoke far loose."""
    wheel = WHEEL_KINDS[kind].wheel
    virtual: VirtualWheel = used_wheel(wheel, rng, 0.3)
    angles = np.array(wheel.angles_deg)
    if rng.random() < dented:
        width = rng.uniform(1, 4) * 360 / wheel.spoke_count / 2.355
        virtual = virtual.dented(float(angles[rng.integers(len(angles))]), width, rng.uniform(0, 2.5), rng.uniform(-2, 2))
    if rng.random() < 1 / 4:
        loose = np.zeros(wheel.spoke_count)
        loose[rng.integers(wheel.spoke_count)] = -1.5
        virtual = virtual.turned(loose)
    lateral, radial = virtual.lateral_mm(angles), virtual.radial_mm(angles)
    names = [str(name) for name in wheel.names]
    order = sorted(range(len(names)), key=lambda i: (names[i][0] == "L", wheel.names[i].number))
    columns = {
        "tension": np.maximum(0, 5 * np.round((virtual.tension_n + rng.normal(0, 20, len(names))) / 5)),
        "lateral": dial_mm(lateral, rng, float(lateral[0])),
        "radial": dial_mm(radial, rng, float(radial[0])),
    }
    shown = {(column, names[i]): float(values[i]) for column, values in columns.items() for i in order}
    return Clean(kind, shown, round(virtual.dish_mm + rng.normal(0, 0.04), 2))


def found_in(clean: Clean, shown: dict[tuple[str, str], float]) -> tuple[Slip, ...]:
    """What is suspected of a set as typed."""
    wheel = WHEEL_KINDS[clean.kind].wheel
    angle = {str(n): float(a) for n, a in zip(wheel.names, wheel.angles_deg, strict=True)}
    force, length = partial(entered_force_n, unit="N"), entered_deviation_mm
    tables = {"another": lambda number: entered_force_n(0.72 * number, "N")}
    entries = [
        Entry(k, s, v, force if k == "tension" else length, tables if k == "tension" else {}) for (k, s), v in shown.items()
    ]
    readings = Readings(
        [TensionReading(s, v) for (k, s), v in shown.items() if k == "tension"],
        [RunoutReading(angle[s], v) for (k, s), v in shown.items() if k == "lateral"],
        [RunoutReading(angle[s], v) for (k, s), v in shown.items() if k == "radial"],
        [DishReading(clean.dish_mm)],
    )
    return slips(_influence(clean.kind), readings, entries)


def with_slip(rng: Generator, clean: Clean, slip: str) -> tuple[dict[tuple[str, str], float], tuple[str, str]]:
    """The set with one slip, and a place that it touches. A slip that changes nothing worth speaking of is drawn anew."""
    while True:
        shown = dict(clean.shown)
        place = _SLIPS[slip](rng, shown)
        moved = {key: abs(shown[key] - clean.shown[key]) for key in shown}
        worth = max(v / (WORTH_N if k == "tension" else WORTH_MM) for (k, _), v in moved.items())
        if place and worth >= 1:
            return shown, place


def _pick(rng: Generator, shown: dict[tuple[str, str], float], kind: str = "") -> tuple[str, str]:
    keys = [key for key in shown if not kind or key[0] == kind]
    return keys[rng.integers(len(keys))]


def _retyped(rng: Generator, shown: dict[tuple[str, str], float], lost: bool) -> tuple[str, str] | None:
    place = _pick(rng, shown)
    value = shown[place]
    text = str(int(abs(value))) if place[0] == "tension" else f"{abs(value):.2f}"
    spots = [i for i, c in enumerate(text) if c != "."]
    if value == 0 or len(spots) < 2:
        return None
    i = spots[rng.integers(len(spots))]
    text = text[:i] + text[i + 1 :] if lost else text[:i] + str(rng.integers(10)) + text[i:]
    new = float(text) * (-1 if value < 0 else 1)
    limit = 5000 if place[0] == "tension" else 30
    if abs(new) > limit:
        return None
    shown[place] = new
    return place


def _sign(rng: Generator, shown: dict[tuple[str, str], float]) -> tuple[str, str]:
    place = _pick(rng, shown, rng.choice(["lateral", "radial"]))
    shown[place] = -shown[place]
    return place


def _swapped(rng: Generator, shown: dict[tuple[str, str], float]) -> tuple[str, str]:
    kind = rng.choice(["tension", "lateral", "radial"])
    keys = [key for key in shown if key[0] == kind]
    i = int(rng.integers(len(keys) - 1))
    shown[keys[i]], shown[keys[i + 1]] = shown[keys[i + 1]], shown[keys[i]]
    return keys[i]


def _side(rng: Generator, shown: dict[tuple[str, str], float], mirror: bool) -> tuple[str, str]:
    kind, side = rng.choice(["tension", "lateral", "radial"]), rng.choice(["R", "L"])
    keys = sorted((k for k in shown if k[0] == kind and k[1][0] == side), key=lambda k: int(k[1][1:]))
    values = [shown[k] for k in keys]
    way = int(rng.choice([-1, 1]))
    values = values[::-1] if mirror else values[way:] + values[:way]
    shown.update(dict(zip(keys, values, strict=True)))
    return keys[0]


def _table(rng: Generator, shown: dict[tuple[str, str], float]) -> tuple[str, str]:
    side = rng.choice(["R", "L"])
    for key in shown:
        if key[0] == "tension" and key[1][0] == side:
            shown[key] = 5 * round(shown[key] / 0.72 / 5)
    return ("tension", f"{side}1")


def _dial(rng: Generator, shown: dict[tuple[str, str], float]) -> tuple[str, str]:
    keys = [key for key in shown if key[0] == rng.choice(["lateral", "radial"])]
    if not keys:
        return ("", "")
    keys = [key for key in shown if key[0] == keys[0][0]]
    first, moved = int(rng.integers(5, len(keys) - 5)), rng.uniform(0.3, 1.5) * rng.choice([-1, 1])
    for key in keys[first:]:
        shown[key] = round(shown[key] + moved, 2)
    return keys[first]


_SLIPS: dict[str, Callable[[Generator, dict[tuple[str, str], float]], tuple[str, str] | None]] = {
    "lost": partial(_retyped, lost=True),
    "added": partial(_retyped, lost=False),
    "sign": _sign,
    "swapped": _swapped,
    "shifted": partial(_side, mirror=False),
    "turned_round": partial(_side, mirror=True),
    "table": _table,
    "dial_moved": _dial,
}


@dataclass(frozen=True)
class Tally:
    """Of planted slips by kind: how many, named rightly, told at the right place under another name; clean sets accused."""

    planted: Counter[str]
    named: Counter[str]
    placed: Counter[str]
    clean: int
    accused: int

    @property
    def share_named(self) -> float:
        return sum(self.named.values()) / max(1, sum(self.planted.values()))


def trial(rounds: int, seed: int = 1) -> Iterator[tuple[int, Tally]]:
    """`rounds` clean sets and as many slips of each kind; tells how far it has got."""
    rng = np.random.default_rng(seed)
    tally = Tally(Counter(), Counter(), Counter(), 0, 0)
    for number in range(rounds):
        clean = clean_set(rng, KINDS[number % len(KINDS)])
        tally = replace(tally, clean=tally.clean + 1, accused=tally.accused + bool(found_in(clean, clean.shown)))
        for slip in SLIPS:
            shown, place = with_slip(rng, clean, slip)
            found = found_in(clean, shown)
            tally.planted[slip] += 1
            tally.named[slip] += any(s.kind in NAMED[slip] and place in s.places for s in found)
            tally.placed[slip] += any(place in s.places for s in found)
        yield number + 1, tally


def main() -> None:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 60
    tally = Tally(Counter(), Counter(), Counter(), 0, 0)
    for number, so_far in trial(rounds):
        tally = so_far
        bar(number, rounds)
    print(f"{'slip':<14}{'planted':>8}{'named':>8}{'placed':>8}")
    for slip in SLIPS:
        print(f"{slip:<14}{tally.planted[slip]:>8}{tally.named[slip]:>8}{tally.placed[slip]:>8}")
    print(f"named {100 * tally.share_named:.0f} %; clean sets accused: {tally.accused} of {tally.clean}")


if __name__ == "__main__":
    main()
