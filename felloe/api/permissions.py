"""Who may call: staff of a shop, and for some writes only certain roles."""

from __future__ import annotations

from typing import TYPE_CHECKING

from rest_framework.permissions import BasePermission
from rest_framework.request import Request

if TYPE_CHECKING:
    from rest_framework.views import APIView

    from felloe.accounts.models import User


class IsShopStaff(BasePermission):
    """A signed-in, active member of a shop's staff."""

    def has_permission(self, request: Request, view: APIView) -> bool:
        user = request.user
        return bool(user and user.is_authenticated and user.is_active and getattr(user, "shop_id", None))


def staff(request: Request) -> User:
    """The signed-in member of staff; only behind IsShopStaff."""
    from felloe.accounts.models import User

    if not isinstance(request.user, User):
        raise TypeError("a view behind IsShopStaff was called without staff")
    return request.user
