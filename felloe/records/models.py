"""Sign-offs: what a wheel measured when it left, against what was agreed."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.api.fields import SaidField
from felloe.queue.tolerances import HeldToTier, held_within


class SignOff(HeldToTier, ShopRow):
    """One sign-off of a job, kept as it was made: the newest counts."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="sign_offs")
    as_found = models.ForeignKey("bench.ReadingSet", on_delete=models.PROTECT, null=True, related_name="+")
    as_left = models.ForeignKey("bench.ReadingSet", on_delete=models.PROTECT, related_name="+")
    figures = models.JSONField()
    short_of = SaidField(default=list)
    roadworthy = models.BooleanField()
    reason = models.CharField(max_length=1000, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=held_within(), name="sign_off_tier_known"),
            models.CheckConstraint(
                condition=(models.Q(short_of=[]) & models.Q(roadworthy=True)) | ~models.Q(reason=""),
                name="sign_off_short_of_tier_has_reason",
            ),
        ]
