"""What every table of text shares: which character stands between its cells."""

from __future__ import annotations

#: What a spreadsheet takes for a formula when a cell begins with it (OWASP, "CSV Injection").
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def harmless(cell: str) -> str:
    """A cell that no spreadsheet carries out: an apostrophe before what would be a formula, and before what looks like one
    that has been made harmless already, so that `as_written` finds each again."""
    return f"'{cell}" if cell.lstrip("'").startswith(FORMULA) else cell


def as_written(cell: str) -> str:
    """The cell that `harmless` was given."""
    return cell[1:] if cell.startswith("'") and cell.lstrip("'").startswith(FORMULA) else cell


def delimiter_of(text: str) -> str:
    """Comma, semicolon or tab, whichever the first line holds most of; a comma where they are equal."""
    first = text.lstrip().split("\n", 1)[0]
    return max(";", "\t", ",", key=lambda d: (first.count(d), d == ","))
