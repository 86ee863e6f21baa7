"""The keys a shop signs its reports with: one in use, the earlier ones kept, so that what they signed can be checked."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.core.said import say


class SigningKey(ShopRow):
    """One Ed25519 key. The private half is kept sealed under the installation's secret, and goes once the key is retired."""

    class Ended(models.TextChoices):
        FOLLOWED = "followed", say("followed by a new one")
        LOST = "lost", say("lost")
        STOLEN = "stolen", say("in somebody else's hands")

    public = models.BinaryField(max_length=32)
    sealed_private = models.BinaryField(null=True)
    # The former key's word for this one; empty for the first, and after one was lost or stolen.
    vouched_by = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="+")
    vouched_signature = models.BinaryField(max_length=64, null=True)
    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    ended_as = models.CharField(max_length=10, choices=Ended, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop"], condition=models.Q(ended_at=None), name="signing_key_one_in_use"),
            models.UniqueConstraint(fields=["public"], name="signing_key_public_once"),
            models.CheckConstraint(
                condition=models.Q(ended_at=None, ended_as="", sealed_private__isnull=False)
                | models.Q(ended_at__isnull=False, sealed_private=None, ended_as__in=["followed", "lost", "stolen"]),
                name="signing_key_ends_once",
            ),
            models.CheckConstraint(
                condition=models.Q(vouched_by=None, vouched_signature=None)
                | models.Q(vouched_by__isnull=False, vouched_signature__isnull=False),
                name="signing_key_vouched_by_signature",
            ),
        ]
