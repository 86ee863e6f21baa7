"""Taking a wheel apart: laps to slacken, the steps for the wheel at hand, and the small parts counted out and in.

Procedures: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from felloe.core.components import Wheel
from felloe.core.errors import TradeError
from felloe.core.mechanics.influence import Influence
from felloe.core.naming import Side
from felloe.core.said import say

#: Turns of every nipple in a lap while it slackens, so that the rim stays true; and when it is slack enough to undo.
LAP_TURNS, SLACK_N = 0.25, 60.0
MOST_LAPS = 24
COUNTED: dict[str, str] = {"nipple": say("nipples"), "washer": say("rim washers"), "spoke": say("spokes")}


class BadCount(TradeError):
    """A count of small parts that cannot be."""

    code = "bad_count"


@dataclass(frozen=True)
class SlackLap:
    """One lap of easing: its number, turns for each nipple, and the sides' mean tensions after it by the model [N]."""

    number: int
    turns: float
    right_n: float
    left_n: float


def slacken_laps(influence: Influence, right_n: float, left_n: float, turns: float = LAP_TURNS) -> tuple[SlackLap, ...]:
    """Quarter-turn laps from the sides' mean tensions until both are slack; none where they are."""
    wheel = influence.wheel
    fall = influence.tension_n @ np.full(wheel.spoke_count, turns)
    drop_r, drop_l = (float(fall[wheel.on_side(side)].mean()) for side in (Side.RIGHT, Side.LEFT))
    laps = []
    for number in range(1, MOST_LAPS + 1):
        if max(right_n, left_n) <= SLACK_N:
            break
        right_n, left_n = max(0.0, right_n - drop_r), max(0.0, left_n - drop_l)
        laps.append(SlackLap(number, turns, right_n, left_n))
    return tuple(laps)


@dataclass(frozen=True)
class Step:
    """One step of a procedure: stable key, what to do, and why or with what care."""

    key: str
    what: str
    why: str


@dataclass(frozen=True)
class StripFacts:
    """What decides the steps."""

    rear: bool
    disc: bool
    glued: bool = False
    washers: bool = False
    closed_rim: bool = False
    cut: bool = False
    keep_spokes: bool = False


def strip_steps(wheel: Wheel, facts: StripFacts, laps: int) -> tuple[Step, ...]:
    """The steps for taking this wheel apart, in order."""
    n = wheel.spoke_count
    steps = [
        Step(
            "tyre",
            say("Tyre, tube and rim tape off."),
            say("With a glued tyre its own procedure first, and time.") if facts.glued else "",
        )
    ]
    if facts.rear:
        steps.append(Step("sprockets", say("Sprockets off."), say("Its kind decides the tool; note it on the job.")))
    if facts.disc:
        steps.append(Step("rotor", say("Rotor off, laid aside clean."), say("No oil, no fingers after a ride: it burns.")))
    if facts.cut:
        steps.append(Step("eyes", say("Eye protection on."), say("Cut ends fly.")))
    steps.append(Step("oil", say("A drop of oil on every nipple."), say("Old dry nipples round off and tear the rim's bed.")))
    easing = say("Ease every nipple {lap_turns:g} turn at a time, from the valve, {laps} laps.", lap_turns=LAP_TURNS, laps=laps)
    steps.append(
        Step(
            "slacken", easing, say("All round and little by little: the rim stays true. Slacken everything before cutting any.")
        )
    )
    if facts.closed_rim:
        steps.append(
            Step(
                "captive",
                say("Keep the old nipples captive on stub spokes while the hub is changed."),
                say("No holes under the tyre: nipples go in by the valve hole, led with a magnet."),
            )
        )
    if facts.cut:
        cut = say("Cut in the middle, one or few at a time, wheel flat.")
        steps.append(
            Step(
                "cut",
                cut,
                say("Washers stay on the stubs; free stuck ones with an awl before pulling.")
                if facts.washers
                else say("Never under tension."),
            )
        )
    if facts.keep_spokes:
        steps.append(
            Step(
                "keep",
                say("Bundle the spokes by side, log their lengths."),
                say("Sound ones of the same length may be used again, with a record of it."),
            )
        )
    steps.append(
        Step(
            "count",
            say("Count out {n} nipples, {n} washers and {n} spokes.", n=n)
            if facts.washers
            else say("Count out {n} nipples and {n} spokes.", n=n),
            say("A rattle is one that was not returned."),
        )
    )
    steps.append(
        Step("shake", say("Shake the bare rim at the ear."), say("Nothing may rattle in it before it is laced again."))
    )
    return tuple(steps)


@dataclass(frozen=True)
class Tally:
    """One kind of small part: counted out, put in, and what stays in the rim by the count; `short` where some are missing."""

    kind: str
    was_in: int
    out: int
    put_in: int
    still_in: int
    places: int

    @property
    def word(self) -> str:
        """What the count says."""
        name = COUNTED[self.kind]
        if self.put_in == 0:
            if self.still_in == 0 and self.out:
                return say("All {name} are out.", name=name)
            return (
                say("{still_in} {name} still in the rim.", still_in=self.still_in, name=name)
                if self.out
                else say("None counted out yet; {was_in} are in.", was_in=self.was_in)
            )
        if self.still_in == self.places:
            return say("All {places} {name} are in.", places=self.places, name=name)
        if self.still_in > self.places:
            return say("{still_in} {name} too many: they rattle in the rim.", still_in=self.still_in - self.places, name=name)
        return say("{places} {name} to go.", places=self.places - self.still_in, name=name)


def tally(wheel: Wheel, kind: str, had: bool, counts: Iterable[tuple[str, int]]) -> Tally:
    """Sum what was counted out and in; `had` is False for washers that the rim never had."""
    was_in = wheel.spoke_count if had else 0
    out = put_in = 0
    for way, count in counts:
        out += count if way == "out" else 0
        put_in += count if way == "in" else 0
    return Tally(kind, was_in, out, put_in, was_in + put_in - out, wheel.spoke_count)


def check_count(wheel: Wheel, kind: str, had: bool, before: Sequence[tuple[str, int]], way: str, count: int) -> None:
    """May `count` more be counted `way` after `before`? A negative count takes a slip back. Raises BadCount."""
    if kind not in COUNTED:
        raise BadCount(say("“{kind}” is nothing that is counted out and in", kind=kind[:20]), "kind")
    if way not in ("out", "in"):
        raise BadCount(say("parts are counted out or in"), "way")
    if not count or abs(count) > 2 * wheel.spoke_count:
        raise BadCount(say("a count lies between 1 and {spoke_count}", spoke_count=2 * wheel.spoke_count), "count")
    after = tally(wheel, kind, had, [*before, (way, count)])
    if min(after.out, after.put_in) < 0:
        raise BadCount(say("so many were not counted"), "count")
    if after.still_in < 0:
        raise BadCount(
            say(
                "{out} {counted} counted out, but only {was_in} were in",
                out=after.out,
                counted=COUNTED[kind],
                was_in=after.was_in + after.put_in,
            ),
            "count",
        )


def side_places(wheel: Wheel, spokes: Iterable[str]) -> dict[Side, int]:
    """How many of `spokes` stand on each side."""
    counts = {side: 0 for side in Side}
    for name in spokes:
        counts[wheel.names[wheel.index_of[name]].side] += 1
    return counts
