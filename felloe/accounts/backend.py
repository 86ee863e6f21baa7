"""Who a name and a password belong to: a name is somebody's within one shop."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.backends import ModelBackend
from django.http import HttpRequest

from felloe.accounts.models import Shop, User


class ShopBackend(ModelBackend):
    """As Django's own, but for the shop. A name that is not there costs as much time as a wrong password."""

    def authenticate(  # type: ignore[override]
        self, request: HttpRequest | None, username: str = "", password: str = "", shop: Shop | None = None, **_more: Any
    ) -> User | None:
        user = User.objects.filter(shop=shop, username=username.strip().lower()).first() if shop else None
        if user is None:
            User().set_password(password)
            return None
        return user if user.check_password(password) and self.user_can_authenticate(user) else None

    def user_can_authenticate(self, user: Any) -> bool:
        """Who works there still, in a shop that is not suspended; asked anew with every request, so that sessions end too."""
        return bool(super().user_can_authenticate(user)) and user.shop.suspended_at is None

    def get_user(self, user_id: Any) -> User | None:
        user = User.objects.select_related("shop").filter(pk=user_id).first()
        return user if user is not None and self.user_can_authenticate(user) else None
