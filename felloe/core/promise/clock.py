"""How long somebody was at a wheel, and where a clock was forgotten. Common practice, no source."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

from felloe.core.promise.hours import Calendar

#: Nobody is quiet for so long over a wheel without noting anything [minutes of his shift].
QUIET_MIN = 45.0
#: And nothing takes more than so many times the higher end of its estimate.
TOO_LONG = 3.0


@dataclass(frozen=True)
class Believed:
    """Minutes at work, until when they are believed to have gone on, and whether the clock was forgotten."""

    minutes: float
    until: datetime
    forgotten: bool


def believed(started: datetime, last_deed: datetime, ended: datetime, high_min: float, hours: Calendar) -> Believed:
    """What a span of work counts. `high_min`: the higher end of what its stage was estimated at; `hours`: the person's shifts.

    Only minutes of a shift count, and a little after it where something was done then. A span that is far longer than the
    estimate and quiet at its end stopped soon after its last deed: nobody is charged for a forgotten clock.
    """
    last_deed = min(max(last_deed, started), ended)
    whole = _worked(started, ended, last_deed, hours)
    quiet = _worked(last_deed, ended, last_deed, hours)
    overnight = hours.day_of(ended) != hours.day_of(started)
    if quiet > QUIET_MIN and (whole > max(TOO_LONG * high_min, QUIET_MIN) or overnight):
        until = min(last_deed + timedelta(minutes=min(high_min, QUIET_MIN) / 3), ended)
        return Believed(_worked(started, until, last_deed, hours), until, True)
    return Believed(whole, ended, False)


def _worked(start: datetime, end: datetime, last_deed: datetime, hours: Calendar) -> float:
    if end <= start:
        return 0.0
    inside = hours.minutes_between(start, end)
    # Who works late works: until the last deed every minute of a day counts.
    by_deeds = (min(end, last_deed) - start).total_seconds() / 60
    return max(inside, by_deeds if hours.day_of(start) == hours.day_of(min(end, last_deed)) else 0.0)
