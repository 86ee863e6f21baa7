"""Bodies in JSON: whatever cannot be kept is refused at the door, with a message, before any field is looked at."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

from felloe.core.errors import TradeError
from felloe.core.said import say

#: Deeper than anything that Felloe takes, and than its own walks could go.
DEEPEST = 200


def unkeepable(text: str) -> bool:
    """Half of a character (a lone surrogate) or a NUL: PostgreSQL keeps neither."""
    return "\x00" in text or (not text.isascii() and any("\ud800" <= c <= "\udfff" for c in text))


class BadText(TradeError):
    """A text with a character that no database keeps."""

    code = "bad_text"


class KeepableJSONParser(JSONParser):
    """JSON in UTF-8 by RFC 8259: no NaN, no halves of characters, not endlessly deep."""

    def parse(self, stream: Any, media_type: str | None = None, parser_context: Any = None) -> Any:
        try:
            text = stream.read().decode("utf-8")
            value = json.loads(text, parse_constant=_refuse)
        except (ValueError, RecursionError):
            # Also numbers of more digits than Python turns into one.
            raise ParseError from None
        depth = text.count("[") + text.count("{")
        if depth > DEEPEST and _deep(value):
            raise ParseError
        # In the text itself such a character can only stand escaped.
        if "\\u" in text:
            for place, found in _texts(value, ""):
                if unkeepable(found):
                    raise BadText(say("A character in it cannot be kept: write it again."), place)
        return value


def _refuse(word: str) -> float:
    raise ValueError(word)


def _deep(value: Any) -> bool:
    level = [value]
    for _ in range(DEEPEST):
        level = [
            inner for one in level if isinstance(one, dict | list) for inner in (one.values() if isinstance(one, dict) else one)
        ]
        if not level:
            return False
    return True


def _texts(value: Any, place: str) -> Iterator[tuple[str, str]]:
    if isinstance(value, str):
        yield place, value
    elif isinstance(value, dict):
        for key, inner in value.items():
            yield place, key
            yield from _texts(inner, f"{place}.{key}" if place and not unkeepable(key) else (place or str(key)))
    elif isinstance(value, list):
        for number, inner in enumerate(value):
            yield from _texts(inner, f"{place}.{number}" if place else str(number))
