"""What the state of instruments says of the readings they took, then and since."""

from __future__ import annotations

from uuid import UUID

from felloe.bench.services.looked import Look
from felloe.bench.services.rows import Row
from felloe.core.said import say, say_count
from felloe.core.tension.calibration import drift
from felloe.instruments.models import Instrument, MeterTable
from felloe.instruments.services.instruments import checked_instruments, core_table, standing_of


def doubts_about(look: Look) -> list[str]:
    """One line for each instrument of a set that was overdue, failed a check, or has drifted since; empty when all is well."""
    by_instrument: dict[UUID, list[Row]] = {}
    for row in look.rows:
        by = row.instrument_id or (look.tables[row.meter_table_id].meter_id if row.meter_table_id else None)
        if by is not None:
            by_instrument.setdefault(by, []).append(row)
    if not by_instrument:
        return []
    instruments = {i.pk: i for i in checked_instruments(look.reading_set.shop_id, by_instrument)}
    lines = []
    for key, taken in by_instrument.items():
        instrument = instruments.get(key)
        if instrument is not None:
            lines += _lines(instrument, taken, look.tables)
    return lines


def _lines(instrument: Instrument, taken: list[Row], tables: dict[UUID, MeterTable]) -> list[str]:
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
    return _drifts(instrument, taken, count, tables)


def _drifts(instrument: Instrument, taken: list[Row], count: str, tables: dict[UUID, MeterTable]) -> list[str]:
    """A table that was calibrated anew since, and came out otherwise."""
    lines: list[str] = []
    # The tables come oldest first.
    newest = {table.spoke_kind: table for table in tables.values() if table.meter_id == instrument.pk}
    used = {tables[row.meter_table_id] for row in taken if row.meter_table_id is not None}
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
