"""What removed spokes and their nipples tell: mixed lengths, too short for the nipple, and how much is missing.

Common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from felloe.core.components import Wheel, require
from felloe.core.diagnosis.breakage import MIXED_LENGTHS_MM
from felloe.core.naming import Side, SpokeName
from felloe.core.said import joined, say
from felloe.core.spokes.fit import CANNOT_TELL, HEAD_UNSUPPORTED, SHORT, THREAD_RUNS_OUT, WINDOW_MM, BadLength, Fit, fit, mixed
from felloe.core.spokes.length import spoke_length_mm, stretch_mm
from felloe.core.spokes.nipple import Nipple
from felloe.core.tension.statics import side_targets_n


@dataclass(frozen=True)
class OldSide:
    """One side's removed spokes: how many, middle length and spread [mm], each in its nipple, what that explains."""

    side: Side
    count: int
    middle_mm: float
    spread_mm: float
    needed_mm: float
    fits: Mapping[str, Fit]
    explains: tuple[str, ...]
    rebuild: bool


def read_old_spokes(
    wheel: Wheel, lengths_mm: Mapping[str, float], nipple: Nipple | None = None, sds_mm: Mapping[Side, float] | None = None
) -> tuple[OldSide, ...]:
    """Judge removed spokes by place; sides without any are left out, and so are places that the wheel has not.

    `sds_mm`: how well each side's needed length is known: what a guess cannot tell is not held against a spoke.

    What is entered is checked by `check_old_length`; a wheel that was measured anew since is judged as it now stands.
    """
    targets = side_targets_n(wheel)
    found = []
    for side in (Side.RIGHT, Side.LEFT):
        mine = {
            name: length for name, length in lengths_mm.items() if name in wheel.index_of and SpokeName.parse(name).side is side
        }
        if not mine:
            continue
        needed = spoke_length_mm(wheel, side)
        stretch = stretch_mm(wheel, side, targets[side])
        fits = {name: fit(length, needed, stretch, (sds_mm or {}).get(side, 0.0), nipple) for name, length in mine.items()}
        spread = mixed(mine.values())
        explains = _explains(side, fits, spread)
        rebuild = spread > MIXED_LENGTHS_MM or any(_surely(f, HEAD_UNSUPPORTED) for f in fits.values())
        found.append(OldSide(side, len(mine), sorted(mine.values())[len(mine) // 2], spread, needed, fits, explains, rebuild))
    return tuple(found)


def check_old_length(wheel: Wheel, name: str, length_mm: float) -> None:
    """Refuse a spoke that the wheel has not, or a length that none of its spokes can have had."""
    spoke = SpokeName.parse(name)
    if str(spoke) not in wheel.index_of:
        raise BadLength(say("this wheel has no spoke {spoke}", spoke=spoke), "spoke")
    needed = spoke_length_mm(wheel, spoke.side)
    if abs(length_mm - needed) > 30:
        raise BadLength(
            say(
                "{length_mm:g} mm is {off_mm:.0f} mm off what this wheel needs ({needed:.0f} mm): measure from "
                "the inside of the elbow to the end of the thread",
                length_mm=length_mm,
                off_mm=abs(length_mm - needed),
                needed=needed,
            ),
            "length_mm",
        )


def _surely(found: Fit, verdict: str) -> bool:
    return found.verdict == verdict and found.told != CANNOT_TELL


def _explains(side: Side, fits: Mapping[str, Fit], spread: float) -> tuple[str, ...]:
    said = []
    if spread > MIXED_LENGTHS_MM:
        said.append(
            say(
                "Mixed lengths, {spread:.1f} mm apart: they explain broken nipples. Rebuild the {side} side.",
                spread=spread,
                side=side.said,
            )
        )
    short = sorted((n for n, f in fits.items() if _surely(f, HEAD_UNSUPPORTED)), key=_place)
    if short:
        said.append(
            say(
                "Too short for the nipple: {short}. The head carried the load alone; that snaps heads off.",
                short=joined(", ", short),
            )
        )
    barely = sorted((n for n, f in fits.items() if _surely(f, SHORT)), key=_place)
    if barely and not short:
        said.append(say("On the short side: {barely}. Order one step longer.", barely=joined(", ", barely)))
    long = sorted((n for n, f in fits.items() if _surely(f, THREAD_RUNS_OUT)), key=_place)
    if long:
        said.append(
            say("Too long: {long}. The thread ran out, so the spoke never came to its tension.", long=joined(", ", long))
        )
    return tuple(said)


def _place(name: str) -> int:
    return SpokeName.parse(name).number


@dataclass(frozen=True)
class ThreadTest:
    """What a spare thread found in a nipple: where the spoke's end stands from the slot's bottom, and what is missing [mm]."""

    end_mm: float
    missing_mm: float
    why: str


#: Less of a turn of thread than a hand feels go in [mm].
THREAD_FELT_MM = 0.25


def thread_in_nipple(depth_mm: float, nipple: Nipple | None = None) -> ThreadTest:
    """Screw a spare spoke into the nipple from outside until it meets the spoke's end; `depth_mm` of it went in.

    The depth counts from the nipple's outer face, over the spare's whole thread.
    """
    nipple = nipple or Nipple()
    require("depth_mm", depth_mm, 0, nipple.length_mm, "mm", say("How deep the spare thread went"))
    end = nipple.slot_mm - depth_mm
    missing = max(0.0, -end)
    if depth_mm < THREAD_FELT_MM:
        why = say("Nothing went in: the end stands at the nipple's face or out of it. Look, and take a shorter spoke.")
    elif end > WINDOW_MM[1] + 1e-9:
        why = say("The end stands {end:.1f} mm into the slot: it holds, but a screwdriver slips.", end=end)
    elif missing <= 1.0:
        why = say("The end stands where it belongs.")
    elif end >= nipple.head_base_mm:
        why = say(
            "{missing:.1f} mm below the slot's bottom, still through the head: a step longer would be better.", missing=missing
        )
    else:
        why = say(
            "{missing:.1f} mm are missing, so nothing holds the head. A spoke {longer} mm longer, and a new nipple.",
            missing=missing,
            # Half a millimetre up: a spoke that ends too low holds nothing, one in the window does.
            longer=math.floor(missing + 0.5),
        )
    return ThreadTest(end, missing, why)
