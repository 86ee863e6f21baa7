"""The place of a request: by a cookie, which names no more than where to look first for its session."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress

from django.conf import settings
from django.db import DEFAULT_DB_ALIAS
from django.http import HttpRequest
from django.http.response import HttpResponseBase

from felloe.places import here

COOKIE = "felloe_place"


def by_cookie(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """Before the session is looked for. A cookie of a place that is no more is none."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        said = request.COOKIES.get(COOKIE, "")
        with here.at(here.place()):
            with suppress(LookupError):
                here.settle(said or DEFAULT_DB_ALIAS)
            response = get_response(request)
            _keep(response, said, here.place())
        return response

    return answer


def _keep(response: HttpResponseBase, said: str, place: str) -> None:
    """Only with an answer that begins, goes on or ends a session: a customer's link leaves nothing on the device."""
    if settings.SESSION_COOKIE_NAME not in response.cookies or place == (said or DEFAULT_DB_ALIAS):
        return
    response.set_cookie(
        COOKIE,
        place,
        max_age=settings.SESSION_COOKIE_AGE,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Lax",
    )
