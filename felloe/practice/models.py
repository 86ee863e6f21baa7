"""Practice: wheels that are nobody's, worked to learn. Apart from the shop's jobs, stock and figures: nothing points here."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.api.fields import SaidField


class PracticeRun(ShopRow):
    """One practice wheel in the hands of `created_by`. `made` is how it was spoilt, `now` how it stands; no page is told.

    `readings` and `passes` hold what was read and what each pass came to; `answers` those of finding and lacing.
    """

    exercise = models.CharField(max_length=30)
    kind = models.CharField(max_length=40)
    mode = models.CharField(max_length=10)
    tier = models.CharField(max_length=20)
    asked_faults = models.JSONField(default=list)
    made = models.JSONField()
    now = models.JSONField()
    readings = models.JSONField(default=dict)
    moves = SaidField(default=list)
    passes = SaidField(default=list)
    answers = SaidField(default=list)
    deeds = models.PositiveIntegerField(default=0, help_text="How many there were; readings are drawn by it")
    touches = models.PositiveIntegerField(default=0)
    turned = models.FloatField(default=0.0, help_text="Turns of nipples, all in all")
    marks = models.JSONField(null=True)
    mark = models.PositiveSmallIntegerField(null=True)
    ended_at = models.DateTimeField(null=True)

    class Meta:
        indexes = [models.Index(fields=["created_by", "exercise", "created_at"])]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(mark__isnull=True) | models.Q(mark__lte=3), name="practice_mark_in_range"
            ),
            models.CheckConstraint(
                condition=models.Q(mark__isnull=True) | models.Q(ended_at__isnull=False), name="practice_marked_when_ended"
            ),
            models.UniqueConstraint(
                fields=["created_by", "exercise"],
                condition=models.Q(ended_at__isnull=True),
                name="practice_one_open_run_of_an_exercise",
            ),
        ]


class PracticeTask(ShopRow):
    """An exercise that `created_by` set for `person`; open until it is done well, or taken back."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    exercise = models.CharField(max_length=30)
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["person", "exercise"], condition=models.Q(taken_back_at__isnull=True), name="practice_task_set_once"
            )
        ]
