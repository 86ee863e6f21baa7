"""Readings as CSV, in and out: RFC 4180, and what spreadsheets make of it (semicolons, tabs, decimal commas, a byte mark).

One row per place: `spoke` or `angle_deg`, and any of tension, lateral and radial with their unit in the header, such as
`tension_n`, `tension [kgf]`, `lateral (mm)`. What is refused and what is doubtful is said row by row; nothing is guessed in
silence.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from felloe.core.components import Wheel
from felloe.core.delimited import delimiter_of
from felloe.core.errors import BadReading, TradeError, UnknownSpoke
from felloe.core.mechanics.readings import entered_deviation_mm, entered_force_n
from felloe.core.naming import SpokeName
from felloe.core.said import joined, say

MOST_BYTES = 1_000_000
MOST_ROWS = 20_000
#: Units by what is read; the first is taken where the header says none, and that is said.
UNITS: Mapping[str, tuple[str, ...]] = {
    "tension": ("N", "kgf", "lbf", "meter"),
    "lateral": ("mm", "in"),
    "radial": ("mm", "in"),
}
_WORDS = {
    "n": "N", "newton": "N", "kgf": "kgf", "kg": "kgf", "lbf": "lbf", "lb": "lbf",
    "meter": "meter", "units": "meter", "reading": "meter",
    "mm": "mm", "in": "in", "inch": "in", "deg": "deg", "°": "deg",
}  # fmt: skip
#: A dense trace has at least so many rows without a spoke's name for each spoke.
DENSE = 1.5


class BadCsv(TradeError):
    """A file that is no table of readings."""

    code = "bad_csv"


@dataclass(frozen=True)
class Column:
    """A column: what it holds (spoke, angle, tension, lateral, radial), its unit, and whether the header said it."""

    what: str
    unit: str
    said: bool
    header: str


@dataclass(frozen=True)
class ReadRow:
    """One value of the file: line (from 1), kind, spoke or angle, value as entered with its unit; what is wrong or doubtful."""

    line: int
    kind: str
    spoke: str
    angle_deg: float | None
    value: float | None
    unit: str
    wrong: str = ""
    doubt: str = ""


@dataclass(frozen=True)
class ReadFile:
    """A whole file: rows, how it was read in words, and whether it is a dense trace (many angles, no spoke)."""

    rows: tuple[ReadRow, ...]
    said: tuple[str, ...]
    dense: bool = False
    columns: tuple[Column, ...] = field(default=())

    @property
    def sound(self) -> bool:
        return bool(self.rows) and not any(row.wrong for row in self.rows)


def read_csv(data: bytes, wheel: Wheel) -> ReadFile:
    """Read a file of readings for `wheel`. Raises BadCsv where it is no such table at all."""
    text = _text(data)
    delimiter = delimiter_of(text)
    try:
        lines = list(csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True))
    except csv.Error as error:
        raise BadCsv(say("the file breaks off or is quoted wrongly: {error}", error=error)) from None
    lines = [line for line in lines if any(cell.strip() for cell in line)]
    if len(lines) < 2:
        raise BadCsv(say("expected a line of headers and at least one of readings"))
    if len(lines) > MOST_ROWS:
        raise BadCsv(say("at most {most:,} lines; this file has {lines_count:,}", most=MOST_ROWS, lines_count=len(lines)))
    columns = [_column(header) for header in lines[0]]
    known = [c for c in columns if c is not None]
    kinds = [c for c in known if c.what in UNITS]
    place = [c.what for c in known if c.what in ("spoke", "angle")]
    if not kinds or not place:
        raise BadCsv(
            say("the headers name no spoke or angle_deg, or no tension, lateral or radial; expected e.g. spoke,tension_n")
        )
    if len({c.what for c in known}) < len(known):
        raise BadCsv(say("two columns hold the same thing: ") + joined(", ", [c.header for c in known]))
    comma = delimiter != "," and any(re.fullmatch(r"\s*[+-]?\d+,\d+\s*", cell) for line in lines[1:] for cell in line)
    rows = [row for i, line in enumerate(lines[1:], start=2) for row in _rows(i, line, columns, wheel)]
    said = [say("columns by {value}", value=({",": say("comma"), ";": say("semicolon"), chr(9): say("tab")})[delimiter])]
    said += [say("decimal comma")] if comma else []
    said += [say("“{header}” names no unit: taken as {unit}", header=c.header, unit=c.unit) for c in kinds if not c.said]
    said += [
        say("“{header}” is not read", header=header)
        for header, c in zip(lines[0], columns, strict=True)
        if c is None and header.strip()
    ]
    dense = "spoke" not in place and len(rows) >= DENSE * wheel.spoke_count * len(kinds)
    return ReadFile(tuple(_doubted(rows, dense)), tuple(said), dense, tuple(known))


def _text(data: bytes) -> str:
    if len(data) > MOST_BYTES:
        raise BadCsv(say("a file has at most {most_mb} MB", most_mb=MOST_BYTES // 1_000_000))
    for codec in ("utf-8-sig", "utf-16") if data[:2] in (b"\xff\xfe", b"\xfe\xff") else ("utf-8-sig", "cp1252"):
        try:
            text = data.decode(codec)
        except UnicodeDecodeError:
            continue
        if "\0" in text:
            break
        return text
    raise BadCsv(say("this is no text file"))


def _column(header: str) -> Column | None:
    """What a header means: words and a unit, in brackets or after an underscore or blank."""
    words = [w for w in re.split(r"[\s_\[\]().,:/]+", header.strip().lower()) if w]
    what = next((w for w in words if w in ("spoke", "angle", "tension", "lateral", "radial")), None)
    if what is None:
        return None
    unit = next((_WORDS[w] for w in words if w in _WORDS), "")
    if what in UNITS:
        if unit and unit not in UNITS[what]:
            raise BadCsv(
                say(
                    "“{header}”: {what} is in {units}, not in {unit}",
                    header=header,
                    what=what,
                    units=joined(", ", UNITS[what]),
                    unit=unit,
                )
            )
        return Column(what, unit or UNITS[what][0], bool(unit), header.strip())
    return Column(what, "deg" if what == "angle" else "", True, header.strip())


def number(text: str) -> float | None:
    """A number with a decimal point or comma, a sign of either kind; None where it is none."""
    clean = text.strip().replace("\u2212", "-").replace("\u00a0", "")
    if not re.fullmatch(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?", clean):
        return None
    return float(clean.replace(",", "."))


def _rows(line_number: int, line: Sequence[str], columns: Sequence[Column | None], wheel: Wheel) -> list[ReadRow]:
    cells = {c.what: cell for c, cell in zip(columns, line, strict=False) if c is not None}
    spoke, angle, wrong = "", None, ""
    if len(line) > len(columns):
        wrong = say(
            "{line_count} cells under {columns_count} headers; is a decimal comma not quoted?",
            line_count=len(line),
            columns_count=len(columns),
        )
    if cells.get("spoke", "").strip():
        try:
            name = SpokeName.parse(cells["spoke"])
            spoke = str(name)
            if spoke not in wheel.index_of:
                wrong = wrong or say("this wheel has no spoke {spoke}", spoke=spoke)
        except UnknownSpoke:
            spoke, wrong = (
                cells["spoke"].strip()[:8],
                wrong or say("“{spoke}” names no spoke", spoke=cells["spoke"].strip()[:12]),
            )
    elif "angle" in cells:
        angle = number(cells["angle"])
        if angle is None or not -360 <= angle <= 720:
            wrong = wrong or say("“{angle}” is no angle", angle=cells["angle"].strip()[:12])
        else:
            angle %= 360
    else:
        wrong = wrong or say("no spoke and no angle")
    found = []
    for column in columns:
        if column is None or column.what not in UNITS or not cells.get(column.what, "").strip():
            continue
        value = number(cells[column.what])
        here = wrong or _wrong_value(column, value, cells[column.what], spoke)
        found.append(ReadRow(line_number, column.what, spoke, angle, value, column.unit, here))
    return found


def _wrong_value(column: Column, value: float | None, text: str, spoke: str) -> str:
    if value is None:
        return say("“{text}” is no number", text=text.strip()[:12])
    if column.what == "tension" and not spoke:
        return say("a tension needs its spoke")
    try:
        if column.what == "tension" and column.unit != "meter":
            entered_force_n(value, column.unit)
        elif column.what != "tension":
            entered_deviation_mm(value, column.unit)
    except BadReading as error:
        return error.message
    return ""


def _doubted(rows: list[ReadRow], dense: bool) -> list[ReadRow]:
    """Mark what is sound but strange: a place twice, a value far from its like."""
    seen: dict[tuple[str, str, float | None], int] = {}
    checked: list[ReadRow] = []
    limits = {kind: _usual(rows, kind) for kind in UNITS}
    for row in rows:
        doubt = ""
        place = (row.kind, row.spoke, row.angle_deg)
        if not dense and place in seen:
            doubt = say("the same place as in line {seen}: the later one counts", seen=seen[place])
        elif row.value is not None and not row.wrong:
            low, high = limits[row.kind]
            if not low <= row.value <= high:
                doubt = say("far from the others: a slip of the decimal sign?")
        seen.setdefault(place, row.line)
        checked.append(ReadRow(row.line, row.kind, row.spoke, row.angle_deg, row.value, row.unit, row.wrong, doubt))
    return checked


def _usual(rows: list[ReadRow], kind: str) -> tuple[float, float]:
    values = np.array([row.value for row in rows if row.kind == kind and row.value is not None and not row.wrong])
    if len(values) < 5:
        return -np.inf, np.inf
    low, middle, high = np.percentile(values, (25, 50, 75))
    reach = max(6 * (high - low), 0.6 * abs(middle), 1e-9)
    return float(middle - reach), float(middle + reach)


def write_csv(wheel: Wheel, values: Mapping[str, Mapping[str, float]]) -> str:
    """A file of readings, RFC 4180: spoke, angle_deg, tension_n, lateral_mm, radial_mm; `values` by spoke and kind."""
    out = io.StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["spoke", "angle_deg", "tension_n", "lateral_mm", "radial_mm"])
    for i, name in enumerate(wheel.names):
        mine = values.get(str(name), {})
        cells = [f"{mine[k]:.{d}f}" if k in mine else "" for k, d in (("tension", 1), ("lateral", 3), ("radial", 3))]
        writer.writerow([str(name), f"{wheel.angles_deg[i]:.2f}", *cells])
    return out.getvalue()


def read_chart(data: bytes) -> dict[str, tuple[list[float], list[float]]]:
    """A meter's chart typed in by the shop: columns reading, spoke_kind, force_n; or reading and one column of N per kind.

    Gives readings and forces by spoke kind, in rising order. Raises BadCsv.
    """
    text = _text(data)
    delimiter = delimiter_of(text)
    lines = [line for line in csv.reader(io.StringIO(text, newline=""), delimiter=delimiter) if any(c.strip() for c in line)]
    if len(lines) < 2:
        raise BadCsv(say("expected a line of headers and at least three of readings"))
    headers = [h.strip() for h in lines[0]]
    low = [h.lower() for h in headers]
    if "reading" not in low:
        raise BadCsv(say("one column must be called reading"))
    found: dict[str, list[tuple[float, float]]] = {}

    def put(kind: str, line: int, reading: str, force: str) -> None:
        r, f = number(reading), number(force)
        if r is None or f is None:
            raise BadCsv(
                say(
                    "line {line}: “{reading}” and “{force}” must both be numbers",
                    line=line,
                    reading=reading[:12],
                    force=force[:12],
                ),
                say("line {line}", line=line),
            )
        found.setdefault(kind.strip(), []).append((r, f))

    at = low.index("reading")
    long_form = "spoke_kind" in low and "force_n" in low
    for number_, line in enumerate(lines[1:], start=2):
        cells = line + [""] * (len(headers) - len(line))
        if long_form:
            put(cells[low.index("spoke_kind")], number_, cells[at], cells[low.index("force_n")])
            continue
        for j, header in enumerate(headers):
            if j != at and cells[j].strip():
                put(header, number_, cells[at], cells[j])
    if not found:
        raise BadCsv(say("no forces stand under any spoke kind"))
    return {kind: ([r for r, _ in sorted(pairs)], [f for _, f in sorted(pairs)]) for kind, pairs in found.items()}
