"""Slips suspected among a set's readings: what was typed, asked of the core; worked out once for as long as it stands."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import lru_cache
from uuid import UUID

from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services.learning import influence_with
from felloe.bench.services.looked import Look
from felloe.bench.services.prints import fingerprint
from felloe.bench.services.rows import Row
from felloe.core.components import Wheel as CoreWheel
from felloe.core.measuring.entry import deviation_entered, tension_entered
from felloe.core.measuring.slips import Entry, Slip, slips
from felloe.core.mechanics.readings import Readings, RunoutReading
from felloe.core.naming import SpokeName
from felloe.core.tension.meter import MeterTable as CoreTable
from felloe.instruments.services.instruments import core_table


def slips_of(reading_set: ReadingSet) -> tuple[Slip, ...]:
    """The slips suspected in a set as it stands."""
    return _kept(reading_set.pk, fingerprint(reading_set))


@lru_cache(maxsize=64)
def _kept(set_id: UUID, fingerprint: tuple[object, ...]) -> tuple[Slip, ...]:
    reading_set = ReadingSet.objects.select_related("job", "job__wheel", "job__wheel__bike", "created_by").get(pk=set_id)
    return slips_of_look(Look(reading_set))


def slips_of_look(look: Look) -> tuple[Slip, ...]:
    """The same from a look at it."""
    return slips(influence_with(look.wheel, look.known), look.own, _entries(look), look.seen)


def _entries(look: Look) -> list[Entry]:
    cores = {key: core_table(table) for key, table in look.tables.items()}
    return [entry for row in look.rows if (entry := _entry(look, row, cores)) is not None]


def readings_without(reading_set: ReadingSet, slip: Slip) -> Readings | None:
    """What the set would hold had the slip not been made; None where it cannot be said."""
    look = Look(reading_set)
    wheel = look.wheel
    entries = {(entry.kind, entry.spoke): entry for entry in _entries(look)}
    if not slip.instead or not slip.instead.keys() <= entries.keys():
        return None
    mended = {place: entries[place].stored(number) for place, number in slip.instead.items()}
    own = look.own
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


def _entry(look: Look, row: Row, cores: dict[UUID, CoreTable]) -> Entry | None:
    """A reading that was typed as a single number; what was felt, joined from repeats or taken from a file is none."""
    wheel, entered = look.wheel, row.entered
    typed = isinstance(entered.get("value"), int | float) and not entered.get("feel") and not entered.get("repeats")
    if row.kind == Reading.Kind.DISH or not typed or row.spoke not in wheel.index_of:
        return None
    shown = float(entered["value"])
    if row.kind != Reading.Kind.TENSION:
        return Entry(row.kind, row.spoke, shown, lambda number: deviation_entered({**entered, "value": number})[0])
    if row.meter_table_id is None:
        return Entry(row.kind, row.spoke, shown, _force(wheel, row, None))
    used = look.tables[row.meter_table_id]
    # The tables come oldest first.
    newest = {table.spoke_kind: table for table in look.tables.values() if table.meter_id == used.meter_id}
    others = {kind: _force(wheel, row, cores[table.pk]) for kind, table in newest.items() if kind != used.spoke_kind}
    return Entry(row.kind, row.spoke, shown, _force(wheel, row, cores[used.pk]), others)


def _force(wheel: CoreWheel, row: Row, table: CoreTable | None) -> Callable[[float], float]:
    spoke, entered = str(SpokeName.parse(row.spoke)), row.entered
    return lambda number: tension_entered(wheel, spoke, {**entered, "value": number}, table)[0]
