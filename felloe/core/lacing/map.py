"""The lacing map of one very wheel: which hole next, which way the head, what it crosses, in the order of the work.

Order of the sets, heads, and what runs over or under are common practice, no source. Seen from the right throughout.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from felloe.core.components import Wheel
from felloe.core.errors import TradeError
from felloe.core.lacing.pattern import Lacing, lace
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.terms import term

TRAILING, LEADING, RADIAL = "trailing", "leading", "radial"
HEAD_IN, HEAD_OUT = "in", "out"
OVER, UNDER = "over", "under"
#: Which of a side's spokes run inside its flange, heads out; of a radial side all or none.
INSIDE_CHOICES: dict[str, str] = {
    TRAILING: say("Pulling spokes inside: under hard pedalling the crossings draw in, away from the chain and the cage."),
    LEADING: say("Braking spokes inside: under a disc brake the crossings of the rotor's side draw in, away from the caliper."),
}
RADIAL_CHOICES: dict[str, str] = {
    "all": say("All spokes inside, heads out: the usual look; easiest on the flange's edge."),
    "none": say("All spokes outside, heads in: stands wider, so stiffer sideways."),
}


class BadLacing(TradeError):
    """A choice or an observation that this wheel's lacing does not have."""

    code = "bad_lacing"


@dataclass(frozen=True)
class Place:
    """One spoke: its order in the work, its set, and where it goes.

    `rim_hole` counts clockwise from the valve, from 1. `flange_hole` counts clockwise from the hole of the first spoke
    of the right side's first set; the left flange's hole 1 is the next one clockwise of that. `crosses`: the spokes of its
    side that it crosses from the hub outward, each with whether this one runs over (outside) or under.
    """

    order: int
    set_number: int
    spoke: str
    side: Side
    rim_hole: int
    flange_hole: int
    head: str
    lean: str
    crosses: tuple[tuple[str, str], ...]
    beside_valve: bool


@dataclass(frozen=True)
class LacingSet:
    """One set of spokes: number, side, what to do before it and how its holes run."""

    number: int
    side: Side
    title: str
    before: str
    every: int


@dataclass(frozen=True)
class LacingMap:
    """The whole map: places in working order, and the sets they form."""

    wheel: Wheel
    inside: Mapping[Side, str]
    sets: tuple[LacingSet, ...]
    places: tuple[Place, ...]

    @cached_property
    def by_spoke(self) -> Mapping[str, Place]:
        return {place.spoke: place for place in self.places}


def usual_inside(wheel: Wheel) -> dict[Side, str]:
    """The default: trailing spokes inside on both sides, all inside where radial."""
    return {side: TRAILING if wheel.side(side).crossings else "all" for side in Side}


def lacing_map(wheel: Wheel, inside: Mapping[Side, str] | None = None) -> LacingMap:
    """Lay out the work for `wheel`; `inside` says which spokes of each side run inside. Raises BadLacing."""
    chosen = {**usual_inside(wheel), **(inside or {})}
    for side in Side:
        known = INSIDE_CHOICES if wheel.side(side).crossings else RADIAL_CHOICES
        if chosen[side] not in known:
            raise BadLacing(
                say(
                    "the {side} side's spokes run inside by {known}; found “{chosen}”",
                    side=side.said,
                    known=joined(" or ", known),
                    chosen=chosen[side][:20],
                ),
                "inside",
            )
    laced = lace(wheel)
    leans = [TRAILING if lean > 0 else LEADING if lean < 0 else RADIAL for lean in laced.leans]
    heads = [_head(chosen[name.side], lean) for name, lean in zip(wheel.names, leans, strict=True)]
    order, sets = _working_order(wheel, leans, heads)
    holes = flange_hole_numbers(wheel, laced.hub_angle_rad, order[0][1])
    crossed = _crossings(wheel, laced, heads)
    last = wheel.spoke_count - 1
    places = tuple(
        Place(
            order=k + 1,
            set_number=number,
            spoke=str(wheel.names[i]),
            side=wheel.names[i].side,
            rim_hole=i + 1,
            flange_hole=holes[i],
            head=heads[i],
            lean=leans[i],
            crosses=crossed[i],
            beside_valve=i in (0, last),
        )
        for k, (number, i) in enumerate(order)
    )
    return LacingMap(wheel, chosen, sets, places)


def _head(inside: str, lean: str) -> str:
    if inside in RADIAL_CHOICES:
        return HEAD_OUT if inside == "all" else HEAD_IN
    return HEAD_OUT if lean == inside else HEAD_IN


def flange_hole_numbers(wheel: Wheel, hub_angle_rad: np.ndarray, key: int) -> list[int]:
    """Number of each spoke's flange hole, round the rim, counted from the hole of spoke `key` (its index round the rim)."""
    start = float(hub_angle_rad[key])
    numbers = [0] * len(wheel.names)
    for side in Side:
        mine = [i for i, name in enumerate(wheel.names) if name.side is side]
        # In their order round the flange: straight-pull seats are not spaced evenly, and two may lie behind each other.
        slack = 1e-9 if side is wheel.names[key].side else -1e-9
        turned = [round(float(np.mod(hub_angle_rad[i] - start + slack, 2 * np.pi)), 6) for i in mine]
        for number, (_, i) in enumerate(sorted(zip(turned, mine, strict=True)), start=1):
            numbers[i] = number
    return numbers


def _working_order(wheel: Wheel, leans: list[str], heads: list[str]) -> tuple[list[tuple[int, int]], tuple[LacingSet, ...]]:
    """(set number, index round the rim) in working order: inside sets first, then the hub's turn, then the crossing sets."""
    lots: dict[tuple[Side, str], list[int]] = {}
    for i, name in enumerate(wheel.names):
        first = heads[i] == HEAD_OUT or leans[i] == RADIAL
        lots.setdefault((name.side, "first" if first else "second"), []).append(i)
    first_r, first_l = lots[(Side.RIGHT, "first")], lots[(Side.LEFT, "first")]
    lean_r, lean_l = leans[first_r[0]], leans[first_l[0]]
    agree = RADIAL in (lean_r, lean_l) or lean_r == lean_l
    if agree:
        wanted = [(Side.RIGHT, "first"), (Side.LEFT, "first"), (Side.RIGHT, "second"), (Side.LEFT, "second")]
    else:
        wanted = [(Side.RIGHT, "first"), (Side.RIGHT, "second"), (Side.LEFT, "first"), (Side.LEFT, "second")]
    order: list[tuple[int, int]] = []
    sets: list[LacingSet] = []
    turned = False
    for key in wanted:
        if key not in lots:
            continue
        number, members = len(sets) + 1, lots[key]
        lean = leans[members[0]]
        before = ""
        if key[1] == "second" and not turned:
            before, turned = _turn_of_hub(leans[lots[(key[0], "first")][0]]), True
        sets.append(LacingSet(number, key[0], _title(key, lean, heads[members[0]]), before, _every(members)))
        order += [(number, i) for i in members]
    return order, tuple(sets)


def _title(key: tuple[Side, str], lean: str, head: str) -> str:
    side, which = key
    what = (
        say("all its spokes")
        if lean == RADIAL
        else say("first set, {lean}", lean=term(lean))
        if which == "first"
        else say("crossing set, {lean}", lean=term(lean))
    )
    return say("{side} side, {what}, heads {head}", side=side.said.capital(), what=what, head=term(head))


def _turn_of_hub(first_lean: str) -> str:
    way = say("clockwise") if first_lean == TRAILING else say("anticlockwise")
    return say(
        "Turn the hub {way}, seen from the right, until the spokes beside the valve lean away from it. "
        "The other way closes the gap that the pump needs: the most common mistake in lacing.",
        way=way,
    )


def _every(members: list[int]) -> int:
    """The set takes every n-th rim hole; 0 where its holes are not evenly spaced."""
    gaps = set(np.diff(members).tolist())
    return int(gaps.pop()) if len(gaps) == 1 else 0


def _crossings(wheel: Wheel, laced: Lacing, heads: list[str]) -> list[tuple[tuple[str, str], ...]]:
    """Per spoke, the spokes of its side whose projections it meets, from the hub outward, and over or under."""
    found: list[tuple[tuple[str, str], ...]] = [()] * wheel.spoke_count
    for side in Side:
        mine = [i for i, name in enumerate(wheel.names) if name.side is side]
        interlaced = wheel.side(side).crossings >= 2
        for i in mine:
            met = sorted((at, j) for j in mine if j != i and (at := _meets(laced, i, j)) is not None)
            outside = heads[i] == HEAD_IN
            said = []
            for k, (_, j) in enumerate(met):
                woven = interlaced and k == len(met) - 1
                said.append((str(wheel.names[j]), OVER if outside is not woven else UNDER))
            found[i] = tuple(said)
    return found


def _meets(laced: Lacing, i: int, j: int) -> float | None:
    """How far along spoke i, from hub (0) to rim (1), it meets spoke j; None where it does not."""
    p, r = laced.hub_hole_mm[i, :2], laced.seat_mm[i, :2] - laced.hub_hole_mm[i, :2]
    q, s = laced.hub_hole_mm[j, :2], laced.seat_mm[j, :2] - laced.hub_hole_mm[j, :2]
    cross = r[0] * s[1] - r[1] * s[0]
    if abs(cross) < 1e-9:
        return None
    d = q - p
    t, u = (d[0] * s[1] - d[1] * s[0]) / cross, (d[0] * r[1] - d[1] * r[0]) / cross
    return float(t) if 1e-6 < t < 1 - 1e-6 and 1e-6 < u < 1 - 1e-6 else None
