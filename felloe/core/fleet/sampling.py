"""One wheel after another, until the lot is proven good or bad: Wald's sequential probability ratio test.

A. Wald, *Sequential Analysis* (1947), and ISO 28591 for attributes; both from memory. The lot ends, which Wald's does not:
whatever is left unmeasured can no longer change what is certain, and a lot that is measured whole is what it is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, log

from felloe.core.errors import TradeError
from felloe.core.said import say

GOOD, BAD, BETWEEN, GO_ON = "good", "bad", "between", "go_on"
#: A lot with at most so many bad wheels is good, with at least so many bad; common practice, no source.
GOOD_SHARE, BAD_SHARE = 0.05, 0.20
#: How often a good lot may be called bad, and a bad one good.
ALPHA = BETA = 0.05
#: So few spokes of a side at least make one wheel of the sample.
FEWEST_SPOKES = 4


class BadSampling(TradeError):
    """A sampling that cannot be."""

    code = "bad_sampling"


@dataclass(frozen=True)
class Sampling:
    """What counts as a good lot and a bad one, and how often either may be mistaken."""

    good_share: float = GOOD_SHARE
    bad_share: float = BAD_SHARE
    alpha: float = ALPHA
    beta: float = BETA

    def __post_init__(self) -> None:
        if not 0 < self.good_share < self.bad_share < 1:
            raise BadSampling(say("a good lot has fewer bad wheels than a bad one"), "good_share")
        for name in ("alpha", "beta"):
            if not 0.001 <= getattr(self, name) <= 0.3:
                raise BadSampling(say("a chance of mistake lies between 0.1 and 30 %"), name)

    @property
    def said(self) -> str:
        """The rule, to whom reads the verdict."""
        return say(
            "Good: at most {good:.0f} of 100 wheels outside the tier; bad: at least {bad:.0f}. A good lot is called bad at most"
            " {alpha:.0f} times in 100, a bad one good at most {beta:.0f}. Read at least {fewest} spokes of a side.",
            good=100 * self.good_share,
            bad=100 * self.bad_share,
            alpha=100 * self.alpha,
            beta=100 * self.beta,
            fewest=FEWEST_SPOKES,
        )

    @property
    def _slopes(self) -> tuple[float, float]:
        """What a good and a bad wheel add to the evidence that the lot is bad."""
        return log((1 - self.bad_share) / (1 - self.good_share)), log(self.bad_share / self.good_share)

    def lines(self, measured: int) -> tuple[float, float]:
        """Of so many measured: the lot is good at or below the first count of bad wheels, bad at or above the second."""
        good, bad = self._slopes
        accept = (log(self.beta / (1 - self.alpha)) - measured * good) / (bad - good)
        reject = (log((1 - self.beta) / self.alpha) - measured * good) / (bad - good)
        return accept, reject


@dataclass(frozen=True)
class LotVerdict:
    """`verdict`: good, bad, between (measured whole, neither), go_on; so many bad of so many measured of the lot; `certain`:
    by counting, not by chance. `fewest_more`: so many more at least until it can be decided, 0 once it is."""

    verdict: str
    measured: int
    bad: int
    of: int
    certain: bool
    fewest_more: int
    why: str


USUAL = Sampling()


def lot_verdict(found: Sequence[bool], of: int, sampling: Sampling = USUAL) -> LotVerdict:
    """The verdict on a lot of `of` wheels, from the wheels measured so far in the order in which they were: True is bad.

    The first line that is crossed decides; what is measured afterwards changes only what is certain.
    """
    if not of >= 1 or len(found) > of:
        raise BadSampling(say("a lot has more wheels than were measured of it"), "of")
    certain = _certain(found, of, sampling)
    if certain:
        return certain
    bad = 0
    for i, is_bad in enumerate(found, start=1):
        bad += is_bad
        accept, reject = sampling.lines(i)
        if bad <= accept or bad >= reject:
            verdict = GOOD if bad <= accept else BAD
            return _said(verdict, found, of, False, 0, sampling)
    return _said(GO_ON, found, of, False, _fewest_more(len(found), bad, of, sampling), sampling)


def _certain(found: Sequence[bool], of: int, sampling: Sampling) -> LotVerdict | None:
    bad, left = sum(found), of - len(found)
    if bad >= ceil(sampling.bad_share * of - 1e-9):
        return _said(BAD, found, of, True, 0, sampling)
    if bad + left <= floor(sampling.good_share * of + 1e-9):
        return _said(GOOD, found, of, True, 0, sampling)
    return _said(BETWEEN, found, of, True, 0, sampling) if left == 0 else None


def _fewest_more(measured: int, bad: int, of: int, sampling: Sampling) -> int:
    """If all that come are good, or all bad: whichever decides first."""
    for more in range(1, of - measured + 1):
        accept, reject = sampling.lines(measured + more)
        if bad <= accept or bad + more >= reject:
            return more
    return of - measured


def _said(verdict: str, found: Sequence[bool], of: int, certain: bool, more: int, sampling: Sampling) -> LotVerdict:
    measured, bad = len(found), sum(found)
    figures = {"bad": bad, "measured": measured, "of": of}
    mistake = 100 * (sampling.alpha if verdict == BAD else sampling.beta)
    if verdict == GO_ON:
        why = say("{bad} bad of {measured} measured, of {of}: at least {more} more until it is decided.", **figures, more=more)
    elif verdict == BETWEEN:
        why = say("All {of} are measured, {bad} are bad: neither a good lot nor a bad one.", of=of, bad=bad)
    elif certain:
        why = say("{bad} bad of {measured} measured, of {of}: what is left cannot change it.", **figures)
    else:
        why = say(
            "{bad} bad of {measured} measured, of {of}: mistaken at most {mistake:.0f} times in 100.",
            **figures,
            mistake=mistake,
        )
    return LotVerdict(verdict, measured, bad, of, certain, more, why)


@dataclass(frozen=True)
class WheelSample:
    """A few spokes of one wheel: `bad` None where too few were read to say."""

    bad: bool | None
    why: str


def judge_wheel(
    tensions_n: dict[str, float], targets_n: dict[str, float], tolerance_percent: float, broken: Sequence[str] = ()
) -> WheelSample:
    """One wheel of a sample, from the few spokes that were read of it; spokes are named R1, L3.

    Bad where a spoke is broken, one lies further from its side's target than twice the tier allows, or the mean of those
    read on a side lies further from it than the tier allows (common practice, no source).
    """
    if broken:
        return WheelSample(True, say("{spoke} is broken", spoke=broken[0]))
    sides = {side: {s: n for s, n in tensions_n.items() if s.startswith(side)} for side in targets_n}
    if all(len(read) < FEWEST_SPOKES for read in sides.values()):
        return WheelSample(None, say("fewer than {fewest} spokes of a side are read", fewest=FEWEST_SPOKES))
    for side, read in sides.items():
        target = targets_n[side]
        for spoke, tension in read.items():
            if abs(tension / target - 1) * 100 > 2 * tolerance_percent:
                return WheelSample(
                    True, say("{spoke} has {tension:.0f} N of {target_n:.0f}", spoke=spoke, tension=tension, target_n=target)
                )
        if len(read) >= FEWEST_SPOKES:
            mean = sum(read.values()) / len(read)
            if abs(mean / target - 1) * 100 > tolerance_percent:
                return WheelSample(
                    True, say("{side} mean {tension:.0f} N of {target_n:.0f}", side=side, tension=mean, target_n=target)
                )
    return WheelSample(False, say("within the tier at the spokes read"))
