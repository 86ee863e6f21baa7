"""Can spokes save this rim? Straight against even: what runout can be had at which tension spread.

TIR and spread are ranges, so the best that any turns can do is a linear programme: least runout, in units of the tier,
with every tension within ± a spread of its side's mean, the tight side near its target and no spoke above the cap.
Solved with HiGHS. Turns are taken as continuous; a hand's steps come on top (SLACK_FOR_HANDS).
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from highspy import HighsBasis
from numpy.random import Generator
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.prediction import predict
from felloe.core.truing.programme import PRIMAL, Box, Programme
from felloe.core.truing.tiers import TIERS, Tier

Array = NDArray[np.float64]

#: Spreads at which the curve is drawn [± %].
CURVE_SPREADS = (3.0, 6.0, 10.0, 15.0, 20.0, 25.0, 35.0)
#: No nipple is thought turned further than this.
MOST_TURNS = 4.0
#: The tight side's mean stays so near to its target.
MEAN_BAND = 0.08
#: Beside the worse of lateral and radial, the better one is brought down too, for so small a share of the price.
EACH_ALONE = 0.02
#: A tier counts as reachable when this share of it is enough: the rest is for steps of an eighth and hands that miss.
SLACK_FOR_HANDS = 0.85
#: From this chance on a verdict is said without a doubt.
SURE = 0.75
#: Where even spokes are asked: evenness in this share of the target, and straightness beside it in this share of the tier.
#: Chosen on 72 virtual wheels, dented sideways, inward or not at all: 71 told right.
EVEN_UNIT, OPEN_WEIGHT = 0.06, 1.0


#: So few readings say nothing about what the rim can reach.
FEWEST_FOR_A_VERDICT = 8


@dataclass(frozen=True)
class CurvePoint:
    """The best runout at a spread: lateral and radial TIR and dish [mm], as a share of the tier (`ratio`), and turns (n,)."""

    spread_percent: float
    lateral_tir_mm: float
    radial_tir_mm: float
    dish_mm: float
    ratio: float
    turns: Array


class Reach:
    """The linear programme of one state against one tier; states that only differ in their values share its matrix."""

    def __init__(self, state: WheelState, tier: Tier) -> None:
        self.tier = tier
        self.wheel = state.wheel
        influence = state.influence
        # Every second figure angle: two to a spoke; the beam is smooth between.
        self._rim = influence.between(influence.figure_angles_deg[::2])
        self._lateral = self._rim.lateral_of(influence.displacement)
        self._radial = self._rim.radial_of(influence.displacement)
        self._dish = influence.lateral_mm.mean(axis=0)
        self._tension = influence.tension_n
        self._sides = [state.wheel.on_side(side) for side in Side]
        self._tight = state.wheel.on_side(tight_side(state.wheel))
        self._size = state.wheel.spoke_count + 5
        self._ended: HighsBasis | None = None

    def _range_rows(self, effect: Array, share: int, half_width: float) -> Array:
        """|now + effect x − middle| ≤ share·half_width, as rows over (x, worst, lateral and radial shares, their middles)."""
        count = self.wheel.spoke_count
        up = np.zeros((len(effect), self._size))
        up[:, :count], up[:, count + share], up[:, count + share + 2] = effect, -half_width, -1
        down = up.copy()
        down[:, :count], down[:, count + share + 2] = -effect, 1
        return np.vstack([up, down])

    def _matrix(self, spread_percent: float) -> Array:
        """The rows' left-hand sides, (r, n + 5): they depend on the wheel and the spread, not on how it stands."""
        tier, count = self.tier, self.wheel.spoke_count
        dish = np.zeros((2, self._size))
        dish[0, :count], dish[1, :count], dish[:, count] = self._dish, -self._dish, -tier.dish_mm
        blocks = [
            self._range_rows(self._lateral, 1, tier.lateral_mm / 2),
            self._range_rows(self._radial, 2, tier.radial_mm / 2),
            dish,
        ]
        hard = self._hard_effects(spread_percent)
        kept = np.zeros((len(hard), self._size))
        kept[:, :count] = hard
        mean = np.zeros((2, self._size))
        effect = self._tension[self._tight].mean(axis=0)
        mean[0, :count], mean[1, :count] = effect, -effect
        worst = np.zeros((2, self._size))
        worst[:, count], worst[0, count + 1], worst[1, count + 2] = -1, 1, 1
        return np.vstack([*blocks, kept, mean, worst])

    def _hard_effects(self, spread_percent: float) -> Array:
        """What a turn of each nipple does to the tensions, as limits of spread and cap see them, (h, n)."""
        share, rows = spread_percent / 100, []
        for mine in self._sides:
            mean = self._tension[mine].mean(axis=0)
            rows += [self._tension[mine] - (1 + share) * mean, (1 - share) * mean - self._tension[mine]]
        return np.vstack([*rows, self._tension])

    def _hard_limits(self, state: WheelState, spread_percent: float) -> Array:
        """What is left to these limits, (h,) [N]."""
        share, left = spread_percent / 100, []
        for mine in self._sides:
            now, mean = state.tension_n[mine], state.tension_n[mine].mean()
            left += [(1 + share) * mean - now, now - (1 - share) * mean]
        return np.concatenate([*left, self.wheel.rim.tension_cap_n - state.tension_n])

    def _mean_room(self, state: WheelState) -> tuple[float, float]:
        """How far the tight side's mean may fall and rise [N]."""
        target, mean = self.wheel.rim.tension_target_n, float(state.tension_n[self._tight].mean())
        return (1 - MEAN_BAND) * target - mean, (1 + MEAN_BAND) * target - mean

    def _now(self, state: WheelState) -> tuple[Array, Array]:
        """Where the rim stands, lateral and radial; from which line does not matter, since the programme finds the middle."""
        where = state.displacement[:, None]
        return self._rim.lateral_of(where)[:, 0], self._rim.radial_of(where)[:, 0]

    def _right(self, state: WheelState, spread_percent: float) -> Array:
        """The rows' right-hand sides (r,), by how the wheel stands."""
        lateral, radial = self._now(state)
        fall, rise = self._mean_room(state)
        soft = [-lateral, lateral, -radial, radial, np.array([-state.dish_mm, state.dish_mm])]
        return np.concatenate([*soft, self._hard_limits(state, spread_percent), np.array([rise, -fall]), np.zeros(2)])

    def _box(self) -> Box:
        """What turns, worst, shares and middles may be."""
        count = self.wheel.spoke_count
        lowest, highest, cost = np.full(self._size, -np.inf), np.full(self._size, np.inf), np.zeros(self._size)
        lowest[:count], highest[:count], lowest[count : count + 3] = -MOST_TURNS, MOST_TURNS, 0
        cost[count], cost[count + 1 : count + 3] = 1, EACH_ALONE
        return Box(lowest, highest, cost)

    def best(self, state: WheelState, spread_percent: float) -> CurvePoint | None:
        """The point of the curve at `spread_percent`; None where no turns keep to spread, mean and cap together."""
        # From one spread to a wider one rows only give more room.
        programme = Programme(self._matrix(spread_percent), self._box(), PRIMAL)
        if self._ended is not None:
            programme.begin_at(self._ended)
        solved = programme.solve(self._right(state, spread_percent))
        if solved is None:
            return None
        self._ended = programme.ended_at
        turns = solved[: self.wheel.spoke_count]
        lateral, radial = self._now(state)
        return CurvePoint(
            spread_percent=spread_percent,
            lateral_tir_mm=float(np.ptp(lateral + self._lateral @ turns)),
            radial_tir_mm=float(np.ptp(radial + self._radial @ turns)),
            dish_mm=state.dish_mm + float(self._dish @ turns),
            ratio=float(solved[self.wheel.spoke_count]),
            turns=turns,
        )

    def count_within(self, states: Iterable[WheelState], spread_percent: float, ratio: float) -> int:
        """How many of `states`, which only differ in their values, turns can bring to `ratio` of the tier.

        With the ratio known a range is one row, of turns and middles alone; all turns that keep to the rows are as good.
        """
        count, angles = self.wheel.spoke_count, len(self._lateral)
        hard = self._hard_effects(spread_percent)
        effects = (self._lateral, self._radial, self._dish[None, :], self._tension[self._tight].mean(axis=0)[None, :], hard)
        rows = np.zeros((2 * angles + 2 + len(hard), count + 2))
        rows[:, :count] = np.vstack(effects)
        rows[:angles, count] = rows[angles : 2 * angles, count + 1] = -1
        reach = np.full(count + 2, MOST_TURNS)
        reach[count:] = np.inf
        programme = Programme(rows, Box(-reach, reach, np.zeros(count + 2)))
        tier = self.tier
        half = ratio * np.concatenate([np.full(angles, tier.lateral_mm / 2), np.full(angles, tier.radial_mm / 2)])
        hits = 0
        for state in states:
            stands = np.concatenate(self._now(state))
            fall, rise = self._mean_room(state)
            low = [-half - stands, np.array([-ratio * tier.dish_mm - state.dish_mm, fall]), np.full(len(hard), -np.inf)]
            high = [
                half - stands,
                np.array([ratio * tier.dish_mm - state.dish_mm, rise]),
                self._hard_limits(state, spread_percent),
            ]
            hits += programme.solve(np.concatenate(high), np.concatenate(low)) is not None
        return hits


@dataclass(frozen=True)
class Verdict:
    """Can spokes save the rim at the job's tier?

    `chance`: share of wheels, drawn from what the readings leave open, whose rim reaches the tier. `best_tier`: the
    narrowest of the shop's tiers that the most likely wheel reaches, None where not even the widest. `why`: one line.
    """

    tier: Tier
    can: bool
    chance: float
    best_tier: Tier | None
    at_tier: CurvePoint | None
    why: str


def straight_against_even(state: WheelState, tier: Tier, spreads: tuple[float, ...] = CURVE_SPREADS) -> tuple[CurvePoint, ...]:
    """The curve for a tier's mix of lateral, radial and dish; spreads that cannot be kept are left out."""
    reach = Reach(state, tier)
    points = (reach.best(state, spread) for spread in spreads)
    return tuple(point for point in points if point is not None)


def verdict(
    state: WheelState, tier: Tier, rng: Generator, draws: int = 12, tiers: Collection[Tier] = tuple(TIERS.values())
) -> Verdict:
    """Judge whether turning nipples can bring the wheel inside `tier`, and how sure that is.

    `tiers` are what else the shop could do. `rng` draws wheels from the posterior of the readings; the same generator gives
    the same verdict.
    """
    reach = Reach(state, tier)
    at_tier = reach.best(state, tier.tension_percent)
    can = at_tier is not None and at_tier.ratio <= SLACK_FOR_HANDS
    hits = reach.count_within(state.draws(rng, draws), tier.tension_percent, SLACK_FOR_HANDS)
    # Laplace's rule: a finite number of draws never gives certainty.
    chance = (hits + 1) / (draws + 2)
    wider = sorted((t for t in tiers if t.lateral_mm > tier.lateral_mm), key=lambda t: t.figures)
    best = tier if can else next((other for other in wider if _reaches(state, other)), None)
    widest = wider[-1] if wider else tier
    return Verdict(tier, can, chance, best, at_tier, _why(tier, can, best, widest, at_tier))


@dataclass(frozen=True)
class OwnBend:
    """A stretch of rim that stays out although its spokes pull evenly: the rim's own bend, by its spokes."""

    spokes: tuple[str, ...]
    lateral_mm: float
    radial_mm: float
    why: str


def own_bend(state: WheelState, tier: Tier) -> OwnBend | None:
    """Where the rim itself is bent: what even spokes would leave, at its worst place and the holes that share it.

    None where even spokes leave nothing beyond the tier. Straightness has so much weight that noise of a meter bends no rim.
    """
    influence, count = state.influence, state.wheel.spoke_count
    targets = side_targets_n(state.wheel)
    off_n = np.array([targets[name.side] for name in state.wheel.names]) - state.tension_n
    unit_n = EVEN_UNIT * state.wheel.rim.tension_target_n
    little = OPEN_WEIGHT / tier.lateral_mm
    rows = np.vstack([influence.tension_n / unit_n, little * influence.lateral_mm, little * influence.radial_mm])
    aim = np.concatenate([off_n / unit_n, -little * (state.lateral_mm + state.dish_mm), -little * state.radial_mm])
    after = predict(state, np.linalg.lstsq(rows, aim, rcond=None)[0])
    if max(np.ptp(after.lateral_mm) / tier.lateral_mm, np.ptp(after.radial_mm) / tier.radial_mm) <= 1:
        return None
    # A damage is local: the middle of the rest is the line to measure it from.
    lateral, radial = (v - np.median(v) for v in (after.lateral_mm, after.radial_mm))
    sideways = np.abs(lateral).max() / tier.lateral_mm >= np.abs(radial).max() / tier.radial_mm
    out = lateral if sideways else radial
    worst = int(np.argmax(np.abs(out)))
    shared = out * np.sign(out[worst]) > abs(out[worst]) / 2
    first = last = 0
    while first > -count // 2 and shared[(worst + first - 1) % count]:
        first -= 1
    while last < count // 2 and shared[(worst + last + 1) % count]:
        last += 1
    spokes = tuple(str(state.wheel.names[(worst + i) % count]) for i in range(first, last + 1))
    way = (
        (say("to the right") if out[worst] > 0 else say("to the left"))
        if sideways
        else (say("outward") if out[worst] > 0 else say("inward"))
    )
    why = say(
        "with even spokes the rim would still stand at least {out:.1f} mm {way} here: its own bend",
        out=abs(out[worst]),
        way=way,
    )
    return OwnBend(spokes, float(lateral[worst]), float(radial[worst]), why)


def to_customer(found: Verdict, bent: Sequence[Sequence[str]]) -> str:
    """The verdict in a sentence fit for the customer; `bent` are the stretches where the rim itself is bent."""
    place = "" if not bent else say(" in one place") if len(bent) == 1 else say(" in more than one place")
    if found.can and found.chance >= SURE:
        return say("Your wheel can be trued: turning its spokes brings it straight and keeps them evenly tight.")
    if found.can:
        return say(
            "Your wheel can most likely be trued; we will know for certain after the first pass, and call before doing more."
        )
    point = found.at_tier
    swing = (
        say(" At best it would still swing by {lateral_tir_mm:.1f} mm.", lateral_tir_mm=point.lateral_tir_mm)
        if point is not None
        else ""
    )
    if found.best_tier is not None:
        return say(
            "Your rim is bent{place}. Spokes can make it usable ({best_tier}), not as good as asked.{swing} "
            "A new rim makes it right.",
            place=place,
            best_tier=found.best_tier.said,
            swing=swing,
        )
    return say(
        "Your rim is bent{place} further than spokes can pull it.{swing} Forcing it would overload some spokes and leave "
        "others loose, and they would break. It needs a new rim.",
        place=place,
        swing=swing,
    )


def _reaches(state: WheelState, tier: Tier) -> bool:
    point = Reach(state, tier).best(state, tier.tension_percent)
    return point is not None and point.ratio <= SLACK_FOR_HANDS


def _why(tier: Tier, can: bool, best: Tier | None, widest: Tier, point: CurvePoint | None) -> str:
    if point is None:
        return say("No turns keep spread, mean and the rim's limit together: the rim pulls its spokes apart.")
    figures = say(
        "{lateral_tir_mm:.1f} mm lateral and {radial_tir_mm:.1f} mm radial at ±{tension_percent:.0f} %",
        lateral_tir_mm=point.lateral_tir_mm,
        radial_tir_mm=point.radial_tir_mm,
        tension_percent=tier.tension_percent,
    )
    if can:
        return say("Spokes can bring it inside {tier}: {figures} at best.", tier=tier.said, figures=figures)
    if best is None:
        return say(
            "Spokes cannot save this rim: {figures} at best, not even {widest}. A new rim.", figures=figures, widest=widest.said
        )
    return say(
        "Spokes cannot bring it inside {tier} ({figures} at best), only to {best}. A new rim for more.",
        tier=tier.said,
        figures=figures,
        best=best.said,
    )
