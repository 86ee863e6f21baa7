"""Opening hours, closed days, shifts and absences. Times are wall-clock times of the shop's zone."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import ShopRow


class Span(ShopRow):
    """Abstract part of a weekday, 0 is Monday."""

    weekday = models.PositiveSmallIntegerField()
    starts = models.TimeField()
    ends = models.TimeField()

    class Meta:
        abstract = True


def _span_checks(name: str) -> list[models.BaseConstraint]:
    return [
        models.CheckConstraint(condition=models.Q(weekday__lte=6), name=f"{name}_weekday_known"),
        models.CheckConstraint(condition=models.Q(ends__gt=models.F("starts")), name=f"{name}_ends_later"),
    ]


class OpenSpan(Span):
    class Meta:
        constraints = [
            *_span_checks("open_span"),
            models.UniqueConstraint(fields=["shop", "weekday", "starts"], name="open_span_once"),
        ]


class ClosedDay(ShopRow):
    """A holiday, or any day on which the shop stays shut."""

    day = models.DateField()
    name = models.CharField(max_length=80, blank=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shop", "day"], name="closed_day_once")]


class Shift(Span):
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="shifts")

    class Meta:
        constraints = [
            *_span_checks("shift"),
            models.UniqueConstraint(fields=["person", "weekday", "starts"], name="shift_once"),
        ]


class Absence(ShopRow):
    """Whole days on which a person does not work, both included. Taken back by `withdrawn_at`, never deleted."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="absences")
    first_day = models.DateField()
    last_day = models.DateField()
    why = models.CharField(max_length=80, blank=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(last_day__gte=models.F("first_day")), name="absence_ends_later"),
        ]
        indexes = [models.Index(fields=["shop", "last_day"])]
