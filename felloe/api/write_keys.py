"""Idempotent writes: `@write_once` on a view's method honours the Idempotency-Key header."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from functools import wraps
from typing import Any

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.utils.encoders import JSONEncoder

from felloe.api.models import WriteKey
from felloe.api.problems import Refused
from felloe.core.said import kept, say, told
from felloe.places.here import atomic, database

ViewMethod = Callable[..., Response]
#: A key is one press: what it carried first has been done, and the answer was lost on its way.
ALREADY = say("What you sent first did arrive and is saved. Look at it before you send it changed.")


def _fingerprint(request: Request) -> str:
    """What was asked, a file by its own hash."""
    data = request.data
    if isinstance(data, dict):
        data = {k: hashlib.sha256(v).hexdigest() if isinstance(v, bytes) else v for k, v in data.items()}
    content = json.dumps([request.get_full_path(), data], sort_keys=True, cls=JSONEncoder)
    return hashlib.sha256(content.encode()).hexdigest()


def _signed(request: Request) -> None:
    """Tell the database who writes and from which page, so that those who are told of it know (see `felloe.live`)."""
    with database().cursor() as cursor:
        cursor.execute(
            "SELECT set_config('felloe.by', %s, true), set_config('felloe.tab', %s, true)",
            [str(request.user.pk), request.headers.get("X-Felloe-Tab", "")[:40]],
        )


def write_once(method: ViewMethod) -> ViewMethod:
    """Run the write and store its answer in one transaction; the same key again returns the stored answer.

    A key used for a different request is refused. A failed write stores nothing, so it may be tried again.
    """

    @wraps(method)
    def wrapper(view: Any, request: Request, *args: Any, **kwargs: Any) -> Response:
        key = request.headers.get("Idempotency-Key", "")
        if not key:
            with atomic():
                _signed(request)
                return method(view, request, *args, **kwargs)
        if len(key) > 80:
            raise Refused("bad_write_key", say("An Idempotency-Key has at most 80 characters."), 400)
        fingerprint = _fingerprint(request)
        with atomic():
            _signed(request)
            user_id = str(request.user.pk)
            row, created = WriteKey.objects.get_or_create(user_id=user_id, key=key, defaults={"fingerprint": fingerprint})
            if not created:
                if row.fingerprint != fingerprint:
                    raise Refused("write_key_reused", ALREADY, 409, saved=told(row.body))
                return Response(told(row.body), status=row.status, headers={"Idempotent-Replay": "true"})
            response = method(view, request, *args, **kwargs)
            row.status = response.status_code
            row.body = json.loads(json.dumps(kept(response.data), cls=JSONEncoder))
            row.save(update_fields=["status", "body"])
            return response

    return wrapper
