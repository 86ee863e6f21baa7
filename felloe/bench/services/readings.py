"""Reading sets and readings: every reading is saved as it is entered, with who and when."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cache
from typing import Any
from uuid import UUID

from django.db import IntegrityError
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import DialTrace, Reading, ReadingSet
from felloe.bench.services import moving
from felloe.bench.services.rows import Row, newest_rows, spread_percent
from felloe.core.components import Wheel as CoreWheel
from felloe.core.measuring.entry import deviation_entered, dish_entered, spoke_on, tension_entered
from felloe.core.mechanics.readings import (
    DishReading,
    Readings,
    RunoutReading,
    TensionReading,
)
from felloe.core.naming import SpokeName
from felloe.core.said import say
from felloe.instruments.models import Instrument, MeterTable
from felloe.instruments.services.instruments import core_table, find_instrument, stand_error_mm, table_for
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels import services as wheels


@atomic
def open_set(user: User, job_id: UUID, stage: str, set_id: UUID | None = None) -> ReadingSet:
    """Begin a set of readings for a job that is not done.

    `set_id`: what a tablet off the net called it, where its readings wait under that name already.
    """
    job = queue.open_for_work(user, job_id)
    number = ReadingSet.objects.filter(job=job).count() + 1
    named = {} if set_id is None else {"pk": set_id}
    try:
        with atomic():
            made = ReadingSet.objects.create(shop_id=job.shop_id, job=job, stage=stage, number=number, created_by=user, **named)
    except IntegrityError as error:
        raise Refused("set_there", say("A set of readings of this name is there already.")) from error
    queue.log(
        job,
        user,
        "reading_set",
        say("{get_stage_display}, set {number}", get_stage_display=made.get_stage_display(), number=number),
    )
    moving.as_left_begun(user, job, stage)
    return find_set(user, made.pk)


def find_set(user: User, set_id: UUID) -> ReadingSet:
    found = ReadingSet.objects.select_related("job", "job__wheel", "created_by").filter(shop_id=user.shop_id, pk=set_id).first()
    if found is None:
        raise Http404
    return found


#: Said by columns of their own.
_IN_COLUMNS = frozenset({"kind", "spoke", "meter", "instrument"})


def as_entered(values: Mapping[str, Any]) -> dict[str, Any]:
    """What of an entry is kept as it was entered: figure, unit and way; place and instrument are columns."""
    return {key: value for key, value in values.items() if key not in _IN_COLUMNS}


def locked_set(user: User, set_id: UUID) -> ReadingSet:
    """A set with its job locked, whether that is open or not."""
    # One question, since it is asked before every reading.
    rows = ReadingSet.objects.select_for_update(of=("job",)).select_related("job__wheel")
    reading_set = next(iter(rows.filter(shop_id=user.shop_id, pk=set_id)), None)
    if reading_set is None:
        raise Http404
    return reading_set


def set_for_work(user: User, set_id: UUID) -> ReadingSet:
    """A set whose job is open, with that job locked: a sign-off never overlooks what is written meanwhile."""
    reading_set = locked_set(user, set_id)
    queue.go_on_with(user, reading_set.job)
    return reading_set


def sets_of(user: User, job_id: UUID) -> list[ReadingSet]:
    job = queue.find_job(user, job_id)
    return list(ReadingSet.objects.filter(job=job).select_related("created_by", "job").order_by("number"))


def wheel_of(reading_set: ReadingSet) -> CoreWheel:
    return wheels.core_wheel(reading_set.job.wheel)


def current_readings(reading_set: ReadingSet) -> list[Reading]:
    """The highest revision of each place, withdrawn ones left out, in the order of entry; for screens (see rows.py)."""
    newest = Reading.objects.filter(reading_set=reading_set).order_by("kind", "spoke", "-revision").distinct("kind", "spoke")
    rows = newest.select_related("created_by", "meter_table", "instrument")
    return sorted((row for row in rows if not row.withdrawn), key=lambda row: row.created_at)


def tensions_of(sets: Iterable[ReadingSet]) -> dict[UUID, dict[str, float]]:
    """The current tensions [N] of many sets by spoke, in one question."""
    found: dict[UUID, dict[str, float]] = {reading_set.pk: {} for reading_set in sets}
    rows = Reading.objects.filter(reading_set__in=found, kind="tension").order_by("revision", "created_at")
    for key, spoke, value, withdrawn in rows.values_list("reading_set_id", "spoke", "value", "withdrawn"):
        if withdrawn:
            found[key].pop(spoke, None)
        else:
            found[key][spoke] = value
    return found


def history_of(reading_set: ReadingSet, kind: str, spoke: str) -> list[Reading]:
    """Every revision of one place, oldest first."""
    rows = Reading.objects.filter(reading_set=reading_set, kind=kind, spoke=spoke)
    return list(rows.select_related("created_by").order_by("revision"))


@dataclass(frozen=True)
class Stored:
    """An entry as it is kept: `value` and `sd` [N or mm], the table and the instrument that it was read with."""

    spoke: str
    value: float
    sd: float
    table: MeterTable | None
    instrument: Instrument | None


class Instruments:
    """A person's instruments and tables, each asked for once."""

    def __init__(self, user: User) -> None:
        self.table = cache(lambda meter_id, spoke_kind: table_for(user, meter_id, spoke_kind))
        self.instrument = cache(lambda instrument_id: find_instrument(user, instrument_id))
        self.stand_error_mm = cache(lambda: stand_error_mm(user))


def stored_reading(user: User, wheel: CoreWheel, values: dict[str, Any], by: Instruments | None = None) -> Stored:
    """What an entry is kept as. Raises UnknownSpoke, BadReading or OutsideCalibration with the field at fault."""
    by = by or Instruments(user)
    spoke = "" if values["kind"] == Reading.Kind.DISH else spoke_on(wheel, values.get("spoke", ""))
    instrument = by.instrument(values["instrument"]) if values.get("instrument") else None
    return Stored(spoke, *_in_stored_units(by, wheel, spoke, values), instrument)


def _last_revision(reading_set: ReadingSet, kind: str, spoke: str) -> Reading | None:
    """The newest revision of a place; the set stays locked, so that two hands never make the same one."""
    list(ReadingSet.objects.select_for_update().filter(pk=reading_set.pk).values_list("pk"))
    return Reading.objects.filter(reading_set=reading_set, kind=kind, spoke=spoke).order_by("-revision").first()


def append_reading(
    user: User,
    reading_set: ReadingSet,
    kind: str,
    spoke: str,
    entered: dict[str, Any],
    value: float,
    sd: float,
    table: MeterTable | None,
    instrument: Instrument | None = None,
) -> Reading:
    """Append the next revision of a place."""
    last = _last_revision(reading_set, kind, spoke)
    made = Reading.objects.create(
        shop_id=reading_set.shop_id,
        reading_set=reading_set,
        kind=kind,
        spoke=spoke,
        revision=last.revision + 1 if last else 1,
        entered=as_entered(entered),
        value=value,
        sd=sd,
        meter_table=table,
        instrument=instrument,
        created_by=user,
    )
    if kind == Reading.Kind.TENSION:
        _note_spread(reading_set)
    return made


@dataclass(frozen=True)
class Recorded:
    """A reading out of a record, in N or mm: it comes in as it is, whatever it was read with."""

    kind: str
    spoke: str
    value: float
    sd: float
    entered: dict[str, Any]


def append_recorded(user: User, reading_set: ReadingSet, rows: Sequence[Recorded]) -> None:
    """Append many readings to a set at once, in their order: a place that comes twice gets a second revision."""
    ReadingSet.objects.select_for_update().get(pk=reading_set.pk)
    revisions: Counter[tuple[str, str]] = Counter()
    for kind, spoke, revision in reading_set.readings.values_list("kind", "spoke", "revision"):
        revisions[kind, spoke] = max(revisions[kind, spoke], revision)
    made = []
    for row in rows:
        revisions[row.kind, row.spoke] += 1
        made.append(
            Reading(
                shop_id=reading_set.shop_id,
                reading_set=reading_set,
                kind=row.kind,
                spoke=row.spoke,
                revision=revisions[row.kind, row.spoke],
                entered=as_entered(row.entered),
                value=row.value,
                sd=row.sd,
                created_by=user,
            )
        )
    Reading.objects.bulk_create(made)
    if any(row.kind == Reading.Kind.TENSION for row in rows):
        _note_spread(reading_set)


def _note_spread(reading_set: ReadingSet) -> None:
    """Keep how uneven a set's tensions are: estimates of many jobs at once ask for it."""
    spread = spread_percent(newest_rows(reading_set).values())
    ReadingSet.objects.filter(pk=reading_set.pk).exclude(spread_percent=spread).update(spread_percent=spread)


def spread_of(job: Job, first: bool = False) -> float | None:
    """How uneven a job's wheel was as it was read last, or `first`: tension of the worse side, % of its mean."""
    read = ReadingSet.objects.filter(job=job, spread_percent__isnull=False).order_by("number" if first else "-number")
    return read.values_list("spread_percent", flat=True).first()


@atomic
def withdraw_reading(user: User, set_id: UUID, kind: str, spoke: str) -> None:
    """Take a reading back: a revision that says so; the value stays in the history."""
    reading_set = set_for_work(user, set_id)
    last = _last_revision(reading_set, kind, spoke)
    if last is None or last.withdrawn:
        raise Http404
    Reading.objects.create(
        shop_id=reading_set.shop_id,
        reading_set=reading_set,
        kind=kind,
        spoke=spoke,
        revision=last.revision + 1,
        withdrawn=True,
        entered={"withdrawn": True},
        value=last.value,
        sd=last.sd,
        created_by=user,
    )
    if kind == Reading.Kind.TENSION:
        _note_spread(reading_set)


def stored_value(user: User, wheel: CoreWheel, values: dict[str, Any]) -> float:
    """What an entry would be stored as [N or mm], without saving it; refused like one that is saved."""
    return stored_reading(user, wheel, values).value


def _in_stored_units(
    by: Instruments, wheel: CoreWheel, spoke: str, values: dict[str, Any]
) -> tuple[float, float, MeterTable | None]:
    """The value in N or mm with its standard deviation, and the table that was used."""
    if values["kind"] == Reading.Kind.DISH:
        dish = dish_entered(values, by.stand_error_mm())
        return dish.dish_mm, dish.sd_mm, None
    if values["kind"] != Reading.Kind.TENSION and not values.get("feel"):
        return *deviation_entered(values), None
    table = None
    if values.get("unit") == "meter" and not values.get("feel") and values.get("value") is not None:
        table = by.table(values.get("meter"), wheel.side(SpokeName.parse(spoke).side).spoke.kind)
    return *tension_entered(wheel, spoke, values, core_table(table) if table else None), table


def traces_of(reading_set: ReadingSet) -> list[DialTrace]:
    """The traces of a set that were not taken back, oldest first."""
    rows = DialTrace.objects.filter(reading_set=reading_set, withdrawal__isnull=True)
    return list(rows.select_related("created_by", "instrument").order_by("created_at"))


def core_readings(wheel: CoreWheel, rows: Sequence[Reading | Row], traces: Sequence[DialTrace] = ()) -> Readings:
    """The core's readings of rows and traces; those of spokes that the wheel no longer has are left out."""

    def runout(row: Reading | Row) -> RunoutReading:
        return RunoutReading(wheel.angles_deg[wheel.index_of[row.spoke]], row.value, row.sd)

    known = [row for row in rows if not row.spoke or row.spoke in wheel.index_of]
    lateral = [runout(row) for row in known if row.kind == "lateral"]
    radial = [runout(row) for row in known if row.kind == "radial"]
    # Every trace has a zero of its own.
    for group, trace in enumerate(traces, start=1):
        points = [RunoutReading(angle, deviation, sd, group) for angle, deviation, sd in trace.points]
        (lateral if trace.kind == "lateral" else radial).extend(points)
    return Readings(
        tension=[TensionReading(row.spoke, row.value, row.sd) for row in known if row.kind == "tension"],
        lateral=lateral,
        radial=radial,
        dish=[DishReading(row.value, row.sd) for row in known if row.kind == "dish"],
    )


def has_readings(job: Job) -> bool:
    return Reading.objects.filter(reading_set__job=job).exists()
