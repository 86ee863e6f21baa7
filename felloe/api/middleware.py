"""Every answer of the API says that it is Felloe's, so that the page knows it from the answer of something in between."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase

from felloe.api.problems import unkeepable_question

#: The API's version.
SIGN = "1"


def signed_answers(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    def answer(request: HttpRequest) -> HttpResponseBase:
        response = get_response(request)
        if request.path.startswith("/api/"):
            response["X-Felloe"] = SIGN
            # Names and telephone numbers stay in no cache between, nor on a shared tablet's disk.
            response.setdefault("Cache-Control", "private, no-store")
        return response

    return answer


def keepable_questions(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """A NUL in what is asked for would end in the database's refusal: it is refused here."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        if request.path.startswith("/api/") and "%00" in request.META.get("QUERY_STRING", ""):
            return unkeepable_question(request)
        return get_response(request)

    return answer
