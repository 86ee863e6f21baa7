"""Breaks across a lot: do they point to one batch of spokes, or are they what like wheels do."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

from scipy.special import bdtrc, pdtrc

from felloe.core.diagnosis.breakage import PLACES
from felloe.core.said import say

#: Spokes that break in a wheel in everyday use, in a year; common practice, no source.
USUAL_A_YEAR = 0.3
#: The largest share of breaks that one place of the spoke usually has: most break at the elbow. Common practice, no source.
USUAL_AT_ONE_PLACE = {"elbow": 0.7}
USUAL_ELSEWHERE = 0.2
#: Rarer than this by chance alone points to something that runs through the lot.
RARE = 0.01
FEWEST = 4

BATCH, MORE, USUAL, TOO_FEW = "batch", "more", "usual", "too_few"


@dataclass(frozen=True)
class LotBreak:
    """One break: whose wheel, at which side and place of the spoke."""

    wheel: str
    side: str
    place: str


@dataclass(frozen=True)
class BatchVerdict:
    """`verdict`: batch, more (than usual, but nothing common), usual, too_few. `by_chance`: how often as many breaks, or as
    many alike, come by chance alone."""

    verdict: str
    breaks: int
    wheels: int
    expected: float
    by_chance: float
    place: str
    side: str
    why: str


def batch_verdict(breaks: Sequence[LotBreak], wheels: int, years: float) -> BatchVerdict:
    """Whether the breaks of `wheels` like wheels within `years` point to one batch.

    Two questions: are there more than usual (Poisson), and are those at one place and side more than that place's usual share
    (binomial, times the number of places and sides that could have stood out). Several breaks in one wheel are one.
    """
    firsts = list({b.wheel: b for b in reversed(breaks)}.values())
    count, expected = len(firsts), wheels * USUAL_A_YEAR * years
    if count < FEWEST:
        return _said(TOO_FEW, firsts, wheels, expected, 1.0)
    many = float(pdtrc(count - 1, expected)) if expected > 0 else 0.0
    (side, place), alike = Counter((b.side, b.place) for b in firsts).most_common(1)[0]
    usual = USUAL_AT_ONE_PLACE.get(place, USUAL_ELSEWHERE) * 0.6  # the tighter side has somewhat more than half
    common = min(1.0, float(bdtrc(alike - 1, count, usual)) * 2 * len(PLACES))
    if many < RARE and common < RARE:
        return _said(BATCH, firsts, wheels, expected, max(many, common), side, place)
    if many < RARE:
        return _said(MORE, firsts, wheels, expected, many, side, place)
    return _said(USUAL, firsts, wheels, expected, many, side, place)


def _said(
    verdict: str, firsts: Sequence[LotBreak], wheels: int, expected: float, by_chance: float, side: str = "", place: str = ""
) -> BatchVerdict:
    figures = {"count": len(firsts), "wheels": wheels, "expected": expected}
    where = PLACES.get(place, place)
    if verdict == BATCH:
        why = say(
            "{count} of {wheels} wheels broke a spoke, {expected:.1f} are usual, and they are alike: {side}, {where}."
            " That points to one batch of spokes: keep the broken ones and ask their maker.",
            **figures, side=side, where=where,
        )  # fmt: skip
    elif verdict == MORE:
        why = say(
            "{count} of {wheels} wheels broke a spoke, {expected:.1f} are usual, at different places:"
            " look for what they share in use or tension.",
            **figures,
        )
    elif verdict == USUAL:
        why = say(
            "{count} of {wheels} wheels broke a spoke, {expected:.1f} are usual: nothing that runs through the lot.", **figures
        )
    else:
        why = say("{count} of {wheels} wheels broke a spoke: too few to say anything of the lot.", **figures)
    return BatchVerdict(verdict, len(firsts), wheels, expected, by_chance, place, side, why)
