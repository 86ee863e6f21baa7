"""The wheel record: an open, versioned JSON format for a wheel and everything measured on it.

Described by docs/formats/wheel-record.schema.json. Reading is strict: what is not understood is refused, with the
path of the value at fault, rather than dropped.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from felloe.core.components import Wheel
from felloe.core.errors import BadReading, BadRecord, TradeError
from felloe.core.mechanics.readings import DishReading, Readings, RunoutReading, TensionReading
from felloe.core.naming import Side, SpokeName
from felloe.core.runout.dish import dish_from_flipping, dish_from_gauge, dish_from_stand
from felloe.core.said import say
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from felloe.core.strict_fields import Fields, finite, placed
from felloe.core.tension.meter import USUAL_RESOLUTION, MeterTable
from felloe.core.truing.own_tiers import LONGEST_NAME, TIER_LIMITS, own_tier
from felloe.core.truing.tiers import SOUND, TIERS, Tier

FORMAT = "felloe-wheel-record"
VERSION = 2
#: Version 1 had no traces.
READS = (1, 2)
MAX_BYTES = 2_000_000
MAX_SETS = 200
MAX_READINGS = 5000
MAX_TRACES, MAX_POINTS = 40, 2000
TRACE_KINDS, TRACE_SOURCES = ("lateral", "radial"), ("stream", "file", "lump")
STAGES = ("as_found", "after_pass", "as_left")


@dataclass(frozen=True)
class RecordedTrace:
    """Dial readings over a turn or a lump, with a zero of their own: `points` are angle [deg], deviation and standard
    deviation [mm] each."""

    kind: str
    source: str
    points: tuple[tuple[float, float, float], ...]


@dataclass(frozen=True)
class RecordedSet:
    """A dated set of readings as taken (`raw`, plain values) and as forces and lengths (`readings`, those of `traces` among
    them, each trace a group of its own from 1 on)."""

    id: str
    stage: str
    taken_at: datetime | None
    by: str
    readings: Readings
    raw: Mapping[str, Any] = field(repr=False)
    traces: tuple[RecordedTrace, ...] = ()


@dataclass(frozen=True)
class RecordedPlan:
    """A plan that was made: turns asked and, where known, done, by spoke."""

    id: str
    reading_set: str
    made_at: datetime | None
    turns: Mapping[str, float]
    done_turns: Mapping[str, float]
    reason: str


@dataclass(frozen=True)
class WheelRecord:
    """A whole record: wheel, tier asked for, meters' tables by meter id and spoke kind, reading sets, plans."""

    wheel: Wheel
    label: str = ""
    tier: Tier = SOUND
    meters: Mapping[str, tuple[MeterTable, ...]] = field(default_factory=dict)
    sets: tuple[RecordedSet, ...] = ()
    plans: tuple[RecordedPlan, ...] = ()


def read_record(data: bytes) -> WheelRecord:
    """Read a record from JSON bytes (UTF-8).

    Raises BadRecord where it is no record (too large, not JSON, wrong shape or version), ImpossibleGeometry for a
    wheel that cannot be, OutsideCalibration, UnknownSpoke or BadReading for a reading; all with the field's path.
    """
    if len(data) > MAX_BYTES:
        raise BadRecord(
            say(
                "a record has at most {max_bytes:,} bytes; this one has {data_count:,}",
                max_bytes=MAX_BYTES,
                data_count=len(data),
            )
        )
    try:
        value = json.loads(data.decode("utf-8"))
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        place = say(" at line {lineno}", lineno=error.lineno) if isinstance(error, json.JSONDecodeError) else ""
        raise BadRecord(say("this is not JSON in UTF-8{place}", place=place)) from None
    return record_from_dict(value)


def record_from_dict(value: object) -> WheelRecord:
    """Read a record from decoded JSON; errors as in `read_record`."""
    fields = Fields(value)
    if fields.take("format", None) != FORMAT:
        raise BadRecord(say("expected “{format}”", format=FORMAT), "format")
    version = fields.integer("version")
    if version not in READS:
        raise BadRecord(
            say("this reads versions up to {known} of the format; found version {version}", known=VERSION, version=version),
            "version",
        )
    wheel = wheel_from_dict(fields.take("wheel"))
    label = fields.text("label", "", 200)
    tier = _targets(fields.object("targets")) if fields.has("targets") else SOUND
    meters = dict(_meter(path, item) for path, item in fields.items("meters", 20))
    sets = tuple(_set(path, item, wheel, meters, version) for path, item in fields.items("reading_sets", MAX_SETS))
    known = {s.id for s in sets}
    if len(known) != len(sets):
        raise BadRecord(say("two reading sets carry the same id"), "reading_sets")
    plans = tuple(_plan(path, item, wheel, known) for path, item in fields.items("plans", MAX_SETS))
    fields.done()
    return WheelRecord(wheel, label, tier, meters, sets, plans)


def _targets(targets: Fields) -> Tier:
    """A usual tier by its name alone, or any with the figures it was promised with."""
    if not targets.has("lateral_mm"):
        usual = TIERS[targets.choice("tier", tuple(TIERS), SOUND.name)]
        targets.done()
        return usual
    name, figures = targets.text("tier", SOUND.name, LONGEST_NAME), [targets.number(figure) for figure in TIER_LIMITS]
    targets.done()
    try:
        return own_tier(name, *figures)
    except TradeError as error:
        at = "tier" if error.field == "name" else error.field
        raise type(error)(error.message, f"targets.{at}") from None


def targets_to_dict(tier: Tier) -> dict[str, Any]:
    """What a record says of the tier: its name, and its figures where they are not the usual ones of that name."""
    if TIERS.get(tier.name) == tier:
        return {"tier": tier.name}
    return {"tier": tier.name, **dict(zip(TIER_LIMITS, tier.figures, strict=True))}


def table_from_dict(value: object, path: str = "") -> MeterTable:
    """A meter's table from plain values; raises BadRecord or BadTable."""
    fields = Fields(value, path)
    kind = fields.text("spoke_kind", longest=40)
    columns = []
    for name in ("readings", "forces_n"):
        column = []
        for place, number in fields.items(name, 200):
            column.append(finite(number, place))
        columns.append(tuple(column))
    resolution, residual = fields.number("resolution", USUAL_RESOLUTION), fields.number("residual_n", 20.0)
    fields.done()
    return placed(path, lambda: MeterTable(kind, columns[0], columns[1], resolution, residual))


def _meter(path: str, value: object) -> tuple[str, tuple[MeterTable, ...]]:
    fields = Fields(value, path)
    identity = fields.text("id", longest=60)
    fields.text("name", "", 120)
    tables = tuple(table_from_dict(item, place) for place, item in fields.items("tables", 60))
    fields.done()
    return identity, tables


def tension_of(
    spoke: str, fields: Fields, path: str, wheel: Wheel, meters: Mapping[str, tuple[MeterTable, ...]]
) -> TensionReading:
    """One tension entry: `tension_n` directly, or `reading` with the `meter` whose table turns it into a force."""
    sd_n = fields.sd("sd_n", None)
    if fields.has("tension_n"):
        return TensionReading(spoke, fields.number("tension_n"), sd_n if sd_n is not None else 25.0)
    reading, meter = fields.number("reading"), fields.text("meter", longest=60)
    if meter not in meters:
        raise BadRecord(say("no meter “{meter}” in this record", meter=meter), f"{path}.meter")
    kind = wheel.side(SpokeName.parse(spoke).side).spoke.kind
    table = next((t for t in meters[meter] if t.spoke_kind == kind), None)
    if table is None:
        raise BadRecord(say("meter “{meter}” has no table for a {kind} spoke", meter=meter, kind=kind), f"{path}.meter")
    tension = placed(path, lambda: table.tension(reading))
    return TensionReading(spoke, tension.tension_n, sd_n if sd_n is not None else tension.sd_n)


def _spoke(fields: Fields, path: str, wheel: Wheel) -> str:
    name = placed(f"{path}.spoke", lambda: str(SpokeName.parse(fields.text("spoke", longest=8))))
    if name not in wheel.index_of:
        raise BadReading(say("this wheel has no spoke {name}", name=name), f"{path}.spoke")
    return name


def _runout(path: str, value: object, wheel: Wheel) -> RunoutReading:
    fields = Fields(value, path)
    at_spoke = fields.has("spoke")
    angle = wheel.angles_deg[wheel.index_of[_spoke(fields, path, wheel)]] if at_spoke else fields.number("angle_deg")
    reading = RunoutReading(angle, fields.number("deviation_mm"), fields.sd("sd_mm", 0.03))
    fields.done()
    return reading


def _dish(path: str, value: object) -> DishReading:
    fields = Fields(value, path)
    method = fields.choice("method", ("gauge", "flip", "stand", "direct"))
    sd_mm = fields.sd("sd_mm", None)
    if method == "gauge":
        gap, side = fields.number("gap_mm"), Side(fields.choice("gap_side", ("R", "L")))
        dish = placed(path, lambda: dish_from_gauge(gap, side))
    elif method == "flip":
        first, flipped = fields.number("clearance_right_way_mm"), fields.number("clearance_flipped_mm")
        dish = placed(path, lambda: dish_from_flipping(first, flipped))
    elif method == "stand":
        offset, side = fields.number("offset_mm"), Side(fields.choice("side", ("R", "L")))
        dish = placed(path, lambda: dish_from_stand(offset, side))
    else:
        dish = dish_from_gauge(2 * fields.number("dish_mm"), Side.RIGHT)
    fields.done()
    return DishReading(dish.dish_mm, sd_mm if sd_mm is not None else dish.sd_mm)


def _trace(path: str, value: object) -> RecordedTrace:
    fields = Fields(value, path)
    kind, source = fields.choice("kind", TRACE_KINDS), fields.choice("source", TRACE_SOURCES)
    points = []
    for place, item in fields.items("points", MAX_POINTS):
        if not isinstance(item, list | tuple) or len(item) != 3:
            raise BadRecord(say("expected angle, deviation and standard deviation"), place)
        angle, deviation, sd = (finite(part, f"{place}[{i}]") for i, part in enumerate(item))
        if not 0 <= angle < 360:
            raise BadReading(say("an angle is from 0 to below 360, found {angle:g}", angle=angle), f"{place}[0]")
        if not 0 < sd <= 100:
            raise BadReading(say("a standard deviation is above 0 and at most 100 mm"), f"{place}[2]")
        points.append((angle, deviation, sd))
    fields.done()
    return RecordedTrace(kind, source, tuple(points))


def _set(path: str, value: object, wheel: Wheel, meters: Mapping[str, tuple[MeterTable, ...]], version: int) -> RecordedSet:
    fields = Fields(value, path)
    identity, stage = fields.text("id", longest=60), fields.choice("stage", STAGES)
    taken_at, by = fields.when("taken_at"), fields.text("by", "", 120)
    tension = []
    for place, item in fields.items("tension", MAX_READINGS):
        entry = Fields(item, place)
        spoke = _spoke(entry, place, wheel)
        tension.append(tension_of(spoke, entry, place, wheel, meters))
        entry.done()
    lateral = [_runout(place, item, wheel) for place, item in fields.items("lateral", MAX_READINGS)]
    radial = [_runout(place, item, wheel) for place, item in fields.items("radial", MAX_READINGS)]
    dish = [_dish(place, item) for place, item in fields.items("dish", 50)]
    traces = tuple(_trace(place, item) for place, item in fields.items("traces", MAX_TRACES)) if version > 1 else ()
    for group, trace in enumerate(traces, start=1):
        found = [RunoutReading(angle, deviation, sd, group) for angle, deviation, sd in trace.points]
        (lateral if trace.kind == "lateral" else radial).extend(found)
    fields.done()
    assert isinstance(value, Mapping)
    return RecordedSet(identity, stage, taken_at, by, Readings(tension, lateral, radial, dish), value, traces)


def _plan(path: str, value: object, wheel: Wheel, sets: set[str]) -> RecordedPlan:
    fields = Fields(value, path)
    identity, reading_set = fields.text("id", longest=60), fields.text("reading_set", longest=60)
    if reading_set not in sets:
        raise BadRecord(say("no reading set “{reading_set}” in this record", reading_set=reading_set), f"{path}.reading_set")
    made_at, reason = fields.when("made_at"), fields.text("reason", "", 1000)
    turns, done = {}, {}
    for place, item in fields.items("moves", 100):
        move = Fields(item, place)
        name = _spoke(move, place, wheel)
        turns[name] = move.number("turns")
        actual = move.number("done_turns", None)
        if actual is not None:
            done[name] = actual
        move.done()
    fields.done()
    return RecordedPlan(identity, reading_set, made_at, turns, done, reason)


def record_to_dict(record: WheelRecord) -> dict[str, Any]:
    """Plain values of a record; `record_from_dict` reads them back."""
    return {
        "format": FORMAT,
        "version": VERSION,
        "label": record.label,
        "wheel": wheel_to_dict(record.wheel),
        "targets": targets_to_dict(record.tier),
        "meters": [
            {"id": identity, "tables": [table_to_dict(table) for table in tables]} for identity, tables in record.meters.items()
        ],
        "reading_sets": [dict(s.raw) for s in record.sets],
        "plans": [_plan_to_dict(plan) for plan in record.plans],
    }


def table_to_dict(table: MeterTable) -> dict[str, Any]:
    """Plain values of a meter's table."""
    return {
        "spoke_kind": table.spoke_kind,
        "readings": list(table.readings),
        "forces_n": list(table.forces_n),
        "resolution": table.resolution,
        "residual_n": table.residual_n,
    }


def _plan_to_dict(plan: RecordedPlan) -> dict[str, Any]:
    value: dict[str, Any] = {"id": plan.id, "reading_set": plan.reading_set, "reason": plan.reason}
    if plan.made_at is not None:
        value["made_at"] = plan.made_at.isoformat()
    value["moves"] = [
        {"spoke": spoke, "turns": turns, **({"done_turns": plan.done_turns[spoke]} if spoke in plan.done_turns else {})}
        for spoke, turns in plan.turns.items()
    ]
    return value
