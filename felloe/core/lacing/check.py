"""What is wrong with a lacing: the consistent pattern behind a few spokes that were looked at, and the spokes that break it.

Every way in which a whole side goes wrong (direction reversed, shifted on the flange, other crossings, heads the other way)
is laid out on the wheel's own geometry and compared with what was seen; the fewest errors explain it best.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.lacing.crossings import crossing_limit
from felloe.core.lacing.map import HEAD_IN, HEAD_OUT, LEADING, RADIAL, TRAILING, BadLacing, LacingMap, flange_hole_numbers
from felloe.core.naming import Side, SpokeName
from felloe.core.said import joined, say, say_count
from felloe.core.spokes.length import length_at_mm, spoke_length_mm

Array = NDArray[np.float64]
#: What a whole side's error costs beside one contradicted glance at one spoke: two spokes alike make it the likelier.
REVERSED_COST, SHIFT_COST, CROSSINGS_COST, HEADS_COST = 1.5, 1.4, 1.6, 1.5
#: A spoke that needs so much more barely reaches; so much less and it stands slack [mm].
REACH_MM = 1.5
SHORT, RIGHT, SLACK = "short", "right", "slack"
MOST_SHIFT = 2


@dataclass(frozen=True)
class Seen:
    """What was looked at of one spoke; None where it was not."""

    spoke: str
    lean: str | None = None
    crosses: int | None = None
    head: str | None = None
    flange_hole: int | None = None
    reach: str | None = None

    def __post_init__(self) -> None:
        SpokeName.parse(self.spoke)
        for name, value, known in (
            ("lean", self.lean, (TRAILING, LEADING, RADIAL)),
            ("head", self.head, (HEAD_IN, HEAD_OUT)),
            ("reach", self.reach, (SHORT, RIGHT, SLACK)),
        ):
            if value is not None and value not in known:
                raise BadLacing(
                    say("{name} is {known}; found “{value}”", name=name, known=joined(", ", known), value=value[:20]), name
                )
        if self.crosses is not None and not 0 <= self.crosses <= 6:
            raise BadLacing(say("a spoke crosses 0 to 6 others; found {crosses}", crosses=self.crosses), "crosses")


@dataclass(frozen=True)
class SideAsLaced:
    """How one side is laced: direction against the map, holes shifted on the flange, crossings, heads against the map."""

    reversed: bool
    shift: int
    crossings: int
    heads_swapped: bool


@dataclass(frozen=True)
class LacingError:
    """One error: `key`, the side or the spoke that it is about, what is wrong and how it is put right."""

    key: str
    side: Side | None
    spoke: str
    what: str
    mend: str


@dataclass(frozen=True)
class LacingVerdict:
    """The pattern that explains best what was seen, its errors, and each spoke's need [mm] as laced.

    `surplus_mm`: by how much the right spoke is longer (+, slack) or shorter (−) than the need. `sure` is False where
    another pattern explains as much; `also` names it.
    """

    right: SideAsLaced
    left: SideAsLaced
    errors: tuple[LacingError, ...]
    spokes: tuple[str, ...]
    needed_mm: tuple[float, ...]
    surplus_mm: tuple[float, ...]
    sure: bool
    also: tuple[str, ...]


@dataclass(frozen=True)
class _Laid:
    """One side laid out one way: by index round the rim its flange angle, lean, and head; and what the way costs."""

    side: Side
    as_laced: SideAsLaced
    angle_rad: Mapping[int, float]
    lean: Mapping[int, str]
    head: Mapping[int, str]
    cost: float


@dataclass(frozen=True)
class _Pattern:
    """Both sides laid out, with what contradicts them, spoke by spoke."""

    cost: float
    right: _Laid
    left: _Laid
    wrong: Mapping[str, list[str]]

    def of(self, side: Side) -> _Laid:
        return self.right if side is Side.RIGHT else self.left

    def angles(self, count: int) -> Array:
        both = {**self.right.angle_rad, **self.left.angle_rad}
        return np.array([both[i] for i in range(count)])


def check_lacing(plan: LacingMap, seen: Sequence[Seen]) -> LacingVerdict:
    """Explain what was seen. Raises BadLacing where nothing was, or of a spoke that the wheel has not."""
    wheel = plan.wheel
    if not any(_items(look) for look in seen):
        raise BadLacing(say("look at a spoke first: which way it leans, how many it crosses, where its head is"), "seen")
    for look in seen:
        if look.spoke not in wheel.index_of:
            raise BadLacing(say("this wheel has no spoke {spoke}", spoke=look.spoke), "seen")
    patterns = _patterns(plan, seen)
    best = patterns[0]
    rivals = [pattern for pattern in patterns[1:6] if pattern.cost < best.cost + 0.25]
    angles = _with_single_errors(plan, best, seen)
    needed, surplus = _needs(wheel, angles)
    errors = (*_side_errors(plan, best), *_single_errors(plan, best, seen))
    also = tuple(dict.fromkeys(_in_words(plan, pattern) for pattern in rivals))
    return LacingVerdict(
        best.right.as_laced,
        best.left.as_laced,
        errors,
        tuple(str(name) for name in wheel.names),
        tuple(needed.tolist()),
        tuple(surplus.tolist()),
        not rivals,
        also,
    )


def _items(look: Seen) -> int:
    return sum(v is not None for v in (look.lean, look.crosses, look.head, look.flange_hole, look.reach))


def _patterns(plan: LacingMap, seen: Sequence[Seen]) -> list[_Pattern]:
    """The patterns of whole sides that explain best, cheapest first.

    What a side shows by itself bounds a pair of sides from below; only pairs that can still win are laid out together.
    """
    sides = {side: [_by_itself(plan, laid, seen) for laid in _ways(plan, side)] for side in Side}
    pairs = sorted(
        (
            (r[0] + left[0] - _one_turn_of_the_hub(r[1], left[1]), k, r, left)
            for k, (r, left) in enumerate(product(sides[Side.RIGHT], sides[Side.LEFT]))
        ),
        key=lambda pair: pair[:2],
    )
    together = any(look.flange_hole is not None or look.reach is not None for look in seen)
    found: list[_Pattern] = []
    best = math.inf
    for bound, _, (_, right, wrong_r), (_, left, wrong_l) in pairs:
        if bound > best + 0.25:
            break
        wrong = {name: list(what) for name, what in (*wrong_r.items(), *wrong_l.items())}
        extra = _together(plan, right, left, seen, wrong) if together else 0
        found.append(_Pattern(bound + extra, right, left, wrong))
        best = min(best, bound + extra)
    return sorted(found, key=lambda pattern: (pattern.cost, pattern.right.cost + pattern.left.cost))


def _one_turn_of_the_hub(right: _Laid, left: _Laid) -> float:
    """Both sides the wrong way round are one mistake, not two."""
    return REVERSED_COST if right.as_laced.reversed and left.as_laced.reversed else 0.0


def _ways(plan: LacingMap, side: Side) -> list[_Laid]:
    """Every way of lacing one side; the right side's shift is none, since the hub turns freely."""
    planned = plan.wheel.side(side).crossings
    shifts = range(-MOST_SHIFT, MOST_SHIFT + 1) if side is Side.LEFT else (0,)
    crossings = range(crossing_limit(plan.wheel.side(side).count) + 1)
    return [
        _lay_out(plan, side, SideAsLaced(r, s, c, h))
        for r, s, c, h in product((False, True), shifts, crossings, (False, True))
        if c or not (r or (h and planned))
    ]


def _lay_out(plan: LacingMap, side: Side, as_laced: SideAsLaced) -> _Laid:
    wheel = plan.wheel
    lacing = wheel.side(side)
    spacing = 2 * math.pi / lacing.count
    own = wheel.lead_angle_rad(side) - lacing.crossings * spacing
    angles, leans, heads = {}, {}, {}
    for i, name in enumerate(wheel.names):
        if name.side is not side:
            continue
        parity = 1 if name.number % 2 else -1
        sign = 0 if as_laced.crossings == 0 else -parity if as_laced.reversed else parity
        turned = parity * own + (sign * as_laced.crossings + as_laced.shift) * spacing
        angles[i] = math.radians(wheel.angles_deg[i]) + turned
        leans[i] = _LEANS[sign]
        # The first set goes in heads first, before the hub is turned: a side laced the wrong way round keeps its heads.
        planned = plan.by_spoke[str(name)].head
        heads[i] = _TURNED[planned] if as_laced.heads_swapped else planned
    cost = REVERSED_COST * as_laced.reversed + SHIFT_COST * abs(as_laced.shift) ** 0.5
    cost += CROSSINGS_COST * (as_laced.crossings != lacing.crossings) + HEADS_COST * as_laced.heads_swapped
    return _Laid(side, as_laced, angles, leans, heads, cost)


_LEANS = {1: TRAILING, -1: LEADING, 0: RADIAL}
_SIGNS = {lean: sign for sign, lean in _LEANS.items()}
_TURNED = {HEAD_IN: HEAD_OUT, HEAD_OUT: HEAD_IN}


def _by_itself(plan: LacingMap, laid: _Laid, seen: Sequence[Seen]) -> tuple[float, _Laid, dict[str, list[str]]]:
    """Cost of one side as far as it shows without the other: lean, crossings, heads."""
    wrong: dict[str, list[str]] = {}
    for look in seen:
        i = plan.wheel.index_of[look.spoke]
        if i not in laid.lean:
            continue
        expected = (
            ("lean", look.lean, laid.lean[i]),
            ("crosses", look.crosses, laid.as_laced.crossings),
            ("head", look.head, laid.head[i]),
        )
        what = [name for name, value, should in expected if value is not None and value != should]
        if what:
            wrong[look.spoke] = what
    return laid.cost + sum(map(len, wrong.values())), laid, wrong


def _together(plan: LacingMap, right: _Laid, left: _Laid, seen: Sequence[Seen], wrong: dict[str, list[str]]) -> int:
    """Contradictions of what only both sides together show, hole numbers and reach; added to `wrong`."""
    wheel = plan.wheel
    angles = _Pattern(0, right, left, {}).angles(wheel.spoke_count)
    holes = _holes(plan, angles)
    surplus = _needs(wheel, angles)[1] if any(look.reach is not None for look in seen) else np.zeros(wheel.spoke_count)
    count = 0
    for look in seen:
        i = wheel.index_of[look.spoke]
        if look.flange_hole is not None and look.flange_hole != holes[i]:
            wrong.setdefault(look.spoke, []).append("flange_hole")
            count += 1
        if look.reach is not None and look.reach != _reach(float(surplus[i])):
            wrong.setdefault(look.spoke, []).append("reach")
            count += 1
    return count


def _holes(plan: LacingMap, angles: Array) -> list[int]:
    return flange_hole_numbers(plan.wheel, angles, plan.wheel.index_of[plan.places[0].spoke])


def _reach(surplus_mm: float) -> str:
    return SHORT if surplus_mm < -REACH_MM else SLACK if surplus_mm > REACH_MM else RIGHT


def _lengths(wheel: Wheel, angles: Array) -> Array:
    """Length of each spoke for flange holes at `angles`."""
    lead = angles - np.radians(wheel.angles_deg)
    found = np.empty(wheel.spoke_count)
    for side in Side:
        mine = wheel.on_side(side)
        found[mine] = length_at_mm(wheel, side, lead[mine])
    return found


def _needs(wheel: Wheel, angles: Array) -> tuple[Array, Array]:
    """Needs and surplus, the hub turned to where the first side's spokes lack least in squares: that side holds it."""
    have = np.array([spoke_length_mm(wheel, name.side) for name in wheel.names])
    holds = wheel.on_side(Side.RIGHT)
    spacing = 2 * math.pi / min(wheel.right.count, wheel.left.count)
    best: tuple[float, Array] | None = None
    for turn in np.linspace(-spacing, spacing, 121):
        needed = _lengths(wheel, angles + turn)
        lack = float(((have - needed)[holds] ** 2).sum())
        if best is None or lack < best[0]:
            best = (lack, needed)
    assert best is not None
    return best[1], have - best[1]


def _with_single_errors(plan: LacingMap, best: _Pattern, seen: Sequence[Seen]) -> Array:
    """The flange angles of the pattern, with single spokes where they were seen instead."""
    wheel, angles = plan.wheel, best.angles(plan.wheel.spoke_count)
    holes = _holes(plan, angles)
    for look in seen:
        if look.spoke not in best.wrong:
            continue
        i = wheel.index_of[look.spoke]
        side = wheel.names[i].side
        laid = best.of(side)
        spacing = 2 * math.pi / wheel.side(side).count
        if look.flange_hole is not None:
            angles[i] += (look.flange_hole - holes[i]) * spacing
        elif {"lean", "crosses"} & set(best.wrong[look.spoke]):
            lean = look.lean or laid.lean[i]
            crosses = look.crosses if look.crosses is not None else laid.as_laced.crossings
            angles[i] += (_SIGNS[lean] * crosses - _SIGNS[laid.lean[i]] * laid.as_laced.crossings) * spacing
    return angles


def _side_errors(plan: LacingMap, best: _Pattern) -> list[LacingError]:
    wheel, found = plan.wheel, []
    ways = {side: best.of(side).as_laced for side in Side}
    for side, way in ways.items():
        word, planned = side.said, wheel.side(side).crossings
        if way.crossings != planned:
            what = say(
                "The {word} side is laced {cross} instead of {planned}.",
                word=word,
                cross=_cross(way.crossings),
                planned=_cross(planned),
            )
            mend = say("Take out its crossing set and count the crossings again from the hub.")
            found.append(LacingError("crossings", side, "", what, mend))
        if way.shift:
            holes = say_count("{count} flange hole", "{count} flange holes", count=abs(way.shift))
            ahead, back = (say("ahead"), say("back")) if way.shift > 0 else (say("back"), say("ahead"))
            what = say(
                "The {word} side sits {holes} too far {ahead} (clockwise, seen from the right, is ahead).",
                word=word,
                holes=holes,
                ahead=ahead,
            )
            found.append(
                LacingError(
                    "shifted",
                    side,
                    "",
                    what,
                    say("Its first spoke belongs {holes} {back}: move the whole side.", holes=holes, back=back),
                )
            )
        if way.reversed and not all(other.reversed for other in ways.values()):
            what = say("The {word} side runs the wrong way round: its trailing spokes lead.", word=word)
            found.append(
                LacingError(
                    "reversed",
                    side,
                    "",
                    what,
                    say("Lace the {word} side again the other way; the flange holes stay.", word=word),
                )
            )
        if way.heads_swapped:
            mend = say("It holds as well; on the sprockets' or the rotor's side read the map's reason before leaving it.")
            found.append(
                LacingError("heads", side, "", say("On the {word} side all heads are the other way.", word=word), mend)
            )
    leans = {**best.right.lean, **best.left.lean}
    last = wheel.spoke_count - 1
    toward = [str(wheel.names[i]) for i, lean in ((0, LEADING), (last, TRAILING)) if leans[i] == lean]
    if toward:
        what = say_count(
            "The valve is closed off: {toward} leans over it.",
            "The valve is closed off: {toward} lean over it.",
            count=len(toward),
            toward=joined(" and ", toward),
        )
        mend = say("The hub was turned the wrong way before the first crossing: loosen the crossing sets and turn it back.")
        found.append(LacingError("valve", None, "", what, mend))
    return found


def _cross(crossings: int) -> str:
    return say("radial") if crossings == 0 else say("{crossings}-cross", crossings=crossings)


_REACHES = {SHORT: say("barely reaches"), RIGHT: say("reaches as it should"), SLACK: say("stands slack")}


def _single_errors(plan: LacingMap, best: _Pattern, seen: Sequence[Seen]) -> list[LacingError]:
    holes = _holes(plan, best.angles(plan.wheel.spoke_count))
    found = []
    for look in seen:
        i = plan.wheel.index_of[look.spoke]
        side = plan.wheel.names[i].side
        laid, at = best.of(side), look.spoke
        words = {
            "lean": (
                say("{at} is {lean}; it should be {right_lean}.", at=at, lean=look.lean, right_lean=laid.lean[i]),
                say("Take it out and lead it the other way."),
            ),
            "crosses": (
                say(
                    "{at} crosses {crosses}; it should cross {crossings}.",
                    at=at,
                    crosses=look.crosses,
                    crossings=laid.as_laced.crossings,
                ),
                say("Count its crossings from the hub."),
            ),
            "head": (
                say("{at} has its head {head}; it should be {right_head}.", at=at, head=look.head, right_head=laid.head[i]),
                say("Turn it round: heads alternate."),
            ),
            "flange_hole": (
                say(
                    "{at} sits in flange hole {flange_hole}; it belongs in {holes}.",
                    at=at,
                    flange_hole=look.flange_hole,
                    holes=holes[i],
                ),
                say("Move this one spoke."),
            ),
            "reach": (
                say("{at} {reach}; by the pattern it should not.", at=at, reach=_REACHES[look.reach or RIGHT]),
                say("Hold it to the ruler."),
            ),
        }
        found += [LacingError(what, side, at, *words[what]) for what in best.wrong.get(at, [])]
    return found


def _in_words(plan: LacingMap, pattern: _Pattern) -> str:
    said = [error.what for error in _side_errors(plan, pattern)]
    return joined(" ", said) if said else say("The pattern is right, and single spokes are wrong.")
