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
