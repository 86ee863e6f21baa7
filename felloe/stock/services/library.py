"""The parts library out and in as CSV: looked at before anything is saved, and all of it or nothing."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.core.stock.csv_parts import PartRow, read_parts, write_parts
from felloe.stock import answers
from felloe.stock.models import Part
from felloe.stock.services.bins import FIELDS, add_part, change_part, count_bin, figures, parts_of


def library_csv(user: User) -> str:
    """All parts of the shop, with what is in their bins."""
    parts = parts_of(user)
    known = figures(parts)
    return write_parts(
        {**{name: getattr(p, name) for name in ("kind", "name", "attributes", *FIELDS)}, "counted": known[p.pk].on_hand}
        for p in parts
    )


def preview(user: User, text: str) -> list[answers.PreviewRow]:
    """What a file would do, row by row: new, changed, the same, or wrong."""
    known = {part.name.casefold(): part for part in parts_of(user)}
    stock = figures(known.values())
    return [_previewed(row, known.get(str(row.values.get("name", "")).casefold()), stock) for row in read_parts(text)]


def _previewed(row: PartRow, part: Part | None, stock: Any) -> answers.PreviewRow:
    wrong = row.wrong
    if not wrong and part is not None and part.kind != row.values["kind"]:
        wrong = say("a {kind} has this name already", kind=part.kind)
    if wrong:
        does = "wrong"
    elif part is None:
        does = "new"
    else:
        changed = any(getattr(part, name) != value for name, value in _over(part, row).items())
        counted = row.counted is not None and row.counted != stock[part.pk].on_hand
        does = "changed" if changed or counted else "same"
    return answers.PreviewRow(
        line=row.line, name=row.values.get("name", ""), kind=row.values.get("kind", ""), does=does, wrong=wrong
    )


def _over(part: Part, row: PartRow) -> dict[str, Any]:
    """What a row says of a known part; columns that the file has not are left alone."""
    said = {name: value for name, value in row.values.items() if name not in ("kind", "name")}
    return {**said, "attributes": row.attributes_over(part.attributes)}


@transaction.atomic
def import_csv(user: User, text: str) -> int:
    """Take in a whole file; refused where any row is wrong. Returns the number of parts made or changed."""
    seen = preview(user, text)
    bad = [row for row in seen if row.wrong]
    if bad:
        errors = [{"field": say("line {line}", line=row.line), "message": row.wrong, "code": "bad_row"} for row in bad]
        raise Refused("bad_rows", say("{count} rows are wrong; nothing was taken in.", count=len(bad)), 422, errors=errors)
    known = {part.name.casefold(): part for part in parts_of(user)}
    touched = 0
    for row, what in zip(read_parts(text), seen, strict=True):
        if what.does == "same":
            continue
        part = known.get(row.values["name"].casefold())
        part = add_part(user, row.values) if part is None else change_part(user, part.pk, part.version, _over(part, row))
        if row.counted is not None:
            count_bin(user, part.pk, row.counted, say("from a file"))
        touched += 1
    return touched
