"""From plays of the queue to what is said at the counter: dates with their chance, promises in danger, what a change does."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from felloe.core.promise.hours import Calendar
from felloe.core.promise.simulate import Played
from felloe.core.promise.work import Estimate
from felloe.core.said import Said, joined, say

#: A second date for those who must be sure.
SURE = 0.95
#: A change of a chance below this is noise of the plays.
TOLD_FROM = 0.1
_ODDS = ((19, 20), (9, 10), (8, 10), (7, 10), (6, 10), (5, 10), (4, 10), (3, 10), (2, 10), (1, 10), (1, 20))


def odds(chance: float) -> Said:
    """A chance as people count: the largest of a few fractions that is not above it."""
    for times, of in _ODDS:
        if chance >= times / of - 1e-9:
            return say("{times} of {of}", times=times, of=of)
    return say("hardly a chance")


@dataclass(frozen=True)
class Offer:
    """A time for which a wheel may be promised, and the chance that it is ready then. `key`: "shop" for the shop's own line,
    "sure", or "wanted" by the customer."""

    key: str
    at: datetime
    chance: float


def offers(played: Played, job: str, calendar: Calendar, line: float, wanted: datetime | None = None) -> tuple[Offer, ...]:
    """The first open hours with at least the shop's `line` of chance and with SURE; before them the wanted time.

    In the plays' first world the new job stands behind what was promised before it; where there is a second one, it stands
    there at its wanted time. Empty where nobody can do the job within the horizon.
    """
    minutes = np.sort(played.of(job))
    found: list[Offer] = []
    if wanted is not None:
        found.append(Offer("wanted", wanted, played.chance(job, wanted, world=len(played.ready_min) - 1)))
    aims = [("shop", line), ("sure", max(SURE, line))]
    for at in calendar.slots(played.now):
        chance = float(np.searchsorted(minutes, (at - played.now).total_seconds() / 60, "right")) / len(minutes)
        while aims and chance >= aims[0][1] - 1e-9:
            key = aims.pop(0)[0]
            if not found or found[-1].at != at:
                found.append(Offer(key, at, chance))
        if not aims:
            break
    return tuple(found)


@dataclass(frozen=True)
class Standing:
    """Where a promise stands: "late", "danger", "fine", "ready" or "none"; `chance` None without a promise ahead; why."""

    level: str
    chance: float | None
    why: Said


#: What a promise in danger waits on, in words.
_WAITS = {"customer": say("the customer's word"), "parts": say("parts"), "owner": say("the owner's word")}


def standing_of(
    promised_at: datetime | None, now: datetime, line: float, chance: float | None, left: Estimate, waiting_on: str = ""
) -> Standing:
    """Judge one promise. `chance` as played, None where it was not; a promise without a known chance is in danger."""
    waits = joined("", [say("waits on {what}", what=_WAITS[waiting_on])]) if waiting_on in _WAITS else None
    ahead = joined(", ", [part for part in (waits, left.said) if part])
    if promised_at is None:
        return Standing("none", None, joined(", ", [say("no promise given"), ahead]))
    if promised_at < now:
        return Standing("late", 0.0, joined(", ", [say("promised {span} ago", span=span_of(now - promised_at)), ahead]))
    until = say("due in {span}", span=span_of(promised_at - now))
    if chance is None:
        return Standing("danger", None, joined(", ", [until, say("nobody has the hours to do it"), ahead]))
    said = say("{odds} to be ready then", odds=odds(chance))
    return Standing("fine" if chance >= line - 1e-9 else "danger", chance, joined(", ", [until, said, ahead]))


def ready_standing(ready_at: datetime, promised_at: datetime | None, now: datetime) -> Standing:
    """A wheel that waits to be fetched: kept or not is decided by when it was ready."""
    since = say("ready for {span}", span=span_of(now - ready_at))
    if promised_at is not None and ready_at > promised_at:
        late = say("{span} after its promise", span=span_of(ready_at - promised_at))
        return Standing("ready", None, joined(", ", [since, late]))
    return Standing("ready", None, since)


def span_of(time: timedelta) -> Said:
    """A span as people say it."""
    minutes = int(time.total_seconds() // 60)
    if minutes < 90:
        return say("{minutes} min", minutes=minutes)
    if minutes < 36 * 60:
        return say("{hours} h", hours=minutes // 60)
    return say("{days} days", days=round(minutes / 1440))


@dataclass(frozen=True)
class Effect:
    """What a change does to another job's promise."""

    job: str
    before: float
    after: float


def effects(played: Played, promises: Mapping[str, datetime], but: str) -> tuple[Effect, ...]:
    """Of the other promises, those whose chance the second world moves by TOLD_FROM or more; the worst first."""
    found = []
    for job, at in promises.items():
        if job == but or job not in played.index or at <= played.now:
            continue
        before, after = played.chance(job, at), played.chance(job, at, world=1)
        if abs(after - before) >= TOLD_FROM - 1e-9:
            found.append(Effect(job, before, after))
    return tuple(sorted(found, key=lambda e: e.after - e.before))
