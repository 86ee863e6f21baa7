"""What changed, as the screens are told it. Written by the database's own triggers, in the transaction of the change."""

from __future__ import annotations

from django.db import models


class LiveEvent(models.Model):
    """One change: which job, set, plan or spoke, who made it from which tab. Kept an hour, for those who come back."""

    id = models.BigAutoField(primary_key=True)
    shop = models.ForeignKey("accounts.Shop", on_delete=models.CASCADE, related_name="+", db_index=False)
    xid = models.BigIntegerField(help_text="Its transaction: what a moment tells apart")
    topic = models.CharField(max_length=12)
    subject = models.CharField(max_length=60)
    job = models.UUIDField(null=True)
    reading_set = models.UUIDField(null=True)
    plan = models.UUIDField(null=True)
    spoke = models.CharField(max_length=8, blank=True)
    by = models.CharField(max_length=40, blank=True)
    tab = models.CharField(max_length=40, blank=True, help_text="The page that wrote; it knows already")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["xid", "topic", "subject"], name="told_once_a_transaction")]
        indexes = [models.Index(fields=["at"])]
