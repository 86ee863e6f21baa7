"""How a shop's queue was played last."""

from __future__ import annotations

from django.db import models


class ShopPlay(models.Model):
    """One row a shop: the chance of each promise, by job, as played last, and what it rested on."""

    shop = models.OneToOneField("accounts.Shop", on_delete=models.PROTECT, primary_key=True, related_name="+")
    chances = models.JSONField(default=dict)
    fingerprint = models.CharField(max_length=64, blank=True)
    played_at = models.DateTimeField(null=True)
