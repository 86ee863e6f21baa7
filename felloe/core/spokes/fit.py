"""Where a spoke's end comes to stand in its nipple, for each length that could be bought.

The window and what happens outside it are common practice, no source: the end belongs between 0 and 1 mm below the
slot's bottom; spokes 1 mm or more short of the head's base break nipples at the head.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from felloe.core.errors import TradeError
from felloe.core.said import joined, say
from felloe.core.spokes.nipple import THREAD_LENGTH_MM, Nipple

#: The end's window, from the slot's bottom [mm]; + toward the tyre.
WINDOW_MM = (-1.0, 0.0)
STEPS_MM = (0.5, 1.0, 2.0)
ROUNDING_SCHOOLS = {
    "nearest": say("The step nearest to the middle of the window: the end most surely where it belongs."),
    "down": say("The step below the slot's bottom, never above: for rims whose bed is close to the tape."),
}
FITS, SHORT, HEAD_UNSUPPORTED, IN_SLOT, THREAD_RUNS_OUT, PROUD = (
    "fits", "short", "head_unsupported", "in_slot", "thread_runs_out", "proud",
)  # fmt: skip
#: What may be laced; the others are refused.
USABLE = frozenset({FITS, SHORT, IN_SLOT})
#: What can be told of a length: surely usable, surely not, or neither.
DOES_FIT, CANNOT_TELL, DOES_NOT_FIT = "fits", "cannot_tell", "does_not_fit"
#: A length computed from dimensions that nobody measured is known to no better than this [mm]; common practice, no source.
GUESS_SD_MM = 1.0
#: What a guess says with less than this chance either way cannot be told.
SURELY = 0.95


class BadLength(TradeError):
    """A spoke length or a step that cannot be."""

    code = "bad_length"


@dataclass(frozen=True)
class Fit:
    """One length [mm] in the nipple: where its end stands from the slot's bottom under the target tension (+ toward the tyre).

    `chance`: that the end stands between the head's base and the nipple's outer face, by the length's uncertainty.
    """

    length_mm: float
    end_mm: float
    verdict: str
    why: str
    chance: float
    sd_mm: float = 0.0

    @property
    def told(self) -> str:
        """DOES_FIT, CANNOT_TELL or DOES_NOT_FIT: a guess refuses only what it surely refuses."""
        if self.sd_mm < GUESS_SD_MM:
            return DOES_FIT if self.verdict in USABLE else DOES_NOT_FIT
        if self.chance >= SURELY:
            return DOES_FIT
        return DOES_NOT_FIT if self.chance <= 1 - SURELY else CANNOT_TELL

    @property
    def usable(self) -> bool:
        return self.told != DOES_NOT_FIT


def fit(
    length_mm: float,
    needed_mm: float,
    stretch_mm: float,
    sd_mm: float = 0.0,
    nipple: Nipple | None = None,
    thread_length_mm: float = THREAD_LENGTH_MM,
) -> Fit:
    """Where a spoke of `length_mm` ends when `needed_mm` reaches the slot's bottom and tension draws it out by `stretch_mm`."""
    nipple = nipple or Nipple()
    found = _without_words(length_mm, needed_mm, stretch_mm, sd_mm, nipple, thread_length_mm)
    if found.told == CANNOT_TELL:
        unsure = say(
            "Cannot be told until the ERD is measured: by the kind alone its end stands {end:.1f} mm from the slot's bottom,"
            " ± {sd_mm:.1f} mm.",
            end=found.end_mm,
            sd_mm=sd_mm,
        )
        return replace(found, why=unsure)
    return replace(found, why=_why(found.verdict, found.end_mm, nipple, thread_length_mm))


def would_serve(
    length_mm: float, needed_mm: float, stretch_mm: float, sd_mm: float = 0.0, nipple: Nipple | None = None
) -> bool:
    """Whether `fit` would call it usable: of a shop's hundreds of lengths few are worth a word."""
    return _without_words(length_mm, needed_mm, stretch_mm, sd_mm, nipple or Nipple(), THREAD_LENGTH_MM).usable


def _without_words(
    length_mm: float, needed_mm: float, stretch_mm: float, sd_mm: float, nipple: Nipple, thread_length_mm: float
) -> Fit:
    end, runs_out = length_mm + stretch_mm - needed_mm, thread_length_mm - nipple.thread_mm
    chance = _between(end, sd_mm, nipple.head_base_mm, min(nipple.slot_mm, runs_out))
    return Fit(length_mm, end, _verdict(end, nipple, runs_out), "", chance, sd_mm)


def _verdict(end: float, nipple: Nipple, runs_out_mm: float) -> str:
    if end > runs_out_mm + 1e-9:
        return THREAD_RUNS_OUT
    if end > nipple.slot_mm + 1e-9:
        return PROUD
    if end > WINDOW_MM[1] + 1e-9:
        return IN_SLOT
    if end >= WINDOW_MM[0] - 1e-9:
        return FITS
    return SHORT if end >= nipple.head_base_mm - 1e-9 else HEAD_UNSUPPORTED


def _why(verdict: str, end: float, nipple: Nipple, thread_length_mm: float) -> str:
    if verdict == THREAD_RUNS_OUT:
        runs_out = thread_length_mm - nipple.thread_mm
        proud = say(", and the end stands {end:.1f} mm proud", end=end - nipple.slot_mm) if end > nipple.slot_mm else ""
        return say("The thread runs out {end:.1f} mm before the spoke is tight{proud}.", end=end - runs_out, proud=proud)
    if verdict == PROUD:
        return say(
            "The end stands {end:.1f} mm proud of the nipple, into the tape: file it, or refuse it.", end=end - nipple.slot_mm
        )
    if verdict == IN_SLOT:
        return say("The end stands {end:.1f} mm into the slot: it holds, but a screwdriver slips.", end=end)
    if verdict == FITS:
        return say("The end stands where it belongs, just below the slot's bottom.")
    if verdict == SHORT:
        short = WINDOW_MM[0] - end
        return say("{short:.1f} mm short of the window, but the thread still reaches through the head.", short=short)
    return say(
        "The end stops {head_base_mm:.1f} mm short of the head: the head carries the load alone and snaps off.",
        head_base_mm=nipple.head_base_mm - end,
    )


def _between(mean: float, sd: float, low: float, high: float) -> float:
    """Probability that a normal value lies between two bounds."""
    if sd <= 0:
        return float(low - 1e-9 <= mean <= high + 1e-9)
    return 0.5 * (math.erf((high - mean) / (sd * math.sqrt(2))) - math.erf((low - mean) / (sd * math.sqrt(2))))


def rounded_mm(needed_mm: float, stretch_mm: float, step_mm: float, school: str = "nearest") -> float:
    """The length to ask for, on the steps of the trade: see ROUNDING_SCHOOLS. Raises BadLength."""
    if step_mm not in STEPS_MM:
        raise BadLength(
            say(
                "spokes come in steps of {steps_mm} mm; found {step_mm:g}",
                steps_mm=joined(", ", (f"{s:g}" for s in STEPS_MM)),
                step_mm=step_mm,
            ),
            "step_mm",
        )
    if school not in ROUNDING_SCHOOLS:
        raise BadLength(say("round to the nearest step or down; found “{school}”", school=school[:20]), "school")
    at_bottom = needed_mm - stretch_mm
    if school == "down":
        return math.floor(at_bottom / step_mm + 1e-9) * step_mm
    middle = at_bottom + (WINDOW_MM[0] + WINDOW_MM[1]) / 2
    return math.floor(middle / step_mm + 0.5) * step_mm


def candidates(
    needed_mm: float, stretch_mm: float, step_mm: float = 1.0, sd_mm: float = 0.0, nipple: Nipple | None = None
) -> tuple[Fit, ...]:
    """The lengths round about, shortest first, from two that are too short to two that are too long."""
    middle = rounded_mm(needed_mm, stretch_mm, step_mm)
    reach = max(2, round(3 / step_mm))
    return tuple(fit(middle + i * step_mm, needed_mm, stretch_mm, sd_mm, nipple) for i in range(-reach, reach + 1))


def mixed(lengths_mm: Iterable[float]) -> float:
    """How far lengths of one side lie apart [mm]; 0 for none."""
    values = list(lengths_mm)
    return max(values) - min(values) if values else 0.0
