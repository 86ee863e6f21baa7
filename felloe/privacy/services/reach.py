"""Every table that belongs to a customer, found from the models themselves: a new table is reached without being named."""

from __future__ import annotations

from collections import deque
from collections.abc import Iterable, Iterator
from functools import cache
from uuid import UUID

from django.apps import apps
from django.db import models

from felloe.customers.models import Customer

#: Ways that lead to other people's things: staff, shops, and the customer's other entries.
_PEOPLE = {"created_by", "changed_by", "shop", "merged_into"}


@cache
def paths() -> dict[type[models.Model], str]:
    """Each model that hangs on a customer, with the shortest lookup that leads there; the customer first."""
    found: dict[type[models.Model], str] = {Customer: "pk"}
    waiting: deque[type[models.Model]] = deque([Customer])
    ours = [model for model in apps.get_models() if model.__module__.startswith("felloe.")]
    while waiting:
        parent = waiting.popleft()
        for model in ours:
            if model in found:
                continue
            for field in model._meta.fields:
                if isinstance(field, models.ForeignKey) and field.related_model is parent and field.name not in _PEOPLE:
                    found[model] = field.name if parent is Customer else f"{field.name}__{found[parent]}"
                    waiting.append(model)
                    break
    return found


def rows_of(customers: Iterable[UUID]) -> Iterator[tuple[type[models.Model], models.QuerySet[models.Model]]]:
    """Each such model with its rows of these customers."""
    ids = list(customers)
    for model, path in paths().items():
        yield model, model._default_manager.filter(**{f"{path}__in": ids})


def entries_of(customer: Customer) -> list[Customer]:
    """A customer with every entry that was merged into theirs."""
    found, waiting = [customer], [customer]
    while waiting:
        merged = list(Customer.objects.filter(merged_into=waiting.pop()))
        found += merged
        waiting += merged
    return found
