"""Slips of the pen and of the count among readings: each suspected by name, with its likely mending; nothing is mended here.

A slip is suspected where the readings, changed as the slip would have changed them, agree far better with each other through
the model of the wheel. Local damage of the rim is fitted before and after, so that a dent is not taken for a slip.
Kinds of slip: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.errors import TradeError
from felloe.core.mechanics.estimate import observed
from felloe.core.mechanics.evidence import Observed
from felloe.core.mechanics.influence import Influence
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side, SpokeName
from felloe.core.said import say
from felloe.core.terms import term

Array = NDArray[np.float64]
Places = NDArray[np.intp]

DIGIT, SIGN, SWAPPED, SHIFTED = "digit", "sign", "swapped", "shifted"
TURNED_ROUND, TABLE, DIAL_MOVED, UNLIKE = "turned_round", "table", "dial_moved", "unlike"
#: By so much the log-evidence must grow before anything is said: e⁵ to 1, since most readings are right.
SURE_ENOUGH = 5.0
#: A single reading that nothing explains is named from this distance on, in standard deviations.
UNLIKE_SD = 6.0
#: Nearer than so many standard deviations to what the others lead to expect, no reading is doubted.
DOUBTED_SD = 3.0
#: Below so many readings of a kind nobody can tell.
FEWEST = 8
#: So many candidates are looked at closely.
CLOSE_LOOKS = 5
#: A tension this low [N] may be a slack spoke, which the model does not know: its digits are not doubted.
SLACK_N = 30.0


@dataclass(frozen=True)
class Entry:
    """A reading as it was typed: kind, spoke, the number shown, and what a number there stands for [N or mm].

    `stored` raises TradeError for a number that cannot be. `other_tables`: the same by the meter's other tables, by name.
    """

    kind: str
    spoke: str
    shown: float
    stored: Callable[[float], float]
    other_tables: Mapping[str, Callable[[float], float]] = field(default_factory=dict)


@dataclass(frozen=True)
class Slip:
    """A suspicion: kind, what it is and how it would be mended, the places concerned as (kind, spoke), and what would stand
    there then (as typed), where that can be said."""

    kind: str
    what: str
    mending: str
    places: tuple[tuple[str, str], ...]
    instead: Mapping[tuple[str, str], float] = field(default_factory=dict)


@dataclass(frozen=True)
class _Guess:
    """A slip with the readings as they would have been without it [own sd], or the row of a zero that moved."""

    slip: Slip
    values: Array
    gain: float
    extra: Array | None = None


def slips(influence: Influence, readings: Readings, entries: Sequence[Entry], seen: Observed | None = None) -> tuple[Slip, ...]:
    """The likeliest slips among `readings`, at most one of each place, surest first. `entries` are those of `readings` that
    were typed, in the order in which they were; places without an entry are taken as they are. `seen` are the readings as
    rows over the unknowns, where an estimate has worked them out already."""
    if readings.count < FEWEST:
        return ()
    seen = seen or observed(influence, readings)
    known = _Known(influence.wheel, readings, entries, seen)
    found: list[Slip] = []
    for _ in range(3):
        best = _best(known)
        if best is None:
            break
        found.append(best.slip)
        if best.extra is not None or len(best.slip.places) > 2:
            break
        known = known.changed(best.values)
    return tuple(found)


class _Known:
    """The readings of one set by place, with their rows in the model."""

    def __init__(self, wheel: Wheel, readings: Readings, entries: Sequence[Entry], seen: Observed) -> None:
        self.wheel, self.entries, self.seen = wheel, entries, seen
        by_angle = {round(a, 2): str(n) for a, n in zip(wheel.angles_deg, wheel.names, strict=True)}
        places = [("tension", r.spoke) for r in readings.tension]
        sds = [r.sd_n for r in readings.tension]
        for kind in ("lateral", "radial"):
            for r in getattr(readings, kind):
                places.append((kind, by_angle.get(round(r.angle_deg, 2), "")))
                sds.append(r.sd_mm)
        places += [("dish", "")] * len(readings.dish)
        sds += [r.sd_mm for r in readings.dish]
        self.sds = np.array(sds)
        typed = {(e.kind, e.spoke) for e in entries}
        self.at: dict[tuple[str, str], int] = {}
        for i, place in enumerate(places):
            if place in typed and place not in self.at:
                self.at[place] = i
        self.base = np.zeros(len(places))
        for i, r in enumerate(readings.tension):
            self.base[i] = seen.prior.base_tension[wheel.index_of[r.spoke]]
        self.sides = {
            (kind, side): self._side(kind, side)
            for kind in ("tension", "lateral", "radial")
            for side in (Side.RIGHT, Side.LEFT)
        }
        self.stood = {place: self.real(i) for place, i in self.at.items()}
        self._near: dict[tuple[str, str], tuple[tuple[float, float], ...]] = {}

    def near(self, entry: Entry, i: int) -> tuple[tuple[float, float], ...]:
        """What may have been meant instead of what was typed at the i-th: the number, and the reading that it would be [own
        sd]; those that cannot be read are left out. The same whatever the other readings say."""
        place = (entry.kind, entry.spoke)
        if place not in self._near:
            self._near[place] = tuple(self._instead(entry, i))
        return self._near[place]

    def _instead(self, entry: Entry, i: int) -> Iterator[tuple[float, float]]:
        for shown in near_misses(entry.shown):
            try:
                yield shown, self.scaled(i, entry.stored(shown))
            except TradeError:
                continue

    def _side(self, kind: str, side: Side) -> Places | None:
        """Where the readings of a whole side stand, in its order; None where it was not read in full."""
        rows = [self.at.get((kind, f"{side.value}{number}")) for number in range(1, self.wheel.side(side).count + 1)]
        return None if None in rows else np.array(rows, dtype=int)

    def real(self, i: int) -> float:
        """The i-th reading [N or mm]."""
        return float(self.seen.values[i] * self.sds[i] + self.base[i])

    def scaled(self, i: int, value: float) -> float:
        return float((value - self.base[i]) / self.sds[i])

    def scaled_at(self, rows: Places, others: Places) -> Array:
        """What stands at `others`, had it been read at `rows`."""
        real = self.seen.values[others] * self.sds[others] + self.base[others]
        return np.asarray((real - self.base[rows]) / self.sds[rows])

    def changed(self, values: Array) -> _Known:
        """The same with other values, for looking on."""
        other = object.__new__(_Known)
        other.__dict__.update(self.__dict__)
        other.seen = self.seen.with_values(values)
        other.stood = {place: other.real(i) for place, i in self.at.items()}
        return other


def _best(known: _Known) -> _Guess | None:
    guesses = sorted(_guesses(known), key=lambda guess: -guess.gain)
    kinds: dict[tuple[object, ...], int] = {}
    close: list[_Guess] = []
    for guess in guesses:
        key = (guess.slip.kind, guess.slip.places[0])
        if kinds.setdefault(key, 0) == 0:
            close.append(guess)
        kinds[key] += 1
        if len(close) == CLOSE_LOOKS:
            break
    if not close:
        return None
    before = known.seen.fit().log_evidence
    judged = [(known.seen.fit(guess.values, guess.extra).log_evidence - before, guess) for guess in close]
    gain, best = max(judged, key=lambda pair: pair[0] - _COST[pair[1].slip.kind])
    return best if gain - _COST[best.slip.kind] >= SURE_ENOUGH else None


#: What rarer slips, and those with many ways to fit, pay before they are believed.
_COST = {DIGIT: 1.0, SIGN: 0.0, SWAPPED: 0.5, SHIFTED: 2.0, TURNED_ROUND: 2.0, TABLE: 3.0, DIAL_MOVED: 3.0, UNLIKE: 9.0}


def _guesses(known: _Known) -> Iterator[_Guess]:
    """All that is worth a closer look; most are not, so that what a slip would say is put in words only then."""
    yield from _single(known)
    yield from _swaps(known)
    yield from _moved_round(known)
    yield from _tables(known)
    yield from _dials(known)


def _gain(known: _Known, places: Places, values: Array) -> float | None:
    """What the log-evidence would gain at a quick look by other values at some places; None where that is not worth a word."""
    gain = known.seen.gain(places, values)
    return gain if gain >= SURE_ENOUGH / 2 else None


def _guess(known: _Known, slip: Slip, places: Places, changed: Array, gain: float) -> _Guess:
    values = known.seen.values.copy()
    values[places] = changed
    return _Guess(slip, values, gain)


def _single(known: _Known) -> Iterator[_Guess]:
    """One reading alone: digits lost, added or turned round, a sign, or simply unlike all others."""
    for entry in known.entries:
        i = known.at.get((entry.kind, entry.spoke))
        if i is None or (entry.kind == "tension" and known.real(i) < SLACK_N):
            continue
        mean, sd = known.seen.expected(i)
        if abs(known.seen.values[i] - mean) < DOUBTED_SD * sd or _dented_there(known, entry):
            continue
        place = ((entry.kind, entry.spoke),)
        said = {"spoke": entry.spoke, "figure": term(entry.kind)}
        best: tuple[float, float, float] | None = None
        for shown, value in known.near(entry, i):
            off = abs(value - mean) / sd
            if off < 2.5 and (best is None or off < best[0]):
                best = (off, shown, value)
        if best is not None:
            _, shown, value = best
            gain = _gain(known, np.array([i]), np.array([value]))
            if gain is None:
                continue
            sign = shown == -entry.shown
            what = (
                say("{spoke}, {figure}: {shown:g} has perhaps the wrong sign", shown=entry.shown, **said)
                if sign
                else say(
                    "{spoke}, {figure}: {shown:g} has perhaps a digit too many, too few, or turned round",
                    shown=entry.shown,
                    **said,
                )
            )
            mending = say("It would be {instead:g}: read it again.", instead=shown)
            yield _guess(
                known,
                Slip(SIGN if sign else DIGIT, what, mending, place, {place[0]: shown}),
                np.array([i]),
                np.array([value]),
                gain,
            )
        elif abs(known.seen.values[i] - mean) > UNLIKE_SD * sd:
            gain = _gain(known, np.array([i]), np.array([mean]))
            if gain is None:
                continue
            what = say("{spoke}, {figure}: {shown:g} does not go with what was read around it", shown=entry.shown, **said)
            yield _guess(known, Slip(UNLIKE, what, say("Read it again."), place), np.array([i]), np.array([mean]), gain)


def _dented_there(known: _Known, entry: Entry) -> bool:
    """Whether the rim stands out sideways and in or out at one place at once: damage, for hardly anybody slips twice there."""
    other = {"lateral": "radial", "radial": "lateral"}.get(entry.kind)
    i = known.at.get((other, entry.spoke)) if other else None
    if i is None:
        return False
    mean, sd = known.seen.expected(i)
    return bool(abs(known.seen.values[i] - mean) > DOUBTED_SD * sd)


def near_misses(shown: float) -> tuple[float, ...]:
    """Numbers that a slip of one key turns into `shown`: a digit or the point more, less or displaced, two digits turned
    round, another sign."""
    text = f"{abs(shown):.3f}".rstrip("0").rstrip(".") if shown != round(shown) else str(int(abs(shown)))
    found: set[str] = set()
    for i in range(len(text)):
        found.add(text[:i] + text[i + 1 :])
        if i + 1 < len(text):
            found.add(text[:i] + text[i + 1] + text[i] + text[i + 2 :])
    for i in range(len(text) + 1):
        found |= {text[:i] + digit + text[i:] for digit in "0123456789"}
    digits = text.replace(".", "")
    found |= {digits[:i] + "." + digits[i:] for i in range(len(digits) + 1)} | {digits}
    values = {-shown}
    for candidate in found:
        try:
            values.add(float(candidate) * (-1 if shown < 0 else 1))
        except ValueError:
            continue
    values.discard(shown)
    return tuple(sorted(values))


def _swaps(known: _Known) -> Iterator[_Guess]:
    """Two that follow each other in the order of reading have each other's figure."""
    for one, two in zip(known.entries, known.entries[1:], strict=False):
        if one.kind != two.kind:
            continue
        i, j = known.at.get((one.kind, one.spoke)), known.at.get((two.kind, two.spoke))
        if i is None or j is None:
            continue
        rows = np.array([i, j])
        changed = known.scaled_at(rows, rows[::-1])
        gain = _gain(known, rows, changed)
        if gain is None:
            continue
        what = say("{one} and {two} have perhaps each other’s {figure}", one=one.spoke, two=two.spoke, figure=term(one.kind))
        mending = say("Then {one} has {shown_one:g} and {two} {shown_two:g}.", one=one.spoke, two=two.spoke,
                      shown_one=two.shown, shown_two=one.shown)  # fmt: skip
        places = ((one.kind, one.spoke), (two.kind, two.spoke))
        slip = Slip(SWAPPED, what, mending, places, {places[0]: two.shown, places[1]: one.shown})
        yield _guess(known, slip, rows, changed, gain)


def _moved_round(known: _Known) -> Iterator[_Guess]:
    """A whole side is one spoke on, or was counted the other way from the valve."""
    for kind in ("tension", "lateral", "radial"):
        for sides in ((Side.RIGHT,), (Side.LEFT,), (Side.RIGHT, Side.LEFT)):
            for way in (1, -1, 0):
                moved = _permuted(known, kind, sides, way)
                if moved is None:
                    continue
                rows, changed = moved
                gain = _gain(known, rows, changed)
                if gain is None:
                    continue
                places = tuple((kind, f"{side.value}{k + 1}") for side in sides for k in range(known.wheel.side(side).count))
                side = sides[0].said if len(sides) == 1 else say("both sides")
                if way:
                    what = say("{figure}, {side}: perhaps all one spoke on", figure=term(kind), side=side)
                    ahead = say("before") if way > 0 else say("after")
                    mending = say("Each figure would then belong to the spoke {ahead} its own.", ahead=ahead)
                    yield _guess(known, Slip(SHIFTED, what.capital(), mending, places), rows, changed, gain)
                else:
                    what = say(
                        "{figure}, {side}: perhaps counted the other way round from the valve", figure=term(kind), side=side
                    )
                    mending = say("Look which way the names run: they begin right of the valve, seen from the right.")
                    yield _guess(known, Slip(TURNED_ROUND, what.capital(), mending, places), rows, changed, gain)


def _permuted(known: _Known, kind: str, sides: Sequence[Side], way: int) -> tuple[Places, Array] | None:
    """Readings of whole sides moved by one (`way` ±1) or mirrored (0): where, and what; None where one was not read in full."""
    rows, others = [], []
    for side in sides:
        mine = known.sides[kind, side]
        if mine is None:
            return None
        rows.append(mine)
        others.append(np.concatenate([mine[way:], mine[:way]]) if way else mine[::-1])
    at = np.concatenate(rows)
    return at, known.scaled_at(at, np.concatenate(others))


def _tables(known: _Known) -> Iterator[_Guess]:
    """The tensions of one side or both were read by another of the meter's tables."""
    for sides in ((Side.RIGHT,), (Side.LEFT,), (Side.RIGHT, Side.LEFT)):
        mine = [e for e in known.entries if e.kind == "tension" and SpokeName.parse(e.spoke).side in sides]
        for name in sorted({name for e in mine for name in e.other_tables}):
            changes, places = {}, []
            for entry in mine:
                i = known.at.get((entry.kind, entry.spoke))
                if i is None or name not in entry.other_tables:
                    continue
                try:
                    changes[i] = known.scaled(i, entry.other_tables[name](entry.shown))
                except TradeError:
                    changes = {}
                    break
                places.append((entry.kind, entry.spoke))
            if len(changes) < 4:
                continue
            rows, changed = np.array(list(changes)), np.array(list(changes.values()))
            gain = _gain(known, rows, changed)
            if gain is None:
                continue
            side = sides[0].said if len(sides) == 1 else say("both sides")
            what = say("Tension, {side}: perhaps by the wrong table of the meter", side=side)
            mending = say("The table for {name} goes with the rim better: look which spokes are in.", name=name)
            yield _guess(known, Slip(TABLE, what, mending, tuple(places)), rows, changed, gain)


def _dials(known: _Known) -> Iterator[_Guess]:
    """From some reading on the dial stands elsewhere: knocked, or set anew."""
    for kind in ("lateral", "radial"):
        rows = [known.at[(e.kind, e.spoke)] for e in known.entries if e.kind == kind and (e.kind, e.spoke) in known.at]
        spokes = [e.spoke for e in known.entries if e.kind == kind and (e.kind, e.spoke) in known.at]
        if len(rows) < 6:
            continue
        # What a zero of its own from the k-th on weighs, and what pulls at it: sums from the end, for every k at once.
        share = 1 / known.sds[rows]
        weights = known.seen.precision[np.ix_(rows, rows)] * np.outer(share, share)
        weights = np.diag(weights[::-1, ::-1].cumsum(axis=0).cumsum(axis=1))[::-1]
        pulls = (known.seen.residual[rows] * share)[::-1].cumsum()[::-1]
        # Its own zero, of any size, costs what a free unknown costs.
        gains = pulls**2 / (2 * weights) - 0.5 * np.log1p(known.seen.zero_sd_mm**2 * weights)
        for k in range(3, len(rows) - 2):
            if gains[k] < SURE_ENOUGH / 2:
                continue
            moved = float(pulls[k] / weights[k])
            row = np.zeros(len(known.seen.values))
            row[rows[k:]] = share[k:]
            what = say("{figure}: from {spoke} on the dial stands perhaps {moved:.2f} mm elsewhere", figure=term(kind),
                       spoke=spokes[k], moved=moved)  # fmt: skip
            mending = say("Was it knocked or set anew? Read the first of them again.")
            places = tuple((kind, spoke) for spoke in spokes[k:])
            yield _Guess(Slip(DIAL_MOVED, what.capital(), mending, places), known.seen.values, float(gains[k]), row)
