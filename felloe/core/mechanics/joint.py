"""The state of a wheel and the stiffness of its rim, from the readings of all passes together.

The unknowns of mechanics.estimate at the time of the last set, and beside them: the logarithms of three factors on the rim's
stiffnesses, the scale of the tension meter, and what the hand missed at each nipple of each pass. An earlier set reads the
same wheel before the turns that were made since. What does not fit a stiffer rim and would fit a meter that reads high is
left to the meter, since both are fitted at once.
Source: Gauss-Newton on the joint posterior, Tarantola, *Inverse Problem Theory* (2005), ch. 3.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from felloe.core.components import Wheel
from felloe.core.mechanics.estimate import (
    DATUM_SD_MM,
    Doubt,
    WheelState,
    check_readings,
    datum_groups,
    estimate_state,
    reading_rows,
    state_of,
)
from felloe.core.mechanics.evidence import Observed
from felloe.core.mechanics.influence import Influence, influence_of
from felloe.core.mechanics.learning import RimFactors
from felloe.core.mechanics.prior import Prior, free_shapes, prior_of
from felloe.core.mechanics.readings import Readings, RunoutReading
from felloe.core.mechanics.stiffness import stiffness_slopes

Array = NDArray[np.float64]

#: Scale of a meter that was checked on a stand or not: so far off it may read, as a share. Common practice, no source.
METER_SHARE_SD = 0.03
#: A rim of a known class is so stiff as thought (log scale); from memory, not from a published source.
RIM_LOG_SD = 0.18
#: A hand misses a turn by this share of it, and a spoke's twist that stays by so much [turns]. Common practice, no source.
HAND_SHARE, TWIST_SD_TURNS = 0.05, 0.02
#: How far back sets are fitted together: those of the same job, each worked from.
MOST_EARLIER_SETS = 3
#: A root mean square misfit beyond this is no noise [standard deviations].
MOST_MISFIT = 1.8
#: So often the factors are fitted anew; after three nothing moves by a hundredth any more.
ROUNDS = 3


@dataclass(frozen=True)
class EarlierSet:
    """Readings of an earlier set, and the turns (n,) of each pass made after it and before the next set."""

    readings: Readings
    turns: Array


def unread(earlier: Readings, later: Readings) -> Readings:
    """What of `earlier` was not read again in `later`."""
    spokes = {r.spoke for r in later.tension}
    places = {kind: {round(r.angle_deg, 2) for r in getattr(later, kind)} for kind in ("lateral", "radial")}

    def left(kind: str) -> list[RunoutReading]:
        return [r for r in getattr(earlier, kind) if round(r.angle_deg, 2) not in places[kind]]

    tension = [r for r in earlier.tension if r.spoke not in spokes]
    return Readings(tension, left("lateral"), left("radial"), () if later.dish else earlier.dish)


@lru_cache(maxsize=32)
def _turn_slopes(influence: Influence) -> tuple[Array, Array]:
    return stiffness_slopes(influence, np.zeros_like(influence.displacement), influence.displacement)


def turn_slopes(state: WheelState) -> tuple[Array, Array, Array]:
    """How the response to one turn of each nipple changes with the logarithms of the rim's stiffnesses, (3, 6n, n) and
    (3, n, n), and the covariance (3, 3) of those logarithms by what is known."""
    doubt = state.doubt
    covariance = doubt.covariance if doubt is not None else RIM_LOG_SD**2 * np.eye(3)
    return *_turn_slopes(state.influence), covariance


@dataclass(frozen=True, eq=False)
class _Stacked:
    """All sets as rows over [unknowns, misses of hands, zeros], in units of what was read, for one stiffness of the rim."""

    rows: Array
    values: Array
    sd: Array
    miss_sd: Array
    zeros: int


def _stacked(influence: Influence, prior: Prior, latest: Readings, earlier: Sequence[EarlierSet]) -> _Stacked:
    count, unknowns = influence.wheel.spoke_count, len(prior.sd)
    sets = [*earlier, EarlierSet(latest, np.zeros(count))]
    touched = [np.flatnonzero(s.turns) for s in earlier]
    misses = sum(len(t) for t in touched)
    zeros = [len(datum_groups(s.readings)) for s in sets]
    blocks, values, sds = [], [], []
    for k, one in enumerate(sets):
        rows, value, sd = reading_rows(influence, prior, one.readings)
        block = np.zeros((len(rows), unknowns + misses + sum(zeros)))
        block[:, :unknowns] = rows[:, :unknowns]
        first_zero = unknowns + misses + sum(zeros[:k])
        block[:, first_zero : first_zero + zeros[k]] = rows[:, unknowns:]
        # An earlier set saw the wheel before all turns since: what is now, less those and what the hand made of them.
        place = unknowns
        for later, (pass_, nipples) in enumerate(zip(earlier, touched, strict=True)):
            if later >= k:
                value = value + rows[:, :count] @ pass_.turns
                block[:, place : place + len(nipples)] = -rows[:, nipples]
            place += len(nipples)
        blocks.append(block)
        values.append(value)
        sds.append(sd)
    miss_sd = [np.hypot(HAND_SHARE * s.turns[t], TWIST_SD_TURNS) for s, t in zip(earlier, touched, strict=True)]
    return _Stacked(
        np.vstack(blocks),
        np.concatenate(values),
        np.concatenate(sds),
        np.concatenate([*miss_sd, np.zeros(0)]),
        sum(zeros),
    )


def estimate_joint(
    wheel: Wheel,
    latest: Readings,
    earlier: Sequence[EarlierSet] = (),
    known: RimFactors | None = None,
    influences: Callable[[Wheel], Influence] = influence_of,
    once_more: bool = False,
) -> WheelState:
    """The state at `latest`, with all that `earlier` sets, the oldest first, say of it, and its Doubt.

    `wheel`: as specified; `known`: what was learnt of its rim before all of these sets; `influences` may keep what it makes.
    Where the sets do not agree with the turns between them (unless `once_more`), only what was not read again is kept of the
    earlier ones. Raises UnknownSpoke, BadReading.
    """
    for readings in (latest, *(s.readings for s in earlier)):
        check_readings(wheel, readings)
    before = known or RimFactors(log_sd=(RIM_LOG_SD,) * 3)
    prior_sd = np.array(before.log_sd)
    if not earlier:
        # The rim's free shape is as little known as its stiffness: without turns readings say nothing of the latter.
        state = estimate_state(influences(before.applied(wheel)), latest)
        return replace(state, doubt=Doubt(before.logs, 0.0, METER_SHARE_SD, np.diag(prior_sd**2)))
    logs = before.logs
    mean: Array | None = None
    for again in range(ROUNDS):
        # The first round is of the rim as it was known before, whatever was read: what it needs may be kept.
        influence = influence_of(RimFactors.of_logs(logs).applied(wheel)) if again else influences(before.applied(wheel))
        prior = prior_of(influence)
        stacked = _stacked(influence, prior, latest, earlier)
        if mean is None:
            mean = _observed(prior, stacked, stacked.rows, stacked.values, stacked.miss_sd).fit().mean
        known_columns = _slope_columns(influence, prior, latest, earlier, mean)
        at = len(prior.sd) + len(stacked.miss_sd)
        rows = np.column_stack([stacked.rows[:, :at], known_columns, stacked.rows[:, at:]])
        values = stacked.values + known_columns[:, :3] @ (logs - before.logs)
        beside = np.concatenate([stacked.miss_sd, prior_sd, [METER_SHARE_SD]])
        fit = _observed(prior, stacked, rows, values, beside).fit()
        step = before.logs + fit.mean[at : at + 3] - logs
        mean = np.delete(fit.mean, range(at, at + 4))
        logs = logs + np.clip(step, -0.4, 0.4)
        if np.abs(step).max() < 0.02:
            break
    misfit = float(np.sqrt(np.mean(((values - rows @ fit.mean) / stacked.sd) ** 2)))
    if misfit > MOST_MISFIT and not once_more:
        # More was done to the wheel than was noted: what was read again counts alone.
        alone = [EarlierSet(unread(s.readings, latest), s.turns) for s in earlier]
        return estimate_joint(wheel, latest, alone, known, influences, once_more=True)
    u = len(prior.sd)
    groups = datum_groups(latest)
    zeros = fit.mean[len(fit.mean) - len(groups) :] if groups else np.zeros(0)
    covariance = fit.covariance
    spread = np.sqrt(np.diag(covariance)[at : at + 4])
    # The rim is left as stiff as the last rows took it for: what was found since is less than a hundredth.
    state = state_of(influence, prior, fit.mean[:u], dict(zip(groups, zeros, strict=True)), covariance[:u, :u])
    doubt = Doubt(
        factor_logs=logs,
        meter_share=float(fit.mean[at + 3]),
        meter_share_sd=float(spread[3]),
        covariance=covariance[at : at + 3, at : at + 3],
    )
    return replace(state, doubt=doubt)


def _observed(prior: Prior, stacked: _Stacked, rows: Array, values: Array, beside_sd: Array) -> Observed:
    return Observed(
        prior, rows / stacked.sd[:, None], values / stacked.sd, stacked.zeros, DATUM_SD_MM, beside_sd, len(stacked.miss_sd)
    )


def _slope_columns(influence: Influence, prior: Prior, latest: Readings, earlier: Sequence[EarlierSet], mean: Array) -> Array:
    """What each reading would change per unit of the three factors' logarithms and of the meter's share, (k, 4)."""
    count, unknowns = influence.wheel.spoke_count, len(prior.sd)
    made = np.zeros(count)
    place = unknowns + sum(int(np.count_nonzero(s.turns)) for s in earlier)
    sets = (EarlierSet(latest, made), *reversed(earlier))
    # The wheel as each set saw it, (u, sets): what is now, less the turns since and what the hand made of them.
    then = np.tile(mean[:unknowns, None], len(sets))
    for k, one in enumerate(sets):
        nipples = np.flatnonzero(one.turns)
        made = made + one.turns
        if len(nipples):
            place -= len(nipples)
            made[nipples] += mean[place : place + len(nipples)]
        then[:count, k] -= made
    free = free_shapes(influence)
    displacement, tension = stiffness_slopes(influence, free @ then[-free.shape[1] :], np.asarray(prior.displacement @ then))
    blocks = []
    for k, one in enumerate(sets):
        columns = Prior(displacement[:, :, k].T, tension[:, :, k].T, np.zeros(count), np.zeros(3))
        rows = reading_rows(influence, columns, one.readings)[0][:, :3]
        shown = np.zeros(len(rows))
        places = [influence.wheel.index_of[r.spoke] for r in one.readings.tension]
        shown[: len(places)] = (prior.base_tension + prior.tension @ then[:, k])[places]
        blocks.append(np.column_stack([rows, shown]))
    return np.vstack(blocks[::-1])
