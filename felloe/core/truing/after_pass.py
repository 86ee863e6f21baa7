"""What a pass did, beside what was foreseen for the turns that were really made."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from felloe.core.mechanics.estimate import WheelState
from felloe.core.mechanics.learning import Learnt
from felloe.core.mechanics.readings import Readings
from felloe.core.said import joined, say
from felloe.core.truing.prediction import Prediction

#: Differences that hands, dials and meters explain.
USUAL_MM, USUAL_N = 0.12, 60.0


@dataclass(frozen=True)
class PassCompared:
    """Root mean square of measured minus foreseen: lateral and radial [mm], tension [N], dish [mm]; None where not read."""

    lateral_rms_mm: float | None
    radial_rms_mm: float | None
    tension_rms_n: float | None
    dish_off_mm: float | None
    as_foreseen: bool
    said: str


def compare_pass(foreseen: Prediction, state: WheelState, readings: Readings, learnt: Learnt | None) -> PassCompared:
    """Lay the state after a pass over what was foreseen; only what was read counts."""
    wheel = state.wheel
    read = [wheel.index_of[r.spoke] for r in readings.tension if r.spoke in wheel.index_of]
    tension = _rms(state.tension_n[read] - foreseen.tension_n[read]) if read else None
    lateral = _rms(state.lateral_mm - foreseen.lateral_mm) if readings.lateral else None
    radial = _rms(state.radial_mm - foreseen.radial_mm) if readings.radial else None
    dish = state.dish_mm - foreseen.dish_mm if readings.dish else None
    off = [f for f in (lateral, radial) if f is not None and f > USUAL_MM]
    usual = not off and (tension is None or tension <= USUAL_N)
    parts = []
    if lateral is not None:
        parts.append(say("lateral within {lateral:.2f} mm", lateral=lateral))
    if radial is not None:
        parts.append(say("radial within {radial:.2f} mm", radial=radial))
    if tension is not None:
        parts.append(say("tension within {tension:.0f} N", tension=tension))
    if dish is not None:
        parts.append(say("dish within {dish:.2f} mm", dish=abs(dish)))
    if not parts:
        return PassCompared(None, None, None, None, True, say("Nothing measured since the pass."))
    said = (
        (say("The pass did what was foreseen: ") if usual else say("The pass did not quite do what was foreseen: "))
        + joined(", ", parts)
        + "."
    )
    if learnt is not None and learnt.shirkers:
        names = joined(
            ", ",
            [
                say("{spoke} did {percent} % of its turn", spoke=s.spoke, percent=max(0, round(100 * s.share)))
                for s in learnt.shirkers
            ],
        )
        said += say(" {names}: look for twist, slip or a wrong thread.", names=names)
    return PassCompared(lateral, radial, tension, dish, usual, said)


def _rms(values: np.ndarray) -> float:
    return float(np.sqrt(np.mean(values**2)))
