"""What changed since a moment, straight from PostgreSQL: nothing missed and nothing waited for."""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import Any

from psycopg import AsyncConnection, errors
from psycopg.rows import dict_row

#: So long are events kept; who comes back later starts anew.
KEPT_SECONDS = 3600
#: A moment a little younger than what was purged, so that clocks need not agree.
TRUSTED_SECONDS = KEPT_SECONDS - 300

#: One statement has one snapshot: what it sees, and the name of what it sees, belong together.
SINCE = """
WITH present AS MATERIALIZED (SELECT pg_current_snapshot() AS moment)
SELECT present.moment::text || '@' || extract(epoch FROM now())::bigint AS moment,
       e.id, e.shop_id, e.topic, e.job, e.reading_set, e.plan, e.spoke, e.by, e.tab, e.at
FROM present LEFT JOIN live_liveevent e
    ON e.xid >= pg_snapshot_xmin(%(since)s::pg_snapshot)::text::bigint
    AND NOT pg_visible_in_snapshot(e.xid::text::xid8, %(since)s::pg_snapshot)
    AND (%(shop)s::uuid IS NULL OR e.shop_id = %(shop)s::uuid)
ORDER BY e.id
"""
NOW = "SELECT pg_current_snapshot()::text || '@' || extract(epoch FROM now())::bigint AS moment"
#: A moment of another database (a restored one) may lie ahead of this one.
AHEAD = "SELECT pg_snapshot_xmax(%s::pg_snapshot) > pg_snapshot_xmax(pg_current_snapshot()) AS ahead"


@dataclass(frozen=True)
class Since:
    """The events after a moment and the moment they lead to; `anew` where nobody can tell what was missed."""

    moment: str
    events: list[dict[str, Any]]
    anew: bool = False


async def since(db: AsyncConnection[Any], moment: str, shop: str | None = None) -> Since:
    """What was committed after `moment`, of one shop or of all. A moment that cannot be read, or is too old, is `anew`."""
    snapshot, _, written = moment.partition("@")
    if not written.isdigit() or time.time() - int(written) > TRUSTED_SECONDS:
        return Since(await now(db), [], anew=True)
    async with db.cursor(row_factory=dict_row) as cursor:
        try:
            await cursor.execute(AHEAD, [snapshot])
            found = await cursor.fetchone()
            if found is None or found["ahead"]:
                return Since(await now(db), [], anew=True)
            await cursor.execute(SINCE, {"since": snapshot, "shop": shop})
        except (errors.InvalidTextRepresentation, errors.DataError):
            return Since(await now(db), [], anew=True)
        rows = await cursor.fetchall()
    return Since(str(rows[0]["moment"]), [row for row in rows if row["id"] is not None])


async def now(db: AsyncConnection[Any]) -> str:
    async with db.cursor() as cursor:
        await cursor.execute(NOW)
        row = await cursor.fetchone()
    assert row is not None
    return str(row[0])


async def purge(db: AsyncConnection[Any]) -> None:
    await db.execute("DELETE FROM live_liveevent WHERE at < now() - make_interval(secs => %s)", [KEPT_SECONDS])
