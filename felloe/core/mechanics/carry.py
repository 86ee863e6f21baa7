"""Readings of an earlier set carried over the turns that were made since: what was read once need not be read again at once."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.influence import Influence
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading

#: A predicted change is so uncertain: the rim's stiffness, the hand, twist. Common practice, no source.
CHANGE_SD_SHARE = 0.12
#: Groups of carried dial readings are numbered from here on, each with its own zero.
CARRIED_GROUPS = 1000


#: How far back readings are carried: sets of the same job, each worked from.
MOST_CARRIED_SETS = 3


def carried(influence: Influence, earlier: Readings, turns: NDArray[np.float64], later: Readings) -> Readings:
    """`later` with all that only `earlier` holds, moved by what the `turns` (n,) since then are predicted to have done.

    A place that was read again counts as read; one that was not keeps its old reading, less sure by a share of its change.
    """
    wheel = influence.wheel
    moved_n = influence.tension_n @ turns
    moved_shares_n = np.sqrt((influence.tension_n**2) @ (turns**2))
    read = {r.spoke for r in later.tension}
    tension = list(later.tension)
    for r in earlier.tension:
        if r.spoke in read or r.spoke not in wheel.index_of:
            continue
        i = wheel.index_of[r.spoke]
        sd = float(np.hypot(r.sd_n, CHANGE_SD_SHARE * moved_shares_n[i]))
        tension.append(TensionReading(r.spoke, max(0.0, r.tension_n + float(moved_n[i])), sd))
    dials = {}
    for kind in ("lateral", "radial"):
        now, before = list(getattr(later, kind)), list(getattr(earlier, kind))
        taken = {round(r.angle_deg, 2) for r in now}
        left = [r for r in before if round(r.angle_deg, 2) not in taken]
        angles = np.array([r.angle_deg for r in left])
        at = influence.lateral_at(angles) if kind == "lateral" else influence.radial_at(angles)
        change, shares = at @ turns, np.sqrt((at**2) @ (turns**2))
        dials[kind] = now + [
            RunoutReading(
                r.angle_deg,
                r.deviation_mm + float(change[j]),
                float(np.hypot(r.sd_mm, CHANGE_SD_SHARE * shares[j])),
                r.group + CARRIED_GROUPS,
            )
            for j, r in enumerate(left)
        ]
    dish = list(later.dish)
    if not dish and earlier.dish:
        rows = influence.lateral_mm.mean(axis=0)
        sd = CHANGE_SD_SHARE * float(np.sqrt((rows**2) @ (turns**2)))
        dish = [DishReading(d.dish_mm + float(rows @ turns), float(np.hypot(d.sd_mm, sd))) for d in earlier.dish]
    return Readings(tension, dials["lateral"], dials["radial"], dish)
