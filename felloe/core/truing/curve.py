"""Can spokes save this rim? Straight against even: what runout can be had at which tension spread.

TIR and spread are ranges, so the best that any turns can do is a linear programme: least runout, in units of the tier,
with every tension within ± a spread of its side's mean, the tight side near its target and no spoke above the cap.
Solved with HiGHS through scipy. Turns are taken as continuous; a hand's steps come on top (SLACK_FOR_HANDS).
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray
from scipy.optimize import linprog

from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.prediction import predict
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
#: So far beyond a row counts as on it [N], as HiGHS itself takes it.
FEASIBLE = 1e-6
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


@dataclass(frozen=True, eq=False)
class _Solved:
    """What a solved programme says of the next: its turns (n,), and a bound on any other's value from below, by the
    multipliers of its rows (r,) and a constant. States that only differ in their values have the same rows."""

    turns: Array
    multipliers: Array
    constant: float

    def at_least(self, right: Array) -> float:
        """No turns reach less than this where the rows' right-hand sides are `right` (r,): weak duality."""
        return float(self.multipliers @ right) + self.constant


class Reach:
    """The linear programme of one state against one tier; states that only differ in their values share its matrix."""

    def __init__(self, state: WheelState, tier: Tier) -> None:
        self.tier = tier
        self.wheel = state.wheel
        influence = state.influence
        lateral_op, radial_op = influence.figure_operators
        # Every second figure angle: two to a spoke; the beam is smooth between.
        self._lateral = lateral_op[::2] @ influence.displacement
        self._radial = radial_op[::2] @ influence.displacement
        self._dish = influence.lateral_mm.mean(axis=0)
        self._tension = influence.tension_n
        self._sides = [state.wheel.on_side(side) for side in Side]
        self._tight = state.wheel.on_side(tight_side(state.wheel))
        self._size = state.wheel.spoke_count + 5
        self._rows: dict[float, Array] = {}
        self._solved: dict[float, list[_Solved]] = {}

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
        if spread_percent in self._rows:
            return self._rows[spread_percent]
        tier, count, share = self.tier, self.wheel.spoke_count, spread_percent / 100
        dish = np.zeros((2, self._size))
        dish[0, :count], dish[1, :count], dish[:, count] = self._dish, -self._dish, -tier.dish_mm
        blocks = [
            self._range_rows(self._lateral, 1, tier.lateral_mm / 2),
            self._range_rows(self._radial, 2, tier.radial_mm / 2),
            dish,
        ]
        for mine in self._sides:
            mean_effect = self._tension[mine].mean(axis=0)
            for sign, factor in ((1.0, 1 + share), (-1.0, 1 - share)):
                rows = np.zeros((int(mine.sum()), self._size))
                rows[:, :count] = sign * (self._tension[mine] - factor * mean_effect)
                blocks.append(rows)
        cap = np.zeros((count, self._size))
        cap[:, :count] = self._tension
        mean = np.zeros((2, self._size))
        effect = self._tension[self._tight].mean(axis=0)
        mean[0, :count], mean[1, :count] = effect, -effect
        worst = np.zeros((2, self._size))
        worst[:, count], worst[0, count + 1], worst[1, count + 2] = -1, 1, 1
        self._rows[spread_percent] = np.vstack([*blocks, cap, mean, worst])
        return self._rows[spread_percent]

    def _right(self, state: WheelState, spread_percent: float) -> Array:
        """The rows' right-hand sides (r,), by how the wheel stands."""
        trace, share = state.figures, spread_percent / 100
        lateral, radial = trace.lateral_mm[::2], trace.radial_mm[::2]
        parts = [-lateral, lateral, -radial, radial, np.array([-state.dish_mm, state.dish_mm])]
        for mine in self._sides:
            now = state.tension_n[mine]
            parts += [-sign * (now - factor * now.mean()) for sign, factor in ((1.0, 1 + share), (-1.0, 1 - share))]
        target, mean = self.wheel.rim.tension_target_n, float(state.tension_n[self._tight].mean())
        held = np.array([(1 + MEAN_BAND) * target - mean, mean - (1 - MEAN_BAND) * target])
        return np.concatenate([*parts, self.wheel.rim.tension_cap_n - state.tension_n, held, np.zeros(2)])

    def _solve(self, right: Array, spread_percent: float) -> tuple[Array, float] | None:
        """The best turns (n,) and their worst share of the tier; None where none keep to the rows. What it says is kept."""
        count = self.wheel.spoke_count
        cost = np.zeros(self._size)
        cost[count], cost[count + 1 : count + 3] = 1, EACH_ALONE
        bounds = [(-MOST_TURNS, MOST_TURNS)] * count + [(0, None)] * 3 + [(None, None)] * 2
        solved = linprog(cost, self._matrix(spread_percent), right, bounds=bounds, method="highs")
        if solved.x is None:
            return None
        turns = np.asarray(solved.x[:count])
        # What the bounds on the turns add to the dual value; those on the rest are 0 or none.
        constant = MOST_TURNS * float(np.sum(solved.upper.marginals[:count] - solved.lower.marginals[:count]))
        said = _Solved(turns, np.asarray(solved.ineqlin.marginals), constant)
        self._solved.setdefault(spread_percent, []).append(said)
        return turns, float(solved.x[count])

    def best(self, state: WheelState, spread_percent: float) -> CurvePoint | None:
        """The point of the curve at `spread_percent`; None where no turns keep to spread, mean and cap together."""
        solved = self._solve(self._right(state, spread_percent), spread_percent)
        if solved is None:
            return None
        turns, ratio = solved
        trace = state.figures
        lateral = trace.lateral_mm[::2] + self._lateral @ turns
        radial = trace.radial_mm[::2] + self._radial @ turns
        return CurvePoint(
            spread_percent=spread_percent,
            lateral_tir_mm=float(np.ptp(lateral)),
            radial_tir_mm=float(np.ptp(radial)),
            dish_mm=state.dish_mm + float(self._dish @ turns),
            ratio=ratio,
            turns=turns,
        )

    def count_within(self, like: WheelState, states: Sequence[WheelState], spread_percent: float, ratio: float) -> int:
        """For how many of `states`, all much like one, `best` keeps to `ratio`: solved anew only where nothing known tells.

        Known from below are the multipliers of what was solved; from above its turns, moved by what sets two states apart.
        One programme whose rows leave room for all of the states at once gives such turns.
        """
        rights = [self._right(state, spread_percent) for state in states]
        moves = [self._moved(like, state) for state in states]
        left = [self._matrix(spread_percent)[:, : self.wheel.spoke_count] @ moved for moved in moves]
        room = self._right(like, spread_percent)
        hard = self._hard(room)
        room[hard] = np.min([right[hard] - lost[hard] for right, lost in zip(rights, left, strict=True)], axis=0)
        if not all(self._outside(right, spread_percent, ratio) for right in rights):
            self._solve(room, spread_percent)
        hits = 0
        for state, right, moved in zip(states, rights, moves, strict=True):
            if self._outside(right, spread_percent, ratio):
                continue
            tried = (
                self._value(one.turns + moved, state, right, spread_percent) for one in self._solved.get(spread_percent, [])
            )
            if any(value <= ratio for value in tried):
                hits += 1
                continue
            point = self.best(state, spread_percent)
            hits += point is not None and point.ratio <= ratio
        return hits

    def _outside(self, right: Array, spread_percent: float, ratio: float) -> bool:
        """Whether what was solved tells that no turns reach `ratio`; its value counts shares too, each at most the worst."""
        bound = ratio * (1 + 2 * EACH_ALONE) + 1e-9
        return any(one.at_least(right) > bound for one in self._solved.get(spread_percent, []))

    def _hard(self, right: Array) -> slice:
        """The rows that know no worst: spread, cap and mean."""
        return slice(2 * len(self._lateral) + 2 * len(self._radial) + 2, len(right) - 2)

    @cached_property
    def _undoing(self) -> Array:
        """From what sets two states apart, in units of the tier, to the turns that undo most of it: (n, rows)."""
        unit_n = self.tier.tension_percent / 100 * self.wheel.rim.tension_target_n
        effects = (
            self._lateral / self.tier.lateral_mm,
            self._radial / self.tier.radial_mm,
            self._dish[None, :] / self.tier.dish_mm,
            self._tension / unit_n,
        )
        return np.asarray(np.linalg.pinv(np.vstack(effects)))

    def _moved(self, one: WheelState, other: WheelState) -> Array:
        unit_n = self.tier.tension_percent / 100 * self.wheel.rim.tension_target_n
        apart = (
            (one.figures.lateral_mm - other.figures.lateral_mm)[::2] / self.tier.lateral_mm,
            (one.figures.radial_mm - other.figures.radial_mm)[::2] / self.tier.radial_mm,
            np.array([one.dish_mm - other.dish_mm]) / self.tier.dish_mm,
            (one.tension_n - other.tension_n) / unit_n,
        )
        return np.asarray(self._undoing @ np.concatenate(apart))

    def _value(self, turns: Array, state: WheelState, right: Array, spread_percent: float) -> float:
        """What the programme counts where these turns are made; infinite where they break a row that knows no worst."""
        count = self.wheel.spoke_count
        trace = state.figures
        lateral, radial = trace.lateral_mm[::2] + self._lateral @ turns, trace.radial_mm[::2] + self._radial @ turns
        shares = float(np.ptp(lateral)) / self.tier.lateral_mm, float(np.ptp(radial)) / self.tier.radial_mm
        worst = max(*shares, abs(state.dish_mm + float(self._dish @ turns)) / self.tier.dish_mm)
        hard = self._hard(right)
        kept = np.all(self._matrix(spread_percent)[hard, :count] @ turns <= right[hard] + FEASIBLE)
        return worst + EACH_ALONE * sum(shares) if kept and np.abs(turns).max() <= MOST_TURNS else np.inf


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
    hits = reach.count_within(state, list(state.draws(rng, draws)), tier.tension_percent, SLACK_FOR_HANDS)
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
