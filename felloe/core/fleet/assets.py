"""A list of asset numbers, as a fleet's owner sends it: one a line, or a column of a table."""

from __future__ import annotations

import csv
import io
from dataclasses import dataclass

from felloe.core.delimited import delimiter_of
from felloe.core.errors import TradeError
from felloe.core.said import say

MOST = 500
LONGEST = 40
#: How the column may be called; without such a heading the first column is it.
HEADINGS = ("asset", "asset_number", "number", "no", "id")


class BadAssets(TradeError):
    """A list that cannot be taken."""

    code = "bad_assets"


@dataclass(frozen=True)
class Assets:
    """Numbers in their order, each once; `doubled` stood there more than once."""

    numbers: tuple[str, ...]
    doubled: tuple[str, ...]


def read_assets(text: str) -> Assets:
    """Read a list. Raises BadAssets where it is empty, too long, or a number is none."""
    rows = [
        row for row in csv.reader(io.StringIO(text.lstrip("\ufeff")), delimiter=delimiter_of(text)) if any(map(str.strip, row))
    ]
    if not rows:
        raise BadAssets(say("there is no number in it"), "text")
    headings = [cell.strip().lower().replace(" ", "_") for cell in rows[0]]
    column = next((i for i, cell in enumerate(headings) if cell in HEADINGS), None)
    if column is not None:
        rows = rows[1:]
    found: dict[str, int] = {}
    for line, row in enumerate(rows, start=1 if column is None else 2):
        number = row[column or 0].strip() if len(row) > (column or 0) else ""
        if not number or len(number) > LONGEST or not number.isprintable():
            raise BadAssets(
                say("line {line}: an asset number has 1 to {most} letters or figures", line=line, most=LONGEST), "text"
            )
        found[number] = found.get(number, 0) + 1
    if not found:
        raise BadAssets(say("there is no number in it"), "text")
    if len(found) > MOST:
        raise BadAssets(say("{count} wheels are more than the {most} of a lot", count=len(found), most=MOST), "text")
    return Assets(tuple(found), tuple(number for number, count in found.items() if count > 1))
