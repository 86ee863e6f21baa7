"""Write keys: a repeated write with the same key answers as the first did."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class WriteKey(models.Model):
    """One Idempotency-Key of one person, with the answer that was given."""

    id = models.BigAutoField(primary_key=True)
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=80)
    fingerprint = models.CharField(max_length=64)
    status = models.PositiveSmallIntegerField(null=True)
    body = models.JSONField(null=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "key"], name="one_write_per_key")]
