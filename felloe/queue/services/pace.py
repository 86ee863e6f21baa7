"""What a shop's finished stages and waits teach of its pace."""

from __future__ import annotations

from dataclasses import asdict
from datetime import datetime
from uuid import UUID

from felloe.core.promise.pace import USUAL_WAITS, Timed, Wait, learn, learn_waits
from felloe.core.promise.work import Pace, Paces
from felloe.queue.models import ShopPace, StageTime, Waited

#: The newest stages that a shop learns from.
LEARNS_FROM = 3000


def paces_of(shop_id: UUID) -> tuple[Paces, dict[str, Wait], int]:
    """A shop's paces and waits, the usual ones where it has taught nothing, and from how many jobs they come."""
    kept = ShopPace.objects.filter(shop_id=shop_id).values("paces", "waits", "learned_jobs").first()
    if kept is None:
        return Paces(), dict(USUAL_WAITS), 0
    waits = dict(USUAL_WAITS) | {key: Wait(**wait) for key, wait in kept["waits"].items()}
    return Paces({key: Pace(**pace) for key, pace in kept["paces"].items()}), waits, kept["learned_jobs"]


def relearn(shop_id: UUID, now: datetime) -> None:
    """Learn anew from the newest stages and waits of a shop: cheap enough for every wheel that is ready."""
    times = StageTime.objects.filter(shop_id=shop_id, counts=True).order_by("-created_at")
    rows = list(times.values_list("stage", "tier", "taken_min", "usual_min", "job_id")[:LEARNS_FROM])
    paces = learn(Timed(stage, tier, taken, usual) for stage, tier, taken, usual, _ in rows)
    # Of the same jobs: how often one waits is counted against how many there are.
    timed = {row[4] for row in rows}
    over = Waited.objects.filter(shop_id=shop_id, until__isnull=False, job__in=timed)
    waited = [
        (on, (until - since).total_seconds() / 3600)
        for on, since, until in over.values_list("on", "since", "until")
        if until is not None
    ]
    waits = learn_waits(waited, len(timed))
    ShopPace.objects.update_or_create(
        shop_id=shop_id,
        defaults={
            "paces": {key: asdict(pace) for key, pace in paces.of.items()},
            "waits": {key: asdict(wait) for key, wait in waits.items()},
            "learned_at": now,
            "learned_jobs": len(timed),
        },
    )
