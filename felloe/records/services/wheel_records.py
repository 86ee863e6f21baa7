"""The open wheel record of a job: out, and in."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import Reading, ReadingSet
from felloe.bench.services import plans as bench_plans
from felloe.bench.services import readings as bench_readings
from felloe.bench.services.readings import Recorded
from felloe.bench.services.traces import append_trace
from felloe.core.components import Wheel as CoreWheel
from felloe.core.record import FORMAT, VERSION, RecordedSet, read_record, table_to_dict, targets_to_dict
from felloe.core.said import say
from felloe.core.specification import wheel_to_dict
from felloe.instruments.services.instruments import core_table
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.tolerances import TIER_FIELDS
from felloe.wheels import services as wheels


def export_record(user: User, job_id: UUID) -> dict[str, Any]:
    """Everything known of a job's wheel as a wheel record, meter tables included."""
    job = queue.find_job(user, job_id)
    meters: dict[str, dict[str, Any]] = {}
    sets = []
    for reading_set in bench_readings.sets_of(user, job_id):
        rows = bench_readings.current_readings(reading_set)
        for row in rows:
            if row.meter_table is not None:
                tables = meters.setdefault(str(row.meter_table.meter_id), {})
                tables[row.meter_table.spoke_kind] = table_to_dict(core_table(row.meter_table))
        sets.append(_set_out(reading_set, rows))
    plans = []
    for summary in bench_plans.plans_of_job(user, job_id):
        moves = []
        for move in bench_plans.moves_of(summary):
            value = {"spoke": move.spoke, "turns": move.turns}
            moves.append(value | ({"done_turns": move.done_turns} if move.done_turns is not None else {}))
        plans.append(
            {
                "id": str(summary.pk),
                "reading_set": str(summary.reading_set_id),
                "made_at": summary.created_at.isoformat(),
                "reason": summary.reason,
                "moves": moves,
            }
        )
    return {
        "format": FORMAT,
        "version": VERSION,
        "label": say(
            "Job {number}, {position} wheel of {label}",
            number=job.number,
            position=job.wheel.position,
            label=job.wheel.bike.label,
        ),
        "wheel": wheel_to_dict(wheels.core_wheel(job.wheel)),
        "targets": targets_to_dict(job.tolerance),
        "meters": [{"id": key, "tables": list(tables.values())} for key, tables in meters.items()],
        "reading_sets": sets,
        "plans": plans,
    }


def _set_out(reading_set: ReadingSet, rows: list[Reading]) -> dict[str, Any]:
    value: dict[str, Any] = {
        "id": str(reading_set.pk),
        "stage": reading_set.stage,
        "taken_at": reading_set.created_at.isoformat(),
        "by": reading_set.created_by.display_name if reading_set.created_by else "",
        "tension": [],
        "lateral": [],
        "radial": [],
        "dish": [],
    }
    for row in rows:
        if row.kind == Reading.Kind.TENSION and row.meter_table is not None:
            entry = {"spoke": row.spoke, "reading": row.entered["value"], "meter": str(row.meter_table.meter_id)}
        elif row.kind == Reading.Kind.TENSION:
            entry = {"spoke": row.spoke, "tension_n": row.value, "sd_n": row.sd}
        elif row.kind == Reading.Kind.DISH:
            entry = {"method": "direct", "dish_mm": row.value, "sd_mm": row.sd}
        else:
            entry = {"spoke": row.spoke, "deviation_mm": row.value, "sd_mm": row.sd}
        value[row.kind].append(entry)
    # Each with a zero of its own.
    value["traces"] = [{"kind": t.kind, "source": t.source, "points": t.points} for t in bench_readings.traces_of(reading_set)]
    return value


@atomic
def import_record(user: User, job_id: UUID, data: bytes) -> Job:
    """Take a wheel record into a job that has no readings yet: its wheel, tier and reading sets, all or nothing.

    Forces come in as N with their uncertainty; the record's own meters and
    plans are not taken over, since a plan is worked out anew from the readings.
    """
    record = read_record(data)
    job = queue.open_for_work(user, job_id)
    if bench_readings.has_readings(job):
        raise Refused("job_has_readings", say("This job has readings already; take the record into a new job."), 409)
    wheel = wheels.find_wheel(user, job.wheel_id)
    wheels.change_specification(user, wheel.pk, wheel.version, wheel_to_dict(record.wheel), "")
    job.hold_to(record.tier)
    job.save_change(user, TIER_FIELDS)
    for recorded in record.sets:
        set_in(user, job, record.wheel, recorded)
    queue.log(job, user, "record_in", record.label)
    return queue.find_job(user, job_id)


def set_in(user: User, job: Job, core: CoreWheel, recorded: RecordedSet) -> ReadingSet:
    """One recorded set into a job, as forces and lengths with their uncertainty.

    Raises Refused for a runout between spokes that is of no trace: it has no place here.
    """
    made = bench_readings.open_set(user, job.pk, recorded.stage)
    name_at = {round(angle, 3): str(name) for angle, name in zip(core.angles_deg, core.names, strict=True)}
    rows = []
    for tension in recorded.readings.tension:
        entered = {"value": tension.tension_n, "unit": "N", "from_record": True}
        rows.append(Recorded("tension", tension.spoke, tension.tension_n, tension.sd_n, entered))
    for kind in ("lateral", "radial"):
        for runout in getattr(recorded.readings, kind):
            if runout.group:
                # A trace comes in as one, below.
                continue
            spoke = name_at.get(round(runout.angle_deg, 3))
            if spoke is None:
                raise Refused(
                    "between_spokes",
                    say(
                        "The record has a {kind} reading at {angle_deg:g}°, between spokes; only those at spokes come in.",
                        kind=kind,
                        angle_deg=runout.angle_deg,
                    ),
                    422,
                )
            entered = {"value": runout.deviation_mm, "unit": "mm", "from_record": True}
            rows.append(Recorded(kind, spoke, runout.deviation_mm, runout.sd_mm, entered))
    for trace in recorded.traces:
        points = [list(point) for point in trace.points]
        append_trace(user, made, trace.kind, trace.source, points, say("from a wheel record"))
    for dish in recorded.readings.dish:
        entered = {"dish_mm": dish.dish_mm, "from_record": True}
        rows.append(Recorded("dish", "", dish.dish_mm, dish.sd_mm, entered))
    bench_readings.append_recorded(user, made, rows)
    return made
