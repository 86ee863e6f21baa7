"""A moment of the database: a name of what had been committed by then, so that what came since can be asked for exactly."""

from __future__ import annotations

from felloe.places.here import database


def moment_now() -> str:
    """Which transactions are visible now. Numbers that rise do not do: they are not committed in their order."""
    with database().cursor() as cursor:
        cursor.execute("SELECT pg_current_snapshot()::text || '@' || extract(epoch FROM now())::bigint")
        return str(cursor.fetchone()[0])
