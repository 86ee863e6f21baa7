"""What every answer of the API has in common: it says that it is Felloe's, it is kept nowhere, it goes compressed."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware

from felloe.api.problems import unkeepable_question

#: What shrinks; pictures, PDF and archives do not.
SHRINKS = ("text/", "application/json", "application/problem+json", "application/yaml", "image/svg+xml")
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


class Compressed(GZipMiddleware):
    """Answers go compressed to whoever takes them so.

    Of random length, as Django does it, so that an answer's size tells nothing of a secret in it (the attack BREACH).
    """

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        if not response.get("Content-Type", "").startswith(SHRINKS):
            return response
        return super().process_response(request, response)


def keepable_questions(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """A NUL in what is asked for would end in the database's refusal: it is refused here."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        if request.path.startswith("/api/") and "%00" in request.META.get("QUERY_STRING", ""):
            return unkeepable_question(request)
        return get_response(request)

    return answer
