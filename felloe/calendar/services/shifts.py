"""Who works when."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import StaleWrite, refused_at
from felloe.calendar import answers
from felloe.calendar.models import Absence, Shift
from felloe.calendar.services.hours import core_week
from felloe.core.promise.hours import Calendar, Span
from felloe.core.said import say
from felloe.places.here import atomic

#: Nobody is away for longer than this in one entry [days].
LONGEST_ABSENCE = 366


def person_calendars(people: list[User], shop: Calendar, now: datetime) -> dict[str, Calendar]:
    """When each of some people works, by id: two questions to the database. Without shifts the opening hours hold."""
    weeks: dict[str, list[Span]] = {}
    for row in Shift.objects.filter(person__in=people):
        weeks.setdefault(str(row.person_id), []).append(Span(row.weekday, row.starts, row.ends))
    away: dict[str, set[date]] = {}
    for off in Absence.objects.filter(person__in=people, last_day__gte=now.date(), withdrawn_at=None):
        days = (off.last_day - off.first_day).days + 1
        away.setdefault(str(off.person_id), set()).update(off.first_day + timedelta(days=d) for d in range(days))
    return {
        str(person.pk): Calendar(
            shop.zone, tuple(weeks.get(str(person.pk), shop.week)), shop.off | away.get(str(person.pk), set())
        )
        for person in people
    }


def work_times(user: User, person_id: UUID) -> answers.WorkTimes:
    person = _person(user, person_id)
    spans = list(Shift.objects.filter(person=person).order_by("weekday", "starts"))
    away = Absence.objects.filter(person=person, withdrawn_at=None, last_day__gte=timezone.now().date()).order_by("first_day")
    return answers.WorkTimes(
        person=person.pk,
        version=person.version,
        week=[answers.WeekSpan(s.weekday, s.starts, s.ends) for s in spans],
        as_open=not spans,
        absences=[answers.Away(row.pk, row.first_day, row.last_day, row.why) for row in away],
    )


@atomic
def set_shifts(user: User, person_id: UUID, version: int, week: list[dict[str, Any]]) -> answers.WorkTimes:
    """Replace a person's week; an empty one is the shop's."""
    spans = core_week(week)
    person = _person(user, person_id, lock=True)
    if person.version != version:
        raise StaleWrite({"version": version}, {"version": person.version})
    person.version += 1
    person.save(update_fields=["version"])
    Shift.objects.filter(person=person).delete()
    Shift.objects.bulk_create(
        Shift(shop_id=user.shop_id, created_by=user, person=person, weekday=s.weekday, starts=s.starts, ends=s.ends)
        for s in spans
    )
    return work_times(user, person_id)


@atomic
def add_absence(user: User, person_id: UUID, values: dict[str, Any]) -> answers.WorkTimes:
    """Whole days away; entered at once when somebody rings in ill."""
    person = _person(user, person_id, lock=True)
    first, last = values["first_day"], values["last_day"]
    if last < first:
        raise refused_at("last_day", "bad_absence", say("The last day lies before the first."))
    if (last - first).days > LONGEST_ABSENCE:
        raise refused_at("last_day", "bad_absence", say("That is longer than a year: enter it in parts."))
    Absence.objects.create(
        shop_id=user.shop_id, created_by=user, person=person, first_day=first, last_day=last, why=values.get("why", "").strip()
    )
    return work_times(user, person_id)


@atomic
def end_absence(user: User, absence_id: UUID) -> answers.WorkTimes:
    """Take an absence back: he is here after all."""
    row = Absence.objects.select_for_update().filter(shop_id=user.shop_id, pk=absence_id).first()
    if row is None:
        raise Http404
    if row.withdrawn_at is None:
        row.withdrawn_at = timezone.now()
        row.save(update_fields=["withdrawn_at"])
    return work_times(user, row.person_id)


def _person(user: User, person_id: UUID, lock: bool = False) -> User:
    found = User.objects.filter(shop_id=user.shop_id, pk=person_id)
    person = (found.select_for_update() if lock else found).first()
    if person is None:
        raise Http404
    return person
