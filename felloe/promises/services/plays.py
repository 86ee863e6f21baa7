"""The chance of each promise: played where the queue has changed, aside where a worker runs."""

from __future__ import annotations

from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from uuid import UUID

from django.conf import settings
from procrastinate.contrib.django import app
from procrastinate.exceptions import AlreadyEnqueued
from procrastinate.types import TimeDeltaParams

from felloe.promises.models import ShopPlay
from felloe.promises.services.floor import Floor, floor_of

#: Chances are played anew once they are older than this, or as soon as anything of the queue has changed.
FRESH = timedelta(minutes=10)
#: So long a worker is waited for before the queue is played within the question itself.
ASIDE = timedelta(seconds=45)
TASK = "play_queue"
#: What changes within so short a time is played together.
GATHERED: TimeDeltaParams = {"seconds": 2}


@dataclass(frozen=True)
class Chances:
    """The chance of each promise ahead, by job, and when it was played."""

    of: dict[str, float]
    played_at: datetime


def chances_of(floor: Floor) -> Chances:
    """The chance of each promise as played last; played anew where the queue has changed or time has passed.

    Where a worker plays aside, what was played a moment ago is answered meanwhile, with the chance that was stated for each
    promise given since; a promise of which neither is known is never guessed, but played for at once.
    """
    kept = ShopPlay.objects.filter(shop=floor.shop).first()
    if kept is not None and kept.played_at is not None:
        age = floor.now - kept.played_at
        if kept.fingerprint == floor.print_ and age < FRESH:
            return Chances(_known(floor, kept), kept.played_at)
        if settings.FELLOE_PLAYS_ASIDE and _worker_is_asked(floor, kept.played_at):
            known = _known(floor, kept)
            if all(str(job.pk) in known for job in floor.promised_ahead()):
                return Chances(known, kept.played_at)
    return play_anew(floor)


def _known(floor: Floor, kept: ShopPlay) -> dict[str, float]:
    """What was played for the very promise that a job has now, else what was stated as it was given."""
    found = {}
    for job in floor.promised_ahead():
        assert job.promised_at is not None
        at, chance = kept.chances.get(str(job.pk), ("", None))
        if at != job.promised_at.isoformat():
            chance = job.promise_chance
        if chance is not None:
            found[str(job.pk)] = chance
    return found


def play_anew(floor: Floor) -> Chances:
    """Play the queue as it stands and keep what came of it."""
    played = floor.play([floor.queued(job) for job in floor.at_the_bench()])
    chances = {
        str(job.pk): (job.promised_at.isoformat(), round(played.chance(str(job.pk), job.promised_at), 4))
        for job in floor.promised_ahead()
        if job.promised_at is not None
    }
    kept = {"chances": chances, "fingerprint": floor.print_, "played_at": floor.now}
    ShopPlay.objects.update_or_create(shop=floor.shop, defaults=kept)
    return Chances({job: chance for job, (_, chance) in chances.items()}, floor.now)


def play_aside(shop_id: UUID, now: datetime) -> None:
    """Play a shop's queue unless that was done for it as it stands."""
    floor = floor_of(shop_id, now)
    kept = ShopPlay.objects.filter(shop_id=shop_id).first()
    if kept is None or kept.fingerprint != floor.print_ or kept.played_at is None or now - kept.played_at >= FRESH:
        play_anew(floor)


#: What a worker was asked for last, by shop, and since when one has been waited for.
_asked: dict[UUID, tuple[str, datetime]] = {}


def _worker_is_asked(floor: Floor, played_at: datetime) -> bool:
    """Ask a worker to play the queue as it stands, once; False where none has answered for too long."""
    print_, since = _asked.get(floor.shop.pk, ("", played_at))
    if played_at >= since:
        # The last wish was met: this is a new one.
        print_, since = "", floor.now
    if floor.now - since > ASIDE:
        return False
    if print_ != floor.print_:
        with suppress(AlreadyEnqueued):
            app.configure_task(TASK, queue="play", queueing_lock=f"play/{floor.shop.pk}", schedule_in=GATHERED).defer(
                shop_id=str(floor.shop.pk)
            )
    _asked[floor.shop.pk] = (floor.print_, since)
    return True
