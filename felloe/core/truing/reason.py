"""What a plan says of itself: what it is for, how sure it is, and what comes before the first nipple."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from felloe.core.naming import Side
from felloe.core.said import Said, joined, say
from felloe.core.tension.statics import tight_side
from felloe.core.terms import term
from felloe.core.truing.options import FIGURES
from felloe.core.truing.prediction import Prediction
from felloe.core.truing.short import Found, Shortest
from felloe.core.truing.walk import NOTHING_N
from felloe.core.units import turns_as_fraction

Array = NDArray[np.float64]


def reason(search: Shortest, found: Found | None, after: Prediction) -> str:
    """One line on what the pass is for."""
    state, tier = search.state, search.options.tier
    if found is None:
        if (state.tension_n > search.limit_n).any():
            return say(
                "Spokes stand above the rim's limit, and no order of turns brings them down safely: ease them by hand first."
            )
        if search.is_enough:
            return say(
                "It is inside {tier} as it is, with a chance of {percent:.0f} %: leave the wheel as it is.",
                tier=tier.said,
                percent=100 * search.untouched.chance,
            )
        return say("No nipple gains enough to be worth touching: leave the wheel as it is.")
    before = state.figures
    tight = state.present(tight_side(state.wheel))
    tightened = sum(1 for turn in found.turns if turn > 0)
    parts = {
        "lateral": say(
            "lateral {lateral_tir_mm:.2f} → {after_mm:.2f} mm",
            lateral_tir_mm=before.lateral_tir_mm,
            after_mm=after.trace.lateral_tir_mm,
        ),
        "radial": say(
            "radial {radial_tir_mm:.2f} → {after_mm:.2f} mm",
            radial_tir_mm=before.radial_tir_mm,
            after_mm=after.trace.radial_tir_mm,
        ),
        "dish": say("dish {dish_mm:+.2f} → {after_mm:+.2f} mm", dish_mm=state.dish_mm, after_mm=after.dish_mm),
        "tension": say(
            "{tight_side} mean {mean_n:.0f} → {after_n:.0f} N",
            tight_side=tight_side(state.wheel).said,
            mean_n=float(state.tension_n[tight].mean()),
            after_n=float(after.tension_n[tight].mean()),
        ),
    }
    head: Said = say(
        "{moves_count} nipples, {tightened} tighter and {eased} easier: ",
        moves_count=found.nipples,
        tightened=tightened,
        eased=found.nipples - tightened,
    )
    # Where most nipples differ from their side there is no lap to speak of.
    if found.alike is not None and 2 * found.as_alike >= found.nipples:
        head = _lap(search, found, found.alike)
    unread = search.options.unread
    said = joined("", [head, joined(", ", [part for figure, part in parts.items() if figure not in unread]), "."])
    more = [not_claimed(unread)] if unread else []
    stuck = np.flatnonzero(search.outcome.stuck)
    if len(stuck):
        names = joined(", ", [str(state.wheel.names[i]) for i in stuck])
        more.append(
            say(
                "{names} cannot be turned and stays off its side: that cannot be had. Its neighbours carry its part and may be "
                "off by twice what the tier allows.",
                names=names,
            )
        )
    return joined(" ", [said, *more]) if more else said


def _lap(search: Shortest, found: Found, alike_turns: Array) -> Said:
    """What every nipple of a side is turned in a lap, and which are turned otherwise."""
    wheel = search.state.wheel
    alike = {side: float(alike_turns[wheel.on_side(side)].max(initial=0.0)) for side in Side}
    others = [str(wheel.names[i]) for i in np.flatnonzero(found.turns != alike_turns)]
    every = say(
        "To {percent:.0f} % of the tension: {right} on every right nipple, {left} on every left one",
        percent=100 * search.options.target_share,
        right=turns_as_fraction(alike[Side.RIGHT]),
        left=turns_as_fraction(alike[Side.LEFT]),
    )
    if not others:
        return joined("", [every, ": "])
    return joined("", [every, say("; otherwise {names}: ", names=joined(", ", others))])


def not_claimed(unread: frozenset[str]) -> str:
    """What a plan claims nothing of, since nothing or too little was read of it."""
    names = joined(", ", [term(figure) for figure in FIGURES if figure in unread])
    return say("Too little was read of {figures}: nothing is claimed of it, and little is turned.", figures=names)


def caution(search: Shortest, found: Found | None, walked: Array) -> str:
    """What is said before the first nipple; empty where all spokes stand below the rim's limit. `walked`: the tensions before
    and after each turn, (turns + 1, n) [N]."""
    state, limit_n = search.state, search.limit_n
    over = np.flatnonzero(state.tension_n > limit_n)
    if not len(over):
        return ""
    names = joined(", ", [str(state.wheel.names[i]) for i in over])
    parts = [say("Above the rim's limit of {limit_n:.0f} N: {names}.", limit_n=limit_n, names=names)]
    if found is None:
        return parts[0]
    if found.eased_first:
        parts.append(say("The first {count} turns bring them down: keep to their order.", count=found.eased_first))
    rises_n = float((walked - walked[0])[:, over].max())
    if rises_n > NOTHING_N:
        parts.append(
            say(
                "No order keeps all of them from rising by up to {rises_n:.0f} N while others are eased: keep to this one, and "
                "stand clear of the rim.",
                rises_n=rises_n,
            )
        )
    elif not found.eased_first:
        parts.append(say("None of them rises on the way: keep to the order."))
    left = [str(state.wheel.names[i]) for i in over if walked[-1][i] > limit_n + NOTHING_N]
    if left:
        parts.append(say("Still above it after this pass: {names}.", names=joined(", ", left)))
    return joined(" ", parts)
