"""Spokes cannot push: what a wheel does where some of its spokes go slack.

A slack spoke answers as if its nipple were turned on until it pulls with nothing. So slack s ≥ 0 [turns] and tension T ≥ 0,
one of them 0 at each spoke: a linear complementarity problem, solved by changing the set of slack spokes until both hold.
Source: Cottle, Pang & Stone, *The Linear Complementarity Problem* (1992), principal pivoting.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from felloe.core.mechanics.influence import Influence

Array = NDArray[np.float64]

#: So often the set of slack spokes may change; it settles in a few.
MOST_CHANGES = 60


def slack_turns(influence: Influence, tension_n: Array) -> Array:
    """How far each spoke hangs slack (n,) [turns of its nipple] where a model in which spokes push gives `tension_n` (n,).

    The wheel then moves as if each nipple were turned by so much more; those that still pull have 0.
    """
    count = len(tension_n)
    present = influence.stiffness_n_mm > 0
    slack = np.zeros(count)
    pushing = (tension_n < 0) & present
    hanging = pushing.copy()
    for _ in range(MOST_CHANGES):
        slack[:] = 0.0
        places = np.flatnonzero(hanging)
        if len(places):
            own = influence.tension_n[np.ix_(places, places)]
            slack[places] = np.linalg.lstsq(own, -tension_n[places], rcond=None)[0]
        after = tension_n + influence.tension_n @ slack
        wrong = (hanging & (slack < 0)) | (~hanging & present & (after < -1e-6))
        if not wrong.any():
            break
        hanging ^= wrong
    return np.maximum(slack, 0.0)
