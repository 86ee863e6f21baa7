"""What was worked out of a shop's rows, kept in this process for as long as the rows stay the same.

The database's triggers write down each change beside the change itself (`felloe.live`), so one small question tells exactly
which jobs have changed since: only they are read again. Nothing here ages into a wrong answer; a transaction that has written
itself reads everything anew, since nobody has told it of its own changes yet.
"""

from __future__ import annotations

import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass
from typing import Generic, TypeVar
from uuid import UUID

from felloe.places.here import database, place

T = TypeVar("T")
#: After so long everything is read anew, whatever is known: well before the events of changes are cleared away.
AT_MOST_S = 600.0
#: Beyond so many changed jobs it is quicker to read all.
MOST_JOBS = 40
MOST_SHOPS = 16
#: Changes that touch no job's rows.
_ELSEWHERE = frozenset({"stock", "instruments", "tiers", "rail"})

_SINCE = """
WITH present AS MATERIALIZED (SELECT pg_current_snapshot() AS moment)
SELECT present.moment::text, pg_current_xact_id_if_assigned() IS NOT NULL, e.topic, e.job
FROM present LEFT JOIN live_liveevent e
    ON e.xid >= pg_snapshot_xmin(%(since)s::pg_snapshot)::text::bigint
    AND NOT pg_visible_in_snapshot(e.xid::text::xid8, %(since)s::pg_snapshot)
    AND e.shop_id = %(shop)s::uuid
"""
_NOW = "SELECT pg_current_snapshot()::text, pg_current_xact_id_if_assigned() IS NOT NULL"


@dataclass(frozen=True)
class _Entry(Generic[T]):
    moment: str
    read_at: float
    value: T


class Kept(Generic[T]):
    """Values of one kind by shop. `read_all` works one out; `read_some` renews what rests on some jobs of it."""

    def __init__(self, read_all: Callable[[UUID], T], read_some: Callable[[UUID, T, set[UUID]], T]) -> None:
        self._read_all, self._read_some = read_all, read_some
        self._entries: OrderedDict[tuple[str, UUID], _Entry[T]] = OrderedDict()

    def of(self, shop_id: UUID) -> T:
        """The value as of now."""
        entry = self._entries.get((place(), shop_id))
        if entry is None or time.monotonic() - entry.read_at > AT_MOST_S:
            return self._anew(shop_id)
        with database().cursor() as cursor:
            cursor.execute(_SINCE, {"since": entry.moment, "shop": shop_id})
            rows = cursor.fetchall()
        moment, writes = rows[0][:2]
        if writes:
            return self._read_all(shop_id)
        changes = [(topic, job) for _, _, topic, job in rows if topic is not None and topic not in _ELSEWHERE]
        jobs = {job for _, job in changes}
        if not changes:
            return entry.value
        if None in jobs or len(jobs) > MOST_JOBS:
            return self._anew(shop_id)
        value = self._read_some(shop_id, entry.value, jobs)
        self._keep(shop_id, _Entry(moment, entry.read_at, value))
        return value

    def forget(self) -> None:
        """Keep nothing of any shop: the next question reads everything."""
        self._entries.clear()

    def _anew(self, shop_id: UUID) -> T:
        with database().cursor() as cursor:
            cursor.execute(_NOW)
            moment, writes = cursor.fetchone()
        read_at = time.monotonic()
        value = self._read_all(shop_id)
        if not writes:
            self._keep(shop_id, _Entry(moment, read_at, value))
        return value

    def _keep(self, shop_id: UUID, entry: _Entry[T]) -> None:
        self._entries[place(), shop_id] = entry
        self._entries.move_to_end((place(), shop_id))
        while len(self._entries) > MOST_SHOPS:
            self._entries.popitem(last=False)
