"""The parts library out and in as CSV: looked at before anything is saved, and all of it or nothing."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from django.db import IntegrityError
from django.utils import timezone

from felloe.accounts import services as accounts
from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.core.stock.csv_parts import PartRow, read_parts, write_parts
from felloe.core.stock.parts import BadPart
from felloe.places.here import atomic
from felloe.stock import answers
from felloe.stock.models import Movement, Part
from felloe.stock.services.bins import FIELDS, Figures, figures, parts_of, release_waiting


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
    return [seen for _, _, seen in _compared(parts_of(user), read_parts(text))]


def _compared(
    parts: Sequence[Part], rows: Iterable[PartRow]
) -> list[tuple[PartRow, tuple[Part, Figures] | None, answers.PreviewRow]]:
    """Each row with the part and the figures that it means, if any, and what it would do."""
    stock = figures(parts)
    known = {part.name.casefold(): (part, stock[part.pk]) for part in parts}
    found = []
    for row in rows:
        met = known.get(str(row.values.get("name", "")).casefold())
        found.append((row, met, _previewed(row, met)))
    return found


def _previewed(row: PartRow, met: tuple[Part, Figures] | None) -> answers.PreviewRow:
    wrong = row.wrong
    if not wrong and met is not None and met[0].kind != row.values["kind"]:
        wrong = say("a {kind} has this name already", kind=met[0].kind)
    if wrong:
        does = "wrong"
    elif met is None:
        does = "new"
    else:
        counted = row.counted is not None and row.counted != met[1].on_hand
        does = "changed" if counted or _changes(met[0], row) else "same"
    return answers.PreviewRow(
        line=row.line, name=row.values.get("name", ""), kind=row.values.get("kind", ""), does=does, wrong=wrong
    )


def _changes(part: Part, row: PartRow) -> Mapping[str, object]:
    """What a row changes of a known part; columns that the file has not are left alone."""
    said = {name: value for name, value in row.values.items() if name not in ("kind", "name")}
    said["attributes"] = row.attributes_over(part.attributes)
    return {name: value for name, value in said.items() if getattr(part, name) != value}


@atomic
def import_csv(user: User, text: str) -> int:
    """Take in a whole file; refused where any row is wrong. Returns the number of parts made or changed.

    In a handful of statements, however long the file is, and one file at a time in a shop: two that name the same new parts
    in another order would each wait for the other.
    """
    rows = read_parts(text)
    accounts.one_at_a_time(user)
    parts = list(Part.objects.select_for_update().filter(shop_id=user.shop_id).order_by("pk"))
    compared = _compared(parts, rows)
    bad = [seen for _, _, seen in compared if seen.wrong]
    if bad:
        errors = [{"field": say("line {line}", line=row.line), "message": row.wrong, "code": "bad_row"} for row in bad]
        raise Refused("bad_rows", say("{count} rows are wrong; nothing was taken in.", count=len(bad)), 422, errors=errors)
    new: list[Part] = []
    changed: list[Part] = []
    fields: set[str] = set()
    counts: list[tuple[Part, int, int]] = []
    for row, met, seen in compared:
        if seen.does == "same":
            continue
        if met is None:
            part, on_hand = Part(shop_id=user.shop_id, created_by_id=user.pk, changed_by_id=user.pk, **row.values), 0
            new.append(part)
        else:
            part, on_hand = met[0], met[1].on_hand
            changes = _changes(part, row)
            if changes:
                fields |= changes.keys()
                changed.append(part)
                for name, value in changes.items():
                    setattr(part, name, value)
        if row.counted is not None:
            counts.append((part, row.counted, on_hand))
    _keep(user, new, changed, fields)
    _count(user, counts)
    return sum(1 for _, _, seen in compared if seen.does != "same")


def _keep(user: User, new: list[Part], changed: list[Part], fields: set[str]) -> None:
    try:
        with atomic():
            Part.objects.bulk_create(new)
    except IntegrityError:
        raise BadPart(say("a part of this name is there already"), "name") from None
    now = timezone.now()
    for part in changed:
        part.version += 1
        part.changed_by_id, part.changed_at = user.pk, now
    # The rows are locked and there: as an insertion that meets them, all are changed by one statement.
    Part.objects.bulk_create(
        changed,
        update_conflicts=True,
        unique_fields=["id"],
        update_fields=[*sorted(fields), "version", "changed_by", "changed_at"],
    )


def _count(user: User, counts: list[tuple[Part, int, int]]) -> None:
    """Say what is in many bins; the differences go to the ledger."""
    note = say("from a file")
    Movement.objects.bulk_create(
        Movement(
            shop_id=user.shop_id,
            part_id=part.pk,
            kind=Movement.Kind.COUNT,
            delta=counted - on_hand,
            note=note,
            created_by_id=user.pk,
        )
        for part, counted, on_hand in counts
    )
    release_waiting(user, [part.pk for part, _, _ in counts])
