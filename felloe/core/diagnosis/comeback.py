"""A wheel that came back: what happened to it since it left, read from its readings then and now.

Each account of what may have happened (`KINDS`) says how the readings would differ: nipples that settled, one that unwound, a
hit, a lean of the whole rim. The account under which the readings of today are likeliest, given those of the day it left, is
proposed with its share of the belief; what fits none of them well, or two of them alike, is not told apart.
Source: evidence of linear Gaussian models, MacKay, *Bayesian Interpolation* (Neural Computation 4, 1992). The plausible sizes
of what happens to wheels are from memory of ordinary repair work, not from a published source.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import cholesky, solve_triangular

from felloe.core.mechanics.estimate import DATUM_SD_MM, WheelState, check_readings, datum_groups
from felloe.core.mechanics.influence import trace_operators
from felloe.core.mechanics.joint import METER_SHARE_SD
from felloe.core.mechanics.prior import Prior, prior_of
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side

Array = NDArray[np.float64]

SAME, SETTLED, UNWOUND, HIT, LEAN, MIXED, TURNED = "same", "settled", "unwound", "hit", "lean", "mixed", "turned"
#: How often, among wheels that come back, it was which.
KINDS = {SAME: 0.2, SETTLED: 0.2, UNWOUND: 0.2, HIT: 0.2, LEAN: 0.1, MIXED: 0.05, TURNED: 0.05}
OURS, YOURS, CANNOT_TELL = "ours", "yours", "cannot_tell"
_WHOSE = {SETTLED: OURS, UNWOUND: OURS, HIT: YOURS}
#: From this share of the belief on it is said as sure.
SURE = 0.95
#: Every nipple of a ridden wheel wanders a little, and what settles does so unevenly [turns].
WANDER_SD_TURNS = 0.03
SETTLED_SD_TURNS, SETTLED_SCATTER_TURNS = 0.25, 0.06
UNWOUND_SD_TURNS = 0.9
#: So many nipples may have unwound; one more each time that it was another is this likely.
MOST_UNWOUND, ONE_MORE = 3, 0.3
#: Turned by hand, anywhere.
TURNED_SD_TURNS = 0.4
HIT_LATERAL_SD_MM, HIT_RADIAL_SD_MM = 1.5, 0.8
#: Half-widths of an arc that was hit, in holes.
HIT_WIDTHS = (0.6, 1.2, 2.2)
LEAN_SD_MM, WOBBLE_SD_MM = 1.2, 0.4
#: A change of tension below this is no settling [share of the side's mean].
LEAST_SETTLED = 0.03
#: With fewer readings than this share of the spokes, nothing is sure.
LEAST_READ = 0.5


@dataclass(frozen=True)
class Account:
    """One account of what happened, with its share of the belief."""

    kind: str
    share: float


@dataclass(frozen=True)
class Comeback:
    """What is proposed.

    `whose` is OURS, YOURS or CANNOT_TELL, which it always is where `sure` is False; that is said only where one account has
    nearly all the belief. `spokes`: the nipples that
    unwound, or those of the arc that was hit, along the rim. `turns`: of each of the nipples, + tightened. `lateral_mm`, `radial_mm`: of the arc's
    middle, + to the right and outwards. `lean_mm`: of the whole rim, + to the right. `tension_share`: by how much each
    side's mean tension changed.
    """

    kind: str
    whose: str
    sure: bool
    accounts: tuple[Account, ...]
    spokes: tuple[str, ...]
    turns: tuple[float, ...]
    lateral_mm: float
    radial_mm: float
    lean_mm: float
    tension_share: dict[str, float]


@dataclass(frozen=True)
class _Case:
    """One way an account could have gone: directions (k, d) in the readings, each scaled by its plausible size."""

    kind: str
    weight: float
    columns: Array
    spokes: tuple[int, ...] = ()


def came_back(left: WheelState, now: Readings) -> Comeback:
    """Compares today's readings with the state in which the wheel left.

    Raises UnknownSpoke or BadReading for readings that cannot be.
    """
    check_readings(left.wheel, now)
    prior = prior_of(left.influence)
    values, known, covariance = _foreseen(left, prior, now)
    root = cholesky(covariance, lower=True)
    off = solve_triangular(root, values - known, lower=True)
    cases = _cases(left, prior, now)
    logs = [_log(root, off, case) for case in cases]
    alone = max((i for i, case in enumerate(cases) if case.kind == UNWOUND), key=lambda i: logs[i])
    for more in _more_unwound(cases[alone], [case for case in cases if case.kind == UNWOUND], root, off):
        cases.append(more)
        logs.append(_log(root, off, more))
    shares = np.exp(np.array(logs) - max(logs))
    shares /= shares.sum()
    by_kind = dict.fromkeys(KINDS, 0.0)
    for case, share in zip(cases, shares, strict=True):
        by_kind[case.kind] += float(share)
    kind = max(by_kind, key=lambda name: by_kind[name])
    best = max((i for i, case in enumerate(cases) if case.kind == kind), key=lambda i: shares[i])
    return _told(left, cases[best], by_kind, _size(root, off, cases[best].columns), now)


def _foreseen(left: WheelState, prior: Prior, now: Readings) -> tuple[Array, Array, Array]:
    """Today's values (k,), what was foreseen of them had nothing happened (k,), and how sure that is (k, k)."""
    rows_left = _rows(left, left.node_map, left.maps[0], now)
    known = _rows(left, left.displacement[:, None], left.tension_n[:, None], now)[:, 0]
    values = np.array(
        [
            *(r.tension_n for r in now.tension),
            *(r.deviation_mm for r in now.lateral),
            *(r.deviation_mm for r in now.radial),
            *(d.dish_mm - left.wheel.dish_target_mm for d in now.dish),
        ]
    )
    sds = np.array(
        [
            *(r.sd_n for r in now.tension),
            *(r.sd_mm for r in now.lateral),
            *(r.sd_mm for r in now.radial),
            *(d.sd_mm for d in now.dish),
        ]
    )
    count = left.wheel.spoke_count
    wander = _rows(left, prior.displacement[:, :count], prior.tension[:, :count], now) * WANDER_SD_TURNS
    # Another day's meter may read all of it a little high.
    meter = np.zeros(len(values))
    meter[: len(now.tension)] = known[: len(now.tension)] * METER_SHARE_SD
    zeros = _zeros(now, len(values)) * DATUM_SD_MM
    covariance = rows_left @ left.maps[2] @ rows_left.T + wander @ wander.T + np.outer(meter, meter) + zeros @ zeros.T
    return values, known, covariance + np.diag(sds**2)


def _rows(left: WheelState, nodes: Array, tension: Array, now: Readings) -> Array:
    """What a movement of the nodes (6n, m) and of the tensions (n, m) does to today's readings, (k, m)."""
    influence = left.influence
    places = [left.wheel.index_of[r.spoke] for r in now.tension]
    lateral_op, _ = trace_operators(influence, np.array([r.angle_deg for r in now.lateral]))
    _, radial_op = trace_operators(influence, np.array([r.angle_deg for r in now.radial]))
    mean = nodes[2::6].mean(axis=0)
    return np.vstack([tension[places], lateral_op @ nodes, radial_op @ nodes, np.tile(mean, (len(now.dish), 1))])


def _zeros(now: Readings, count: int) -> Array:
    """Which readings share a dial's zero, (k, groups)."""
    groups = datum_groups(now)
    zeros = np.zeros((count, len(groups)))
    runout = [("lateral", r) for r in now.lateral] + [("radial", r) for r in now.radial]
    for row, (kind, reading) in enumerate(runout, start=len(now.tension)):
        zeros[row, groups.index((kind, reading.group))] = 1.0
    return zeros


def _cases(left: WheelState, prior: Prior, now: Readings) -> list[_Case]:
    count = left.wheel.spoke_count
    seen = _rows(left, prior.displacement, prior.tension, now)
    nipples, sides = seen[:, :count], seen[:, count : count + 2]
    lateral, radial = seen[:, -2 * count : -count], seen[:, -count:]
    scatter = nipples * SETTLED_SCATTER_TURNS
    settled = np.hstack([sides * SETTLED_SD_TURNS, scatter])
    cases = [
        _Case(SAME, KINDS[SAME], np.zeros((len(seen), 0))),
        _Case(TURNED, KINDS[TURNED], np.hstack([nipples * TURNED_SD_TURNS, sides * SETTLED_SD_TURNS])),
        _Case(LEAN, KINDS[LEAN], _lean(left, now, len(seen))),
    ]
    for which in ([0], [1], [0, 1]):
        together = sides[:, which] * SETTLED_SD_TURNS
        # All alike, or each nipple by its own.
        cases += [_Case(SETTLED, KINDS[SETTLED] / 6, columns) for columns in (together, np.hstack([together, scatter]))]
    for spoke in range(count):
        cases.append(_Case(UNWOUND, KINDS[UNWOUND] / count, nipples[:, [spoke]] * UNWOUND_SD_TURNS, (spoke,)))
    ways = count * len(HIT_WIDTHS)
    for width in HIT_WIDTHS:
        for centre in range(count):
            apart = np.minimum((np.arange(count) - centre) % count, (centre - np.arange(count)) % count)
            shape = np.exp(-0.5 * (apart / width) ** 2)
            hit = np.column_stack([lateral @ shape * HIT_LATERAL_SD_MM, radial @ shape * HIT_RADIAL_SD_MM])
            reach = int(np.ceil(width))
            struck = tuple(int((centre + i) % count) for i in range(-reach, reach + 1))
            cases.append(_Case(HIT, KINDS[HIT] / ways, hit, struck))
            cases.append(_Case(MIXED, KINDS[MIXED] / ways, np.hstack([hit, settled]), struck))
    return cases


def _log(root: Array, off: Array, case: _Case) -> float:
    return float(np.log(case.weight)) + _evidence(root, off, case.columns)


def _more_unwound(first: _Case, singles: Sequence[_Case], root: Array, off: Array) -> list[_Case]:
    """Two nipples and three that unwound: each time the one that explains most of what the others leave."""
    found, case = [], first
    for _ in range(MOST_UNWOUND - 1):
        others = [one for one in singles if one.spokes[0] not in case.spokes]
        pairs = [
            _Case(
                UNWOUND, case.weight * ONE_MORE / len(others), np.hstack([case.columns, one.columns]), case.spokes + one.spokes
            )
            for one in others
        ]
        case = max(pairs, key=lambda pair: _evidence(root, off, pair.columns))
        found.append(case)
    return found


def _lean(left: WheelState, now: Readings, count: int) -> Array:
    """The whole rim aside, or running round out of true, while no spoke's tension changes: not of the spokes' making."""
    columns = np.zeros((count, 3))
    at = len(now.tension)
    angles = np.radians([r.angle_deg for r in now.lateral])
    columns[at : at + len(angles), 0] = np.cos(angles) * WOBBLE_SD_MM
    columns[at : at + len(angles), 1] = np.sin(angles) * WOBBLE_SD_MM
    columns[count - len(now.dish) :, 2] = LEAN_SD_MM
    return columns


def _evidence(root: Array, off: Array, columns: Array) -> float:
    """Log-evidence of what is off (whitened), up to what all cases share."""
    if not columns.shape[1]:
        return float(-0.5 * off @ off)
    white = solve_triangular(root, columns, lower=True)
    inner = np.eye(columns.shape[1]) + white.T @ white
    _, size = np.linalg.slogdet(inner)
    pulled = white.T @ off
    return float(-0.5 * (off @ off - pulled @ np.linalg.solve(inner, pulled) + size))


def _size(root: Array, off: Array, columns: Array) -> Array:
    """How far along each direction, in plausible sizes (d,)."""
    if not columns.shape[1]:
        return np.zeros(0)
    white = solve_triangular(root, columns, lower=True)
    return np.asarray(np.linalg.solve(np.eye(columns.shape[1]) + white.T @ white, white.T @ off))


def _told(left: WheelState, case: _Case, by_kind: dict[str, float], size: Array, now: Readings) -> Comeback:
    accounts = tuple(Account(kind, share) for kind, share in sorted(by_kind.items(), key=lambda item: -item[1]))
    change = _tension_share(left, now)
    turns = tuple(float(part) * UNWOUND_SD_TURNS for part in size) if case.kind == UNWOUND else ()
    hit = case.kind in (HIT, MIXED)
    lean = float(size[2] * LEAN_SD_MM) if case.kind == LEAN else 0.0
    sure = accounts[0].share >= SURE and _read_enough(left, now)
    return Comeback(
        kind=case.kind,
        whose=_whose(case.kind, turns, change) if sure else CANNOT_TELL,
        sure=sure,
        accounts=accounts,
        spokes=tuple(str(left.wheel.names[i]) for i in case.spokes),
        turns=turns,
        lateral_mm=float(size[0] * HIT_LATERAL_SD_MM) if hit else 0.0,
        radial_mm=float(size[1] * HIT_RADIAL_SD_MM) if hit else 0.0,
        lean_mm=lean,
        tension_share=change,
    )


def _whose(kind: str, turns: Sequence[float], change: dict[str, float]) -> str:
    """Nipples unwind and settle by themselves; none tightens itself, so that then somebody's hand was there."""
    if any(turn > 0 for turn in turns):
        return CANNOT_TELL
    if kind == SETTLED and min(change.values(), default=0.0) > -LEAST_SETTLED:
        return CANNOT_TELL
    return _WHOSE.get(kind, CANNOT_TELL)


def _tension_share(left: WheelState, now: Readings) -> dict[str, float]:
    """By how much each side's mean changed, over the spokes read today; a side that was not read is left out."""
    found = {}
    for side in Side:
        pairs = [
            (r.tension_n, float(left.tension_n[left.wheel.index_of[r.spoke]]))
            for r in now.tension
            if left.wheel.names[left.wheel.index_of[r.spoke]].side is side
        ]
        before = sum(pair[1] for pair in pairs)
        if before > 0:
            found[side.value] = sum(pair[0] for pair in pairs) / before - 1
    return found


def _read_enough(left: WheelState, now: Readings) -> bool:
    count = left.wheel.spoke_count

    def share(spokes: Sequence[object]) -> float:
        return len(set(spokes)) / count

    lateral = share([round(r.angle_deg, 1) for r in now.lateral])
    return min(share([r.spoke for r in now.tension]), lateral) >= LEAST_READ
