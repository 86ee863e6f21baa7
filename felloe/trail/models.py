"""Who changed what of a shop's lasting things: written by the database's own triggers, so that no way past them exists."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Change(models.Model):
    """One row that was made, changed or taken away. `fields`: column → [before, after], only those that differ. Append-only."""

    class Deed(models.TextChoices):
        MADE = "made"
        CHANGED = "changed"
        GONE = "gone"

    shop = models.ForeignKey("accounts.Shop", on_delete=models.PROTECT, related_name="+", db_index=False)
    topic = models.CharField(max_length=12)
    row = models.UUIDField()
    deed = models.CharField(max_length=7, choices=Deed)
    fields = models.JSONField()
    at = models.DateTimeField(help_text="Of its transaction: what was saved together has one time")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+", db_index=False)

    class Meta:
        indexes = [
            models.Index(fields=["shop", "topic", "row", "-at"], name="change_of_a_row"),
        ]
