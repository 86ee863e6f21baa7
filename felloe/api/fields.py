"""A column for what is said to people: a message keeps its template and figures, plain text stays text."""

from __future__ import annotations

from typing import Any

from django.db import models

from felloe.core.said import kept, told


class SaidField(models.JSONField):
    """Holds text, a message, or plain values with messages in them."""

    def get_prep_value(self, value: Any) -> Any:
        return super().get_prep_value(kept(value))

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        return told(super().from_db_value(value, expression, connection))
