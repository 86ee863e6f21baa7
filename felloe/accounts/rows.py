"""What every row of a shop has: a UUID, its shop, who made it and when."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models

from felloe.accounts.keys import uuid7


class ShopRow(models.Model):
    """Abstract row that belongs to a shop."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    shop = models.ForeignKey("accounts.Shop", on_delete=models.PROTECT, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    created_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+", null=True)

    class Meta:
        abstract = True


class GrowingRow(ShopRow):
    """A row of which there are a hundred for each job: its keys rise with time, and nobody looks for it by who made it."""

    id = models.UUIDField(primary_key=True, default=uuid7, editable=False)
    created_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+", null=True, db_index=False
    )

    class Meta:
        abstract = True


class EditableRow(ShopRow):
    """A row that people edit: its version rises with each change, so a stale write can be refused."""

    version = models.PositiveIntegerField(default=1)
    changed_at = models.DateTimeField(auto_now=True)
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+", null=True)

    class Meta:
        abstract = True

    def save_change(self, user: Any, fields: list[str]) -> None:
        """Save `fields`, raise the version, note who changed it. The caller holds the row's lock."""
        self.version += 1
        self.changed_by = user
        self.save(update_fields=[*fields, "version", "changed_by", "changed_at"])
