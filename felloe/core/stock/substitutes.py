"""Spokes in the bins that may stand in for the length wanted, safest first.

Half to one millimetre within the nipple's window, or a longer one cut and its thread rolled anew; common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property, lru_cache
from typing import Any

from felloe.core.components import THREAD_PITCH_MM, Spoke
from felloe.core.said import joined, say
from felloe.core.spokes.fit import FITS, Fit, fit, rounded_mm, would_serve
from felloe.core.spokes.nipple import THREAD_LENGTH_MM, Nipple
from felloe.core.stock.parts import Attributes, BadPart, pitch_of, spoke_of
from felloe.core.terms import term

AS_IT_IS, CUT = "as_it_is", "cut"
#: A machine that cuts and rolls works to half a millimetre; common practice, no source.
CUT_STEP_MM = 0.5


@dataclass(frozen=True)
class Wanted:
    """What a side needs: the length to the slot's bottom and the stretch [mm], the wire, thread and head, and how many."""

    needed_mm: float
    stretch_mm: float
    spoke: Spoke
    count: int
    pitch_mm: float = THREAD_PITCH_MM
    elbow: bool = True
    sd_mm: float = 0.0


@dataclass(frozen=True)
class Stocked:
    """A spoke in a bin: its key, name, attributes (core.stock.parts) and how many the asker may take."""

    key: str
    name: str
    attributes: Attributes
    count: int

    @cached_property
    def holds(self) -> tuple[Spoke, float, bool, float]:
        """Wire, pitch, elbow and length: all that tells whether one bin's spokes are those of another."""
        attributes = self.attributes
        return spoke_of(attributes), pitch_of(attributes), attributes.get("elbow", True), float(attributes["length_mm"])


@dataclass(frozen=True)
class Offer:
    """One bin that serves: as it is or cut to `cut_to_mm`; its end in the nipple, what speaks against it, how many."""

    key: str
    name: str
    how: str
    fit: Fit
    cut_to_mm: float | None
    cautions: tuple[str, ...]
    count: int
    enough: bool


def offers(wanted: Wanted, stock: Iterable[Stocked], can_cut: bool, nipple: Nipple | None = None) -> tuple[Offer, ...]:
    """Every bin that may serve, the best first: enough, as it is, in the window, of the same wire."""
    # A shop's hundreds of bins hold a few dozen spokes: what serves of one serves of all that hold the same.
    served: dict[object, _Serves | None] = {}
    found = []
    for bin_ in stock:
        if bin_.holds not in served:
            served[bin_.holds] = _serves(wanted, bin_.attributes, can_cut, nipple)
        how = served[bin_.holds]
        if how is not None and bin_.count >= 1:
            enough = bin_.count >= wanted.count
            found.append(Offer(bin_.key, bin_.name, how.how, how.fit, how.cut_to_mm, how.cautions, bin_.count, enough))
    return tuple(
        sorted(
            found, key=lambda o: (not o.enough, o.how == CUT, o.fit.verdict != FITS, len(o.cautions), abs(o.fit.end_mm + 0.5))
        )
    )


@dataclass(frozen=True)
class _Serves:
    """How a spoke serves, whatever bin it lies in."""

    how: str
    fit: Fit
    cut_to_mm: float | None
    cautions: tuple[str, ...]


def _serves(wanted: Wanted, attributes: Attributes, can_cut: bool, nipple: Nipple | None) -> _Serves | None:
    wire = spoke_of(attributes)
    same_thread = (
        abs(wire.end_diameter_mm - wanted.spoke.end_diameter_mm) < 0.06 and abs(pitch_of(attributes) - wanted.pitch_mm) < 0.004
    )
    if not same_thread or attributes.get("elbow", True) != wanted.elbow:
        return None
    length = float(attributes["length_mm"])
    stretch_mm = _own_stretch_mm(wanted, wire)
    if would_serve(length, wanted.needed_mm, stretch_mm, wanted.sd_mm, nipple):
        as_it_is = fit(length, wanted.needed_mm, stretch_mm, wanted.sd_mm, nipple)
        cautions = _cautions(wanted.spoke, wire)
        return _Serves(AS_IT_IS, as_it_is, None, (*cautions, as_it_is.why) if as_it_is.verdict != FITS else cautions)
    cut_to = rounded_mm(wanted.needed_mm, stretch_mm, CUT_STEP_MM)
    if not can_cut or cut_to >= length or not _leaves_thread(wire, length, cut_to):
        return None
    cut = fit(cut_to, wanted.needed_mm, stretch_mm, wanted.sd_mm, nipple)
    said = (
        say("Cut {length:g} mm off and roll the thread anew; a spoke that is only cut has too little.", length=length - cut_to),
        *_cautions(wanted.spoke, wire),
    )
    return _Serves(CUT, cut, cut_to, said)


def _own_stretch_mm(wanted: Wanted, wire: Spoke) -> float:
    """How much another wire grows under the tension that draws the wanted one out by its stretch (Hooke's law)."""
    tension_n = wanted.stretch_mm * wanted.spoke.axial_stiffness_n_mm(wanted.needed_mm)
    return tension_n / wire.axial_stiffness_n_mm(wanted.needed_mm)


def why_not_cut(attributes: Attributes, to_mm: float) -> str:
    """Why a stocked spoke cannot be cut to `to_mm` and threaded anew; empty where it can."""
    wire, length = spoke_of(attributes), float(attributes["length_mm"])
    if to_mm >= length:
        return say("only a longer spoke can be cut")
    if not _leaves_thread(wire, length, to_mm):
        return say(
            "{length:g} mm off a {length2:g} mm spoke leave no thick end for the thread", length=length - to_mm, length2=length
        )
    return ""


def _leaves_thread(wire: Spoke, length_mm: float, to_mm: float) -> bool:
    """New thread is rolled on the thick end: what is cut off and the thread must not reach the thin middle."""
    room = length_mm / 2 if wire.kind == _plain(wire.end_diameter_mm).kind else wire.end_length_mm
    return length_mm - to_mm + THREAD_LENGTH_MM <= room


@lru_cache(maxsize=32)
def _plain(end_diameter_mm: float) -> Spoke:
    return Spoke(end_diameter_mm)


def check_stocked_length(attributes: Attributes, length_mm: float, can_cut: bool) -> None:
    """Raise BadPart where a stocked spoke neither is `length_mm` long nor can be cut to it in this shop."""
    length = float(attributes["length_mm"])
    if abs(length - length_mm) < 0.01:
        return
    why = why_not_cut(attributes, length_mm) if can_cut else say("no spokes are cut here")
    if why:
        raise BadPart(
            say("the bin holds {length:g} mm, {length_mm:g} mm are wanted: {why}", length=length, length_mm=length_mm, why=why),
            "part",
        )


@lru_cache(maxsize=256)
def _cautions(want: Spoke, wire: Spoke) -> tuple[str, ...]:
    said: list[str] = []
    if wire.kind != want.kind:
        said.append(
            say(
                "Another middle ({kind} for {wanted}): it stretches otherwise; do not mix on one side.",
                kind=wire.kind,
                wanted=want.kind,
            )
        )
    if wire.material != want.material:
        said.append(say("Another material ({material}).", material=term(wire.material)))
    return tuple(said)


def name_of_spoke(attributes: dict[str, Any]) -> str:
    """How a bin of spokes is called when nobody says otherwise: length, wire, colour."""
    wire = spoke_of(attributes)
    ends = f"{wire.end_diameter_mm:.1f}"
    if wire.middle_diameter_mm:
        ends += f"/{wire.middle_diameter_mm:.1f}"
    elif wire.blade_thickness_mm:
        ends += say(
            ", blade {blade_thickness_mm:g}×{blade_width_mm:g}",
            blade_thickness_mm=wire.blade_thickness_mm,
            blade_width_mm=wire.blade_width_mm,
        )
    straight = "" if attributes.get("elbow", True) else say(", straight")
    colour = joined(", ", ["", attributes["colour"]]) if attributes.get("colour") else ""
    return say(
        "Spoke {length_mm:g} mm, {ends}{straight}{colour}",
        length_mm=attributes["length_mm"],
        ends=ends,
        straight=straight,
        colour=colour,
    )
