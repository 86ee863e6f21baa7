"""Lots: many like wheels of one owner, each with its job."""

from __future__ import annotations

from django.db import models

from felloe.accounts.rows import EditableRow, ShopRow


class Lot(EditableRow):
    """So many like wheels that came together. Tier and complaint are those with which its jobs were opened."""

    name = models.CharField(max_length=120)
    customer = models.ForeignKey("customers.Customer", on_delete=models.PROTECT, related_name="lots")

    class Meta:
        constraints = [models.CheckConstraint(condition=~models.Q(name=""), name="lot_has_name")]


class LotItem(ShopRow):
    """One wheel of a lot by its owner's number. `exception`: why it does not go with the others."""

    lot = models.ForeignKey(Lot, on_delete=models.PROTECT, related_name="items")
    job = models.OneToOneField("queue.Job", on_delete=models.PROTECT, related_name="lot_item")
    place = models.PositiveSmallIntegerField()
    asset_number = models.CharField(max_length=40)
    exception = models.CharField(max_length=200, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["lot", "asset_number"], name="asset_once_in_lot"),
            models.UniqueConstraint(fields=["lot", "place"], name="place_once_in_lot"),
        ]
