"""Letters by e-mail: what was written to whom, and how far it got; and, where nothing leaves, what would have left."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow
from felloe.core.letters import LETTERS
from felloe.core.said import say


class Message(ShopRow):
    """One letter. It goes out once: before it is handed over it is marked as going, and what was interrupted just then is
    unsure, and asked about instead of being sent a second time."""

    class State(models.TextChoices):
        QUEUED = "queued", say("Waits to be sent")
        GOING = "going", say("Being sent")
        SENT = "sent", say("Sent")
        FAILED = "failed", say("Not sent")
        UNSURE = "unsure", say("Perhaps sent")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="messages")
    kind = models.CharField(max_length=10)
    language = models.CharField(max_length=10)
    to = models.EmailField()
    subject = models.CharField(max_length=200)
    text = models.TextField()
    state = models.CharField(max_length=8, choices=State, default=State.QUEUED)
    tries = models.PositiveSmallIntegerField(default=0)
    problem = models.CharField(max_length=200, blank=True)
    sent_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(kind__in=list(LETTERS)), name="message_kind_known"),
            models.CheckConstraint(
                condition=models.Q(state__in=["queued", "going", "sent", "failed", "unsure"]), name="message_state_known"
            ),
            models.CheckConstraint(
                condition=models.Q(state="sent", sent_at__isnull=False) | (~models.Q(state="sent") & models.Q(sent_at=None)),
                name="message_sent_has_time",
            ),
        ]
        indexes = [models.Index(fields=["shop", "-created_at"]), models.Index(fields=["job"])]


class CaughtMail(models.Model):
    """An e-mail that the demo caught instead of sending it."""

    at = models.DateTimeField(auto_now_add=True)
    shop = models.ForeignKey("accounts.Shop", on_delete=models.CASCADE, related_name="+", null=True)
    to = models.TextField()
    subject = models.CharField(max_length=200)
    text = models.TextField()
