"""Slips suspected among a set's readings: what was typed, asked of the core; worked out once for as long as it stands."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import lru_cache
from uuid import UUID

from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services.learning import influence_with, known_of
from felloe.bench.services.readings import current_readings, wheel_of
from felloe.bench.services.states import fingerprint, own_readings
from felloe.core.components import Wheel as CoreWheel
from felloe.core.measuring.entry import deviation_entered, tension_entered
from felloe.core.measuring.slips import Entry, Slip, slips
from felloe.core.mechanics.readings import Readings, RunoutReading
from felloe.core.naming import SpokeName
from felloe.instruments.models import MeterTable
from felloe.instruments.services.instruments import core_table


def slips_of(reading_set: ReadingSet) -> tuple[Slip, ...]:
    """The slips suspected in a set as it stands."""
    return _kept(reading_set.pk, fingerprint(reading_set))


@lru_cache(maxsize=64)
def _kept(set_id: UUID, fingerprint: tuple[object, ...]) -> tuple[Slip, ...]:
    reading_set = ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id)
    wheel = wheel_of(reading_set)
    return slips(influence_with(wheel, known_of(reading_set)), own_readings(reading_set), _entries(reading_set, wheel))


def _entries(reading_set: ReadingSet, wheel: CoreWheel) -> list[Entry]:
    rows = sorted(current_readings(reading_set), key=lambda row: row.created_at)
    tables: dict[UUID, list[MeterTable]] = {}
    return [entry for row in rows if (entry := _entry(wheel, row, tables)) is not None]


def readings_without(reading_set: ReadingSet, slip: Slip) -> Readings | None:
    """What the set would hold had the slip not been made; None where it cannot be said."""
    wheel = wheel_of(reading_set)
    entries = {(entry.kind, entry.spoke): entry for entry in _entries(reading_set, wheel)}
    if not slip.instead or not slip.instead.keys() <= entries.keys():
        return None
    mended = {place: entries[place].stored(number) for place, number in slip.instead.items()}
    own = own_readings(reading_set)
    at = {round(angle, 2): str(name) for angle, name in zip(wheel.angles_deg, wheel.names, strict=True)}

    def runout(kind: str, found: Sequence[RunoutReading]) -> list[RunoutReading]:
        places = [(kind, at.get(round(r.angle_deg, 2), "")) for r in found]
        return [replace(r, deviation_mm=mended.get(p, r.deviation_mm)) for r, p in zip(found, places, strict=True)]

    return Readings(
        [replace(r, tension_n=mended.get(("tension", r.spoke), r.tension_n)) for r in own.tension],
        runout("lateral", own.lateral),
        runout("radial", own.radial),
        own.dish,
    )


def _entry(wheel: CoreWheel, row: Reading, tables: dict[UUID, list[MeterTable]]) -> Entry | None:
    """A reading that was typed as a single number; what was felt, joined from repeats or taken from a file is none."""
    entered = row.entered
    typed = isinstance(entered.get("value"), int | float) and not entered.get("feel") and not entered.get("repeats")
    if row.kind == Reading.Kind.DISH or not typed or row.spoke not in wheel.index_of:
        return None
    shown = float(entered["value"])
    if row.kind != Reading.Kind.TENSION:
        return Entry(row.kind, row.spoke, shown, lambda number: deviation_entered({**entered, "value": number})[0])
    used = row.meter_table
    if used is None:
        return Entry(row.kind, row.spoke, shown, _force(wheel, row, None))
    if used.meter_id not in tables:
        tables[used.meter_id] = list(MeterTable.objects.filter(meter_id=used.meter_id).order_by("created_at"))
    newest = {table.spoke_kind: table for table in tables[used.meter_id]}
    others = {kind: _force(wheel, row, table) for kind, table in newest.items() if kind != used.spoke_kind}
    return Entry(row.kind, row.spoke, shown, _force(wheel, row, used), others)


def _force(wheel: CoreWheel, row: Reading, table: MeterTable | None) -> Callable[[float], float]:
    spoke, entered = str(SpokeName.parse(row.spoke)), row.entered
    core = core_table(table) if table is not None else None
    return lambda number: tension_entered(wheel, spoke, {**entered, "value": number}, core)[0]
