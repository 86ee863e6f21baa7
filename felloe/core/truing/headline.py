"""The state of a wheel in one or two sentences, worst first."""

from __future__ import annotations

import numpy as np

from felloe.core.mechanics.estimate import WheelState
from felloe.core.naming import Side
from felloe.core.said import joined, say
from felloe.core.tension.evenness import side_evenness
from felloe.core.tension.statics import tight_side
from felloe.core.truing.tiers import Tier

#: Below this share of its target the tight side holds nothing: common practice, no source.
ALL_SLACK_SHARE = 0.1


def nearest_spoke(state: WheelState, angle_deg: float) -> str:
    """Name of the spoke whose hole lies nearest to an angle."""
    gaps = np.abs((np.asarray(state.wheel.angles_deg) - angle_deg + 180) % 360 - 180)
    return str(state.wheel.names[int(np.argmin(gaps))])


def headline(state: WheelState, tier: Tier) -> str:
    """What is out, where, and by how much of what the tier allows; or that all is inside."""
    tight = state.tension_n[state.present(tight_side(state.wheel))]
    if len(tight) == 0 or float(tight.mean()) < ALL_SLACK_SHARE * state.wheel.rim.tension_target_n:
        return say(
            "All slack: the spokes hold nothing yet, so straight and round cannot be judged. Bring them to tension first."
        )
    figures = state.figures
    found: list[tuple[float, str]] = []
    aside = say(" of where it belongs") if state.wheel.dish_target_mm else ""
    lateral, radial = figures.lateral_tir_mm, figures.radial_tir_mm
    if lateral > tier.lateral_mm:
        worst = int(np.argmax(np.abs(figures.lateral_mm)))
        where = nearest_spoke(state, float(figures.angles_deg[worst]))
        way = say("right") if figures.lateral_mm[worst] > 0 else say("left")
        found.append(
            (
                lateral / tier.lateral_mm,
                say("the rim leans {way} round {where}, lateral {lateral:.1f} mm", way=way, where=where, lateral=lateral),
            )
        )
    if radial > tier.radial_mm:
        worst = int(np.argmax(np.abs(figures.radial_mm)))
        where = nearest_spoke(state, float(figures.angles_deg[worst]))
        what = say("a hop") if figures.radial_mm[worst] > 0 else say("a flat")
        found.append(
            (radial / tier.radial_mm, say("{what} at {where}, radial {radial:.1f} mm", what=what, where=where, radial=radial))
        )
    if abs(state.dish_mm) > tier.dish_mm:
        way = say("right") if state.dish_mm > 0 else say("left")
        found.append(
            (
                abs(state.dish_mm) / tier.dish_mm,
                say("the rim sits {dish_mm:.1f} mm to the {way}{aside}", dish_mm=abs(state.dish_mm), way=way, aside=aside),
            )
        )
    for side in Side:
        even = side_evenness(state.wheel, state.tension_n.tolist(), side, tier.tension_percent, state.broken)
        if even.outside:
            what = say("slack") if even.worst_percent < 0 else say("tight")
            text = say(
                "{worst_spoke} is {worst_percent:.0f} % too {what} for its side",
                worst_spoke=even.worst_spoke,
                worst_percent=abs(even.worst_percent),
                what=what,
            )
            found.append((even.spread_percent / tier.tension_percent, text))
    mean = float(tight.mean())
    off = mean / state.wheel.rim.tension_target_n - 1
    if abs(off) > 0.1:
        what = say("below") if off < 0 else say("above")
        text = say(
            "the {tight_side} side's mean is {off:.0f} % {what} target",
            tight_side=tight_side(state.wheel).said,
            off=abs(off) * 100,
            what=what,
        )
        found.append((abs(off) / 0.1, text))
    if state.broken:
        broken = joined(", ", sorted(state.broken))
        found.append((99.0, say("{spokes} carries nothing: broken or missing, and in no mean", spokes=broken)))
    if not found:
        return say("Inside {tier}: straight, round, centred and even.", tier=tier.said)
    found.sort(key=lambda item: -item[0])
    return joined("; ", [sentence for _, sentence in found[:3]]).sentence()
