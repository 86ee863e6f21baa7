"""Errors as problem details (RFC 9457): type, title, status, detail, and the fields at fault."""

from __future__ import annotations

import sys
from typing import Any

import psycopg
from django.core.exceptions import PermissionDenied
from django.db import Error as DatabaseFault
from django.db import InterfaceError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from rest_framework import exceptions
from rest_framework.response import Response
from rest_framework.views import set_rollback

from felloe.api.language import spoken_for
from felloe.core.errors import TradeError
from felloe.core.said import say

CONTENT_TYPE = "application/problem+json"
CSRF_SAYS = say("This page has lost its cookie. Try once more; if that does not help, load the page anew.")


class Refused(Exception):
    """A request that is well formed but that the shop's rules refuse: 409 or 422 with a stable code."""

    def __init__(self, code: str, detail: str, status: int = 409, **extra: Any) -> None:
        super().__init__(detail)
        self.code, self.detail, self.status, self.extra = code, detail, status, extra


def refused_at(field: str, code: str, message: str) -> Refused:
    """A refusal that belongs to one field: 422."""
    return Refused(code, message, 422, errors=[{"field": field, "message": message, "code": code}])


class StaleWrite(Refused):
    """Somebody else changed the row since it was read: both versions go back to the person."""

    def __init__(self, yours: dict[str, Any], current: dict[str, Any]) -> None:
        super().__init__(
            "stale_write",
            say("Somebody changed this since you opened it. Look at both versions and decide."),
            yours=yours,
            current=current,
        )


def problem(status: int, code: str, detail: str, **extra: Any) -> Response:
    """One problem-details response."""
    body = {"type": f"urn:felloe:problem:{code}", "title": code.replace("_", " "), "status": status, "detail": detail, **extra}
    return Response(body, status=status, content_type=CONTENT_TYPE)


def _plain(status: int, code: str, detail: str) -> JsonResponse:
    """A problem document outside of DRF."""
    return JsonResponse(spoken_for(problem(status, code, detail).data), status=status, content_type=CONTENT_TYPE)


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """Django's own refusal of a write without its cookie (CSRF_FAILURE_VIEW)."""
    return _plain(403, "csrf_failed", CSRF_SAYS)


def nothing_here(request: HttpRequest, exception: Exception | None = None) -> HttpResponse:
    """An address that is none (handler404): of the API as a problem document, else only the status."""
    if not request.path.startswith("/api/"):
        return HttpResponse(status=404)
    return _plain(404, "not_found", say("There is nothing here, or it belongs to another shop."))


def unkeepable_question(request: HttpRequest) -> JsonResponse:
    """What stands behind the question mark holds what no text holds."""
    return _plain(400, "invalid_input", say("A character in it cannot be kept: write it again."))


def _database_is_away(error: BaseException | None) -> bool:
    """Whether nobody can say what became of it: the connection was lost or never made, or the server has been replaced.

    By PostgreSQL's classes of errors (its manual, appendix A): 08 connection, 53 no room, 57P shut down, 25006 read only.
    """
    if isinstance(error, InterfaceError):
        return True
    if not isinstance(error, DatabaseFault):
        return False
    state = getattr(error.__cause__, "sqlstate", None)
    if state is None:
        return isinstance(error.__cause__, psycopg.OperationalError)
    return state[:2] in ("08", "53") or state[:3] == "57P" or state == "25006"


def server_fault(request: HttpRequest) -> HttpResponse:
    """A fault of Felloe's own (handler500): the page must be able to tell it from what stands in between."""
    if _database_is_away(sys.exc_info()[1]):
        detail = say("The database does not answer just now. What was sent is sent again, and counts once.")
        away = _plain(503, "database_away", detail)
        away["Retry-After"] = "2"
        return away
    return _plain(500, "server_fault", say("Felloe had a fault of its own. Nothing was saved; try again."))


def _flatten(errors: Any, path: str = "") -> list[dict[str, str]]:
    """DRF's nested validation errors as a list of {field, message, code}."""
    if isinstance(errors, dict):
        found = []
        for key, value in errors.items():
            inner = path if key == "non_field_errors" else (f"{path}.{key}" if path else str(key))
            found += _flatten(value, inner)
        return found
    if isinstance(errors, list):
        found = []
        for i, value in enumerate(errors):
            nested = isinstance(value, dict | list)
            found += _flatten(value, f"{path}.{i}" if nested else path)
        return found
    return [{"field": path, "message": str(errors), "code": getattr(errors, "code", "invalid")}]


#: What is wrong with how something was sent, whatever it was.
OF_THE_FORM: dict[type[exceptions.APIException], tuple[int, str, str]] = {
    exceptions.UnsupportedMediaType: (415, "unsupported_media_type", say("It cannot be sent in this form.")),
    exceptions.MethodNotAllowed: (405, "method_not_allowed", say("That cannot be done with it.")),
    exceptions.NotAcceptable: (406, "not_acceptable", say("It cannot be given in this form.")),
    exceptions.Throttled: (429, "too_often", say("This was asked for too often from here. Wait an hour and try again.")),
    exceptions.ParseError: (400, "parse_error", say("this is not JSON in UTF-8").sentence()),
}


def problem_response(error: Exception, context: dict[str, Any]) -> Response | None:
    """DRF's exception handler: every refusal in one shape; anything else stays a 500."""
    set_rollback()
    if isinstance(error, Refused):
        return problem(error.status, error.code, error.detail, **error.extra)
    if isinstance(error, TradeError):
        errors = [{"field": error.field, "message": error.message, "code": error.code}]
        return problem(422, error.code, error.message, errors=errors)
    if isinstance(error, exceptions.ValidationError):
        errors = _flatten(error.detail)
        return problem(400, "invalid_input", errors[0]["message"] if errors else say("Invalid input."), errors=errors)
    if isinstance(error, Http404 | exceptions.NotFound):
        return problem(404, "not_found", say("There is nothing here, or it belongs to another shop."))
    if isinstance(error, exceptions.PermissionDenied) and str(error.detail).startswith("CSRF Failed"):
        return problem(403, "csrf_failed", CSRF_SAYS)
    if isinstance(error, PermissionDenied | exceptions.PermissionDenied):
        return problem(403, "not_permitted", str(error) or say("You may not do this."))
    if isinstance(error, exceptions.NotAuthenticated | exceptions.AuthenticationFailed):
        return problem(403, "not_signed_in", say("Sign in first."))
    for kind, (status, code, words) in OF_THE_FORM.items():
        if isinstance(error, kind):
            return problem(status, code, words)
    if isinstance(error, exceptions.APIException):
        return problem(error.status_code, error.default_code, str(error.detail))
    return None
