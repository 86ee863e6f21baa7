"""What was chosen, counted, laced and done while a wheel was stripped and built; append-only."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.api.fields import SaidField
from felloe.core.said import say

SIDES = ["R", "L"]


class OldSpoke(ShopRow):
    """The length of a removed spoke, by its place; the newest of a place counts."""

    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.PROTECT, related_name="old_spokes")
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="old_spokes")
    spoke = models.CharField(max_length=4)
    length_mm = models.FloatField(null=True, help_text="Empty: taken back, was a slip")
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class SpokeChoice(ShopRow):
    """The length chosen for a side, with what it was computed from; the newest of a side counts."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="spoke_choices")
    side = models.CharField(max_length=1)
    length_mm = models.FloatField()
    needed_mm = models.FloatField()
    sd_mm = models.FloatField()
    end_mm = models.FloatField()
    verdict = models.CharField(max_length=20)
    part = models.ForeignKey("stock.Part", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(side__in=SIDES), name="choice_side_known")]
        indexes = [models.Index(fields=["job", "created_at"])]


class KitSheet(ShopRow):
    """The kit as laid out on the bench, and which rules it broke then; the newest counts."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="kit_sheets")
    values = models.JSONField()
    broken = models.JSONField(default=list)


class WorkFacts(ShopRow):
    """What decides the steps of stripping and lacing this wheel; the newest of a purpose counts."""

    class Purpose(models.TextChoices):
        STRIP = "strip", say("Stripping")
        LACING = "lacing", say("Lacing")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="work_facts")
    purpose = models.CharField(max_length=6, choices=Purpose)
    values = models.JSONField()

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(purpose__in=["strip", "lacing"]), name="facts_purpose_known")]


class SmallPartsCount(ShopRow):
    """Small parts counted out of the rim or put in."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="small_parts")
    kind = models.CharField(max_length=8)
    way = models.CharField(max_length=3)
    count = models.IntegerField()

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=["nipple", "washer", "spoke"]), name="small_part_known"),
            models.CheckConstraint(condition=models.Q(way__in=["out", "in"]), name="small_part_way_known"),
        ]


class StepDone(ShopRow):
    """A step of a procedure (strip, or replace:R4) that was done, or undone; the newest of a step counts."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="steps_done")
    procedure = models.CharField(max_length=16)
    step = models.CharField(max_length=20)
    done = models.BooleanField(default=True)

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class LacingProgress(ShopRow):
    """How many spokes of the map are in; the newest counts."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="lacing_progress")
    placed = models.PositiveIntegerField()

    class Meta:
        indexes = [models.Index(fields=["job", "created_at"])]


class LacingLook(ShopRow):
    """What was looked at of a lacing, and the errors that it explains."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="lacing_looks")
    seen = models.JSONField()
    errors = SaidField(default=list)
