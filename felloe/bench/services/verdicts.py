"""Whether the spokes can save a rim: verdict, curve and bent stretches of a measured state, as plain values."""

from __future__ import annotations

from collections.abc import Collection
from functools import lru_cache
from uuid import UUID

import numpy as np

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench import answers
from felloe.bench.models import ReadingSet
from felloe.bench.services.prints import fingerprint
from felloe.bench.services.readings import find_set
from felloe.bench.services.states import kept_estimate
from felloe.core.diagnosis.rim_damage import Bend, bends
from felloe.core.mechanics.estimate import WheelState
from felloe.core.said import say
from felloe.core.truing.curve import (
    FEWEST_FOR_A_VERDICT,
    OwnBend,
    Verdict,
    own_bend,
    straight_against_even,
    to_customer,
    verdict,
)
from felloe.core.truing.tiers import TIERS, Tier
from felloe.queue.services.tiers import tiers_in_use

#: The posterior is drawn with a fixed seed: the same readings give the same verdict.
SEED = 20


def judged_rim(state: WheelState, tier: Tier, tiers: Collection[Tier] = tuple(TIERS.values())) -> Verdict:
    """The verdict on a state, the same for the same readings; `tiers` are what else the shop could bring it to."""
    return verdict(state, tier, np.random.default_rng(SEED), tiers=tiers)


def verdict_values(state: WheelState, rim: Verdict) -> answers.Curve:
    """The curve with its tier, the verdict on it, the bent stretches and the sentence for the customer."""
    tier = rim.tier
    found: list[Bend | OwnBend] = list(bends(state))
    own = None if rim.can or found else own_bend(state, tier)
    if own is not None:
        found.append(own)
    return answers.Curve(
        points=[
            answers.CurvePoint(
                spread_percent=p.spread_percent,
                lateral_tir_mm=round(p.lateral_tir_mm, 3),
                radial_tir_mm=round(p.radial_tir_mm, 3),
            )
            for p in straight_against_even(state, tier)
        ],
        tier_lateral_mm=tier.lateral_mm,
        tier_radial_mm=tier.radial_mm,
        tier_spread_percent=tier.tension_percent,
        can=rim.can,
        chance=round(rim.chance, 3),
        best_tier=rim.best_tier.name if rim.best_tier else None,
        why=rim.why,
        bends=[answers.Bend(spokes=list(b.spokes), why=b.why) for b in found],
        to_customer=to_customer(rim, [b.spokes for b in found]),
    )


def verdict_of(user: User, set_id: UUID) -> answers.Curve:
    """The verdict on a set's wheel; refused where too little was read."""
    reading_set = find_set(user, set_id)
    _, readings = kept_estimate(reading_set)
    if readings.count < FEWEST_FOR_A_VERDICT:
        raise Refused(
            "too_few_readings",
            say(
                "A verdict on the rim needs at least {fewest_for_a_verdict} readings, this set has {count}.",
                fewest_for_a_verdict=FEWEST_FOR_A_VERDICT,
                count=readings.count,
            ),
            422,
        )
    return kept_verdict(reading_set, reading_set.job.tolerance)[1]


def kept_verdict(
    reading_set: ReadingSet, tier: Tier, rests_on: tuple[object, ...] | None = None
) -> tuple[Verdict, answers.Curve]:
    """The verdict and its curve, worked out once for as long as what they rest on stays the same."""
    tiers = tuple(tiers_in_use(reading_set.shop_id).values())
    return _kept_verdict(reading_set.pk, rests_on or fingerprint(reading_set), tier, tiers)


@lru_cache(maxsize=64)
def _kept_verdict(
    set_id: UUID, rests_on: tuple[object, ...], tier: Tier, tiers: tuple[Tier, ...]
) -> tuple[Verdict, answers.Curve]:
    found = ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id)
    state, _ = kept_estimate(found)
    rim = judged_rim(state, tier, tiers)
    return rim, verdict_values(state, rim)
