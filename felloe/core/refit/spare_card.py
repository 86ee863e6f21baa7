"""A touring customer's card: what to carry so that any workshop, or a roadside, can put a spoke in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from felloe.core.components import Wheel
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.spokes.fit import rounded_mm
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.tension.statics import side_targets_n, tight_side

#: How many to carry of each kind; common practice, no source: two where spokes break first, one elsewhere.
CARRY_TIGHT, CARRY_OTHER = 2, 1


@dataclass(frozen=True)
class SpareLine:
    """Spokes for one side of one wheel: length [mm], wire, and how many to carry."""

    position: str
    side: Side
    length_mm: float
    wire: str
    carry: int
    measured: bool


@dataclass(frozen=True)
class SpareCard:
    """The card: spokes, what else to carry, and what to bear in mind."""

    spokes: tuple[SpareLine, ...]
    carry: tuple[str, ...]
    mind: tuple[str, ...]


def spare_card(
    wheels: Sequence[tuple[str, Wheel, bool]], chosen_mm: dict[tuple[str, Side], float], nipple: Nipple | None = None
) -> SpareCard:
    """The card for a bike's wheels, each (position, wheel, whether measured).

    `chosen_mm` are lengths that were laced; others are computed and rounded to whole millimetres.
    """
    nipple = nipple or Nipple()
    lines = []
    rear_right = False
    for position, wheel, measured in wheels:
        targets = side_targets_n(wheel)
        for side in (Side.LEFT, Side.RIGHT):
            stretch = stretch_mm(wheel, side, targets[side])
            computed = rounded_mm(spoke_length_mm(wheel, side), stretch, 1.0)
            known = (position, side) in chosen_mm
            many = CARRY_TIGHT if position == "rear" and side is tight_side(wheel) else CARRY_OTHER
            lines.append(
                SpareLine(
                    position,
                    side,
                    chosen_mm.get((position, side), computed),
                    wheel.side(side).spoke.kind,
                    many,
                    measured or known,
                )
            )
            rear_right = rear_right or position == "rear"
    carry = [
        say(
            "{sum} nipples, {material}, and a key for {key_mm:g} mm flats",
            sum=sum(line.carry for line in lines),
            material=nipple.material,
            key_mm=nipple.key_mm,
        )
    ]
    if rear_right:
        carry.append(say("The tool that takes the sprockets off: a right rear spoke cannot be put in without it"))
    carry.append(say("Tape, and two zip ties as pointers on the stay"))
    mind = [
        say("Tape the spokes to a stay or inside a pump: never loose in a bag."),
        say("A spoke put in on the road is temporary: rather too loose than too tight, then to a workshop."),
    ]
    if not all(line.measured for line in lines):
        mind.append(say("Lengths marked “by kind” were not measured on this wheel: have them measured before the tour."))
    return SpareCard(tuple(lines), tuple(carry), tuple(mind))
