"""One line of log and one count for each request, and a name by which both and the answer are found again.

Neither holds personal data: the way by its pattern, so that no link's token and no customer's id stands in it; the shop by its
id; no address, no name, no text.
"""

from __future__ import annotations

import re
import time
import uuid
from collections.abc import Callable

import structlog
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from prometheus_client import Counter, Histogram

#: What a proxy may have called the request: short, and nothing but letters, digits and dashes.
GIVEN = re.compile(r"[A-Za-z0-9-]{8,64}\Z")
ANSWERS = Counter("felloe_answers_total", "Answers", ["method", "way", "status"])
SECONDS = Histogram(
    "felloe_answer_seconds", "Seconds until the answer", ["way"], buckets=(0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 3, 10)
)
METHODS = {"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"}
QUIET_WAYS = {"health", "ready", "metrics"}
log = structlog.get_logger("felloe.requests")


def from_this_machine(request: HttpRequest) -> bool:
    """Asked on loopback, by nobody who stands behind a proxy."""
    return request.META.get("REMOTE_ADDR") in ("127.0.0.1", "::1") and "HTTP_X_FORWARDED_FOR" not in request.META


def observed(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    def answer(request: HttpRequest) -> HttpResponseBase:
        given = request.headers.get("X-Request-ID", "")
        name = given if GIVEN.match(given) else uuid.uuid4().hex
        begun = time.monotonic()
        with structlog.contextvars.bound_contextvars(request=name):
            response = get_response(request)
            took = time.monotonic() - begun
            found = request.resolver_match
            way = found.route if found else "none"
            method = request.method if request.method in METHODS else "other"
            ANSWERS.labels(method, way, str(response.status_code)).inc()
            SECONDS.labels(way).observe(took)
            if way not in QUIET_WAYS:
                # Only who was asked for anyway: a page is given also while the database is away.
                shop = str(getattr(getattr(request, "_cached_user", None), "shop_id", "") or "")
                log.info("answered", method=method, way=way, status=response.status_code, ms=round(took * 1000), shop=shop)
        response["X-Request-ID"] = name
        return response

    return answer
