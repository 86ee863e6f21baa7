"""How near the rim's limit tensions may come, at the end of a pass and on the way: by what is not known of them."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.estimate import WheelState
from felloe.core.truing.options import PlanOptions
from felloe.core.truing.outcome import Outcome

Array = NDArray[np.float64]

#: Tensions keep so many standard deviations below the rim's limit, at the end and on the way, but no more than this share.
MARGIN_SD, MARGIN_SHARE = 2.2, 0.07


@dataclass(frozen=True)
class Room:
    """Tensions [N], (n,) each: what they keep below the limit after the pass and on the way, and where they must end below."""

    margin_n: Array
    way_margin_n: Array
    cap_n: Array


def room_of(state: WheelState, options: PlanOptions, outcome: Outcome, turns: Array) -> Room:
    """The room of tensions for a pass of about `turns` (n,): the more is turned, the less sure is where they end."""
    tension, limit_n = state.tension_n, state.wheel.rim.tension_cap_n
    # The scale of the meter is the same for all: at the limit it counts in full.
    meter = state.doubt.meter_share_sd * limit_n if state.doubt is not None else 0.0
    margin = np.minimum(MARGIN_SD * np.sqrt(outcome.tension_variance(turns) + meter**2), MARGIN_SHARE * limit_n)
    if options.mode == "ride_home":
        # The neighbours of a gap carry its load: what stands above the limit rises no further, and is mended at home.
        margin = np.zeros_like(margin)
        cap = np.maximum(tension, limit_n)
    else:
        # What stands in the margin already is not forced down, but goes no higher; what stands above the limit comes down.
        cap = np.where(tension > limit_n, limit_n - margin, np.maximum(limit_n - margin, tension))
    # On the way the hand can still look: only what the readings leave open is kept.
    known = np.sqrt(outcome.tension_variance(np.zeros(outcome.count)) + meter**2)
    way = np.minimum(margin, np.minimum(MARGIN_SD * known, MARGIN_SHARE * limit_n))
    return Room(margin, way, cap)
