"""Idempotent writes: `@write_once` on a view's method honours the Idempotency-Key header."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable, Sequence
from functools import wraps
from typing import Any
from uuid import UUID

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


def print_of(path: str, data: Any) -> str:
    """What was asked, a file by its own hash."""
    if isinstance(data, dict):
        data = {k: hashlib.sha256(v).hexdigest() if isinstance(v, bytes) else v for k, v in data.items()}
    content = json.dumps([path, data], sort_keys=True, cls=JSONEncoder)
    return hashlib.sha256(content.encode()).hexdigest()


class Once:
    """Many presses in one request, each with a key of its own: what was answered `before`, and what is noted of the rest.

    Made under a lock that every try of the same presses takes first, within a transaction.
    """

    def __init__(self, person: UUID, keys: Sequence[str]) -> None:
        self.person = person
        self.before = {row.key: row for row in WriteKey.objects.filter(user_id=person, key__in=keys)} if keys else {}
        self._made: list[WriteKey] = []

    def note(self, key: str, fingerprint: str, status: int, body: Any) -> None:
        """The same key in the same request again is answered as it was just now."""
        row = WriteKey(user_id=self.person, key=key, fingerprint=fingerprint, status=status, body=body)
        self.before[key] = row
        self._made.append(row)

    def save(self) -> None:
        if self._made:
            WriteKey.objects.bulk_create(self._made)


def signed(request: Request) -> None:
    """Tell the database who writes and from which page, so that those who are told of it know (see `felloe.live`)."""
    with database().cursor() as cursor:
        cursor.execute(
            "SELECT set_config('felloe.by', %s, true), set_config('felloe.tab', %s, true)",
            [str(request.user.pk), request.headers.get("X-Felloe-Tab", "")[:40]],
        )


def _first(person: str, key: str, fingerprint: str) -> bool:
    """Put a key down, or wait for who is about to: whether it was not there. One question in place of four."""
    with database().cursor() as cursor:
        cursor.execute(
            "INSERT INTO api_writekey (user_id, key, fingerprint, created_at) VALUES (%s, %s, %s, now()) "
            "ON CONFLICT (user_id, key) DO NOTHING",
            [person, key, fingerprint],
        )
        return bool(cursor.rowcount == 1)


def write_once(method: ViewMethod) -> ViewMethod:
    """Run the write and store its answer in one transaction; the same key again returns the stored answer.

    A key used for a different request is refused. A failed write stores nothing, so it may be tried again.
    """

    @wraps(method)
    def wrapper(view: Any, request: Request, *args: Any, **kwargs: Any) -> Response:
        key = request.headers.get("Idempotency-Key", "")
        if not key:
            with atomic():
                signed(request)
                return method(view, request, *args, **kwargs)
        if len(key) > 80:
            raise Refused("bad_write_key", say("An Idempotency-Key has at most 80 characters."), 400)
        fingerprint = print_of(request.get_full_path(), request.data)
        with atomic():
            signed(request)
            user_id = str(request.user.pk)
            if not _first(user_id, key, fingerprint):
                row = WriteKey.objects.get(user_id=user_id, key=key)
                if row.fingerprint != fingerprint:
                    raise Refused("write_key_reused", ALREADY, 409, saved=told(row.body))
                return Response(told(row.body), status=row.status, headers={"Idempotent-Replay": "true"})
            response = method(view, request, *args, **kwargs)
            body = json.loads(json.dumps(kept(response.data), cls=JSONEncoder))
            WriteKey.objects.filter(user_id=user_id, key=key).update(status=response.status_code, body=body)
            return response

    return wrapper
