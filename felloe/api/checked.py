"""What a request says, checked for its shape; its sense is the core's to check."""

from __future__ import annotations

from typing import Any

from rest_framework.serializers import Serializer


def checked(kind: type[Serializer[Any]], data: Any) -> dict[str, Any]:
    """The validated values of `data`; a wrong shape is answered with the fields at fault."""
    given = kind(data=data)
    given.is_valid(raise_exception=True)
    return dict(given.validated_data)
