"""The pattern of a wheel's broken spokes: what it points to, and whether one spoke, a side or the wheel is due.

What a place of breaking suspects, and when a side is rebuilt, is common practice, no source. The weights say how much
more often a cause shows that way than another; they are no measured frequencies.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from itertools import pairwise

from felloe.core.components import Wheel
from felloe.core.errors import TradeError
from felloe.core.naming import Side, SpokeName
from felloe.core.said import joined, say, say_count
from felloe.core.tension.statics import expected_left_over_right, tight_side


class BadBreak(TradeError):
    """A break that cannot be: no such place, or a date to come."""

    code = "bad_break"


#: Where a spoke or nipple gives way.
PLACES: dict[str, str] = {
    "elbow": say("at the elbow or head"),
    "middle": say("in the middle"),
    "thread": say("at the thread, inside the nipple"),
    "nipple_head": say("the nipple's head came off"),
    "rim": say("pulled through the rim"),
}
BREAK_CAUSES: dict[str, str] = {
    "low_tension": say("fatigue from low tension"),
    "uneven": say("fatigue from uneven tension"),
    "age": say("old age: all spokes are as tired"),
    "elbow_seat": say("elbows seated poorly at the flange"),
    "chain": say("damage by the chain behind the sprockets"),
    "impact": say("damage from outside"),
    "corrosion": "corrosion",
    "twist": say("twist left in the spokes"),
    "too_short": say("spokes too short for their nipples"),
    "bent_at_nipple": say("spokes bent at the nipple, or the rim's drilling angle"),
    "alloy_nipple": say("corroded alloy nipples"),
    "over_tension": say("tension too high for the rim"),
    "soft_rim": say("cracked or soft rim, or washers missing"),
}
#: First suspects by place.
SUSPECTS: dict[str, dict[str, float]] = {
    "elbow": {"low_tension": 3, "uneven": 3, "age": 2.5, "elbow_seat": 2, "chain": 1.5},
    "middle": {"impact": 4, "chain": 2, "corrosion": 2, "twist": 1.5},
    "thread": {"too_short": 3, "bent_at_nipple": 3, "corrosion": 2},
    "nipple_head": {"too_short": 4, "alloy_nipple": 3, "bent_at_nipple": 1.5},
    "rim": {"over_tension": 3, "soft_rim": 3},
}
#: A second break within this many days, or so many in the wheel's life, and the side is as tired.
AGAIN_WITHIN_DAYS = 183
BREAKS_IN_A_LIFE = 3
#: Sides whose tensions differ by less are even.
EVEN_WITHIN = 0.03
#: Lengths on a side that differ by more are mixed [mm].
MIXED_LENGTHS_MM = 2.0
ONE_SPOKE, SIDE, WHEEL, NEW_RIM = "one_spoke", "side", "wheel", "new_rim"


#: A break noticed so recently has not been mended elsewhere; an older one is history.
FRESH_DAYS = 14


@dataclass(frozen=True)
class Break:
    """One break: spoke, place out of PLACES, day noticed."""

    spoke: str
    place: str
    on: date

    def __post_init__(self) -> None:
        SpokeName.parse(self.spoke)
        if self.place not in PLACES:
            raise BadBreak(say("“{place}” is no place where spokes break", place=self.place[:40]), "place")

    @property
    def side(self) -> Side:
        return SpokeName.parse(self.spoke).side


@dataclass(frozen=True)
class TensionFacts:
    """The readings of the side that breaks, None where not measured: mean over target, worst spoke ±%, over the cap."""

    mean_share: float | None = None
    spread_percent: float | None = None
    over_cap: bool = False
    length_spread_mm: float | None = None


@dataclass(frozen=True)
class Suspect:
    """A cause with its share of all weight, and what speaks for it."""

    key: str
    name: str
    share: float
    why: str


@dataclass(frozen=True)
class Pattern:
    """Causes by weight, and what to do: `advice` is one of ONE_SPOKE, SIDE, WHEEL, NEW_RIM, with its reasons."""

    suspects: tuple[Suspect, ...]
    advice: str
    side: Side | None
    reasons: tuple[str, ...]


def pattern_of(wheel: Wheel, rear: bool, breaks: Sequence[Break], tension: TensionFacts | None = None) -> Pattern | None:
    """Read the breaks since the last rebuild, in any order; None where there is none."""
    if not breaks:
        return None
    facts = tension or TensionFacts()
    ordered = sorted(breaks, key=lambda b: b.on)
    advice, side, reasons = _advice(wheel, ordered, facts)
    return Pattern(_suspects(wheel, rear, ordered, facts), advice, side, tuple(reasons))


class _Weights:
    """Weights of the suspects by place, leant by what else is known, with the words for each."""

    def __init__(self, breaks: Sequence[Break]) -> None:
        self.weight: dict[str, float] = {}
        self.why: dict[str, list[str]] = {}
        for place, count in Counter(b.place for b in breaks).items():
            for cause, value in SUSPECTS[place].items():
                self.weight[cause] = self.weight.get(cause, 0.0) + value * count
                self.why.setdefault(cause, []).append(PLACES[place] if count == 1 else joined(" ", [str(count), PLACES[place]]))

    def lean(self, cause: str, factor: float, reason: str) -> None:
        if cause in self.weight:
            self.weight[cause] *= factor
            self.why[cause].append(reason)

    def ranked(self) -> tuple[Suspect, ...]:
        total = sum(self.weight.values())
        order = sorted(self.weight.items(), key=lambda item: -item[1])
        return tuple(Suspect(key, BREAK_CAUSES[key], value / total, joined("; ", self.why[key])) for key, value in order)


def _suspects(wheel: Wheel, rear: bool, breaks: Sequence[Break], facts: TensionFacts) -> tuple[Suspect, ...]:
    weights = _Weights(breaks)
    sides = Counter(b.side for b in breaks)
    if rear and sides[Side.RIGHT] == len(breaks):
        weights.lean("chain", 3.0, say("all behind the sprockets"))
    else:
        weights.lean("chain", 0.2, say("not behind the sprockets"))
    loose_side = tight_side(wheel).other
    if sides[loose_side] > sides[loose_side.other] and not _even_sides(wheel):
        weights.lean("low_tension", 1.5, say("on the {loose_side} side, the looser one", loose_side=loose_side.said))
    if len(breaks) >= BREAKS_IN_A_LIFE:
        weights.lean("age", 2.0, say("{count} breaks in its life", count=len(breaks)))
    if _neighbours(wheel, breaks):
        weights.lean("impact", 1.8, say("side by side on the rim"))
        weights.lean("chain", 1.3, say("side by side on the rim"))
    _lean_by_tension(weights, facts)
    return weights.ranked()


def _even_sides(wheel: Wheel) -> bool:
    """Whether statics makes both sides as tight, so that neither is the looser."""
    return abs(expected_left_over_right(wheel) - 1) < EVEN_WITHIN


def _lean_by_tension(weights: _Weights, facts: TensionFacts) -> None:
    if facts.mean_share is not None:
        factor = 2.5 if facts.mean_share < 0.8 else 0.4
        weights.lean(
            "low_tension",
            factor,
            say("that side's mean is {mean_share:.0f} % of its target", mean_share=facts.mean_share * 100),
        )
    if facts.spread_percent is not None:
        factor = 2.0 if facts.spread_percent > 20 else 0.4
        weights.lean(
            "uneven", factor, say("its tensions lie within ±{spread_percent:.0f} %", spread_percent=facts.spread_percent)
        )
    if facts.over_cap:
        weights.lean("over_tension", 3.0, say("spokes stand above the rim's limit"))
    if facts.length_spread_mm is not None and facts.length_spread_mm > MIXED_LENGTHS_MM:
        weights.lean(
            "too_short",
            3.0,
            say("lengths on the side differ by {length_spread_mm:.1f} mm", length_spread_mm=facts.length_spread_mm),
        )


def _neighbours(wheel: Wheel, breaks: Sequence[Break]) -> bool:
    known = sorted({wheel.index_of[b.spoke] for b in breaks if b.spoke in wheel.index_of})
    gaps = [(b - a) % wheel.spoke_count for a, b in zip(known, known[1:] + known[:1], strict=True)] if len(known) > 1 else []
    return any(0 < gap <= 2 for gap in gaps)


def _advice(wheel: Wheel, breaks: Sequence[Break], facts: TensionFacts) -> tuple[str, Side | None, list[str]]:
    latest = breaks[-1]
    if any(b.place == "rim" for b in breaks):
        return NEW_RIM, None, [say("A nipple pulled through the rim: no spoke holds in that hole again.")]
    reasons: dict[Side, list[str]] = {side: [] for side in Side}
    for side in Side:
        mine = [b for b in breaks if b.side is side]
        gaps = [(b.on - a.on).days for a, b in pairwise(mine)]
        if gaps and min(gaps) <= AGAIN_WITHIN_DAYS:
            reasons[side].append(say("a second break on the {side} within {gaps} days", side=side.said, gaps=min(gaps)))
        if len(mine) >= BREAKS_IN_A_LIFE:
            reasons[side].append(say("{count} breaks on the {side} in its life", count=len(mine), side=side.said))
    if facts.length_spread_mm is not None and facts.length_spread_mm > MIXED_LENGTHS_MM:
        reasons[latest.side].append(
            say(
                "mixed lengths on the {side} side ({length_spread_mm:.1f} mm apart)",
                side=latest.side.said,
                length_spread_mm=facts.length_spread_mm,
            )
        )
    due = [side for side in Side if reasons[side]]
    if len(due) == 2:
        return (
            WHEEL,
            None,
            [_sentence(reasons[s]) for s in due] + [say("Both sides are as tired: rebuild the wheel with new spokes.")],
        )
    if due:
        return SIDE, due[0], [_sentence(reasons[due[0]]), say("The rest of that side are as tired as those that broke.")]
    if len(breaks) >= BREAKS_IN_A_LIFE:
        return (
            WHEEL,
            None,
            [say("{count} breaks over both sides: the spokes are at their end.", count=len(breaks))],
        )
    return (
        ONE_SPOKE,
        latest.side,
        [
            say_count(
                "One break: replace it and bring it to its neighbours. A second within months says more.",
                "{count} breaks far apart: replace the spoke and bring it to its neighbours. Another within months says more.",
                count=len(breaks),
            )
        ],
    )


def _sentence(parts: Sequence[str]) -> str:
    return joined(" and ", parts).sentence()
