"""The gate before every operation: a name, and a person of a shop."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rest_framework.exceptions import NotAuthenticated
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from felloe.accounts import rights

if TYPE_CHECKING:
    from rest_framework.views import APIView


class MayDoIt(BasePermission):
    """A signed-in, active member of a shop's staff, calling a method that has a name; a few names are anybody's."""

    def has_permission(self, request: Request, view: APIView) -> bool:
        name = getattr(getattr(view, (request.method or "").lower(), None), "operation", None)
        if name is None:
            return False
        if rights.RIGHTS[name] is rights.ANYBODY:
            return True
        user = request.user
        if not (user and user.is_authenticated and user.is_active and getattr(user, "shop_id", None)):
            raise NotAuthenticated
        return True
