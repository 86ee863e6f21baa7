"""The shop's instruments: their tables, calibrations, checks, and what their state says of the readings they took."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime
from functools import lru_cache
from typing import Any
from uuid import UUID

import numpy as np
from django.db.models import Prefetch
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused, StaleWrite
from felloe.core.components import Spoke
from felloe.core.errors import BadTable
from felloe.core.measuring.csv_readings import read_chart
from felloe.core.measuring.instruments import INSTRUMENT_KINDS, NEVER, Standing, stand_by_flipping, standing
from felloe.core.naming import Side
from felloe.core.record import table_from_dict
from felloe.core.said import joined, say
from felloe.core.tension.calibration import Calibration, Drift, calibrate, drift
from felloe.core.tension.meter import MeterTable as CoreTable
from felloe.core.tension.three_point import carried_over, fit_meter
from felloe.instruments import answers
from felloe.instruments.models import Instrument, InstrumentCheck, MeterTable
from felloe.places.here import atomic


def checked_instruments(shop_id: UUID, only: Iterable[UUID]) -> list[Instrument]:
    """Some instruments of a shop with their checks, newest first."""
    checks = Prefetch("checks", InstrumentCheck.objects.order_by("-created_at"))
    return list(Instrument.objects.filter(shop_id=shop_id, pk__in=list(only)).prefetch_related(checks))


def instruments_of(user: User) -> list[Instrument]:
    """Every instrument of the shop with its tables and checks, newest first within each."""
    return list(
        Instrument.objects.filter(shop_id=user.shop_id)
        .prefetch_related(
            Prefetch("tables", MeterTable.objects.select_related("created_by").order_by("-created_at")),
            Prefetch("checks", InstrumentCheck.objects.select_related("created_by").order_by("-created_at")),
        )
        .order_by("-kind", "name")
    )


def meters_of(user: User) -> list[Instrument]:
    """The tension meters in use that have a table at all."""
    in_use = [i for i in instruments_of(user) if i.kind == "tension_meter" and i.use == Instrument.Use.IN_USE]
    return [i for i in in_use if i.tables.all()]


def find_instrument(user: User, instrument_id: UUID, lock: bool = False) -> Instrument:
    found = Instrument.objects.filter(shop_id=user.shop_id, pk=instrument_id)
    instrument = (found.select_for_update() if lock else found).first()
    if instrument is None:
        raise Http404
    return instrument


def current_tables(instrument: Instrument) -> list[MeterTable]:
    """The newest table of each spoke kind, by kind."""
    newest: dict[str, MeterTable] = {}
    for table in sorted(instrument.tables.all(), key=lambda t: t.created_at):
        newest[table.spoke_kind] = table
    return [newest[kind] for kind in sorted(newest)]


#: Where a stand points [mm, + right], among a check's figures. Checks under the other name took left for right: their sign
#: cannot be told any more, so they count for nothing.
POINTS_MM, SIDES_CHANGED_OVER = "points_mm", "stand_error_mm"


def standing_of(instrument: Instrument, moment: datetime | None = None) -> Standing:
    """Where an instrument stood at a moment; now by default."""
    at = moment or timezone.now()
    day = at.date()
    checks = [c for c in instrument.checks.all() if c.created_at <= at]
    last = max(checks, key=lambda c: c.created_at, default=None)
    if last is not None and SIDES_CHANGED_OVER in last.figures:
        return Standing(NEVER, None, say("its last check was kept with the sides changed over: check it again"))
    if last is None:
        return standing(None, True, instrument.check_every_days, day)
    return standing(last.created_at.date(), last.passed, instrument.check_every_days, day)


@atomic
def add_instrument(user: User, values: dict[str, Any]) -> Instrument:
    """An instrument, with tables where they are given; the core refuses a table that is none, and nothing is saved."""
    values = dict(values)
    given = values.pop("tables", [])
    tables = [table_from_dict(dict(table), f"tables.{i}") for i, table in enumerate(given)]
    if Instrument.objects.filter(shop_id=user.shop_id, name=values["name"]).exists():
        raise Refused("instrument_exists", say("There is an instrument of this name already."), 409)
    kind = values.get("kind", "tension_meter")
    values.setdefault("check_every_days", INSTRUMENT_KINDS[kind].days)
    made = Instrument.objects.create(shop_id=user.shop_id, created_by=user, changed_by=user, **values)
    for table in tables:
        add_table(user, made, table, MeterTable.Source.MAKER)
    return made


@atomic
def change_instrument(user: User, instrument_id: UUID, version: int, values: dict[str, Any]) -> Instrument:
    """Change an instrument's own facts; a stale write is refused with both versions."""
    instrument = find_instrument(user, instrument_id, lock=True)
    if instrument.version != version:
        by = instrument.changed_by.display_name if instrument.changed_by else ""
        current = {name: getattr(instrument, name) for name in values}
        raise StaleWrite({**values, "version": version}, {**current, "version": instrument.version, "changed_by": by})
    for name, value in values.items():
        setattr(instrument, name, value)
    instrument.save_change(user, list(values))
    return instrument


def add_table(
    user: User,
    meter: Instrument,
    table: CoreTable,
    source: str,
    points: dict[str, Any] | None = None,
    derived_from: MeterTable | None = None,
) -> MeterTable:
    """Append a table; the older one of the same kind stays with the readings that it served."""
    return MeterTable.objects.create(
        shop_id=meter.shop_id,
        meter=meter,
        spoke_kind=table.spoke_kind,
        readings=list(table.readings),
        forces_n=list(table.forces_n),
        resolution=table.resolution,
        residual_n=table.residual_n,
        source=source,
        points=points or {},
        derived_from=derived_from,
        created_by=user,
    )


def table_for(user: User, meter_id: UUID | None, spoke_kind: str) -> MeterTable:
    """The table of a meter for a kind of spoke; refused with what to do where it has none."""
    meter = Instrument.objects.filter(shop_id=user.shop_id, pk=meter_id).first() if meter_id else None
    if meter is None:
        raise Http404
    table = MeterTable.objects.filter(meter=meter, spoke_kind=spoke_kind).order_by("-created_at").first()
    if table is None:
        raise Refused(
            "no_table_for_spoke",
            say(
                "{meter} has no table for a {spoke_kind} spoke. Calibrate it for this spoke or derive a table on its page, "
                "use another meter, or enter the force itself.",
                meter=meter.name,
                spoke_kind=spoke_kind,
            ),
            422,
            errors=[
                {
                    "field": "meter",
                    "message": say("no table for a {spoke_kind} spoke", spoke_kind=spoke_kind),
                    "code": "no_table_for_spoke",
                }
            ],
        )
    return table


def core_table(table: MeterTable) -> CoreTable:
    """The core's table of a row."""
    return _core_table(table.spoke_kind, tuple(table.readings), tuple(table.forces_n), table.resolution, table.residual_n)


#: Kept, since its curve is worked out once.
_core_table = lru_cache(maxsize=64)(CoreTable)


def _last_table(meter: Instrument, spoke_kind: str) -> MeterTable | None:
    return MeterTable.objects.filter(meter=meter, spoke_kind=spoke_kind).order_by("-created_at").first()


@atomic
def calibration(user: User, instrument_id: UUID, values: dict[str, Any]) -> answers.Fit:
    """Fit known loads; with `keep` the table is signed and kept, and counts as a check of the meter."""
    meter = find_instrument(user, instrument_id, lock=bool(values["keep"]))
    if meter.kind != "tension_meter":
        raise Refused("no_meter", say("Only a tension meter is calibrated against loads."), 422)
    fit = calibrate(values["spoke_kind"], values["readings"], values["loads_n"], values["resolution"])
    table = fit.table()
    before = _last_table(meter, table.spoke_kind)
    moved = drift(table, core_table(before)) if before is not None else None
    shown = _fit_values(fit, table, moved)
    if values["keep"]:
        points = {"readings": fit.readings.tolist(), "loads_n": fit.loads_n.tolist()}
        kept = add_table(user, meter, table, MeterTable.Source.CALIBRATED, points)
        InstrumentCheck.objects.create(
            shop_id=meter.shop_id,
            instrument=meter,
            passed=True,
            note=values["note"].strip() or say("Calibrated for {spoke_kind}", spoke_kind=table.spoke_kind),
            figures={"residual_n": round(fit.sd_n, 1), "drift_n": round(moved.largest_n, 1) if moved else None},
            table=kept,
            created_by=user,
        )
    return shown


def _fit_values(fit: Calibration, table: CoreTable, moved: Drift | None) -> answers.Fit:
    grid = np.linspace(fit.low, fit.high, 41)
    return answers.Fit(
        spoke_kind=table.spoke_kind,
        sd_n=round(fit.sd_n, 1),
        points=[
            answers.FitPoint(reading=float(r), load_n=float(load), residual_n=round(float(e), 1))
            for r, load, e in zip(fit.readings, fit.loads_n, fit.residuals_n, strict=True)
        ],
        curve=[
            answers.FitCurve(reading=round(float(r), 3), force_n=round(float(f), 1), band_n=round(float(b), 1))
            for r, f, b in zip(grid, fit.force_n(grid), fit.band_n(grid), strict=True)
        ],
        drift=None
        if moved is None
        else answers.Drift(
            mean_n=round(moved.mean_n, 1),
            largest_n=round(moved.largest_n, 1),
            at_reading=round(moved.at_reading, 2),
            drifted=moved.drifted,
        ),
    )


@atomic
def derive_table(user: User, instrument_id: UUID, values: dict[str, Any]) -> CoreTable:
    """Carry a table over to another spoke through the meter's three-point model; kept only when asked, marked as derived."""
    meter = find_instrument(user, instrument_id)
    source = MeterTable.objects.filter(meter=meter, pk=values["table"]).first()
    if source is None:
        raise Http404
    if source.source == MeterTable.Source.DERIVED:
        raise BadTable(say("a derived table is not carried on: start from a chart or a calibration"), "table")
    spokes = {}
    for name in ("of", "to"):
        spokes[name] = Spoke(**values[name])
    if spokes["of"].kind != source.spoke_kind:
        raise BadTable(
            say(
                "this table is for {spoke_kind}, the spoke described is {kind}",
                spoke_kind=source.spoke_kind,
                kind=spokes["of"].kind,
            ),
            "of",
        )
    model = fit_meter(core_table(source), spokes["of"], values["span_mm"], values["mm_per_unit"])
    table = carried_over(model, core_table(source), spokes["to"])
    if values["keep"]:
        add_table(
            user, meter, table, MeterTable.Source.DERIVED, {"span_mm": model.span_mm, "mm_per_unit": model.mm_per_unit}, source
        )
    return table


@atomic
def take_chart(user: User, instrument_id: UUID, data: bytes, keep: bool) -> list[CoreTable]:
    """A maker's chart from CSV: every spoke kind in it becomes a table, all of them or none."""
    meter = find_instrument(user, instrument_id)
    if meter.kind != "tension_meter":
        raise Refused("no_meter", say("Only a tension meter has tables."), 422)
    tables = []
    for kind, (readings, forces) in read_chart(data).items():
        try:
            tables.append(CoreTable(kind[:40], tuple(readings), tuple(forces)))
        except BadTable as error:
            raise BadTable(joined(": ", [kind[:40], error.message]), "chart") from None
    if keep:
        for table in tables:
            add_table(user, meter, table, MeterTable.Source.MAKER)
    return tables


@atomic
def add_check(user: User, instrument_id: UUID, passed: bool, note: str) -> InstrumentCheck:
    """Note a check by its own words."""
    instrument = find_instrument(user, instrument_id)
    if not note.strip():
        errors = [{"field": "note", "message": say("say against what it was checked"), "code": "reason_needed"}]
        raise Refused("reason_needed", say("Say against what it was checked, and what it showed."), 422, errors=errors)
    return InstrumentCheck.objects.create(
        shop_id=instrument.shop_id, instrument=instrument, passed=passed, note=note.strip(), created_by=user
    )


@atomic
def check_stand(user: User, instrument_id: UUID, values: dict[str, Any]) -> InstrumentCheck:
    """Check a stand by flipping one wheel in it."""
    instrument = find_instrument(user, instrument_id)
    if instrument.kind != "stand":
        raise Refused("no_stand", say("Only a truing stand is checked by flipping."), 422)
    found = stand_by_flipping(
        values["first_mm"], Side(values["first_side"]), values["flipped_mm"], Side(values["flipped_side"])
    )
    figures = {POINTS_MM: round(found.stand_error_mm, 3), "wheel_dish_mm": round(found.wheel_dish_mm, 3)}
    return InstrumentCheck.objects.create(
        shop_id=instrument.shop_id, instrument=instrument, passed=found.passed, note=found.why, figures=figures, created_by=user
    )


def stand_error_mm(user: User) -> float:
    """Where the shop's stand points, by the newest flipping check; 0 where none was made."""
    check = (
        InstrumentCheck.objects.filter(shop_id=user.shop_id, instrument__kind="stand", figures__has_key=POINTS_MM)
        .order_by("-created_at")
        .first()
    )
    return float(check.figures[POINTS_MM]) if check else 0.0
