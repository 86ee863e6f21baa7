"""An operation of the API: its name, its description and the right to it, said in one place on the view's method."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import nullcontext
from functools import wraps
from typing import TYPE_CHECKING, Any

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from felloe.accounts import fence, rights
from felloe.accounts.models import User
from felloe.accounts.services import sessions
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.places.here import reading

if TYPE_CHECKING:
    from rest_framework.views import APIView

ViewMethod = Callable[..., Any]


def operation(name: str, *, may_lag: bool = False, **description: Any) -> Callable[[ViewMethod], ViewMethod]:
    """Name a view's method: asks the table of rights before it runs; `description` goes to extend_schema.

    With `may_lag` it only reads, and may be answered from the standby as of some milliseconds ago (felloe/places/).
    A method without a name is refused to everybody (`permissions.MayDoIt`), a name that the table does not hold is a TypeError.
    """
    if name not in rights.RIGHTS:
        raise TypeError(f"the operation {name} stands nowhere in the table of rights")

    def named(method: ViewMethod) -> ViewMethod:
        @wraps(method)
        def asked(view: APIView, request: Request, *args: Any, **kwargs: Any) -> Response:
            if rights.RIGHTS[name] is rights.ANYBODY:
                return method(view, request, *args, **kwargs)  # type: ignore[no-any-return]
            _same_person(request)
            rights.require(staff(request).role, name)
            _fully(request, name)
            with fence.within(staff(request).shop_id), reading() if may_lag else nullcontext():
                return method(view, request, *args, **kwargs)  # type: ignore[no-any-return]

        described: ViewMethod = extend_schema(operation_id=name, **description)(asked)
        described.operation = name  # type: ignore[attr-defined]
        return described

    return named


def _same_person(request: Request) -> None:
    """A tablet says for whom it speaks: once somebody else has signed in on it, nothing is written in the wrong name."""
    said = request.headers.get("X-Felloe-Person", "")
    if said and said != str(staff(request).pk):
        raise Refused("other_person", say("{name} is signed in on this tablet now.", name=staff(request).display_name), 403)


def _fully(request: Request, name: str) -> None:
    """Four digits are enough at the bench, not for the shop's keys; nor is a password of yesterday."""
    session = getattr(request._request, "session", None)
    if session is None:
        return
    sessions.seen(session)
    if name not in rights.FULL:
        return
    if session.get(sessions.BY_PIN):
        raise Refused(
            "full_sign_in", say("This needs the full sign-in with name and password: four digits are not enough."), 403
        )
    if not sessions.lately_in_full(session):
        raise Refused("full_sign_in", say("This needs a password of today: sign out and in again, then go on here."), 403)


def staff(request: Request) -> User:
    """The signed-in member of staff; only behind MayDoIt."""
    if not isinstance(request.user, User):
        raise TypeError("an operation was called without staff")
    return request.user
