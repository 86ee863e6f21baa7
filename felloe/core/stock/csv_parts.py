"""The parts library as CSV (RFC 4180), out and in again: one row per part, a column per attribute with its unit in the name."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from felloe.core.delimited import as_written, delimiter_of, harmless
from felloe.core.errors import TradeError
from felloe.core.said import joined, say
from felloe.core.stock.parts import ATTRIBUTES, PART_KINDS, TEXT_LENGTHS, WHOLE_LIMITS, checked_attributes

MOST_BYTES, MOST_ROWS = 1_000_000, 5_000
TEXTS = ("kind", "name", "bin", "supplier", "supplier_code")
WHOLE = ("minimum", "pack", "lead_days", "price_minor", "counted")
_COLUMNS = tuple(dict.fromkeys(a.name for attributes in ATTRIBUTES.values() for a in attributes))
HEADER = (*TEXTS, *WHOLE, *_COLUMNS)
_FLAGS = {"yes": True, "true": True, "1": True, "no": False, "false": False, "0": False}
_ATTRIBUTE_KINDS = {a.name: a.kind for attributes in ATTRIBUTES.values() for a in attributes}


class BadPartsFile(TradeError):
    """A file that is no parts library."""

    code = "bad_parts_file"


@dataclass(frozen=True)
class PartRow:
    """One row: its line in the file (from 1), the part's values, `counted` pieces or None, and what is wrong with it.

    `values` holds what the file has columns for; `columns` are those, so that others of a known part stay as they are.
    """

    line: int
    values: dict[str, Any]
    counted: int | None
    wrong: str = ""
    columns: frozenset[str] = frozenset()

    def attributes_over(self, known: Mapping[str, Any]) -> dict[str, Any]:
        """The attributes of a known part with this row's over them; an empty cell empties, a missing column leaves."""
        kept = {name: value for name, value in known.items() if name not in self.columns}
        return {**kept, **self.values.get("attributes", {})}


def write_parts(parts: Iterable[Mapping[str, Any]]) -> str:
    """CSV text of parts; `attributes` of each are spread over the columns, `counted` is what is in the bin."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(HEADER)
    for part in parts:
        attributes = part.get("attributes", {})
        cells = [part.get(name) for name in (*TEXTS, *WHOLE)] + [attributes.get(name) for name in _COLUMNS]
        rows.writerow(_written(cell) for cell in cells)
    return out.getvalue()


def _written(cell: Any) -> Any:
    if isinstance(cell, str):
        return harmless(cell)
    return "" if cell is None else ("yes" if cell else "no") if isinstance(cell, bool) else cell


def read_parts(text: str) -> tuple[PartRow, ...]:
    """Read such a file, also with semicolons and decimal commas. Raises BadPartsFile; rows say what is wrong with them."""
    if len(text.encode()) > MOST_BYTES:
        raise BadPartsFile(say("the file is larger than {most_mb} kB", most_mb=MOST_BYTES // 1000), "file")
    text = text.removeprefix("\ufeff")
    delimiter = delimiter_of(text)
    try:
        rows = list(csv.reader(io.StringIO(text), delimiter=delimiter, strict=True))
    except csv.Error as error:
        raise BadPartsFile(say("the file is not CSV: {error}", error=error), "file") from None
    if len(rows) < 2:
        raise BadPartsFile(say("the file has no rows below its header"), "file")
    header = [cell.strip().lower() for cell in rows[0]]
    unknown = [name for name in header if name and name not in HEADER]
    if unknown:
        raise BadPartsFile(
            say("unknown column “{unknown}”; the columns are those of the export", unknown=unknown[0][:40]), "file"
        )
    missing = [name for name in ("kind", "name") if name not in header]
    if missing:
        raise BadPartsFile(say("the column “{missing}” is missing", missing=missing[0]), "file")
    if len(rows) > MOST_ROWS + 1:
        raise BadPartsFile(say("at most {most} rows", most=MOST_ROWS), "file")
    found, seen = [], set()
    for line, row in enumerate(rows[1:], start=2):
        if not any(as_written(cell.strip()) for cell in row):
            continue
        read = _row(line, dict(zip(header, (as_written(cell.strip()) for cell in row), strict=False)), delimiter)
        name = str(read.values.get("name", "")).casefold()
        if not read.wrong and name in seen:
            read = replace(read, wrong=say("this name stands in the file twice"))
        seen.add(name)
        found.append(read)
    return tuple(found)


def _row(line: int, cells: dict[str, str], delimiter: str) -> PartRow:
    columns = frozenset(cells)
    values: dict[str, Any] = {name: cells[name] for name in TEXTS if name in cells}
    try:
        if not values["name"]:
            raise BadPartsFile(say("a part needs a name"), "name")
        for name, most in TEXT_LENGTHS.items():
            if len(values.get(name, "")) > most:
                raise BadPartsFile(say("is longer than {most} letters", most=most), name)
        if values["kind"] not in PART_KINDS:
            raise BadPartsFile(
                say("“{kind}” is no kind of part: {kinds}", kind=values["kind"][:20], kinds=joined(", ", PART_KINDS)),
                "kind",
            )
        whole = {name: _whole(name, cells[name]) for name in WHOLE if cells.get(name)}
        given = {name: _cell(name, cells[name], delimiter) for name in _COLUMNS if cells.get(name)}
        values["attributes"] = checked_attributes(values["kind"], given)
    except TradeError as error:
        at = error.field.removeprefix("attributes.") + ": " if error.field else ""
        return PartRow(line, values, None, at + error.message, columns)
    counted = whole.pop("counted", None)
    return PartRow(line, {**values, **whole}, counted, columns=columns)


def _whole(name: str, text: str) -> int:
    low, high = WHOLE_LIMITS[name]
    # Digits of other kinds ("²") are digits to Python, but no number.
    if not (text.isascii() and text.isdigit() and len(text) <= 9 and low <= int(text) <= high):
        raise BadPartsFile(
            say("is a whole number between {low} and {high}; found “{text}”", low=low, high=high, text=text[:20]), name
        )
    return int(text)


def _cell(name: str, text: str, delimiter: str) -> Any:
    kind = _ATTRIBUTE_KINDS[name]
    if kind == "flag":
        if text.lower() not in _FLAGS:
            raise BadPartsFile(say("is yes or no; found “{text}”", text=text[:20]), name)
        return _FLAGS[text.lower()]
    if kind != "number":
        return text
    try:
        return float(text.replace(",", ".") if delimiter != "," else text)
    except ValueError:
        raise BadPartsFile(say("is a number; found “{text}”", text=text[:20]), name) from None
