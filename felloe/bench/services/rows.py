"""What stands at each place of a set, as plain rows: an estimate needs no more of a reading, and a row is quickly made."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from felloe.bench.models import Reading, ReadingSet
from felloe.core.tension.evenness import read_spread_percent

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
    newest = Reading.objects.filter(reading_set=reading_set).order_by("kind", "spoke", "-revision").distinct("kind", "spoke")
    return {(values[0], values[1]): Row(*values) for values in newest.values_list(*_FIELDS)}


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
