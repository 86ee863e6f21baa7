"""Who a session belongs to, for a process that has no requests of Django's."""

from __future__ import annotations

from importlib import import_module

from django.conf import settings
from django.contrib.auth import get_user
from django.http import HttpRequest

from felloe.accounts.models import User


def person_of(session_key: str) -> User | None:
    """Whose session this is; None where it is over, or its person left or changed the password."""
    request = HttpRequest()
    request.session = import_module(settings.SESSION_ENGINE).SessionStore(session_key)
    user = get_user(request)
    return user if isinstance(user, User) else None
