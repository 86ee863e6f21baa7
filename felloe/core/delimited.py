"""What every table of text shares: which character stands between its cells."""

from __future__ import annotations

#: What a spreadsheet takes for a formula when a cell begins with it (OWASP, "CSV Injection").
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def harmless(cell: str) -> str:
    """A cell that no spreadsheet carries out: an apostrophe before what would be a formula."""
    return f"'{cell}" if cell.startswith(FORMULA) else cell


def delimiter_of(text: str) -> str:
    """Comma, semicolon or tab, whichever the first line holds most of; a comma where they are equal."""
    first = text.lstrip().split("\n", 1)[0]
    return max(";", "\t", ",", key=lambda d: (first.count(d), d == ","))
