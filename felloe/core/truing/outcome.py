"""What turns lead to, with all that is not known: the state, the rim's stiffness, hands that miss, twist that stays.

The figures of a tier are taken from rows that are linear in the turns; each row has a variance, a constant from the readings
and a part that grows with the turns. The chance to be inside is counted over draws of everything at once.
Source: propagation of uncertainty and Monte Carlo, JCGM 100:2008 and 101:2008.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.joint import HAND_SHARE, TWIST_SD_TURNS, turn_slopes
from felloe.core.naming import Side
from felloe.core.truing.objective import group_weights, tight_spokes
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.tiers import Tier

Array = NDArray[np.float64]

#: So many wheels are drawn for a chance: at nine of ten it is then known to 1.3 points.
DRAWS = 512
#: Where no tension was read a spoke may depart so far from its side's mean by the model: no more is claimed. Common practice,
#: no source: half as tight again is felt by hand.
UNREAD_ALLOWED = 0.5
#: A spoke that cannot be turned is off its side from this share of what the tier allows.
STUCK_SHARE = 0.8
#: Spokes so near a stuck one may depart so much further: they carry what it does not. Common practice, no source.
BESIDE_HOLES, BESIDE_LEAVE = 3, 2.0
#: What is not known counts by so much of what stated spreads make of it: dials, meters and hands are mostly a little better
#: than stated. Set so that chances stated are those found on virtual wheels of two workshops; a third judges it.
DOUBT_SCALE = 0.85
#: A mean this near its target is as good as on it: a plan does not turn a whole side for less. Common practice, no source.
MEAN_WITHIN = 0.10
#: A lap of a wheel under construction goes for its share of the tension so closely.
LAP_WITHIN = 0.04
#: A side's mean below this [N] is no tension to be even about.
LEAST_MEAN_N = 50.0


@dataclass(frozen=True)
class Expected:
    """What a plan leads to: the chance to be inside in every figure, the middle of the draws for each figure's share of its
    limit, and how far the worst figure lies beyond its limit on the average."""

    chance: float
    lateral_mm: float
    radial_mm: float
    dish_mm: float
    spread_percent: float
    mean_n: float
    excess: float


@lru_cache(maxsize=16)
def _normals(draws: int, unknowns: int, count: int) -> tuple[Array, Array, Array]:
    """The same draws for every plan of wheels alike, so that plans differ by their turns alone."""
    rng = np.random.default_rng(20)
    shapes = ((draws, unknowns), (draws, 3), (2, draws, count))
    found = tuple(rng.standard_normal(shape) for shape in shapes)
    return found[0], found[1], found[2]


def _beside(stuck: NDArray[np.bool_]) -> NDArray[np.bool_]:
    """Which spokes (n,) stand within BESIDE_HOLES of one that is stuck."""
    count = len(stuck)
    away = np.abs((np.arange(count)[:, None] - np.flatnonzero(stuck) + count // 2) % count - count // 2)
    return np.asarray((away <= BESIDE_HOLES).any(axis=1))


def _root(covariance: Array) -> Array:
    """A root R of a covariance (u, u): R Rᵀ is it. Cholesky's where it is one, else by its eigenvectors."""
    scale = float(np.trace(covariance)) / len(covariance)
    try:
        return np.asarray(np.linalg.cholesky(covariance + 1e-12 * scale * np.eye(len(covariance))))
    except np.linalg.LinAlgError:
        values, vectors = np.linalg.eigh(covariance)
        return np.asarray(vectors * np.sqrt(np.maximum(values, 0)))


class Outcome:
    """The figures of `tier` as they follow from turns (n,) of a wheel in `state`; those `unread` count only by what turns do to
    them, those told `by_eye` are taken as they were told. Spokes that are
    `untouchable` and off their side are left out of its evenness (`stuck`).

    Rows: lateral and radial from the mean line at m angles each, dish, each spoke's departure from its side's mean, and the
    tight side's mean from its target; `start` (rows,), `response` (rows, n), `slopes` (3, rows, n) for independent units of
    what is not known of the rim, `variance` (rows,). `mode` makes the room of what it weighs less wider.
    """

    def __init__(
        self,
        state: WheelState,
        tier: Tier,
        mode: str = "balanced",
        target_share: float = 1.0,
        draws: int = DRAWS,
        unread: frozenset[str] = frozenset(),
        by_eye: frozenset[str] = frozenset(),
        untouchable: frozenset[str] = frozenset(),
    ) -> None:
        self.state, self.tier, self.draws = state, tier, draws
        wheel = state.wheel
        self.count = wheel.spoke_count
        present = state.influence.stiffness_n_mm > 0
        self.allowed = max(tier.tension_percent / 100, UNREAD_ALLOWED if "tension" in unread else 0.0)
        #: Spokes that cannot be turned and are off their side: they stay so, and no figure of evenness is about them.
        self.stuck = self._off_and(untouchable, present)
        self.present = present & ~self.stuck
        #: What each spoke may depart from its side, over what the tier allows: those beside a stuck one carry its part.
        self.leave = np.where(_beside(self.stuck), BESIDE_LEAVE, 1.0)
        self.sides = [np.flatnonzero(wheel.on_side(side) & self.present) for side in Side]
        self.tight = np.flatnonzero(tight_spokes(wheel) & self.present)
        self.target_n = target_share * wheel.rim.tension_target_n
        off = abs(float(state.tension_n[self.tight].mean()) / self.target_n - 1)
        #: A mean that is off stays no further off than it was; what the tier allows is the most.
        self.mean_within = min(max(MEAN_WITHIN, off), max(MEAN_WITHIN, self.allowed))
        if mode == "build":
            self.mean_within = LAP_WITHIN
        self._all()
        self._leave_unread(unread, by_eye)
        self._rows(mode)
        self._known_shares: dict[tuple[bytes, int], Array] = {}
        self._side_of = np.zeros((self.count, len(self.sides)))
        for number, side in enumerate(self.sides):
            self._side_of[side, number] = 1 / len(side)

    @classmethod
    def of(cls, state: WheelState, options: PlanOptions, draws: int = DRAWS) -> Outcome:
        """As `options` ask."""
        return cls(
            state,
            options.tier,
            options.mode,
            options.target_share,
            draws,
            unread=options.unread,
            by_eye=options.by_eye,
            untouchable=options.untouchable,
        )

    def _off_and(self, untouchable: frozenset[str], present: NDArray[np.bool_]) -> NDArray[np.bool_]:
        wheel, tension = self.state.wheel, self.state.tension_n
        stays = np.array([str(name) in untouchable for name in wheel.names]) & present
        off = np.zeros(len(tension), dtype=bool)
        for side in Side:
            mine = wheel.on_side(side) & present
            free = mine & ~stays if (mine & ~stays).any() else mine
            mean = max(float(tension[free].mean()), LEAST_MEAN_N)
            off |= mine & (np.abs(tension / mean - 1) > STUCK_SHARE * self.allowed)
        return np.asarray(stays & off)

    def _all(self) -> None:
        """Lateral, radial, dish and tensions as they are, before they are taken as departures."""
        state, influence = self.state, self.state.influence
        lateral_op, radial_op = (operator[::2] for operator in influence.figure_operators)
        self.angles = len(lateral_op)
        cos, sin = np.cos(influence.lacing.rim_angle_rad)[:, None], np.sin(influence.lacing.rim_angle_rad)[:, None]

        def read(moved: Array) -> Array:
            lateral, radial = lateral_op @ moved, radial_op @ moved
            middle = moved[2::6].mean(axis=0)
            out = (cos * moved[0::6] + sin * moved[1::6]).mean(axis=0)
            return np.vstack([lateral - middle, radial - out, middle[None]])

        displacement, tension, log_covariance = turn_slopes(state)
        self.turned = np.vstack([read(influence.displacement), influence.tension_n])
        self.now = np.concatenate([read(state.displacement[:, None])[:, 0], state.tension_n])
        self.now[2 * self.angles] = state.dish_mm
        root = np.linalg.cholesky(log_covariance + 1e-9 * np.eye(3))
        moved = np.array([np.vstack([read(a), b]) for a, b in zip(displacement, tension, strict=True)])
        self.turned_slopes = np.einsum("kl,krn->lrn", root, moved)
        tension_map, _, covariance = state.maps
        self.known = np.vstack([read(state.node_map), tension_map])
        self.spread = self.known @ _root(covariance)

    def _leave_unread(self, unread: frozenset[str], by_eye: frozenset[str]) -> None:
        """What nothing was read of is taken to be as it should, what was told by eye as it was told, and tensions as they would
        explain it: only what the turns do to them is in doubt."""
        m = self.angles
        places = {"lateral": slice(0, m), "radial": slice(m, 2 * m), "dish": slice(2 * m, 2 * m + 1)}
        for figure in unread | by_eye:
            rows = places.get(figure, slice(2 * m + 1, None))
            self.spread[rows] = 0.0
            if figure in unread and figure in places:
                self.now[rows] = 0.0

    def _rows(self, mode: str) -> None:
        m, count = self.angles, self.count
        centred = np.zeros((count, count))
        for side in self.sides:
            centred[np.ix_(side, side)] = np.eye(len(side)) - 1 / len(side)
        mean = np.zeros(count)
        mean[self.tight] = 1 / len(self.tight)
        take = np.zeros((2 * m + 2 + count, len(self.now)))
        take[: 2 * m + 1, : 2 * m + 1] = np.eye(2 * m + 1)
        take[2 * m + 1 : -1, 2 * m + 1 :] = centred
        take[-1, 2 * m + 1 :] = mean
        self.start = take @ self.now
        self.start[-1] -= self.target_n
        self.response = take @ self.turned
        self.slopes = take @ self.turned_slopes
        self.variance = np.sum((take @ self.spread) ** 2, axis=1)
        self.squared = self.response**2
        self.weights = np.array(group_weights(mode))
        lateral, radial, dish, even, level = 1 / np.maximum(self.weights, 1e-3)
        tier = self.tier
        self._tolerance = np.concatenate(
            [
                np.full(m, lateral * tier.lateral_mm / 2),
                np.full(m, radial * tier.radial_mm / 2),
                [dish * tier.dish_mm],
                even * self.allowed * self.leave,
                [level * self.mean_within * self.target_n],
            ]
        )

    def tolerance(self, tension_n: Array) -> Array:
        """Half the room of each row, (rows,) or (rows, c), at tensions (n,) or (n, c): a spoke may depart from its side's mean
        by a share of that mean."""
        means = np.maximum(self._side_of.T @ tension_n, LEAST_MEAN_N)
        room = (self._side_of > 0).astype(float) @ means
        first = 2 * self.angles + 1
        if tension_n.ndim == 1:
            found = self._tolerance.copy()
            found[first : first + self.count] *= np.where(self.present, room, np.inf)
            return found
        found = np.repeat(self._tolerance[:, None], tension_n.shape[1], axis=1)
        found[first : first + self.count] *= np.where(self.present[:, None], room, np.inf)
        return found

    @cached_property
    def coarse(self) -> NDArray[np.int64]:
        """The rows that the search goes by: of the runouts only those at the holes."""
        m = self.angles
        return np.concatenate([np.arange(0, 2 * m, 2), np.arange(2 * m, len(self.start))])

    @cached_property
    def side_means(self) -> Array:
        """What one turn of each nipple does to the mean of each side, (2, n) [N]."""
        turned = self.turned[2 * self.angles + 1 :]
        return np.array([turned[side].mean(axis=0) for side in self.sides])

    def tension(self, turns: Array) -> Array:
        """Tensions after `turns` (n,) or (n, c) by the model [N]."""
        now = self.now[2 * self.angles + 1 :]
        return np.asarray((now if turns.ndim == 1 else now[:, None]) + self.turned[2 * self.angles + 1 :] @ turns)

    def tension_variance(self, turns: Array) -> Array:
        """Variance of each spoke's tension after `turns` (n,) [N²]: readings, stiffness, hands."""
        first = 2 * self.angles + 1
        share = self.turned_slopes[:, first:] @ turns
        hands = self.turned[first:] ** 2 @ (HAND_SHARE**2 * turns**2 + TWIST_SD_TURNS**2 * (turns != 0))
        return np.asarray(np.sum(self.spread[first:] ** 2, axis=1) + np.sum(share**2, axis=0) + hands)

    @cached_property
    def _draws(self) -> tuple[Array, Array, Array]:
        state, rim, hands = _normals(self.draws, self.spread.shape[1], self.count)
        return state @ self.spread.T, rim, hands

    def shares(self, turns: Array, draws: int | None = None) -> Array:
        """Each draw's figures as shares of their limits, (draws, 5): lateral, radial, dish, spread, mean. Kept for the same
        turns."""
        key = (turns.tobytes(), min(draws or self.draws, self.draws))
        if key not in self._known_shares:
            self._known_shares[key] = self._counted(turns, draws)
        return self._known_shares[key]

    def _counted(self, turns: Array, draws: int | None) -> Array:
        state, rim, hands = (part[..., :draws, :] if draws else part for part in self._draws)
        doubt = state + rim @ (self.turned_slopes @ turns)
        doubt += (HAND_SHARE * turns * hands[0] + TWIST_SD_TURNS * (turns != 0) * hands[1]) @ self.turned.T
        found = self.now + self.turned @ turns + DOUBT_SCALE * doubt
        return self._shares(found)

    def middle_shares(self, turns: Array) -> Array:
        """The figures as shares of their limits, (5,) or (c, 5) for turns (n,) or (n, c), where everything is as estimated."""
        if turns.ndim == 1:
            return np.asarray(self._shares((self.now + self.turned @ turns)[None])[0])
        return self._shares(self.now + (self.turned @ turns).T)

    def _shares(self, found: Array) -> Array:
        m = self.angles
        tension = found[:, 2 * m + 1 :]
        spread = np.zeros(len(found))
        for side in self.sides:
            mean = np.maximum(tension[:, side].mean(axis=1, keepdims=True), LEAST_MEAN_N)
            spread = np.maximum(spread, (np.abs(tension[:, side] / mean - 1) / self.leave[side]).max(axis=1))
        within = max(self.mean_within, self.allowed)
        return np.column_stack(
            [
                np.ptp(found[:, :m], axis=1) / self.tier.lateral_mm,
                np.ptp(found[:, m : 2 * m], axis=1) / self.tier.radial_mm,
                np.abs(found[:, 2 * m]) / self.tier.dish_mm,
                spread / self.allowed,
                np.abs(tension[:, self.tight].mean(axis=1) / self.target_n - 1) / within,
            ]
        )

    def chance(self, turns: Array, draws: int | None = None) -> tuple[float, float]:
        """Chance and excess of what the mode weighs, over the first of the draws, to compare turns (n,) by."""
        worst = (self.weights * self.shares(turns, draws)).max(axis=1)
        return float((worst <= 1).mean()), float(np.maximum(worst - 1, 0).mean())

    def expected(self, turns: Array) -> Expected:
        """What `turns` (n,) lead to."""
        shares = self.shares(turns)
        worst = shares.max(axis=1)
        lateral, radial, dish, spread, _ = np.median(shares, axis=0)
        return Expected(
            chance=float((worst <= 1).mean()),
            lateral_mm=float(lateral * self.tier.lateral_mm),
            radial_mm=float(radial * self.tier.radial_mm),
            dish_mm=float(dish * self.tier.dish_mm),
            spread_percent=float(spread * self.allowed * 100),
            mean_n=float(self.tension(turns)[self.tight].mean()),
            excess=float(np.maximum(worst - 1, 0).mean()),
        )
