"""The shop's opening hours, closed days and time zone."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime, time, timedelta
from typing import Any

from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.api.problems import StaleWrite
from felloe.calendar import answers
from felloe.calendar.models import ClosedDay, OpenSpan
from felloe.core.promise import hours as core
from felloe.core.promise.hours import USUAL_WEEK, Calendar, Span, check_week, zone_of
from felloe.places.here import atomic


def shop_calendar(shop: Shop, now: datetime | None = None) -> Calendar:
    """When the shop is open: two questions to the database. Without hours of its own the usual week holds."""
    since = (now or timezone.now()).date() - timedelta(days=60)
    week = tuple(Span(*row) for row in OpenSpan.objects.filter(shop=shop).values_list("weekday", "starts", "ends"))
    off = ClosedDay.objects.filter(shop=shop, day__gte=since).values_list("day", flat=True)
    return Calendar(zone_of(shop.time_zone), week or USUAL_WEEK, frozenset(off))


def check_promise(shop: Shop, at: datetime, now: datetime) -> None:
    """Raises core Closed for a time at which nobody can be handed a wheel."""
    core.check_promise(shop_calendar(shop, now), at, now)


def hours_of(user: User) -> answers.Hours:
    shop = Shop.objects.get(pk=user.shop_id)
    spans = list(OpenSpan.objects.filter(shop=shop).order_by("weekday", "starts"))
    week = [answers.WeekSpan(s.weekday, s.starts, s.ends) for s in spans or USUAL_WEEK]
    today = timezone.now().date()
    closed = ClosedDay.objects.filter(shop=shop, day__gte=today - timedelta(days=1)).order_by("day")
    return answers.Hours(
        version=shop.version,
        time_zone=shop.time_zone,
        week=week,
        closed_days=[answers.ClosedOn(row.day, row.name) for row in closed],
        usual=not spans,
    )


@atomic
def set_hours(user: User, version: int, values: dict[str, Any]) -> answers.Hours:
    """Replace time zone, week and the closed days to come; the core refuses what cannot be."""
    zone_of(values["time_zone"])
    week = core_week(values["week"])
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    if shop.version != version:
        raise StaleWrite({"version": version}, {"version": shop.version, "time_zone": shop.time_zone})
    shop.time_zone, shop.version = values["time_zone"], version + 1
    shop.save(update_fields=["time_zone", "version"])
    OpenSpan.objects.filter(shop=shop).delete()
    OpenSpan.objects.bulk_create(
        OpenSpan(shop=shop, created_by=user, weekday=s.weekday, starts=s.starts, ends=s.ends) for s in week
    )
    today = timezone.now().date()
    ClosedDay.objects.filter(shop=shop, day__gte=today - timedelta(days=1)).delete()
    days: dict[date, str] = {row["day"]: row.get("name", "") for row in values["closed_days"]}
    ClosedDay.objects.bulk_create(
        [ClosedDay(shop=shop, created_by=user, day=day, name=name) for day, name in days.items()], ignore_conflicts=True
    )
    return hours_of(user)


def core_week(rows: Iterable[dict[str, Any]]) -> tuple[Span, ...]:
    """Spans as the core checks them."""

    def whole(at: time) -> time:
        return at.replace(second=0, microsecond=0, tzinfo=None)

    return check_week(Span(row["weekday"], whole(row["starts"]), whole(row["ends"])) for row in rows)
