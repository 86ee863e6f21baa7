"""A long list in pages, newest first: each page begins behind the last row of the one before, whatever is added meanwhile."""

from __future__ import annotations

from typing import Any, TypeVar
from uuid import UUID

from django.db.models import Model, Q, QuerySet
from django.http import Http404
from rest_framework import serializers

Row = TypeVar("Row", bound=Model)


class BeforeSerializer(serializers.Serializer[Any]):
    """What a question for a page says."""

    before = serializers.UUIDField(required=False, help_text="The row behind which the page begins; without it the newest")


def page(rows: QuerySet[Row], before: UUID | None, most: int) -> tuple[list[Row], bool]:
    """At most `most` rows, those older than the row `before` where one is named, and whether there are earlier ones.

    `rows` have created_at; 404 where `before` is none of them.
    """
    found = rows.order_by("-created_at", "-pk")
    if before is not None:
        last = rows.filter(pk=before).values_list("created_at", "pk").first()
        if last is None:
            raise Http404
        found = found.filter(Q(created_at__lt=last[0]) | Q(created_at=last[0], pk__lt=last[1]))
    some = list(found[: most + 1])
    return some[:most], len(some) > most
