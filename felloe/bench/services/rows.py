"""What stands at each place of a set, as plain rows: an estimate needs no more of a reading, and a row is quickly made."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from felloe.bench.models import Reading, ReadingSet
from felloe.core.tension.evenness import read_spread_percent
from felloe.places.here import database

#: Kind and spoke; dish has no spoke.
Place = tuple[str, str]


@dataclass(frozen=True, slots=True)
class Row:
    """The newest revision of a place: `value` and `sd` in N or mm."""

    kind: str
    spoke: str
    value: float
    sd: float
    revision: int
    withdrawn: bool
    created_at: datetime
    entered: dict[str, Any]
    meter_table_id: UUID | None
    instrument_id: UUID | None


_FIELDS = tuple(Row.__dataclass_fields__)


def newest_rows(reading_set: ReadingSet) -> dict[Place, Row]:
    """The highest revision of each place, those that say that it was withdrawn as well."""
    # One value instead of a hundred rows: it is asked with every reading, and a row costs as much as it holds fields.
    with database().cursor() as cursor:
        cursor.execute(
            """
            SELECT json_agg(json_build_array(kind, spoke, value, sd, revision, withdrawn, created_at, entered, meter_table_id,
                                             instrument_id))::text
            FROM (SELECT DISTINCT ON (kind, spoke) * FROM bench_reading WHERE reading_set_id = %s
                  ORDER BY kind, spoke, revision DESC) AS newest
            """,
            [reading_set.pk],
        )
        (found,) = cursor.fetchone()
    rows = {}
    for kind, spoke, value, sd, revision, withdrawn, created_at, entered, table, instrument in json.loads(found or "[]"):
        at, keys = datetime.fromisoformat(created_at), [UUID(key) if key else None for key in (table, instrument)]
        rows[kind, spoke] = Row(kind, spoke, value, sd, revision, withdrawn, at, entered, *keys)
    return rows


def row_of(reading: Reading) -> Row:
    """The row of a reading just made."""
    return Row(*(getattr(reading, name) for name in _FIELDS))


def standing(rows: Iterable[Row]) -> list[Row]:
    """Those that were not withdrawn, in the order of entry."""
    return sorted((row for row in rows if not row.withdrawn), key=lambda row: row.created_at)


def current_rows(reading_set: ReadingSet) -> list[Row]:
    """What stands in a set, in the order of entry."""
    return standing(newest_rows(reading_set).values())


def spread_percent(rows: Iterable[Row]) -> float | None:
    """How uneven the tensions stand: the worse side, % of its mean; None on too few readings."""
    return read_spread_percent({row.spoke: row.value for row in rows if row.kind == Reading.Kind.TENSION and not row.withdrawn})
