"""What every answer of the API has in common: it says that it is Felloe's, it is kept nowhere, it goes compressed."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from itertools import product
from typing import TypeGuard

import brotli
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.middleware.gzip import GZipMiddleware
from django.utils.cache import patch_vary_headers

from felloe.api.problems import unkeepable_question

#: What shrinks; pictures, PDF and archives do not.
SHRINKS = ("text/", "application/json", "application/problem+json", "application/yaml", "image/svg+xml")
JSON = ("application/json", "application/problem+json")
#: Shorter ones grow; as Django has it for gzip [bytes].
WORTH_IT = 200
#: Four kinds of blanks are two bits each, so that four of them are a byte; up to 100 of these, as Django adds to gzip.
BLANKS = [bytes(four) for four in product(b" \t\n\r", repeat=4)]
MOST_BLANKS = 100
#: A fifth to a quarter slower than gzip at its usual level, and a ninth to a fifth smaller, on a rail of 45 and 284 kB.
QUALITY = 5
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
    """Answers go compressed to whoever takes them so: JSON by brotli, all else by gzip.

    Of random length, as Django does it, so that an answer's size tells nothing of a secret in it (the attack BREACH).
    """

    def process_response(self, request: HttpRequest, response: HttpResponseBase) -> HttpResponseBase:
        if not response.get("Content-Type", "").startswith(SHRINKS):
            return response
        if not _is_answer(response) or not _takes_brotli(request):
            return super().process_response(request, response)
        patch_vary_headers(response, ("Accept-Encoding",))
        if len(response.content) >= WORTH_IT and not response.has_header("Content-Encoding"):
            # JSON may be followed by blanks, and these shrink no further.
            blanks = b"".join(BLANKS[byte] for byte in secrets.token_bytes(secrets.randbelow(MOST_BLANKS + 1)))
            response.content = brotli.compress(response.content + blanks, quality=QUALITY)
            response["Content-Encoding"] = "br"
            response["Content-Length"] = str(len(response.content))
        return response


def _is_answer(response: HttpResponseBase) -> TypeGuard[HttpResponse]:
    """JSON that is no file: a file is what it is, to its last byte."""
    json = response.get("Content-Type", "").startswith(JSON)
    return json and isinstance(response, HttpResponse) and not response.has_header("Content-Disposition")


def _takes_brotli(request: HttpRequest) -> bool:
    takes = request.headers.get("Accept-Encoding", "").lower().replace(" ", "").split(",")
    return any(one == "br" or (one.startswith("br;q=") and one[5:].strip("0.") != "") for one in takes)


def keepable_questions(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """A NUL in what is asked for would end in the database's refusal: it is refused here."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        if request.path.startswith("/api/") and "%00" in request.META.get("QUERY_STRING", ""):
            return unkeepable_question(request)
        return get_response(request)

    return answer
