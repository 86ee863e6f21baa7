"""What every table of text shares: which character stands between its cells."""

from __future__ import annotations


def delimiter_of(text: str) -> str:
    """Comma, semicolon or tab, whichever the first line holds most of; a comma where they are equal."""
    first = text.lstrip().split("\n", 1)[0]
    return max(";", "\t", ",", key=lambda d: (first.count(d), d == ","))
