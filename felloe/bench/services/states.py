"""The estimated state of a wheel, as plain values for the strip."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from felloe.bench import answers
from felloe.bench.models import ReadingSet
from felloe.bench.services.looked import Look
from felloe.bench.services.prints import fingerprint
from felloe.condition import services as condition
from felloe.core.mechanics.estimate import Trace, WheelState
from felloe.core.mechanics.readings import Readings
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.statics import expected_left_over_right, measured_means_n, side_ratio, side_targets_n, tight_side
from felloe.core.truing.headline import headline
from felloe.core.truing.prediction import predict, turns_by_place
from felloe.core.truing.sign_off import figures_of, not_measured
from felloe.core.truing.tiers import Tier, check_against


def own_readings(reading_set: ReadingSet) -> Readings:
    """What was read in a set; a broken spoke counts as read: no tension."""
    return Look(reading_set).own


def estimated(reading_set: ReadingSet, readings: Readings | None = None) -> tuple[WheelState, Readings]:
    """The state estimated from a set's current readings, and those readings.

    Earlier sets of the job are fitted with it over the turns made since, the rim's stiffness too; they help the estimate and
    are not counted as read. `readings` stand in for the set's own.
    """
    look = Look(reading_set)
    own = look.own if readings is None else readings
    return look.estimated(own), own


def rounded(values: NDArray[np.float64], digits: int) -> list[float]:
    return [float(v) for v in np.round(values, digits)]


def trace_values(trace: Trace) -> answers.Trace:
    """A trace as lists; standard deviations included."""
    return answers.Trace(
        angle_deg=rounded(trace.angles_deg, 3),
        lateral_mm=rounded(trace.lateral_mm, 4),
        lateral_sd_mm=rounded(trace.lateral_sd_mm, 4),
        radial_mm=rounded(trace.radial_mm, 4),
        radial_sd_mm=rounded(trace.radial_sd_mm, 4),
    )


def state_values(state: WheelState, readings: Readings, tier: Tier, broken_since: Sequence[str] = ()) -> answers.State:
    """Everything the strip shows of a state; `broken_since` are spokes that broke after it was read."""
    wheel = state.wheel
    # What a broken spoke carried before it broke is not its tension.
    measured = {r.spoke: r.tension_n for r in readings.tension if r.spoke not in state.broken}
    read = {kind: _read_at_holes(state, readings, kind) for kind in ("lateral", "radial")}
    sides = {side: side_evenness(wheel, state.tension_n.tolist(), side, tier.tension_percent, state.broken) for side in Side}
    targets = side_targets_n(wheel)
    whole = replace(readings, tension=[r for r in readings.tension if r.spoke not in state.broken])
    read_means = measured_means_n(wheel, whole)
    ratio = side_ratio(wheel, read_means[Side.RIGHT], read_means[Side.LEFT]) if read_means else None
    figures = figures_of(state)
    checks = check_against(tier, figures.lateral_tir_mm, figures.radial_tir_mm, figures.dish_mm, figures.worst_spread_percent)
    missing = not_measured(readings)
    spokes = []
    for i, name in enumerate(wheel.names):
        even = sides[name.side]
        spokes.append(
            answers.SpokeState(
                name=str(name),
                side=name.side.value,
                angle_deg=wheel.angles_deg[i],
                tension_n=round(float(state.tension_n[i]), 1),
                tension_sd_n=round(float(state.tension_sd_n[i]), 1),
                measured_n=round(measured[str(name)], 1) if str(name) in measured else None,
                percent_of_mean=round(100 * (float(state.tension_n[i]) / even.mean_n - 1), 1) if even.mean_n > 1 else 0.0,
                lateral_mm=round(float(state.lateral_mm[i]), 3),
                lateral_sd_mm=round(float(state.lateral_sd_mm[i]), 3),
                radial_mm=round(float(state.radial_mm[i]), 3),
                radial_sd_mm=round(float(state.radial_sd_mm[i]), 3),
                outside=str(name) in even.outside,
                broken=str(name) in state.broken,
                read_lateral_mm=read["lateral"].get(i),
                read_radial_mm=read["radial"].get(i),
            )
        )
    return answers.State(
        reading_count=readings.count,
        headline=_headline(state, readings, tier, broken_since),
        tier=tier,
        spokes=spokes,
        trace=trace_values(state.figures),
        lateral_marks=[
            answers.Mark(angle_deg=r.angle_deg, deviation_mm=round(r.deviation_mm - state.datums_mm["lateral", r.group], 3))
            for r in readings.lateral
        ],
        radial_marks=[
            answers.Mark(angle_deg=r.angle_deg, deviation_mm=round(r.deviation_mm - state.datums_mm["radial", r.group], 3))
            for r in readings.radial
        ],
        dish_mm=round(state.dish_mm, 3),
        dish_sd_mm=round(state.dish_sd_mm, 3),
        lateral_tir_mm=round(figures.lateral_tir_mm, 3),
        radial_tir_mm=round(figures.radial_tir_mm, 3),
        sides=answers.SidesState(
            R=side_values(sides[Side.RIGHT], targets[Side.RIGHT]), L=side_values(sides[Side.LEFT], targets[Side.LEFT])
        ),
        ratio=answers.Ratio(
            expected=round(expected_left_over_right(wheel), 3),
            measured=round(min(ratio.measured, 99.0), 3) if ratio else None,
            difference_percent=round(min(ratio.difference_percent, 999.0), 1) if ratio else None,
            warns=ratio is not None and ratio.warns and "tension" not in missing,
        ),
        tight_side=tight_side(wheel).value,
        target_n=wheel.rim.tension_target_n,
        cap_n=wheel.rim.tension_cap_n,
        tension_is_default=wheel.rim.tension_is_default,
        checks=[check_values(check, missing) for check in checks],
    )


def _headline(state: WheelState, readings: Readings, tier: Tier, broken_since: Sequence[str]) -> str:
    if not readings.count:
        return say("Nothing measured yet: this is only a plausible wheel.")
    if broken_since:
        broken = joined(", ", broken_since)
        return say("Read before {spokes} broke: this is not the wheel of today. Read it again.", spokes=broken)
    return headline(state, tier)


def _read_at_holes(state: WheelState, readings: Readings, kind: str) -> dict[int, float]:
    """What was read at the holes themselves, from the mean line [mm], by place; the last where it was read more than once."""
    at = {round(angle, 2): i for i, angle in enumerate(state.wheel.angles_deg)}
    found: dict[int, float] = {}
    for r in readings.lateral if kind == "lateral" else readings.radial:
        place = at.get(round(r.angle_deg, 2))
        if place is not None:
            found[place] = round(r.deviation_mm - state.datums_mm[kind, r.group], 3)
    return found


def side_values(even: Any, target_n: float) -> answers.SideState:
    return answers.SideState(
        mean_n=round(even.mean_n, 1),
        sd_n=round(even.sd_n, 1),
        worst_spoke=even.worst_spoke,
        worst_percent=round(even.worst_percent, 1),
        outside=list(even.outside),
        target_n=round(target_n, 1),
    )


def check_values(check: Any, missing: tuple[str, ...]) -> answers.Check:
    return answers.Check(
        figure=check.figure,
        value=round(check.value, 3),
        limit=check.limit,
        unit=check.unit,
        met=check.met,
        measured=check.figure not in missing,
    )


def state_of_set(reading_set: ReadingSet) -> answers.State:
    """The state of a set against its job's tier."""
    state, readings = kept_estimate(reading_set)
    return state_values(state, readings, reading_set.job.tolerance, broken_since(reading_set))


def state_of_look(look: Look) -> answers.State:
    """The same from a look at it."""
    return state_values(look.state, look.own, look.reading_set.job.tolerance, look.broken_since)


def broken_since(reading_set: ReadingSet) -> list[str]:
    """Spokes that broke after the last reading of a set: what it says of the wheel is not of today."""
    last = reading_set.readings.order_by("-created_at").first()
    return condition.broken_since(reading_set.job, last.created_at) if last is not None else []


@lru_cache(maxsize=32)
def _kept_state(set_id: UUID, fingerprint: tuple[object, ...]) -> tuple[WheelState, Readings]:
    """An estimate kept while what it rests on stays the same: turns are tried one key after another."""
    found = ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id)
    return estimated(found)


def kept_estimate(reading_set: ReadingSet, rests_on: tuple[object, ...] | None = None) -> tuple[WheelState, Readings]:
    """As `estimated`, worked out once for as long as what it rests on stays the same: its fingerprint, where it is known."""
    return _kept_state(reading_set.pk, rests_on or fingerprint(reading_set))


def what_if(reading_set: ReadingSet, turns_by_spoke: dict[str, float]) -> answers.WhatIf:
    """What the wheel would measure after any turns by hand: at once, nothing is kept."""
    state, readings = kept_estimate(reading_set)
    wheel = state.wheel
    after = predict(state, turns_by_place(wheel, turns_by_spoke))
    tier = reading_set.job.tolerance
    spread = max(
        side_evenness(wheel, after.tension_n.tolist(), side, tier.tension_percent, state.broken).spread_percent for side in Side
    )
    checks = check_against(tier, after.trace.lateral_tir_mm, after.trace.radial_tir_mm, after.dish_mm, spread)
    return answers.WhatIf(
        tension_n=rounded(after.tension_n, 1),
        trace=trace_values(after.trace),
        dish_mm=round(after.dish_mm, 3),
        lateral_tir_mm=round(after.trace.lateral_tir_mm, 3),
        radial_tir_mm=round(after.trace.radial_tir_mm, 3),
        over_cap=[str(n) for n, t in zip(wheel.names, after.tension_n, strict=True) if t > wheel.rim.tension_cap_n],
        checks=[check_values(check, not_measured(readings)) for check in checks],
    )
