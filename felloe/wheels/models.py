"""The wheels a shop has seen."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow
from felloe.core.said import say


class Wheel(EditableRow):
    """A customer's wheel. `specification` is the `wheel` object of the wheel record, checked by the core on every write."""

    class Position(models.TextChoices):
        FRONT = "front", say("Front")
        REAR = "rear", say("Rear")

    bike = models.ForeignKey("customers.Bike", on_delete=models.PROTECT, related_name="wheels")
    position = models.CharField(max_length=5, choices=Position)
    asset_number = models.CharField(max_length=40, blank=True, help_text="The owner's own number of it, in a fleet")
    kind = models.CharField(max_length=40, blank=True, help_text="Generic kind it was started from, if any")
    measured = models.BooleanField(default=False, help_text="True once its own dimensions were entered")
    specification = models.JSONField()
    uncertainty_mm = models.JSONField(
        default=dict, blank=True, help_text="Standard deviations of dimensions, see core.spokes.uncertainty; others as usual"
    )

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(position__in=["front", "rear"]), name="wheel_position_known"),
        ]


class Pattern(EditableRow):
    """A kind of wheel of the shop's own: what a wheel starts as, what it is held to, and what to mind."""

    name = models.CharField(max_length=80)
    note = models.CharField(max_length=500, blank=True)
    position = models.CharField(max_length=5, choices=Wheel.Position)
    brakes = models.JSONField(default=list, blank=True, help_text="Brakes it is built for, all where empty")
    specification = models.JSONField()
    tier = models.CharField(
        max_length=20, blank=True, help_text="The tier its jobs are opened with, the shop's usual where empty"
    )
    in_use = models.BooleanField(default=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(position__in=["front", "rear"]), name="pattern_position_known"),
            models.CheckConstraint(condition=~models.Q(name=""), name="pattern_has_name"),
            models.UniqueConstraint(fields=["shop", "position", "name"], name="pattern_name_once"),
        ]
