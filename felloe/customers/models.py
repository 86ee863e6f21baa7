"""Customers and their bikes."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow
from felloe.core.refit.checklist import AXLES, DROPOUTS, TYRES
from felloe.core.said import say


class Customer(EditableRow):
    """Who brings wheels. One who was entered twice keeps both rows: the second points to the first, and owns nothing more."""

    class Prefers(models.TextChoices):
        PHONE = "phone", say("By phone")
        TEXT = "text", say("By text message")
        EMAIL = "email", say("By e-mail")

    name = models.CharField(max_length=120)
    phone = models.CharField(max_length=40, blank=True)
    email = models.EmailField(blank=True)
    prefers = models.CharField(max_length=8, choices=Prefers, default=Prefers.PHONE, help_text="How to be told")
    language = models.CharField(max_length=10, default="en", help_text="BCP 47, of what is written to them")
    merged_into = models.ForeignKey(
        "self", on_delete=models.PROTECT, null=True, related_name="merged", help_text="The same customer under another entry"
    )
    note = models.CharField(max_length=500, blank=True)

    class Meta:
        indexes = [models.Index(fields=["shop", "name"])]
        constraints = [
            models.CheckConstraint(condition=~models.Q(name=""), name="customer_has_name"),
            models.CheckConstraint(condition=models.Q(prefers__in=["phone", "text", "email"]), name="customer_prefers_known"),
            models.CheckConstraint(
                condition=models.Q(merged_into__isnull=True) | ~models.Q(merged_into=models.F("id")),
                name="customer_not_into_self",
            ),
        ]


class Bike(EditableRow):
    """A customer's bike; brake and load decide limits and cautions."""

    class Brake(models.TextChoices):
        RIM = "rim", say("Rim brake")
        DISC = "disc", say("Disc brake")
        HUB = "hub", say("Hub brake")

    class Use(models.TextChoices):
        EVERYDAY = "everyday", say("Everyday")
        SPORT = "sport", say("Sport")
        TANDEM = "tandem", say("Tandem")
        CARGO = "cargo", say("Cargo or electric")
        TRACK = "track", say("Track")

    customer = models.ForeignKey(Customer, on_delete=models.PROTECT, related_name="bikes")
    label = models.CharField(max_length=120)
    asset_number = models.CharField(max_length=40, blank=True, help_text="The owner's own number of it, in a fleet")
    brake = models.CharField(max_length=5, choices=Brake)
    use = models.CharField(max_length=10, choices=Use, default=Use.EVERYDAY)
    dropout = models.CharField(max_length=10, blank=True, choices=DROPOUTS)
    axle = models.CharField(max_length=10, blank=True, choices=AXLES)
    axle_torque_nm = models.FloatField(null=True, blank=True, help_text="The maker's figure")
    tyre = models.CharField(max_length=10, blank=True, choices=TYRES)
    directional = models.BooleanField(default=False, help_text="The tyre's tread has a direction")

    class Meta:
        constraints = [
            models.CheckConstraint(condition=~models.Q(label=""), name="bike_has_label"),
            models.CheckConstraint(condition=models.Q(brake__in=["rim", "disc", "hub"]), name="bike_brake_known"),
            models.CheckConstraint(condition=models.Q(dropout__in=list(DROPOUTS)), name="bike_dropout_known"),
            models.CheckConstraint(condition=models.Q(axle__in=list(AXLES)), name="bike_axle_known"),
            models.CheckConstraint(condition=models.Q(tyre__in=list(TYRES)), name="bike_tyre_known"),
        ]
