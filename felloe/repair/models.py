"""What was decided with the customer, and the refit; append-only."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.said import say
from felloe.queue.tolerances import HeldToTier, held_within


class Decision(HeldToTier, ShopRow):
    """What was laid before the customer, what was chosen, by whom and when. The newest counts; a refusal keeps the warning."""

    class Outcome(models.TextChoices):
        APPROVED = "approved", say("Approved")
        REFUSED = "refused", say("Refused")

    class How(models.TextChoices):
        COUNTER = "counter", say("At the counter")
        PHONE = "phone", say("By phone")
        WRITING = "writing", say("In writing")
        LINK = "link", say("By the link that was sent")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="decisions")
    outcome = models.CharField(max_length=8, choices=Outcome)
    chosen = models.JSONField(help_text="Keys of the chosen options")
    offered = SaidField(help_text="All options as they were shown")
    price_minor = models.BigIntegerField(null=True)
    minutes = models.PositiveIntegerField()
    by_whom = models.CharField(max_length=120)
    how = models.CharField(max_length=8, choices=How)
    warning = SaidField(default=str, blank=True, help_text="What the customer was told that speaks against it")
    note = models.CharField(max_length=500, blank=True)
    lines = SaidField(default=list, help_text="The quote as it was agreed, line by line")
    net_minor = models.BigIntegerField(null=True)
    tax_minor = models.BigIntegerField(null=True)
    tax_basis_points = models.PositiveIntegerField(default=0)
    currency = models.CharField(max_length=3, blank=True, default="")
    quote_version = models.PositiveIntegerField(default=0)
    words = SaidField(default=list, blank=True, help_text="What was said to the customer, sentence by sentence")

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(price_minor__isnull=True)
                | models.Q(net_minor__isnull=True)
                | models.Q(price_minor=models.F("net_minor") + models.F("tax_minor")),
                name="decision_adds_up",
            ),
            models.CheckConstraint(condition=models.Q(outcome__in=["approved", "refused"]), name="decision_outcome_known"),
            models.CheckConstraint(condition=held_within(), name="decision_tier_known"),
            models.CheckConstraint(condition=~models.Q(by_whom=""), name="decision_by_somebody"),
            models.CheckConstraint(condition=models.Q(outcome="refused") | ~models.Q(chosen=[]), name="approval_of_something"),
        ]


class RefitAnswer(ShopRow):
    """One step of the refit checklist as it was found; the newest of a step counts."""

    class Result(models.TextChoices):
        RIGHT = "right", say("Right")
        WRONG = "wrong", say("Not right")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="refit_answers")
    step = models.CharField(max_length=20)
    result = models.CharField(max_length=5, choices=Result)
    note = models.CharField(max_length=300, blank=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(result__in=["right", "wrong"]), name="refit_result_known")]
        indexes = [models.Index(fields=["job", "created_at"])]


class JobQuote(EditableRow):
    """What the shop adds to a job's quote by hand. A change of it voids what was agreed before."""

    job = models.OneToOneField("queue.Job", on_delete=models.PROTECT, related_name="quote")
    extras = models.JSONField(default=list, help_text="Lines: name, amount_minor")


class Payment(ShopRow):
    """Money that came, or below nothing went back; append-only."""

    class How(models.TextChoices):
        CASH = "cash", say("Cash")
        CARD = "card", say("Card")
        TRANSFER = "transfer", say("Bank transfer")
        ACCOUNT = "account", say("On account")

    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="payments")
    amount_minor = models.BigIntegerField()
    how = models.CharField(max_length=8, choices=How)
    note = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=~models.Q(amount_minor=0), name="payment_of_something"),
            models.CheckConstraint(
                condition=models.Q(how__in=["cash", "card", "transfer", "account"]), name="payment_how_known"
            ),
        ]
