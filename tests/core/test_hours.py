"""Opening hours in the shop's own time, over the days on which the clocks change."""

from __future__ import annotations

import unittest
from datetime import UTC, date, datetime, time, timedelta

from felloe.core.promise.clock import believed
from felloe.core.promise.hours import (
    USUAL_WEEK,
    BadHours,
    Calendar,
    Closed,
    Span,
    check_promise,
    check_week,
    zone_of,
)

#: Clocks of the European Union change on the last Sunday of March and October at 1:00 UTC (Directive 2000/84/EC).
LISBON = zone_of("Europe/Lisbon")
SPRING, AUTUMN = date(2026, 3, 29), date(2026, 10, 25)
EVERY_DAY = tuple(Span(day, time(9), time(17)) for day in range(7))


def utc(*when: int) -> datetime:
    return datetime(*when, tzinfo=UTC)


class Weeks(unittest.TestCase):
    def test_what_cannot_be_is_refused_at_its_place(self) -> None:
        for make, field in (
            (lambda: Span(7, time(9), time(17)), "weekday"),
            (lambda: Span(0, time(17), time(9)), "ends"),
            (lambda: Span(0, time(9), time(9)), "ends"),
            (lambda: zone_of("Atlantis/Capital"), "time_zone"),
            (lambda: zone_of("../etc/passwd"), "time_zone"),
            (lambda: zone_of(""), "time_zone"),
            (lambda: check_week([Span(1, time(9), time(13)), Span(1, time(12), time(17))]), "starts"),
        ):
            with self.subTest(field), self.assertRaises(BadHours) as caught:
                make()
            self.assertEqual(caught.exception.field, field)

    def test_a_break_at_noon_is_two_spans(self) -> None:
        week = check_week([Span(1, time(14), time(18)), Span(1, time(9), time(14))])
        self.assertEqual([s.starts.hour for s in week], [9, 14])


class ClockChanges(unittest.TestCase):
    def test_doors_open_at_nine_on_the_wall_before_and_after(self) -> None:
        calendar = Calendar(LISBON, EVERY_DAY)
        for day, before, after in ((SPRING, 9, 8), (AUTUMN, 8, 9)):
            self.assertEqual(calendar.spans_on(day - timedelta(days=1))[0][0].hour, before)
            self.assertEqual(calendar.spans_on(day)[0][0].hour, after)
            # Eight hours on the wall are eight hours all the same.
            (starts, ends) = calendar.spans_on(day)[0]
            self.assertEqual(ends - starts, timedelta(hours=8))

    def test_a_night_shift_over_the_change_has_an_hour_less_or_more(self) -> None:
        night = Calendar(LISBON, (Span(6, time(0), time(6)),))
        lengths = [ends - starts for day in (SPRING, AUTUMN) for starts, ends in night.spans_on(day)]
        self.assertEqual(lengths, [timedelta(hours=5), timedelta(hours=7)])

    def test_the_hour_that_does_not_exist_has_nothing_in_it(self) -> None:
        gone = Calendar(LISBON, (Span(6, time(1), time(2)),))
        self.assertEqual(gone.spans_on(SPRING), [])
        self.assertEqual(len(gone.spans_on(SPRING - timedelta(days=7))), 1)

    def test_minutes_of_a_week_counted_one_by_one(self) -> None:
        """Against a walk through every minute, by the wall clock alone."""
        calendar = Calendar(LISBON, USUAL_WEEK, frozenset({date(2026, 3, 26)}))
        start, end = utc(2026, 3, 24, 11, 30), utc(2026, 3, 31, 10, 15)
        counted, at = 0, start
        while at < end:
            wall = at.astimezone(LISBON)
            hours = {5: (9, 13), 6: (0, 0)}.get(wall.weekday(), (9, 17))
            counted += hours[0] <= wall.hour < hours[1] and wall.date() != date(2026, 3, 26)
            at += timedelta(minutes=1)
        self.assertEqual(calendar.minutes_between(start, end), counted)


class Slots(unittest.TestCase):
    calendar = Calendar(LISBON, USUAL_WEEK, frozenset({date(2026, 12, 1)}))

    def test_full_hours_inside_and_closing_time(self) -> None:
        monday = utc(2026, 11, 30, 15, 20)  # 15:20 in Lisbon
        slots = list(self.calendar.slots(monday, 2))
        self.assertEqual([s.hour for s in slots[:2]], [16, 17])
        # Tuesday is a holiday, so Wednesday's first hour comes next; nothing at opening time itself.
        self.assertEqual(slots[2], utc(2026, 12, 2, 10))
        self.assertTrue(all(self.calendar.is_open(s) for s in slots))

    def test_no_promise_for_the_past_for_closed_doors_or_for_ever(self) -> None:
        now = utc(2026, 11, 30, 10)
        check_promise(self.calendar, utc(2026, 11, 30, 17), now)
        for at in (now, utc(2026, 11, 29, 10), utc(2026, 11, 30, 17, 1), utc(2026, 12, 1, 10), utc(2026, 12, 6, 10),
                   utc(2027, 8, 2, 10)):  # fmt: skip
            with self.subTest(at), self.assertRaises(Closed) as caught:
                check_promise(self.calendar, at, now)
            self.assertEqual(caught.exception.field, "promised_at")

    def test_a_shop_that_never_opens(self) -> None:
        shut = Calendar(LISBON, ())
        self.assertEqual(list(shut.slots(utc(2026, 11, 30, 10))), [])


class ForgottenClock(unittest.TestCase):
    hours = Calendar(zone_of("UTC"), USUAL_WEEK)

    def at(self, day: int, hour: int, minute: int = 0) -> datetime:
        return utc(2026, 11, day, hour, minute)  # the 23rd is a Monday

    def test_an_honest_span_counts_whole_however_quiet(self) -> None:
        found = believed(self.at(23, 10), self.at(23, 10, 5), self.at(23, 10, 45), 30, self.hours)
        self.assertEqual((found.minutes, found.forgotten), (45, False))

    def test_left_running_over_night_stops_soon_after_its_last_deed(self) -> None:
        found = believed(self.at(23, 15), self.at(23, 15, 40), self.at(24, 11), 45, self.hours)
        self.assertTrue(found.forgotten)
        self.assertLess(found.minutes, 60)
        self.assertGreaterEqual(found.minutes, 40)

    def test_worked_on_over_closing_time_counts_to_the_last_deed(self) -> None:
        found = believed(self.at(23, 16, 30), self.at(23, 18, 10), self.at(23, 18, 12), 60, self.hours)
        self.assertEqual((found.minutes, found.forgotten), (100, False))

    def test_a_long_job_with_deeds_to_its_end_is_believed(self) -> None:
        found = believed(self.at(23, 9), self.at(23, 15, 50), self.at(23, 16), 40, self.hours)
        self.assertEqual((found.minutes, found.forgotten), (420, False))

    def test_nothing_negative(self) -> None:
        found = believed(self.at(23, 10), self.at(23, 9), self.at(23, 10), 30, self.hours)
        self.assertEqual((found.minutes, found.forgotten), (0, False))
