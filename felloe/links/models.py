"""Links by which a customer sees how their wheel stands, and answers; what was asked, and every visit."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from felloe.accounts.rows import ShopRow


class CustomerLink(ShopRow):
    """One link of a job. Its address is signed and stands nowhere; `asked` is what it asks, frozen, and empty where it only
    shows how the wheel stands."""

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="links")
    language = models.CharField(max_length=10)
    asked = models.JSONField(default=dict, blank=True, help_text="chosen, gross_minor, tier, quote_version, warning")
    expires_at = models.DateTimeField()
    revoked_at = models.DateTimeField(null=True)
    revoked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    answered_at = models.DateTimeField(null=True)
    decision = models.OneToOneField("repair.Decision", on_delete=models.PROTECT, null=True, related_name="link")

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(answered_at__isnull=True, decision__isnull=True)
                | models.Q(answered_at__isnull=False, decision__isnull=False),
                name="link_answered_by_a_decision",
            ),
            models.CheckConstraint(
                condition=models.Q(decision__isnull=True) | ~models.Q(asked={}), name="link_answers_a_question"
            ),
        ]
        indexes = [models.Index(fields=["job", "created_at"])]


class LinkVisit(models.Model):
    """One opening or answer of a link: what rates are limited by, and how the shop knows that it was seen."""

    link = models.ForeignKey(CustomerLink, on_delete=models.CASCADE, related_name="visits")
    at = models.DateTimeField()
    wrote = models.BooleanField(default=False)

    class Meta:
        indexes = [models.Index(fields=["link", "at"])]


class StrangeVisit(models.Model):
    """An address that was no link: counted by whence it came, as a hash, so that nobody tries many."""

    whence = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["whence", "at"])]


class CalendarFeed(ShopRow):
    """The address at which calendars read the shop's promises. It is signed and stands nowhere; one at a time."""

    ended_at = models.DateTimeField(null=True)
    ended_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop"], condition=models.Q(ended_at=None), name="one_calendar_feed"),
        ]
