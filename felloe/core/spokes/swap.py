"""Another rim or another hub: do the old spokes still fit, as they are or with the sides changed round?"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from felloe.core.components import Wheel
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.spokes.fit import Fit, fit, mixed
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.tension.statics import side_targets_n

AS_THEY_ARE, CHANGE_SIDES, ONE_SIDE, NEW, MEASURE = "as_they_are", "change_sides", "one_side", "new", "measure"


@dataclass(frozen=True)
class SideSwap:
    """One side of the new wheel: the length it needs [mm], by how much that differs, and the old spokes in its nipples."""

    side: Side
    needed_mm: float
    change_mm: float
    own: Fit | None
    other: Fit | None


@dataclass(frozen=True)
class Swap:
    """What the change means: `advice` is one of AS_THEY_ARE, CHANGE_SIDES, ONE_SIDE, NEW, with its reason and cautions."""

    sides: tuple[SideSwap, SideSwap]
    advice: str
    why: str
    cautions: tuple[str, ...]


def swap(
    old: Wheel,
    new: Wheel,
    removed_mm: Mapping[Side, Sequence[float]] | None = None,
    nipple: Nipple | None = None,
    measured: bool = True,
) -> Swap:
    """Compare `old` and `new`; the old spokes are as long as those measured, every one of them judged.

    Without a measured spoke of a side its length is computed where the old wheel was `measured`, and unknown where it was not.
    """
    lengths = {side: _old_lengths(old, side, removed_mm or {}, measured) for side in Side}
    targets = side_targets_n(new)
    same_wire = old.right.spoke == old.left.spoke
    rows = []
    for side in (Side.RIGHT, Side.LEFT):
        needed = spoke_length_mm(new, side)
        stretch = stretch_mm(new, side, targets[side])

        def in_nipple(source: Side, side: Side = side, needed: float = needed, stretch: float = stretch) -> Fit | None:
            # Fewer old spokes than the side needs are no set.
            if old.side(source).count < new.side(side).count or not lengths[source]:
                return None
            fits = [fit(length, needed, stretch, 0.0, nipple) for length in sorted(set(lengths[source]))]
            return next((f for f in fits if not f.usable), fits[0])

        rows.append(SideSwap(side, needed, needed - spoke_length_mm(old, side), in_nipple(side), in_nipple(side.other)))
    right, left = rows
    advice, why = _advice(right, left, same_wire)
    unknown = [side.said for side in (Side.RIGHT, Side.LEFT) if not lengths[side]]
    if unknown and advice != AS_THEY_ARE:
        advice, why = (
            MEASURE,
            say(
                "Hold an old spoke of the {sides} side to the ruler first: nothing is known of its length.",
                sides=joined(", ", unknown),
            ),
        )
    return Swap((right, left), advice, why, _cautions(advice, removed_mm or {}))


def _old_lengths(old: Wheel, side: Side, removed_mm: Mapping[Side, Sequence[float]], measured: bool) -> tuple[float, ...]:
    found = tuple(removed_mm.get(side, ()))
    if found or not measured:
        return found
    return (spoke_length_mm(old, side) - stretch_mm(old, side, side_targets_n(old)[side]),)


def _usable(found: Fit | None) -> bool:
    return found is not None and found.usable


def _advice(right: SideSwap, left: SideSwap, same_wire: bool) -> tuple[str, str]:
    if _usable(right.own) and _usable(left.own):
        return AS_THEY_ARE, say("Both sides' old spokes still end inside their nipples' heads.")
    if same_wire and _usable(right.other) and _usable(left.other):
        return CHANGE_SIDES, say(
            "Changed round they fit: the right side's old spokes to the left, the left side's to the right."
        )
    good = [side.said for side, row in ((Side.RIGHT, right), (Side.LEFT, left)) if _usable(row.own)]
    if good:
        return ONE_SIDE, say("Only the {good} side's old spokes fit; the other side needs new ones.", good=good[0])
    return NEW, say("The old spokes fit neither side: new ones on both.")


def _cautions(advice: str, removed_mm: Mapping[Side, Sequence[float]]) -> tuple[str, ...]:
    if advice == NEW:
        return ()
    said = [say("Re-use only sound spokes: no nick, no rust, no bent thread. Nipples and rim washers are never used again.")]
    if not removed_mm:
        said.append(say("Computed, not measured: hold a removed spoke to the ruler before the rim is ordered."))
    for side, lengths in removed_mm.items():
        if mixed(lengths) > 1:
            said.append(
                say(
                    "The {side} side's old spokes differ by {mixed:.0f} mm: sort them; new ones are better.",
                    side=side.said,
                    mixed=mixed(lengths),
                )
            )
    return tuple(said)
