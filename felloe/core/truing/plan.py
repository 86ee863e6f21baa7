"""The truing plan: which nipples to turn, which way and how much, in one walk from the valve.

Minimises the after-state's departures, each weighed by its tolerance, plus a price per nipple touched; turns are
multiples of a step, bounded for the pass, and keep every tension between floor and cap, also under way.
"""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import lsq_linear

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, UnknownSpoke
from felloe.core.mechanics.estimate import Trace, WheelState
from felloe.core.mechanics.influence import influence_of
from felloe.core.said import joined, say
from felloe.core.tension.statics import side_targets_n, tight_side
from felloe.core.truing.laps import BUILD_LIMIT_TURNS, next_share
from felloe.core.truing.objective import MODES, Quadratic, objective
from felloe.core.truing.tiers import SOUND, Tier
from felloe.core.units import turns_as_fraction

Array = NDArray[np.float64]

#: Steps that a mechanic can turn by eye.
STEPS_TURNS: tuple[float, ...] = (1 / 4, 1 / 8, 1 / 16)
#: Largest turn of one pass that may be asked for.
MAX_PASS_LIMIT_TURNS = 2.0
#: No spoke is planned below this share of its side's target: a slacker spoke lets its nipple unwind.
FLOOR_SHARE = 0.2
#: A plan stays below the rim's limit as surely as a sign-off asks for (one-sided 95 %), but by no more than this share of it.
CAP_MARGIN_SD, CAP_MARGIN_SHARE = 1.645, 0.03
#: On the way, which passes, it keeps less: with this no wheel of the truing study that began below the limit ever passed it.
WAY_MARGIN_SD, WAY_MARGIN_SHARE = 1.0, 0.015
#: Where no order of turns avoids it, a spoke found above the limit rises by so much at most while its neighbours are eased.
RISES_ON_THE_WAY = 1.05


@dataclass(frozen=True)
class PlanOptions:
    """How to plan.

    `mode`: one of MODES, the schools of hand work. `between`: first and last spoke of the stretch for "local", in
    the direction of travel. `step_turns`: every turn is a multiple of it. `limit_turns`: most for one nipple in this
    pass; None chooses by how far out the wheel is. `touch_cost`: what a nipple must gain to be worth touching, in units
    of the objective (1 = one spoke one tolerance unit out). `untouchable`: names of seized or broken spokes' nipples.
    `target_share`: how much of the target tension this pass goes for; less than 1 for a wheel under construction.
    """

    tier: Tier = SOUND
    step_turns: float = 1 / 8
    limit_turns: float | None = None
    touch_cost: float = 1.0
    untouchable: frozenset[str] = frozenset()
    mode: str = "balanced"
    between: tuple[str, str] | None = None
    target_share: float = 1.0

    def __post_init__(self) -> None:
        if self.mode not in MODES:
            raise BadReading(say("the mode must be one of {modes}", modes=joined(", ", MODES)), "mode")
        if (self.mode == "local") != (self.between is not None):
            raise BadReading(say("a local plan needs the first and the last spoke of its stretch, and only it does"), "between")
        if not any(abs(self.step_turns - s) < 1e-9 for s in STEPS_TURNS):
            raise BadReading(say("the step must be 1/4, 1/8 or 1/16 of a turn"), "step_turns")
        if self.limit_turns is not None and not self.step_turns <= self.limit_turns <= MAX_PASS_LIMIT_TURNS:
            raise BadReading(
                say(
                    "the limit of a pass must lie between one step and {max_pass_limit_turns:g} turns; found {limit_turns:g}",
                    max_pass_limit_turns=MAX_PASS_LIMIT_TURNS,
                    limit_turns=self.limit_turns,
                ),
                "limit_turns",
            )
        if not 0.1 <= self.target_share <= 1:
            raise BadReading(say("the share of the target must lie between 0.1 and 1"), "target_share")
        if not 0 <= self.touch_cost <= 100:
            raise BadReading(say("the touch cost must lie between 0 and 100"), "touch_cost")


@dataclass(frozen=True)
class Move:
    """One nipple to turn: + tightens. Tensions [N] are the model's before and after the whole pass."""

    spoke: str
    turns: float
    tension_before_n: float
    tension_after_n: float

    @property
    def word(self) -> str:
        return "tighten" if self.turns > 0 else "ease"

    @property
    def fraction(self) -> str:
        return turns_as_fraction(self.turns)


@dataclass(frozen=True)
class Prediction:
    """What the wheel will measure: arrays (n,) from the valve; lateral and radial from the mean line [mm]."""

    tension_n: Array
    lateral_mm: Array
    radial_mm: Array
    dish_mm: float
    trace: Trace


@dataclass(frozen=True)
class TruingPlan:
    """A plan for one pass. `objective_*` are in tolerance units; `moves` are in the order of
    the walk from the valve; with more than one of `laps` some
    nipples wait for a later lap, since before that a tension would pass the cap.
    """

    options: PlanOptions
    limit_turns: float
    turns: Array
    moves: tuple[Move, ...]
    after: Prediction
    worst_tension_n: float
    worst_spoke: str
    laps: int
    objective_before: float
    objective_after: float
    reason: str

    @property
    def total_turns(self) -> float:
        return float(np.abs(self.turns).sum())


def suggested_limit_turns(state: WheelState, tier: Tier) -> float:
    """A whole turn for a wheel far out or far from its tension, half for one near, a quarter for the last pass."""
    trace = state.figures
    tight = state.wheel.on_side(tight_side(state.wheel))
    mean_off = abs(state.tension_n[tight].mean() / state.wheel.rim.tension_target_n - 1)
    out = max(trace.lateral_tir_mm / tier.lateral_mm, trace.radial_tir_mm / tier.radial_mm, abs(state.dish_mm) / tier.dish_mm)
    if out > 2.5 or mean_off > 0.2:
        return 1.0
    return 0.5 if out > 1.2 or mean_off > 0.08 else 0.25


def suggested_step_turns(state: WheelState, tier: Tier) -> float:
    """An eighth; a sixteenth once the wheel is near, where an eighth would step over what is left."""
    return 1 / 16 if suggested_limit_turns(state, tier) <= 0.25 else 1 / 8


def stretch(wheel: Wheel, first: str, last: str) -> NDArray[np.bool_]:
    """Which spokes lie from `first` to `last` in the direction of travel, both included, (n,); raises UnknownSpoke."""
    for name in (first, last):
        if name not in wheel.index_of:
            raise UnknownSpoke(say("this wheel has no spoke {name}", name=name[:8]), "between")
    start, end = wheel.index_of[first], wheel.index_of[last]
    places = np.arange(wheel.spoke_count)
    return np.asarray((places - start) % wheel.spoke_count <= (end - start) % wheel.spoke_count)


def without_spokes(state: WheelState, names: frozenset[str]) -> WheelState:
    """The same state with broken or missing spokes out of the model: nothing answers through them any more."""
    places = frozenset(state.wheel.index_of[name] for name in names if name in state.wheel.index_of)
    return replace(state, influence=influence_of(state.wheel, missing=places)) if places else state


def make_plan(state: WheelState, options: PlanOptions | None = None) -> TruingPlan:
    """Plan one pass for the estimated `state`, in balanced mode: round, straight, dish and tension at once.

    Never predicts worse than doing nothing, unless tensions outside floor and cap ask for it.
    Raises UnknownSpoke for an untouchable nipple that the wheel does not have.
    """
    options = options or PlanOptions()
    for name in sorted(options.untouchable):
        if name not in state.wheel.index_of:
            raise UnknownSpoke(say("this wheel has no spoke {name}", name=name), "untouchable")
    if options.mode == "build" and options.target_share == 1.0:
        options = replace(options, target_share=next_share(state))
    limit = options.limit_turns or (
        BUILD_LIMIT_TURNS if options.mode == "build" else suggested_limit_turns(state, options.tier)
    )
    quadratic = objective(state, options.tier, options.mode, options.target_share)
    turns, order, laps = _Search(state, options, quadratic, limit).best()
    return _plan(state, options, quadratic, limit, turns, order, laps)


def plan_of_turns(state: WheelState, options: PlanOptions, turns: Array) -> TruingPlan:
    """A plan made of given turns (n,), multiples of a sixteenth, walked so that no tension passes the cap where that can be.

    Where no order keeps to the cap the nipples come in one walk from the valve; `worst_tension_n` says how far it goes.
    """
    step = 1 / 16
    counts = np.rint(turns / step).astype(np.int64)
    options = replace(options, step_turns=step)
    # What stands above the limit already goes no higher on the way.
    cap = np.maximum(state.tension_n, state.wheel.rim.tension_cap_n)
    order, laps = safe_walk(state.tension_n, state.influence.tension_n * step, counts, cap) or (np.flatnonzero(counts), 1)
    limit = float(np.abs(turns).max(initial=step))
    asked = np.asarray(counts * step, dtype=np.float64)
    weighed = objective(state, options.tier, target_share=options.target_share)
    return _plan(state, options, weighed, limit, asked, order, laps)


class _Search:
    """Integer descent: best single or pair move from two starts, inside the bounds and the tensions.

    Counts are in steps. A move is allowed when it does not add to what stands outside floor and cap.
    """

    def __init__(self, state: WheelState, options: PlanOptions, quadratic: Quadratic, limit: float) -> None:
        wheel = state.wheel
        self.step = options.step_turns
        self.most = int(np.floor(limit / self.step + 1e-9))
        self.cost = options.touch_cost
        present = state.influence.stiffness_n_mm > 0
        self.free = np.array([str(name) not in options.untouchable for name in wheel.names]) & present
        if options.between is not None:
            self.free &= stretch(wheel, *options.between)
        # A mode that only tightens never lowers a count, one that only eases never raises it.
        self.lowest = 0 if options.mode == "tighten_only" else -self.most
        self.highest = 0 if options.mode == "ease_only" else self.most
        small = np.asarray(np.linalg.qr(np.column_stack([quadratic.matrix * self.step, quadratic.residual]), mode="r"))
        self.matrix, self.residual = small[:, :-1], small[:, -1]
        self.gram = self.matrix.T @ self.matrix
        self.linear = self.matrix.T @ self.residual
        self.diagonal = np.diag(self.gram).copy()
        self.tension = state.tension_n
        self.per_step = state.influence.tension_n * self.step
        targets = side_targets_n(wheel)
        floor_share = FLOOR_SHARE * options.target_share
        self.floor = np.where(present, [floor_share * targets[name.side] for name in wheel.names], -np.inf)
        limit_n = self.limit_n = wheel.rim.tension_cap_n
        # What is not known for sure stays below the limit by as much: readings err, and hands miss.
        margin_n = np.minimum(CAP_MARGIN_SD * state.tension_sd_n, CAP_MARGIN_SHARE * limit_n)
        # A spoke that stands in the margin already is not forced down, but goes no higher.
        self.cap = np.maximum(limit_n - margin_n, np.minimum(self.tension, limit_n))
        # On the way, too, a spoke that stands above it goes no higher.
        way_margin_n = np.minimum(WAY_MARGIN_SD * state.tension_sd_n, WAY_MARGIN_SHARE * limit_n)
        self.way_cap = np.maximum(self.tension, limit_n - way_margin_n)

    def best(self) -> tuple[Array, NDArray[np.int64], int]:
        """Turns (n,), the order of the touched nipples and its laps; the limit shrinks until the walk keeps to the cap."""
        while self.most >= 1:
            ends = [self._descend(start) for start in self._starts()]
            ends = [k for k in ends if self._keeps_to_limits(self.tension + self.per_step @ k)]
            # From turning nothing no move leads further out, so that end always keeps to the limits.
            ends = ends or [self._descend(np.zeros(len(self.free), dtype=np.int64))]
            chosen = min(ends, key=lambda k: (round(self._violation(self.tension + self.per_step @ k), 3), self._score(k)))
            if self._score(chosen) < 0 or self._violation(self.tension) > 1e-3:
                walks = (safe_walk(self.tension, self.per_step, chosen, cap) for cap in self._way_caps())
                walk = next((found for found in walks if found is not None), None)
                if walk is not None:
                    return np.asarray(chosen * self.step, dtype=np.float64), *walk
            self.most //= 2
            self.lowest, self.highest = max(self.lowest, -self.most), min(self.highest, self.most)
        return np.zeros(len(self.free)), np.zeros(0, dtype=np.int64), 1

    def _way_caps(self) -> Iterator[Array]:
        """What no spoke may pass on the way, the strictest first; the milder ones only where spokes stand above the limit.

        To ease one spoke lifts its neighbours a little. So what stands above the limit goes no higher; where no order does
        that, by RISES_ON_THE_WAY; then as high as the highest stood; and last, where all is far too tight, so may any other.
        """
        yield self.way_cap
        over, highest = self.tension > self.limit_n, float(self.tension.max())
        if over.any():
            yield np.where(over, np.minimum(RISES_ON_THE_WAY * self.tension, highest), self.way_cap)
            yield np.where(over, highest, self.way_cap)
            yield np.full(len(over), highest)

    def _score(self, k: NDArray[np.int64]) -> float:
        return float(k @ self.gram @ k + 2 * self.linear @ k + self.cost * np.count_nonzero(k))

    def _violation(self, tension: Array) -> float:
        return float(np.maximum(tension - self.cap, 0).sum() + np.maximum(self.floor - tension, 0).sum())

    def _keeps_to_limits(self, tension: Array) -> bool:
        """No spoke stands above its cap or below its floor that did not stand further out before, and no more is out in all."""
        return self._permits(self.tension, tension, self._violation(self.tension) + 1e-3)

    def _permits(self, now: Array, after: Array, bar: float) -> bool:
        """Whether a move may be made: what is out in all does not grow, no spoke above its cap is lifted further, and none
        below its floor is eased further."""
        lifted = after > np.maximum(self.cap, now) + 1e-6
        eased = after < np.minimum(self.floor, now) - 1e-6
        return not (lifted.any() or eased.any()) and self._violation(after) <= bar

    def _starts(self) -> list[NDArray[np.int64]]:
        low = np.where(self.free, float(self.lowest), 0.0) - 1e-9
        high = np.where(self.free, float(self.highest), 0.0) + 1e-9
        exact = lsq_linear(self.matrix, -self.residual, (low, high), method="bvls").x
        near = np.clip(np.rint(exact), self.lowest, self.highest).astype(np.int64)
        near[~self.free] = 0
        bold = np.where(np.abs(exact) < 1.0, 0, near)
        return [near, bold]

    def _descend(self, k: NDArray[np.int64]) -> NDArray[np.int64]:
        k = k.copy()
        for _ in range(600):
            slope = self.gram @ k + self.linear
            tension = self.tension + self.per_step @ k
            bar = self._violation(tension) + 1e-6
            move = (
                self._best_single(k, slope, tension, bar)
                or self._best_pair(k, slope, tension, bar)
                or self._nearest_inside(k, slope, tension)
            )
            if move is None:
                break
            for i, delta in move:
                k[i] += delta
        return k

    def _nearest_inside(self, k: NDArray[np.int64], slope: Array, tension: Array) -> list[tuple[int, int]] | None:
        """Where tensions stand outside floor or cap and nothing else gains: the step that brings them nearest inside, for the
        least loss elsewhere; None where no step takes off a newton."""
        now = self._violation(tension)
        best: tuple[float, int, int] | None = None
        if now <= 1e-3:
            return None
        for delta in (-1, 1):
            gains = self._gains(k, slope, np.full_like(k, delta))
            for i in np.flatnonzero(np.isfinite(gains)):
                after = tension + delta * self.per_step[:, i]
                taken_n = now - self._violation(after)
                if taken_n < 1 or not self._permits(tension, after, now):
                    continue
                price = float(gains[i]) / taken_n
                if best is None or price < best[0]:
                    best = (price, int(i), delta)
        return [best[1:]] if best is not None else None

    def _gains(self, k: NDArray[np.int64], slope: Array, delta: NDArray[np.int64]) -> Array:
        """Change of the score for adding `delta` (n,) to each count alone; inf where not permitted."""
        gain = delta * (delta * self.diagonal + 2 * slope)
        gain += self.cost * ((k + delta != 0).astype(float) - (k != 0))
        gain[~self.free | (k + delta < self.lowest) | (k + delta > self.highest) | (delta == 0)] = np.inf
        return gain

    def _best_single(self, k: NDArray[np.int64], slope: Array, tension: Array, bar: float) -> list[tuple[int, int]] | None:
        ones = np.ones_like(k)
        deltas = np.stack([ones, -ones, 2 * ones, -2 * ones, -k])
        gains = np.stack([self._gains(k, slope, delta) for delta in deltas])
        for flat in np.argsort(gains, axis=None)[:24]:
            row, i = divmod(int(flat), len(k))
            if gains[row, i] >= -1e-9:
                return None
            if self._permits(tension, tension + deltas[row, i] * self.per_step[:, i], bar):
                return [(i, int(deltas[row, i]))]
        return None

    def _best_pair(self, k: NDArray[np.int64], slope: Array, tension: Array, bar: float) -> list[tuple[int, int]] | None:
        ones = np.ones_like(k)
        deltas = np.concatenate([ones, -ones, -k])
        single = np.concatenate([self._gains(k, slope, d) for d in (ones, -ones, -k)])
        cross = 2 * np.outer(deltas, deltas) * np.tile(self.gram, (3, 3))
        gains = single[:, None] + single[None, :] + cross
        count = len(k)
        for a in range(3):
            for b in range(3):
                np.fill_diagonal(gains[a * count : (a + 1) * count, b * count : (b + 1) * count], np.inf)
        best = np.argpartition(gains, 24, axis=None)[:24]
        for flat in best[np.argsort(gains.flat[best])]:
            first, second = divmod(int(flat), len(deltas))
            if gains[first, second] >= -1e-9:
                return None
            i, j = first % count, second % count
            moved = tension + deltas[first] * self.per_step[:, i] + deltas[second] * self.per_step[:, j]
            if self._permits(tension, moved, bar):
                return [(i, int(deltas[first])), (j, int(deltas[second]))]
        return None


MAX_LAPS = 4


def safe_walk(
    tension_n: Array, per_step_n: Array, counts: NDArray[np.int64], cap_n: Array
) -> tuple[NDArray[np.int64], int] | None:
    """An order of the touched nipples from the valve that never takes a tension above `cap_n`, and its laps.

    A nipple whose turn would pass the cap is left for the next lap, when others have been eased. Where that is not enough
    all that are eased come first; then walks from other nipples than the valve's are tried, and last the order that stays
    furthest below the cap. None where each of them gets stuck.
    """
    places = np.flatnonzero(counts)
    for start in range(max(1, len(places))):
        round_from = np.roll(places, -start)
        eased, tightened = round_from[counts[round_from] < 0], round_from[counts[round_from] > 0]
        for first in (round_from, np.concatenate([eased, tightened])):
            found = _walked([int(i) for i in first], tension_n, per_step_n, counts, cap_n)
            if found is not None:
                return found
    return _careful_walk([int(i) for i in places], tension_n, per_step_n, counts, cap_n)


def _careful_walk(
    left: list[int], tension_n: Array, per_step_n: Array, counts: NDArray[np.int64], cap_n: Array
) -> tuple[NDArray[np.int64], int] | None:
    """Always the nipple next whose turn leaves the most room below the cap; its laps are the times it passes the valve."""
    tension, order = tension_n.copy(), []
    while left:
        after = tension[:, None] + per_step_n[:, left] * counts[left]
        over = (after - cap_n[:, None]).max(axis=0)
        best = int(np.argmin(over))
        if over[best] > 1e-6:
            return None
        tension = after[:, best]
        order.append(left.pop(best))
    return np.array(order, dtype=np.int64), 1 + sum(1 for a, b in itertools.pairwise(order) if b < a)


def _walked(
    left: list[int], tension_n: Array, per_step_n: Array, counts: NDArray[np.int64], cap_n: Array
) -> tuple[NDArray[np.int64], int] | None:
    tension, order = tension_n.copy(), []
    for lap in range(1, MAX_LAPS + 1):
        deferred = []
        for i in left:
            after = tension + per_step_n[:, i] * counts[i]
            if np.all(after <= cap_n + 1e-6):
                tension = after
                order.append(i)
            else:
                deferred.append(i)
        if not deferred:
            return np.array(order, dtype=np.int64), lap
        left = deferred
    return None


def walk_tensions(tension_n: Array, per_step_n: Array, counts: NDArray[np.int64], order: NDArray[np.int64]) -> Array:
    """Tensions before and after each nipple in `order`, (len(order) + 1, n) [N]."""
    changes = (per_step_n[:, order] * counts[order]).T
    return np.vstack([tension_n, tension_n + np.cumsum(changes, axis=0)])


def predict(state: WheelState, turns: Array) -> Prediction:
    """The state after any turns (n,): what the wheel will measure by the model ("what if")."""
    influence = state.influence
    lateral = influence.lateral_mm @ turns
    radial = influence.radial_mm @ turns
    lateral_op, radial_op = influence.figure_operators
    before = state.figures
    moved = influence.displacement @ turns
    trace = Trace(
        angles_deg=before.angles_deg,
        lateral_mm=before.lateral_mm + lateral_op @ moved - lateral.mean(),
        lateral_sd_mm=before.lateral_sd_mm,
        radial_mm=before.radial_mm + radial_op @ moved - radial.mean(),
        radial_sd_mm=before.radial_sd_mm,
    )
    return Prediction(
        tension_n=state.tension_n + influence.tension_n @ turns,
        lateral_mm=state.lateral_mm + lateral - lateral.mean(),
        radial_mm=state.radial_mm + radial - radial.mean(),
        dish_mm=state.dish_mm + float(lateral.mean()),
        trace=trace,
    )


def _plan(
    state: WheelState,
    options: PlanOptions,
    quadratic: Quadratic,
    limit: float,
    turns: Array,
    order: NDArray[np.int64],
    laps: int,
) -> TruingPlan:
    after = predict(state, turns)
    counts = np.rint(turns / options.step_turns).astype(np.int64)
    walk = walk_tensions(state.tension_n, state.influence.tension_n * options.step_turns, counts, order)
    worst = int(np.argmax(walk.max(axis=0)))
    names = [str(name) for name in state.wheel.names]
    moves = tuple(Move(names[i], float(turns[i]), float(state.tension_n[i]), float(after.tension_n[i])) for i in order)
    return TruingPlan(
        options=options,
        limit_turns=limit,
        turns=turns,
        moves=moves,
        after=after,
        worst_tension_n=float(walk.max()),
        worst_spoke=names[worst],
        laps=laps,
        objective_before=quadratic.value(np.zeros_like(turns)),
        objective_after=quadratic.value(turns),
        reason=_reason(state, after, moves),
    )


def _reason(state: WheelState, after: Prediction, moves: tuple[Move, ...]) -> str:
    """One line on what the pass is for, from the figures that change most."""
    if not moves and state.tension_n.max() > state.wheel.rim.tension_cap_n:
        return say(
            "Spokes stand above the rim's limit, and no order of turns brings them down safely: ease them by hand first."
        )
    if not moves:
        return say("No nipple gains enough to be worth touching: leave the wheel as it is.")
    before = state.figures
    tight = state.wheel.on_side(tight_side(state.wheel))
    parts = [
        say(
            "lateral {lateral_tir_mm:.2f} → {after_mm:.2f} mm",
            lateral_tir_mm=before.lateral_tir_mm,
            after_mm=after.trace.lateral_tir_mm,
        ),
        say(
            "radial {radial_tir_mm:.2f} → {after_mm:.2f} mm",
            radial_tir_mm=before.radial_tir_mm,
            after_mm=after.trace.radial_tir_mm,
        ),
        say("dish {dish_mm:+.2f} → {after_mm:+.2f} mm", dish_mm=state.dish_mm, after_mm=after.dish_mm),
        say(
            "{tight_side} mean {mean_n:.0f} → {after_n:.0f} N",
            tight_side=tight_side(state.wheel).said,
            mean_n=state.tension_n[tight].mean(),
            after_n=after.tension_n[tight].mean(),
        ),
    ]
    tightened = sum(1 for move in moves if move.turns > 0)
    return (
        say(
            "{moves_count} nipples, {tightened} tighter and {eased} easier: ",
            moves_count=len(moves),
            tightened=tightened,
            eased=len(moves) - tightened,
        )
        + joined(", ", parts)
        + "."
    )
