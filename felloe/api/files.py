"""Files in a request's body: raw bytes, and whether they are only to be looked at."""

from __future__ import annotations

from rest_framework.parsers import BaseParser
from rest_framework.request import Request

from felloe.core.measuring.csv_readings import MOST_BYTES


class TextParser(BaseParser):
    """The raw bytes of a text file, one byte past the limit at most."""

    media_type = "text/csv"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"file": stream.read(MOST_BYTES + 1)}  # type: ignore[attr-defined]


def keeps(request: Request) -> bool:
    """Whether a file is to be kept, not only looked at."""
    return request.query_params.get("keep", "") in ("1", "true")
