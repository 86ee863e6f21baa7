"""Parts in their bins, the ledger of every movement, and orders."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow
from felloe.api.fields import SaidField
from felloe.core.said import say
from felloe.core.stock.parts import PART_KINDS


class Part(EditableRow):
    """A kind of part with its bin. `attributes` are checked by the core (core.stock.parts) on every write."""

    kind = models.CharField(max_length=8)
    name = models.CharField(max_length=80)
    bin = models.CharField(max_length=20, blank=True)
    supplier = models.CharField(max_length=80, blank=True)
    supplier_code = models.CharField(max_length=40, blank=True)
    minimum = models.PositiveIntegerField(default=0)
    pack = models.PositiveIntegerField(default=1)
    lead_days = models.PositiveIntegerField(default=7)
    price_minor = models.PositiveBigIntegerField(null=True)
    attributes = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "name"], name="part_name_once_in_shop"),
            models.CheckConstraint(condition=models.Q(kind__in=list(PART_KINDS)), name="part_kind_known"),
            models.CheckConstraint(condition=models.Q(pack__gte=1), name="part_pack_at_least_one"),
        ]


class PurchaseOrder(EditableRow):
    """What was ordered of one supplier."""

    class State(models.TextChoices):
        SENT = "sent", say("Sent")
        RECEIVED = "received", say("Received")
        CANCELLED = "cancelled", say("Cancelled")

    supplier = models.CharField(max_length=80, blank=True)
    state = models.CharField(max_length=9, choices=State, default=State.SENT)

    class Meta:
        constraints = [
            models.CheckConstraint(condition=models.Q(state__in=["sent", "received", "cancelled"]), name="order_state_known"),
        ]
        indexes = [models.Index(fields=["shop"], condition=models.Q(state="sent"), name="order_under_way")]


class OrderLine(ShopRow):
    """One part of an order; what has come of it is in the ledger."""

    order = models.ForeignKey(PurchaseOrder, on_delete=models.PROTECT, related_name="lines")
    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="+")
    count = models.PositiveIntegerField()

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(count__gte=1), name="order_line_of_something")]


class Movement(ShopRow):
    """One entry of the ledger: append-only. `delta` changes what is in the bin, `claim_delta` what the job has reserved."""

    class Kind(models.TextChoices):
        RESERVE = "reserve", say("Reserved")
        RELEASE = "release", say("Let go")
        TAKE = "take", say("Taken")
        RETURN = "return", say("Put back")
        COUNT = "count", say("Counted")
        RECEIVE = "receive", say("Came in")
        CUT = "cut", say("Cut")

    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="movements", db_index=False)
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, null=True, related_name="movements")
    order_line = models.ForeignKey(OrderLine, on_delete=models.PROTECT, null=True, related_name="arrivals")
    kind = models.CharField(max_length=8, choices=Kind)
    delta = models.IntegerField(default=0)
    claim_delta = models.IntegerField(default=0)
    note = SaidField(default=str, blank=True)

    class Meta:
        constraints = [
            models.CheckConstraint(
                condition=models.Q(kind__in=["reserve", "release", "take", "return", "count", "receive", "cut"]),
                name="movement_kind_known",
            ),
            models.CheckConstraint(
                condition=models.Q(claim_delta=0) | models.Q(job__isnull=False), name="movement_claim_is_a_jobs"
            ),
        ]
        indexes = [
            models.Index(fields=["part", "created_at"]),
            models.Index(fields=["job"]),
            # What a part's minimum rests on: its use of late.
            models.Index(
                fields=["part", "created_at"],
                condition=models.Q(kind__in=["take", "cut"]),
                include=["delta"],
                name="movement_use",
            ),
        ]


class Balance(models.Model):
    """What the ledger leaves in a part's bin. Written by the database alone, with each entry: nobody can write here.

    A part without an entry has none. `felloe.stock.services.ledger` holds it against the ledger.
    """

    part = models.OneToOneField(Part, on_delete=models.PROTECT, primary_key=True, related_name="+")
    shop = models.ForeignKey("accounts.Shop", on_delete=models.PROTECT, related_name="+")
    on_hand = models.IntegerField()

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(on_hand__gte=0), name="bin_never_below_nothing")]


class Claimed(models.Model):
    """What a job has reserved of a part and not taken, and since when; gone when nothing is left. Written as `Balance` is."""

    part = models.ForeignKey(Part, on_delete=models.PROTECT, related_name="+", db_index=False)
    job = models.ForeignKey("queue.Job", on_delete=models.PROTECT, related_name="+")
    shop = models.ForeignKey("accounts.Shop", on_delete=models.PROTECT, related_name="+")
    count = models.IntegerField()
    since = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["part", "job"], name="claim_once_for_a_job"),
            models.CheckConstraint(condition=models.Q(count__gte=0), name="claim_never_below_nothing"),
        ]
