"""What customers allow, and what was erased: kept without anybody's name."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.core.said import say


class Consent(ShopRow):
    """A customer's word on one purpose; the newest of each counts. Append-only."""

    class Purpose(models.TextChoices):
        PHOTOS = "photos", say("Photos of their wheels are kept beyond the usual time")
        NAME = "name", say("Name and address are kept beyond the usual time")

    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="consents")
    purpose = models.CharField(max_length=8, choices=Purpose)
    given = models.BooleanField()

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(purpose__in=["photos", "name"]), name="consent_purpose_known")]
        indexes = [models.Index(fields=["customer", "purpose", "-created_at"])]


class Erasure(ShopRow):
    """A customer whose data were erased: by whom, when, and how many rows of each table it reached. Append-only."""

    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="erasures")
    counts = models.JSONField()
    by_itself = models.BooleanField(default=False, help_text="The shop's times were over; nobody pressed")
