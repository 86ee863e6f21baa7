"""How often a name may be tried from one address: whoever guesses is stopped, and nobody behind the same address with them."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import Any

from axes.handlers.proxy import AxesProxyHandler
from axes.models import AccessAttempt, AccessFailureLog
from django.http import HttpRequest

from felloe.accounts.models import Shop
from felloe.api.problems import Refused
from felloe.core.said import say

WAIT = timedelta(minutes=15)
#: Failed sign-ins are kept with name and address for so long, to see who guessed.
KEPT = timedelta(days=30)


def address_of(request: HttpRequest) -> str:
    """Who asks: as the proxy of this machine says, else as the connection does. From elsewhere nobody may say it himself."""
    direct = str(request.META.get("REMOTE_ADDR", ""))
    if direct in ("127.0.0.1", "::1"):
        return str(request.META.get("HTTP_X_FORWARDED_FOR", "")).rpartition(",")[2].strip()[:45] or direct
    return direct


def name_of(_request: HttpRequest | None, credentials: Mapping[str, Any] | None = None) -> str:
    """The name that is tried, in its shop; large and small letters are one."""
    said = credentials or {}
    shop = said.get("shop")
    return f"{shop.code if isinstance(shop, Shop) else '?'}/{str(said.get('username', '')).strip().lower()}"[:150]


def may_try(request: HttpRequest, shop: Shop | None, username: str) -> None:
    """Raises Refused (429) where this name was tried too often from there."""
    if not AxesProxyHandler.is_allowed(request, {"username": username, "shop": shop}):
        minutes = int(WAIT.total_seconds() // 60)
        raise Refused(
            "too_many_tries",
            say("Too many wrong passwords for this name from here. Wait {minutes} minutes and try again.", minutes=minutes),
            429,
        )


def forget_old(now: datetime) -> None:
    """What is older than it is kept for goes."""
    AccessFailureLog.objects.filter(attempt_time__lt=now - KEPT).delete()
    AccessAttempt.objects.filter(attempt_time__lt=now - KEPT).delete()
