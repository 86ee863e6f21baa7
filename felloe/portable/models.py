"""What came in from another shop, so that it comes in once."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import ShopRow


class Taken(ShopRow):
    """A wheel or a customer that was taken in, by the name it had where it came from."""

    origin = models.UUIDField(help_text="Its id in the shop that it came from")
    customer = models.ForeignKey("customers.Customer", on_delete=models.CASCADE, null=True, related_name="+")
    wheel = models.ForeignKey("wheels.Wheel", on_delete=models.CASCADE, null=True, related_name="+")

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["shop", "origin"], name="taken_once"),
            models.CheckConstraint(
                condition=models.Q(customer__isnull=True) ^ models.Q(wheel__isnull=True), name="taken_is_one_thing"
            ),
        ]


class Sent(ShopRow):
    """A customer's record that went to another shop of the same person; it stays here as history."""

    customer = models.ForeignKey("customers.Customer", on_delete=models.CASCADE, related_name="+")
    to_shop = models.CharField(max_length=120, help_text="Its name then")


class Underway(models.Model):
    """How far a taking in has come: written beside its transaction, read by the page, gone when it ends.

    No foreign keys: the taking in holds the shop's row, and a key to it would wait for that.
    """

    id = models.UUIDField(primary_key=True, help_text="Chosen by the page that asks")
    shop_pk = models.UUIDField()
    done = models.PositiveIntegerField(default=0, help_text="Wheels")
    total = models.PositiveIntegerField(help_text="Wheels")
    started_at = models.DateTimeField(auto_now_add=True)
