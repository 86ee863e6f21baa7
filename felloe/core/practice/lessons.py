"""Lessons at the rungs: a few lines, the right way and the wrong ways, and what each does on the virtual wheel."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.errors import BadReading
from felloe.core.mechanics.influence import influence_of
from felloe.core.practice.compare import TrueFigures, best_plan
from felloe.core.practice.deeds import turn
from felloe.core.practice.spoilt import SEIZED_FRICTION, WRONG_THREAD_GRIP, Subject, harmonics_for
from felloe.core.practice.virtual_wheel import VirtualWheel
from felloe.core.said import say
from felloe.core.spokes.twist import OILED_FRICTION
from felloe.core.truing.tiers import FINE
from felloe.core.wheel_kinds import WHEEL_KINDS

Array = NDArray[np.float64]
AROUND_DEG = np.arange(0.0, 360.0, 5.0)
KIND = "rim-brake-front-32"
#: The middle of the faults that lessons show: half way round, so that the drawing has them in its middle.
MIDDLE = 16


@dataclass(frozen=True)
class Way:
    """One way to go about it: what is turned, and the rim after it, every 5° from the valve [mm]."""

    name: str
    says: str
    right: bool
    turns: Mapping[str, float]
    lateral_mm: Array
    radial_mm: Array
    figures: TrueFigures


@dataclass(frozen=True)
class Lesson:
    """Why, in a few lines, and the ways; the first line is the sentence to keep. `before`: the rim as it was."""

    key: str
    lines: tuple[str, ...]
    lateral_mm: Array
    radial_mm: Array
    before: TrueFigures
    ways: tuple[Way, ...]


def _ideal(kind: str = KIND) -> Subject:
    wheel = WHEEL_KINDS[kind].wheel
    highest = harmonics_for(wheel.spoke_count)
    ideal = replace(VirtualWheel.ideal(wheel), highest=highest, free_shape=np.zeros(4 * (2 * highest + 1)))
    return Subject(ideal, np.full(wheel.spoke_count, OILED_FRICTION), np.ones(wheel.spoke_count))


def _arc(subject: Subject, reach: int = 3) -> dict[int, float]:
    return {MIDDLE + k: float(np.cos(np.pi / 2 * k / (reach + 1)) ** 2) for k in range(-reach, reach + 1)}


def _put(subject: Subject, turns: Mapping[int, float]) -> Subject:
    by_place = np.zeros(subject.wheel.spoke_count)
    for place, amount in turns.items():
        by_place[place] += amount
    return replace(subject, virtual=subject.virtual.turned(by_place))


def _way(subject: Subject, name: str, says: str, turns: Mapping[int, float], right: bool = False) -> Way:
    after = _put(subject, turns)
    return _seen(subject, after, name, says, turns, right)


def _seen(subject: Subject, after: Subject, name: str, says: str, turns: Mapping[int, float], right: bool) -> Way:
    names = subject.wheel.names
    return Way(
        name,
        says,
        right,
        {str(names[i]): round(t, 3) for i, t in turns.items() if abs(t) > 1e-6},
        after.virtual.lateral_mm(AROUND_DEG),
        after.virtual.radial_mm(AROUND_DEG),
        TrueFigures.of(after),
    )


def _best(subject: Subject) -> dict[int, float]:
    best = best_plan(subject, FINE, influence_of(subject.wheel))
    return {i: float(t) for i, t in enumerate(best.turns) if abs(t) > 1e-6}


def _sign(subject: Subject, i: int) -> int:
    return subject.wheel.names[i].side.sign


def _lumpy(subject: Subject, size: float = 0.7) -> Subject:
    return _put(subject, {i: size * _sign(subject, i) * w for i, w in _arc(subject).items()})


def _lump() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    made = _lumpy(_ideal())
    middle = MIDDLE if _sign(made, MIDDLE) < 0 else MIDDLE + 1
    lines = (
        say("A lump is an arc: the rim is stiff, so one spoke bends a hand’s breadth of it, and several share one lump."),
        say("Turn the middle most and the ends least, ease one side and tighten the other as much: it moves sideways only."),
        say("Turned to the side where the rim should go: tighten there. Ease where it stands now."),
    )
    one_side = {i: -1.4 * w * _sign(made, i) for i, w in _arc(made).items() if _sign(made, i) < 0}
    return (
        made,
        lines,
        (
            _way(made, say("Both sides, the whole arc"), say("Straight, round and even."), _best(made), True),
            _way(
                made,
                say("Only the spoke at the top of the lump"),
                say(
                    "The middle goes over, the ends stay: two small lumps for one, and a spoke far tighter than its neighbours."
                ),
                {middle: 2.0},
            ),
            _way(
                made,
                say("Only by tightening, one side"),
                say("Straight, and pulled inward there: a flat spot, and every spoke there tighter."),
                one_side,
            ),
        ),
    )


def _hop() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    made = _put(_ideal(), {i: -0.9 * w for i, w in _arc(_ideal()).items()})
    lines = (
        say("A hop is pulled in by both sides alike: right and left in pairs, so that it does not go sideways."),
        say("It takes more turns than a lump: the rim is stiffer in its plane, and a whole arc has to move."),
        say("A low spot is eased the same way, in pairs. One with a bent rim may not come out at all."),
    )
    one_side = {i: 1.8 * w for i, w in _arc(made).items() if _sign(made, i) > 0}
    return (
        made,
        lines,
        (
            _way(made, say("In pairs, both sides"), say("Round, and straight as it was."), _best(made), True),
            _way(made, say("One side only"), say("Round again, and a lump sideways where there was none."), one_side),
            _way(
                made,
                say("The middle pair alone"),
                say("A narrow dip beside two humps: the arc is wider than a pair."),
                {MIDDLE: 2.2, MIDDLE + 1: 2.2},
            ),
        ),
    )


def _dish() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    ideal = _ideal()
    made = _put(ideal, {i: -0.5 * _sign(ideal, i) for i in range(ideal.wheel.spoke_count)})
    lines = (
        say("Dish is the whole rim: every spoke of a side, by the same small amount, begun at the valve and ended there."),
        say("Ease one side and tighten the other by as much, and the tension stays as it is. A few spokes only make a lump."),
        say("Where the wheel is slack, tighten one side alone; where it is at its limit, ease the other alone."),
    )
    tighten = {i: 0.9 for i in range(made.wheel.spoke_count) if _sign(made, i) > 0}
    few = {i: 2.0 for i in range(MIDDLE - 3, MIDDLE + 5) if _sign(made, i) > 0}
    return (
        made,
        lines,
        (
            _way(
                made,
                say("Every spoke, one side up, the other down"),
                say("Over the middle, straight, and as tight as it was."),
                _best(made),
                True,
            ),
            _way(
                made,
                say("One side tightened alone"),
                say("Over the middle too; the whole wheel is tighter now: only where it was slack."),
                tighten,
            ),
            _way(made, say("A few spokes of one side"), say("A lump, and the rest stands where it stood."), few),
        ),
    )


def _slack() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    ideal = _ideal()
    count = ideal.wheel.spoke_count
    made = _put(ideal, dict.fromkeys(range(count), -1.0))
    lines = (
        say("Tension comes in laps: the same half turn or less for every spoke, from the valve to the valve, then look."),
        say("Each spoke that is tightened takes load from its neighbours: the first are slack again when the last are tight."),
        say("Straighten between laps, while it is slack: a lump costs less to move then. Never above the rim’s limit."),
    )
    half = {i: 1.0 for i in range(count // 2)}
    return (
        made,
        lines,
        (
            _way(
                made,
                say("Laps all round"),
                say("Every spoke rises alike; the rim stays where it is."),
                dict.fromkeys(range(count), 1.0),
                True,
            ),
            _way(
                made,
                say("One half to its end, then the other"),
                say("The tight half pulls the rim to itself: out of round before the second half begins."),
                half,
            ),
            _way(
                made,
                say("One side first"),
                say("The rim goes over to that side as a whole, and lies far off the middle."),
                {i: 1.0 for i in range(count) if _sign(made, i) > 0},
            ),
        ),
    )


def _together() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    ideal = _ideal()
    lumpy = _lumpy(ideal, 0.5)
    made = _put(lumpy, {i: 0.6 * w for i, w in _arc(ideal).items()})
    lines = (
        say("Each nipple moves the rim sideways and in or out at once. Who works one after the other, works twice."),
        say("A lump on the tight side that is also low: ease that side alone, and both go. Look for what mends two things."),
        say("Even spokes last: an uneven wheel goes out of true first."),
    )
    one_after = {i: -1.0 * w * _sign(made, i) for i, w in _arc(made).items() if _sign(made, i) < 0}
    return (
        made,
        lines,
        (
            _way(made, say("Both at once"), say("The nipples that stand for both faults do the work."), _best(made), True),
            _way(made, say("Straight first, by tightening"), say("Straight, and the low spot is lower by it."), one_after),
        ),
    )


def _plan() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    made, _, _ = _together()
    best = _best(made)
    every_second = {i: t for k, (i, t) in enumerate(best.items()) if k % 2 == 0}
    turned_about = {i: -t for i, t in best.items()}
    lines = (
        say("A plan is worked out for all nipples together: each one counts on the others."),
        say("Before each turn, say why it is that nipple and that way; after the pass read again: hands are not exact."),
        say("Plus tightens: clockwise, seen from the tyre. From below, at the stand, it looks the other way round."),
    )
    return (
        made,
        lines,
        (
            _way(made, say("The whole plan"), say("As foreseen."), best, True),
            _way(
                made,
                say("Every second nipple of it"),
                say("Neither half of the work nor half of the fault: what was left out had its part."),
                every_second,
            ),
            _way(
                made,
                say("All of it the wrong way round"),
                say("Twice as bad as before: one look after the first nipple would have told."),
                turned_about,
            ),
        ),
    )


def _stuck(friction: float, grip: float) -> Subject:
    ideal = _ideal()
    frictions, grips = ideal.friction.copy(), ideal.grip.copy()
    frictions[MIDDLE], grips[MIDDLE] = friction, grip
    return _put(replace(ideal, friction=frictions, grip=grips), {MIDDLE: -0.8})


def _turning(lines: tuple[str, ...]) -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    free = _stuck(OILED_FRICTION, 1.0)
    wrong, seized = _stuck(OILED_FRICTION, WRONG_THREAD_GRIP), _stuck(SEIZED_FRICTION, 1.0)
    amount = 0.5
    return (
        free,
        lines,
        (
            _seen(
                free,
                turn(free, MIDDLE, amount, True),
                say("A nipple that turns"),
                say("Half a turn, and the rim answers."),
                {MIDDLE: amount},
                True,
            ),
            _seen(
                wrong,
                turn(wrong, MIDDLE, amount, True),
                say("A nipple of another thread"),
                say("Half a turn, and the rim hardly answers: the thread slips. Change the nipple."),
                {MIDDLE: amount},
                False,
            ),
            _seen(
                seized,
                turn(seized, MIDDLE, amount, True),
                say("A seized nipple"),
                say("Half a turn, and nothing moves but the spoke, which turns along. A whole one breaks it: oil it and wait."),
                {MIDDLE: amount},
                False,
            ),
        ),
    )


def _seized() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    return _turning(
        (
            say("Watch the spoke, not the key: what turns along is seized, what turns freely without an answer does not hold."),
            say("A drop of oil where spoke and nipple meet, and nipple and rim; wait; then a quarter of a turn, no more."),
            say("Give the work of a stuck nipple to its neighbours only where nobody will ever change it."),
        )
    )


def _find() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    return _turning(
        (
            say("Slack or tight spokes that the runout does not explain are a sign: look there first."),
            say("A bent rim needs uneven spokes to run straight: straight with even spokes, it is not bent."),
            say("Spokes that cross otherwise than their neighbours are laced wrong: turning them mends nothing."),
        )
    )


def _blades() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    made = _lumpy(_ideal("bladed-front-20"), 0.5)
    at, amount = MIDDLE, -0.5
    lines = (
        say("A blade twists easily: hold it close to the nipple, always, and look at its flat side after each turn."),
        say("One that stands askew steers the wind, and turns back on the road: it takes the tension along."),
        say("Turn it flat again before you judge the wheel: it moves the nipple on its thread."),
    )
    return (
        made,
        lines,
        (
            _seen(
                made,
                turn(made, at, amount, True),
                say("The blade held"),
                say("The turn goes into the thread."),
                {at: amount},
                True,
            ),
            _seen(
                made,
                turn(made, at, amount, False),
                say("The blade not held"),
                say("A part of the turn is in the blade: the rim answers less, and more comes later by itself."),
                {at: amount},
                False,
            ),
        ),
    )


def _bent() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    ideal = _ideal()
    made = replace(ideal, virtual=ideal.virtual.dented(ideal.wheel.angles_deg[MIDDLE], 12.0, 0.5, 0.9))
    middle = MIDDLE if _sign(made, MIDDLE) < 0 else MIDDLE + 1
    lines = (
        say("Spokes can hold a bent rim straight, and pay for it in tension: straight or even, a bent rim gives not both."),
        say("Say where the limit is before you go on: what the spokes there carry tells when the rim is done for."),
        say("A spoke that is slack at a bend will work loose and break its neighbours: rather a little out of true."),
    )
    return (
        made,
        lines,
        (
            _way(
                made,
                say("Shared by the arc"),
                say("Straighter, and the spokes no more uneven than the bend itself makes them."),
                _best(made),
                True,
            ),
            _way(
                made,
                say("Forced by one spoke"),
                say("One spoke far from its neighbours’ tension, and the bend has only moved beside it."),
                {middle: 1.2},
            ),
        ),
    )


def _lace() -> tuple[Subject, tuple[str, ...], tuple[Way, ...]]:
    lines = (
        say("The first spoke stands beside the valve, so that the pump has room between spokes that lean away."),
        say("Each set takes every fourth hole; the other flange’s holes lie half a hole further, and so does its first spoke."),
        say("At its last crossing a spoke goes to the other side of the one it crosses: the two share every bump."),
        say("A hole too far is a spoke too short: two holes are several millimetres, no nipple makes up for it."),
    )
    return _ideal(), lines, ()


_LESSONS = {
    "lump": _lump,
    "hop": _hop,
    "dish": _dish,
    "slack": _slack,
    "together": _together,
    "plan": _plan,
    "find": _find,
    "lace": _lace,
    "seized": _seized,
    "blades": _blades,
    "bent": _bent,
}


@cache
def lesson(key: str) -> Lesson:
    """The lesson of a rung; worked out once. Raises BadReading where there is none."""
    made = _LESSONS.get(key)
    if made is None:
        raise BadReading(say("there is no such lesson"), "lesson")
    subject, lines, ways = made()
    virtual = subject.virtual
    return Lesson(key, lines, virtual.lateral_mm(AROUND_DEG), virtual.radial_mm(AROUND_DEG), TrueFigures.of(subject), ways)
