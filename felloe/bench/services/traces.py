"""Readings that come many at a time: files, traces, lumps told by eye, and plucked sides."""

from __future__ import annotations

import io
import wave
from dataclasses import replace
from typing import Any
from uuid import UUID

import numpy as np
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench import answers
from felloe.bench.models import DialTrace, ReadingSet, TraceWithdrawal
from felloe.bench.services import entering, readings
from felloe.core.components import Wheel
from felloe.core.errors import BadReading, TradeError
from felloe.core.measuring.coarse import lump_readings
from felloe.core.measuring.csv_readings import ReadFile, ReadRow, read_csv, write_csv
from felloe.core.mechanics.readings import LENGTH_UNITS_MM
from felloe.core.naming import Side
from felloe.core.runout.traces import turn_trace
from felloe.core.said import say
from felloe.core.tension.pitch import evenness_percent, free_length, plucks, tension_from_pitch
from felloe.instruments.models import Instrument
from felloe.places.here import atomic

MOST_RECORDING_BYTES = 30_000_000


def append_trace(
    user: User,
    reading_set: ReadingSet,
    kind: str,
    source: str,
    points: list[list[float]],
    said: str,
    instrument: Instrument | None = None,
) -> DialTrace:
    """Append a trace of [angle, deviation, standard deviation] each to a set."""
    return DialTrace.objects.create(
        shop_id=reading_set.shop_id,
        reading_set=reading_set,
        kind=kind,
        source=source,
        points=points,
        said=said,
        instrument=instrument,
        created_by=user,
    )


@atomic
def add_lump(user: User, set_id: UUID, values: dict[str, Any]) -> DialTrace:
    """A lump told by its extremes: from which spoke to which, how high, toward which side."""
    reading_set = readings.set_for_work(user, set_id)
    points, said = told_lump(readings.wheel_of(reading_set), values)
    return append_trace(user, reading_set, values["kind"], DialTrace.Source.LUMP, points, said)


def told_lump(wheel: Wheel, values: dict[str, Any]) -> tuple[list[list[float]], str]:
    """The points and the words of a lump that was told by eye. Raises BadReading."""
    kind, height = values["kind"], values["height_mm"]
    toward = None
    if kind == "lateral":
        if not values.get("toward"):
            raise BadReading(say("say toward which side"), "toward")
        if height < 0:
            raise BadReading(say("a height is not below 0: the side is said beside it"), "height_mm")
        toward = Side(values["toward"])
    first, last = values["first"].strip().upper(), values["last"].strip().upper()
    found = lump_readings(wheel, first, last, height, toward)
    points = [[r.angle_deg, r.deviation_mm, r.sd_mm] for r in found]
    way = say("to the {toward}", toward=toward.said) if toward else (say("out") if height > 0 else say("in"))
    said = say("{height:g} mm {way} from {first} to {last}, by eye", height=abs(height), way=way, first=first, last=last)
    return points, said


@atomic
def add_turn(
    user: User,
    set_id: UUID,
    kind: str,
    source: str,
    angles_deg: list[float],
    deviations_mm: list[float],
    instrument: Instrument | None,
) -> DialTrace:
    """A dense trace over a turn."""
    reading_set = readings.set_for_work(user, set_id)
    trace = turn_trace(angles_deg, deviations_mm)
    return append_trace(user, reading_set, kind, source, [list(p) for p in trace.points], trace.said(kind), instrument)


@atomic
def withdraw_trace(user: User, set_id: UUID, trace_id: UUID) -> None:
    reading_set = readings.set_for_work(user, set_id)
    trace = DialTrace.objects.filter(reading_set=reading_set, pk=trace_id, withdrawal__isnull=True).first()
    if trace is None:
        raise Http404
    TraceWithdrawal.objects.create(shop_id=trace.shop_id, trace=trace, created_by=user)


def export_csv(user: User, set_id: UUID) -> str:
    """The current readings of a set as CSV."""
    reading_set = readings.find_set(user, set_id)
    values: dict[str, dict[str, float]] = {}
    for row in readings.current_readings(reading_set):
        if row.spoke:
            values.setdefault(row.spoke, {})[row.kind] = row.value
    return write_csv(readings.wheel_of(reading_set), values)


@atomic
def take_csv(user: User, set_id: UUID, data: bytes, meter: UUID | None, keep: bool) -> answers.CsvLook:
    """Look at a file of readings, and with `keep` take all of it or nothing.

    What is wrong is told by line; so is what would replace a reading that is there already.
    """
    reading_set = readings.set_for_work(user, set_id)
    wheel = readings.wheel_of(reading_set)
    found = read_csv(data, wheel)
    there = {(row.kind, row.spoke): row.value for row in readings.current_readings(reading_set)}
    rows = []
    for row in found.rows:
        wrong, value = row.wrong, None
        if not wrong and row.value is not None:
            try:
                value = _stored(user, reading_set, row, meter)
            except (TradeError, Refused) as error:
                wrong = str(error)
        replaces = there.get((row.kind, row.spoke)) if row.spoke else None
        rows.append(_row_values(row, value, wrong, replaces))
    sound = bool(rows) and not any(r.wrong for r in rows)
    if keep:
        if not sound:
            bad = next((r for r in rows if r.wrong), None)
            detail = (
                say("Line {line}: {wrong}.", line=bad.line, wrong=bad.wrong) if bad else say("There is nothing in this file.")
            )
            errors = [
                {"field": say("line {line}", line=r.line), "message": r.wrong, "code": "bad_row"} for r in rows if r.wrong
            ][:50]
            raise Refused("bad_csv", say("Nothing was taken. {detail}", detail=detail), 422, errors=errors)
        _keep(user, reading_set, found, meter)
    return answers.CsvLook(said=list(found.said), dense=found.dense, rows=rows, sound=sound, kept=keep)


def _row_values(row: ReadRow, value: float | None, wrong: str, replaces: float | None) -> answers.CsvRow:
    doubt = row.doubt
    if not doubt and replaces is not None and value is not None:
        doubt = say("replaces {replaces:.2f}", replaces=replaces)
    return answers.CsvRow(
        line=row.line,
        kind=row.kind,
        spoke=row.spoke,
        angle_deg=row.angle_deg,
        entered=row.value,
        unit=row.unit,
        value=value,
        wrong=wrong,
        doubt=doubt,
        replaces=replaces if value is not None else None,
    )


def _entry(row: ReadRow, meter: UUID | None) -> dict[str, Any]:
    entry: dict[str, Any] = {"kind": row.kind, "spoke": row.spoke, "value": row.value, "unit": row.unit}
    if row.unit == "meter":
        entry["meter"] = meter
    return entry


def _stored(user: User, reading_set: ReadingSet, row: ReadRow, meter: UUID | None) -> float:
    if row.unit == "meter" and meter is None:
        raise BadReading(say("these are a meter's units: say which meter"), "meter")
    if not row.spoke:
        return float(row.value or 0) * LENGTH_UNITS_MM[row.unit]
    return readings.stored_value(user, readings.wheel_of(reading_set), _entry(row, meter))


def _keep(user: User, reading_set: ReadingSet, found: ReadFile, meter: UUID | None) -> None:
    last: dict[tuple[str, str], ReadRow] = {}
    by_kind: dict[str, list[ReadRow]] = {}
    for row in found.rows:
        if row.spoke:
            last[(row.kind, row.spoke)] = row
        else:
            by_kind.setdefault(row.kind, []).append(row)
    entering.save_readings(user, reading_set.pk, [_entry(row, meter) for row in last.values()])
    for kind, rows in by_kind.items():
        values = [float(r.value or 0) * LENGTH_UNITS_MM[r.unit] for r in rows]
        angles = [float(r.angle_deg or 0) for r in rows]
        add_turn(user, reading_set.pk, kind, DialTrace.Source.FILE, angles, values, None)


def hear(user: User, set_id: UUID, data: bytes, ends_at: str, spokes: list[str]) -> answers.Heard:
    """Listen to a recording of plucks: pitch and tension of each, in order, put to the spokes named; nothing is saved."""
    reading_set = readings.find_set(user, set_id)
    wheel = readings.wheel_of(reading_set)
    samples, rate = _samples(data)
    tones = plucks(samples, rate)
    if not tones:
        raise BadReading(say("no clear tone on this recording: pluck nearer to the rim, further from the others"), "recording")
    heard: list[answers.Tone] = []
    for tone, name in zip(tones, [*spokes, *[""] * len(tones)], strict=False):
        tension = None
        wrong = ""
        if name:
            if name not in wheel.index_of:
                raise BadReading(say("this wheel has no spoke {name}", name=name[:8]), "spokes")
            try:
                tension = tension_from_pitch(tone.hz, free_length(wheel, name, ends_at), tone.sd_hz)
            except BadReading as error:
                wrong = error.message
        heard.append(
            answers.Tone(
                spoke=name,
                at_s=round(tone.at_s, 2),
                hz=round(tone.hz, 2),
                clarity=round(tone.clarity, 2),
                tension_n=round(tension.tension_n, 1) if tension else None,
                sd_n=round(tension.sd_n, 1) if tension else None,
                wrong=wrong,
            )
        )
    named = [i for i, tone in enumerate(heard) if tone.spoke]
    for i, percent in zip(named, evenness_percent([tones[i].hz for i in named]) if named else [], strict=True):
        heard[i] = replace(heard[i], percent=round(percent, 1))
    return answers.Heard(tones=heard, expected=len(spokes), heard=len(tones))


def _samples(data: bytes) -> tuple[np.ndarray[Any, np.dtype[np.float64]], float]:
    """Mono samples of an uncompressed WAV file."""
    if len(data) > MOST_RECORDING_BYTES:
        raise BadReading(
            say("a recording has at most {most_mb} MB", most_mb=MOST_RECORDING_BYTES // 1_000_000),
            "recording",
        )
    try:
        with wave.open(io.BytesIO(data)) as file:
            width, channels, rate = file.getsampwidth(), file.getnchannels(), file.getframerate()
            raw = file.readframes(file.getnframes())
    except (wave.Error, EOFError) as error:
        raise BadReading(say("this is no uncompressed WAV file"), "recording") from error
    kinds = {1: "u1", 2: "<i2", 4: "<i4"}
    if width not in kinds:
        raise BadReading(say("a WAV file with 8, 16 or 32 bits a sample is expected"), "recording")
    samples = np.frombuffer(raw[: len(raw) - len(raw) % (width * channels)], dtype=np.dtype(kinds[width])).astype(np.float64)
    return samples.reshape(-1, channels).mean(axis=1), float(rate)
