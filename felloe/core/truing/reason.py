"""What a plan says of itself: what it is for, how sure it is, and what comes before the first nipple."""

from __future__ import annotations

import numpy as np

from felloe.core.said import joined, say
from felloe.core.tension.statics import tight_side
from felloe.core.truing.prediction import Prediction
from felloe.core.truing.short import Found, Shortest


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
    parts = [
        say(
            "lateral {lateral_tir_mm:.2f} → {after_mm:.2f} mm",
            lateral_tir_mm=before.lateral_tir_mm,
            after_mm=after.trace.lateral_tir_mm,
        ),
        say(
            "radial {radial_tir_mm:.2f} → {after_mm:.2f} mm",
            radial_tir_mm=before.radial_tir_mm,
            after_mm=after.trace.radial_tir_mm,
        ),
        say("dish {dish_mm:+.2f} → {after_mm:+.2f} mm", dish_mm=state.dish_mm, after_mm=after.dish_mm),
        say(
            "{tight_side} mean {mean_n:.0f} → {after_n:.0f} N",
            tight_side=tight_side(state.wheel).said,
            mean_n=float(state.tension_n[tight].mean()),
            after_n=float(after.tension_n[tight].mean()),
        ),
    ]
    head = say(
        "{moves_count} nipples, {tightened} tighter and {eased} easier: ",
        moves_count=found.nipples,
        tightened=tightened,
        eased=found.nipples - tightened,
    )
    return joined("", [head, joined(", ", parts), "."])


def caution(search: Shortest, found: Found | None) -> str:
    """What is said before the first nipple; empty where all spokes stand below the rim's limit."""
    state = search.state
    over = [int(i) for i in np.flatnonzero(state.tension_n > search.limit_n)]
    if not over:
        return ""
    names = joined(", ", [str(state.wheel.names[i]) for i in over])
    said = say("Above the rim's limit of {limit_n:.0f} N: {names}.", limit_n=search.limit_n, names=names)
    if found is None:
        return said
    if found.eased_first:
        more = say("The first {count} turns bring them down: keep to their order.", count=found.eased_first)
    else:
        more = say("They come down in this order and never rise: keep to it.")
    if found.rises_n:
        more = say(
            "No order keeps all of them from rising by up to {rises_n:.0f} N while others are eased; this one lifts them "
            "least. Keep to it, and stand clear of the rim.",
            rises_n=found.rises_n,
        )
    return joined(" ", [said, more])
