"""Square codes (QR, ISO/IEC 18004): the modules, which the page and the report draw."""

from __future__ import annotations


def rows_of(text: str) -> list[str]:
    """The modules of the code for `text`, one string of 0 and 1 per row, without its quiet zone."""
    # Read when a code is drawn: the process that holds the events' streams draws none.
    import segno

    rows: list[bytearray] = list(segno.make(text, error="m", micro=False).matrix or ())
    return ["".join("1" if dark else "0" for dark in row) for row in rows]
