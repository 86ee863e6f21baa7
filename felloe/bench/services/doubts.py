"""What the state of instruments says of the readings they took, then and since."""

from __future__ import annotations

from collections.abc import Iterable
from uuid import UUID

from felloe.bench.models import Reading, ReadingSet
from felloe.core.said import say, say_count
from felloe.core.tension.calibration import drift
from felloe.instruments.models import Instrument, MeterTable
from felloe.instruments.services.instruments import core_table, instruments_of, standing_of


def doubts_about(reading_set: ReadingSet, rows: Iterable[Reading]) -> list[str]:
    """One line for each instrument of a set that was overdue, failed a check, or has drifted since; empty when all is well."""
    by_instrument: dict[UUID, list[Reading]] = {}
    for row in rows:
        by = row.instrument_id or (row.meter_table.meter_id if row.meter_table else None)
        if by is not None:
            by_instrument.setdefault(by, []).append(row)
    if not by_instrument or reading_set.created_by is None:
        return []
    instruments = {i.pk: i for i in instruments_of(reading_set.created_by)}
    lines = []
    for key, taken in by_instrument.items():
        instrument = instruments.get(key)
        if instrument is not None:
            lines += _lines(instrument, taken)
    return lines


def _lines(instrument: Instrument, taken: list[Reading]) -> list[str]:
    first = min(row.created_at for row in taken)
    count = say_count("{count} reading", "{count} readings", count=len(taken))
    then = standing_of(instrument, first)
    if then.warns:
        return [say("{instrument}, which took {count} here: {why}.", instrument=instrument.name, count=count, why=then.why)]
    later = [c for c in instrument.checks.all() if c.created_at > first]
    failed = min((c for c in later if not c.passed), key=lambda c: c.created_at, default=None)
    if failed is not None:
        return [
            say(
                "{instrument}, which took {count} here, failed its next check on {date}.",
                instrument=instrument.name,
                count=count,
                date=failed.created_at.date().isoformat(),
            )
        ]
    return _drifts(instrument, taken, count)


def _drifts(instrument: Instrument, taken: list[Reading], count: str) -> list[str]:
    """A table that was calibrated anew since, and came out otherwise."""
    lines: list[str] = []
    newest = {t.spoke_kind: t for t in sorted(instrument.tables.all(), key=lambda t: t.created_at)}
    used = {row.meter_table for row in taken if row.meter_table is not None}
    for table in sorted(used, key=lambda t: t.spoke_kind):
        later = newest.get(table.spoke_kind)
        if later is None or later.pk == table.pk or later.source != MeterTable.Source.CALIBRATED:
            continue
        moved = drift(core_table(later), core_table(table))
        if moved is not None and moved.drifted:
            lines.append(
                say(
                    "{instrument}, which took {count} here, was calibrated anew since: up to {largest_n:.0f} N "
                    "{way} for {spoke_kind}.",
                    instrument=instrument.name,
                    count=count,
                    largest_n=abs(moved.largest_n),
                    way=say("more") if moved.largest_n > 0 else say("less"),
                    spoke_kind=table.spoke_kind,
                )
            )
    return lines
