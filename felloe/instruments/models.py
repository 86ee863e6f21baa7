"""Instruments, their tables and their checks. Tables and checks are append-only."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.measuring.instruments import INSTRUMENT_KINDS
from felloe.core.said import say
from felloe.core.tension.meter import USUAL_RESOLUTION


class Instrument(EditableRow):
    """An instrument of the shop: a tension meter, dial, caliper, ruler, dishing gauge or stand."""

    class Use(models.TextChoices):
        IN_USE = "in_use", say("In use")
        RESTING = "resting", say("Put aside")
        RETIRED = "retired", say("Retired")

    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=16, default="tension_meter")
    owner = models.CharField(max_length=120, blank=True, help_text="Whose it is, where not the shop's")
    serial = models.CharField(max_length=60, blank=True)
    use = models.CharField(max_length=8, choices=Use, default=Use.IN_USE)
    check_every_days = models.PositiveSmallIntegerField(default=180)
    address = models.CharField(max_length=120, blank=True, help_text="host:port of one that streams lines over TCP")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "name"], name="instrument_name_once_in_shop"),
            models.CheckConstraint(condition=models.Q(kind__in=list(INSTRUMENT_KINDS)), name="instrument_kind_known"),
            models.CheckConstraint(condition=models.Q(use__in=["in_use", "resting", "retired"]), name="instrument_use_known"),
            models.CheckConstraint(
                condition=models.Q(check_every_days__gte=1, check_every_days__lte=3650), name="instrument_days_in_range"
            ),
        ]


class MeterTable(ShopRow):
    """A meter's readings against forces for one kind of spoke. Append-only: the newest counts, old readings keep theirs."""

    class Source(models.TextChoices):
        MAKER = "maker", say("The maker's chart")
        CALIBRATED = "calibrated", say("Calibrated here")
        DERIVED = "derived", say("Derived from another thickness")

    meter = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="tables")
    spoke_kind = models.CharField(max_length=40)
    readings = models.JSONField()
    forces_n = models.JSONField()
    resolution = models.FloatField(default=USUAL_RESOLUTION)
    residual_n = models.FloatField(default=20.0)
    source = models.CharField(max_length=10, choices=Source, default=Source.MAKER)
    points = models.JSONField(default=dict, help_text="Readings and known loads of a calibration")
    derived_from = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(resolution__gt=0), name="meter_resolution_positive"),
            models.CheckConstraint(condition=models.Q(residual_n__gte=0), name="meter_residual_not_negative"),
            models.CheckConstraint(
                condition=models.Q(source__in=["maker", "calibrated", "derived"]), name="meter_table_source_known"
            ),
            models.CheckConstraint(
                condition=~models.Q(source="derived") | models.Q(derived_from__isnull=False),
                name="derived_table_says_from_what",
            ),
        ]
        indexes = [models.Index(fields=["meter", "spoke_kind", "created_at"])]


class InstrumentCheck(ShopRow):
    """One check of an instrument, signed by who made it; append-only, the newest says where it stands."""

    instrument = models.ForeignKey(Instrument, on_delete=models.PROTECT, related_name="checks")
    passed = models.BooleanField()
    note = SaidField()
    figures = models.JSONField(default=dict)
    table = models.ForeignKey(MeterTable, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        indexes = [models.Index(fields=["instrument", "created_at"])]
