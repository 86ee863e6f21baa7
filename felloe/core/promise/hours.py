"""When a shop is open and when a person works: weekly spans in the shop's own time, less holidays and absences.

Spans are said as wall-clock times of the shop's time zone (IANA name) and given out in UTC, so that a day on which the clocks
change keeps its opening hours and has an hour less or more where it lies inside of them.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from itertools import pairwise
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from felloe.core.errors import TradeError
from felloe.core.said import say

#: A horizon for every question about the time ahead: nobody promises a wheel further away [days].
HORIZON_DAYS = 120
#: How often on an open day a wheel may be promised: on the full hour.
SLOT = timedelta(hours=1)


class BadHours(TradeError):
    """Hours that cannot be."""

    code = "bad_hours"


class Closed(TradeError):
    """A time at which nobody can be handed a wheel."""

    code = "closed_then"


@dataclass(frozen=True)
class Span:
    """Part of a weekday (0 is Monday), in the shop's time; `ends` later than `starts`."""

    weekday: int
    starts: time
    ends: time

    def __post_init__(self) -> None:
        if not 0 <= self.weekday <= 6:
            raise BadHours(say("a weekday is counted from 0, Monday, to 6"), "weekday")
        if self.ends <= self.starts:
            raise BadHours(say("it has to end later than it starts, on the same day"), "ends")


#: Where a shop has said nothing: common practice, no source. Shown as a default.
USUAL_WEEK: tuple[Span, ...] = (
    *(Span(day, time(9), time(17)) for day in range(5)),
    Span(5, time(9), time(13)),
)


def zone_of(name: str) -> ZoneInfo:
    """A time zone by its IANA name; raises BadHours for one that is none."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise BadHours(say("“{name}” is no time zone, such as Europe/Lisbon", name=name[:40]), "time_zone") from None


def check_week(week: Iterable[Span]) -> tuple[Span, ...]:
    """The spans in order; raises BadHours where two of one day overlap."""
    ordered = tuple(sorted(week, key=lambda span: (span.weekday, span.starts)))
    for before, after in pairwise(ordered):
        if before.weekday == after.weekday and after.starts < before.ends:
            raise BadHours(say("two spans of one day overlap"), "starts")
    return ordered


@dataclass(frozen=True)
class Calendar:
    """Spans of a week in a time zone, and the days on which they do not hold."""

    zone: ZoneInfo
    week: tuple[Span, ...]
    off: frozenset[date] = frozenset()

    def day_of(self, at: datetime) -> date:
        """The shop's own day of a moment."""
        return at.astimezone(self.zone).date()

    def spans_on(self, day: date) -> list[tuple[datetime, datetime]]:
        """Spans of one day of the shop, in UTC."""
        if day in self.off:
            return []
        found = []
        for span in self.week:
            if span.weekday == day.weekday():
                starts, ends = (datetime.combine(day, t, self.zone).astimezone(UTC) for t in (span.starts, span.ends))
                # Inside the hour that a spring day leaves out, a span may have nothing left of it.
                if starts < ends:
                    found.append((starts, ends))
        return found

    def spans(self, start: datetime, days: int = HORIZON_DAYS) -> Iterator[tuple[datetime, datetime]]:
        """Spans from `start` on, the first one cut at it, over so many days."""
        first = self.day_of(start)
        for offset in range(days + 1):
            for starts, ends in self.spans_on(first + timedelta(days=offset)):
                if ends > start:
                    yield max(starts, start), ends

    def is_open(self, at: datetime) -> bool:
        """Whether a moment lies in a span, its last minute included."""
        return any(starts <= at <= ends for starts, ends in self.spans_on(self.day_of(at)))

    def minutes_between(self, start: datetime, end: datetime) -> float:
        """Minutes inside spans between two moments."""
        days = (self.day_of(end) - self.day_of(start)).days
        return sum(
            (min(ends, end) - starts).total_seconds() / 60 for starts, ends in self.spans(start, max(days, 0)) if starts < end
        )

    def slots(self, start: datetime, days: int = HORIZON_DAYS) -> Iterator[datetime]:
        """The moments from `start` on for which a wheel may be promised: full hours inside spans, and closing time."""
        for starts, ends in self.spans(start, days):
            local = starts.astimezone(self.zone)
            hour = local.replace(minute=0, second=0, microsecond=0).astimezone(UTC)
            at = hour if hour >= starts else hour + SLOT
            while at < ends:
                if at > starts:
                    yield at
                at += SLOT
            yield ends


def check_promise(calendar: Calendar, at: datetime, now: datetime) -> None:
    """May a wheel be promised for `at`? Never in the past, never while the shop is closed. Raises Closed."""
    if at <= now:
        raise Closed(say("That time is past: promise a time that is still to come."), "promised_at")
    if at > now + timedelta(days=HORIZON_DAYS):
        raise Closed(say("That is more than {days} days away: nobody can say that far.", days=HORIZON_DAYS), "promised_at")
    if not calendar.is_open(at):
        raise Closed(say("The shop is closed then: promise a time inside its opening hours."), "promised_at")
