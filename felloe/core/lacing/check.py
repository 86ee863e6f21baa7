"""What is wrong with a lacing: the consistent pattern behind a few spokes that were looked at, and the spokes that break it.

Every way in which a whole side goes wrong (direction reversed, shifted on the flange, other crossings, heads the other way,
the sides' spokes exchanged) is laid out on the wheel's own geometry; Bayes' rule weighs it against what was seen. Eyes err and
single spokes are wrong, so that no glance proves anything alone. Chances are common practice, no source.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
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
#: What a whole side's error costs beside a right lacing: minus the logarithm of how much rarer it is.
REVERSED_COST, SHIFT_COST, CROSSINGS_COST, HEADS_COST, LENGTHS_COST = 4.0, 4.0, 4.0, 4.0, 4.0
#: How often a glance is wrong: at a lean, a head or a hole; a count of crossings, by one and by more.
GLANCE, COUNT_BY_ONE, COUNT_BY_MORE = 0.06, 0.05, 0.005
#: How well it is felt whether a spoke reaches [mm]; and how often one spoke alone is laced wrongly.
FELT_SD_MM, ONE_ALONE = 1.2, 0.03
#: A verdict is sure from this chance on, and never of fewer hints than these.
SURE_CHANCE, FEWEST_HINTS = 0.95, 3
#: A rival this likely is named.
WORTH_NAMING = 0.05
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

    `surplus_mm`: by how much the spoke in hand is longer (+, slack) or shorter (−) than the need. `sure` is False where
    another pattern may well be behind it, or too little was looked at; `also` names what it could be, `chance` is the
    pattern's own.
    """

    right: SideAsLaced
    left: SideAsLaced
    errors: tuple[LacingError, ...]
    spokes: tuple[str, ...]
    needed_mm: tuple[float, ...]
    surplus_mm: tuple[float, ...]
    sure: bool
    also: tuple[str, ...]
    chance: float = 1.0
    lengths_swapped: bool = False


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
    swapped: bool = False

    @property
    def key(self) -> tuple[object, ...]:
        return self.right.as_laced, self.left.as_laced, self.swapped

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
    weights = [math.exp(best.cost - pattern.cost) for pattern in patterns]
    chance = 1 / sum(weights)
    rivals = [p for p, weight in zip(patterns[1:], weights[1:], strict=True) if weight * chance >= WORTH_NAMING]
    wrong = _contradictions(plan, best, seen)
    angles = _with_single_errors(plan, best, seen, wrong)
    needed, surplus = _needs(wheel, angles, best.swapped)
    whole = _side_errors(plan, best)
    errors = (*whole, *_single_errors(plan, best, seen, wrong))
    also = tuple(dict.fromkeys(_in_words(plan, pattern) for pattern in rivals))
    return LacingVerdict(
        best.right.as_laced,
        best.left.as_laced,
        errors,
        tuple(str(name) for name in wheel.names),
        tuple(needed.tolist()),
        tuple(surplus.tolist()),
        chance >= SURE_CHANCE and sum(map(_items, seen)) >= FEWEST_HINTS and (bool(whole) or _looked_enough(seen)),
        also,
        chance,
        best.swapped,
    )


def _looked_enough(seen: Sequence[Seen]) -> bool:
    """Whether so much was looked at that nothing against the map means that it is right: on both sides lean, crossings and
    head of two spokes, and holes or how they reach."""
    for side in Side:
        mine = [look for look in seen if SpokeName.parse(look.spoke).side is side]
        for what in (("lean",), ("crosses",), ("head",), ("flange_hole", "reach")):
            if sum(any(getattr(look, name) is not None for name in what) for look in mine) < 2:
                return False
    return True


def _items(look: Seen) -> int:
    return sum(v is not None for v in (look.lean, look.crosses, look.head, look.flange_hole, look.reach))


#: Patterns this much rarer than the best [in logarithm] are left out of the reckoning.
_OUT_OF_REACH = 9.0


def _patterns(plan: LacingMap, seen: Sequence[Seen]) -> list[_Pattern]:
    """The patterns of whole sides by what speaks against them, likeliest first.

    What a side shows by itself bounds a pair of sides from below; only pairs within reach are laid out together.
    """
    sides = {side: [(_by_itself(plan, laid, seen), laid) for laid in _ways(plan, side, seen)] for side in Side}
    pairs = sorted(
        (
            (r[0] + left[0] - _one_turn_of_the_hub(r[1], left[1]), k, r[1], left[1])
            for k, (r, left) in enumerate(product(sides[Side.RIGHT], sides[Side.LEFT]))
        ),
        key=lambda pair: pair[:2],
    )
    together = any(look.flange_hole is not None or look.reach is not None for look in seen)
    felt = any(look.reach is not None for look in seen)
    known: dict[tuple[object, ...], float] = {}
    found: list[_Pattern] = []
    best = math.inf
    for bound, _, right, left in pairs:
        if bound > best + _OUT_OF_REACH:
            break
        for swapped in (False, True) if felt else (False,):
            cost = bound + LENGTHS_COST * swapped
            if cost > best + _OUT_OF_REACH:
                continue
            if together:
                # How spokes reach does not depend on their heads.
                same = (*(replace(laid.as_laced, heads_swapped=False) for laid in (right, left)), swapped)
                if same not in known:
                    known[same] = _together(plan, right, left, swapped, seen)
                cost += known[same]
            found.append(_Pattern(cost, right, left, swapped))
            best = min(best, cost)
    return sorted(found, key=lambda pattern: (pattern.cost, pattern.right.cost + pattern.left.cost))


def _one_turn_of_the_hub(right: _Laid, left: _Laid) -> float:
    """Both sides the wrong way round are one mistake, not two."""
    return REVERSED_COST if right.as_laced.reversed and left.as_laced.reversed else 0.0


def _ways(plan: LacingMap, side: Side, seen: Sequence[Seen]) -> list[_Laid]:
    """Every way of lacing one side that what was looked at can tell; the right side's shift is none, since the hub turns
    freely. What nobody looked at is taken as planned: nothing is said of it."""
    planned = plan.wheel.side(side).crossings
    mine = [look for look in seen if SpokeName.parse(look.spoke).side is side]
    reach = any(look.reach is not None for look in seen)
    holes = any(look.flange_hole is not None for look in seen)
    shifts = range(-MOST_SHIFT, MOST_SHIFT + 1) if side is Side.LEFT and (reach or holes) else (0,)
    counted = reach or any(look.crosses is not None or look.lean == RADIAL for look in mine)
    crossings = range(crossing_limit(plan.wheel.side(side).count) + 1) if counted or not planned else (planned,)
    return [
        _lay_out(plan, side, SideAsLaced(r, s, c, h))
        for r, s, c, h in product(_either(mine, "lean"), shifts, crossings, _either(mine, "head"))
        if c or not (r or (h and planned))
    ]


def _either(looks: Sequence[Seen], what: str) -> tuple[bool, ...]:
    return (False, True) if any(getattr(look, what) is not None for look in looks) else (False,)


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
_OTHER = {TRAILING: LEADING, LEADING: TRAILING, RADIAL: TRAILING}


def _glance(value: object, should: object) -> float:
    """Chance of seeing `value` where `should` is; 1 where nothing was looked at."""
    return 1.0 if value is None else 1 - GLANCE if value == should else GLANCE


def _hole(value: int | None, should: int, count: int) -> float:
    """A wrong hole is one of many."""
    return 1.0 if value is None else 1 - GLANCE if value == should else GLANCE / count


def _count(value: int | None, should: int) -> float:
    if value is None:
        return 1.0
    off = abs(value - should)
    return 1 - 2 * COUNT_BY_ONE - 2 * COUNT_BY_MORE if off == 0 else COUNT_BY_ONE if off == 1 else COUNT_BY_MORE


def _felt(value: str | None, surplus_mm: float) -> float:
    if value is None:
        return 1.0
    short = _below(-REACH_MM, surplus_mm)
    slack = 1 - _below(REACH_MM, surplus_mm)
    chance = {SHORT: short, SLACK: slack, RIGHT: 1 - short - slack}[value]
    return 0.94 * chance + 0.02


def _below(limit_mm: float, mean_mm: float) -> float:
    return 0.5 * (1 + math.erf((limit_mm - mean_mm) / (FELT_SD_MM * math.sqrt(2))))


def _by_itself(plan: LacingMap, laid: _Laid, seen: Sequence[Seen]) -> float:
    """Cost of one side as far as it shows without the other: lean, crossings, heads; a spoke may be wrong alone."""
    cost = laid.cost
    for look in seen:
        i = plan.wheel.index_of[look.spoke]
        if i not in laid.lean:
            continue
        lean, head = laid.lean[i], laid.head[i]
        as_it_is = _glance(look.lean, lean) * _count(look.crosses, laid.as_laced.crossings) * _glance(look.head, head)
        # Alone wrong: led the other way, or turned round, or over others; whatever was seen of it says little.
        alone = (
            _glance(look.lean, _OTHER[lean]) * _count(look.crosses, laid.as_laced.crossings) * _glance(look.head, head)
            + _glance(look.lean, lean) * _count(look.crosses, laid.as_laced.crossings) * _glance(look.head, _TURNED[head])
            + _glance(look.lean, lean) * (1.0 if look.crosses is None else 0.2) * _glance(look.head, head)
        ) / 3
        cost -= math.log((1 - ONE_ALONE) * as_it_is + ONE_ALONE * alone)
    return cost


def _together(plan: LacingMap, right: _Laid, left: _Laid, swapped: bool, seen: Sequence[Seen]) -> float:
    """Cost of what only both sides together show: hole numbers and reach."""
    wheel = plan.wheel
    angles = _Pattern(0, right, left).angles(wheel.spoke_count)
    holes = _holes(plan, angles)
    surplus = np.zeros(wheel.spoke_count)
    if any(look.reach is not None for look in seen):
        surplus = _needs(wheel, angles, swapped)[1]
    cost = 0.0
    for look in seen:
        i = wheel.index_of[look.spoke]
        cost -= math.log(_hole(look.flange_hole, holes[i], wheel.side(wheel.names[i].side).count)) + math.log(
            _felt(look.reach, float(surplus[i]))
        )
    return cost


def _contradictions(plan: LacingMap, best: _Pattern, seen: Sequence[Seen]) -> dict[str, list[str]]:
    """What was seen, spoke by spoke, that the pattern does not have."""
    wheel = plan.wheel
    angles = best.angles(wheel.spoke_count)
    holes = _holes(plan, angles)
    surplus = _needs(wheel, angles, best.swapped)[1]
    wrong: dict[str, list[str]] = {}
    for look in seen:
        i = wheel.index_of[look.spoke]
        laid = best.of(wheel.names[i].side)
        expected = (
            ("lean", look.lean, laid.lean[i]),
            ("crosses", look.crosses, laid.as_laced.crossings),
            ("head", look.head, laid.head[i]),
            ("flange_hole", look.flange_hole, holes[i]),
            ("reach", look.reach, _reach(float(surplus[i]))),
        )
        what = [name for name, value, should in expected if value is not None and value != should]
        # Felt is not measured: what lies near the border of slack and right contradicts nothing.
        if "reach" in what and _felt(look.reach, float(surplus[i])) > 0.2:
            what.remove("reach")
        if what:
            wrong[look.spoke] = what
    return wrong


def _holes(plan: LacingMap, angles: Array) -> list[int]:
    return flange_hole_numbers(plan.wheel, angles, plan.wheel.index_of[plan.places[0].spoke])


def _reach(surplus_mm: float) -> str:
    return SHORT if surplus_mm < -REACH_MM else SLACK if surplus_mm > REACH_MM else RIGHT


def _lengths(wheel: Wheel, angles: Array) -> Array:
    """Length of each spoke for flange holes at `angles` (…, n)."""
    lead = angles - np.radians(wheel.angles_deg)
    found = np.empty_like(lead)
    for side in Side:
        mine = wheel.on_side(side)
        found[..., mine] = length_at_mm(wheel, side, lead[..., mine])
    return found


def _needs(wheel: Wheel, angles: Array, swapped: bool = False) -> tuple[Array, Array]:
    """Needs and surplus, the hub turned to where the first side's spokes lack least in squares: that side holds it.

    `swapped`: each side has the spokes that were meant for the other.
    """
    length = {side: spoke_length_mm(wheel, side.other if swapped else side) for side in Side}
    have = np.array([length[name.side] for name in wheel.names])
    holds = wheel.on_side(Side.RIGHT)
    spacing = 2 * math.pi / min(wheel.right.count, wheel.left.count)
    turns = np.linspace(-spacing, spacing, 121)
    needs = _lengths(wheel, angles[None, :] + turns[:, None])
    lack = ((have - needs)[:, holds] ** 2).sum(axis=1)
    best = needs[int(np.argmin(lack))]
    return best, have - best


def _with_single_errors(plan: LacingMap, best: _Pattern, seen: Sequence[Seen], wrong: Mapping[str, Sequence[str]]) -> Array:
    """The flange angles of the pattern, with single spokes where they were seen instead."""
    wheel, angles = plan.wheel, best.angles(plan.wheel.spoke_count)
    holes = _holes(plan, angles)
    for look in seen:
        if look.spoke not in wrong:
            continue
        i = wheel.index_of[look.spoke]
        side = wheel.names[i].side
        laid = best.of(side)
        spacing = 2 * math.pi / wheel.side(side).count
        if look.flange_hole is not None:
            angles[i] += (look.flange_hole - holes[i]) * spacing
        elif {"lean", "crosses"} & set(wrong[look.spoke]):
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
    if best.swapped:
        what = say("The sides' spokes are exchanged: the right side's are on the left, the left side's on the right.")
        found.append(LacingError("lengths", None, "", what, say("Take them out and change them over; the pattern stays.")))
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


def _single_errors(
    plan: LacingMap, best: _Pattern, seen: Sequence[Seen], wrong: Mapping[str, Sequence[str]]
) -> list[LacingError]:
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
        found += [LacingError(what, side, at, *words[what]) for what in wrong.get(at, [])]
    return found


def _in_words(plan: LacingMap, pattern: _Pattern) -> str:
    said = [error.what for error in _side_errors(plan, pattern)]
    return joined(" ", said) if said else say("The pattern is right, and single spokes are wrong.")
