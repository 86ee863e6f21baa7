"""What keeps an installation safe: every backup that was tried, with how it went. Of the whole installation, no shop's."""

from __future__ import annotations

from django.db import models


class BackupRun(models.Model):
    """One backup: `good` once its file was written and read back; `copied` once the second place had it too."""

    at = models.DateTimeField()
    file = models.CharField(max_length=120, blank=True)
    bytes = models.BigIntegerField(default=0)
    seconds = models.FloatField(default=0)
    good = models.BooleanField()
    copied = models.BooleanField(default=False)
    reason = models.CharField(max_length=300, blank=True, help_text="Why it failed")

    class Meta:
        indexes = [models.Index(fields=["-at"])]
