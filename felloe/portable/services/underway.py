"""How far a taking in has come, for whoever waits for it: told from outside of its transaction."""

from __future__ import annotations

import logging
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from datetime import datetime, timedelta
from uuid import UUID

from django.db import DatabaseError
from django.utils import timezone

from felloe.accounts.models import User
from felloe.places.here import database
from felloe.portable import answers
from felloe.portable.models import Underway

#: What a killed process left behind is swept by the next taking in.
LONGEST = timedelta(hours=2)
_log = logging.getLogger(__name__)


@contextmanager
def told(user: User, key: UUID | None, total: int) -> Iterator[Callable[[int], None]]:
    """Gives what to call after each wheel. Nobody waits for it without a `key`; what cannot be told stops nothing."""
    if key is None:
        yield lambda done: None
        return
    beside = database().copy()

    def execute(sql: str, *values: UUID | int | datetime) -> None:
        try:
            with beside.cursor() as cursor:
                cursor.execute(sql, values)
        except DatabaseError as error:
            _log.warning("The progress of a taking in is not told: %s", error)

    execute("DELETE FROM portable_underway WHERE started_at < %s", timezone.now() - LONGEST)
    execute(
        "INSERT INTO portable_underway (id, shop_pk, done, total, started_at) VALUES (%s, %s, 0, %s, %s)"
        " ON CONFLICT DO NOTHING",
        key,
        user.shop_id,
        total,
        timezone.now(),
    )
    try:
        yield lambda done: execute(
            "UPDATE portable_underway SET done = %s WHERE id = %s AND shop_pk = %s", done, key, user.shop_id
        )
    finally:
        execute("DELETE FROM portable_underway WHERE id = %s AND shop_pk = %s", key, user.shop_id)
        with suppress(DatabaseError):
            beside.close()


def how_far(user: User, key: UUID) -> answers.Underway:
    """Nought of nought where nothing of that key is under way in this shop, not yet or no longer."""
    row = Underway.objects.filter(pk=key, shop_pk=user.shop_id).first()
    return answers.Underway(row.done, row.total) if row else answers.Underway(0, 0)
