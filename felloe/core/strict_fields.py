"""Strict reading of decoded JSON: every value is asked for by name and type, and nothing is left over."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from datetime import datetime
from typing import Any, TypeVar

from felloe.core.errors import BadRecord, TradeError
from felloe.core.said import joined, say

T = TypeVar("T")
_MISSING: Any = object()


#: The least standard deviation that a record may state, in N or mm.
LEAST_SD = 1e-3


def finite(value: Any, path: str) -> float:
    """A number as a float that is one. Raises BadRecord, also for an integer beyond every float."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        raise BadRecord(say("expected a number, found {kind}", kind=_kind(value)), path)
    try:
        number = float(value)
    except OverflowError:
        number = math.inf
    if not math.isfinite(number):
        raise BadRecord(say("expected a number, found {kind}", kind=say("one without end")), path)
    return number


class Fields:
    """One JSON object under reading. Errors are BadRecord with the dotted path of the value."""

    def __init__(self, value: object, path: str = "") -> None:
        if not isinstance(value, Mapping):
            raise BadRecord(say("expected an object, found {kind}", kind=_kind(value)), path)
        self._left = {str(key): item for key, item in value.items()}
        self._path = path

    def path(self, name: str) -> str:
        return f"{self._path}.{name}" if self._path else name

    def has(self, name: str) -> bool:
        return self._left.get(name) is not None

    def take(self, name: str, default: Any = _MISSING) -> Any:
        value = self._left.pop(name, None)
        if value is None:
            if default is _MISSING:
                raise BadRecord(say("is missing"), self.path(name))
            return default
        return value

    def number(self, name: str, default: Any = _MISSING) -> Any:
        """A finite number as float; `default` where absent or null."""
        value = self.take(name, default)
        if value is default and default is not _MISSING:
            return default
        return finite(value, self.path(name))

    def sd(self, name: str, default: Any = _MISSING) -> Any:
        """A standard deviation: one below a thousandth is no measurement, and leaves the estimate nothing to weigh by."""
        value = self.number(name, default)
        if value is not None and value is not default and value < LEAST_SD:
            raise BadRecord(say("a standard deviation is at least {least:g}", least=LEAST_SD), self.path(name))
        return value

    def integer(self, name: str, default: Any = _MISSING) -> Any:
        value = self.number(name, default)
        if value is default and default is not _MISSING:
            return default
        if value != int(value):
            raise BadRecord(say("expected a whole number, found {value:g}", value=value), self.path(name))
        return int(value)

    def text(self, name: str, default: Any = _MISSING, longest: int = 500) -> Any:
        value = self.take(name, default)
        if value is default and default is not _MISSING:
            return default
        if not isinstance(value, str) or len(value) > longest:
            raise BadRecord(
                say("expected text of at most {longest} characters, found {kind}", longest=longest, kind=_kind(value)),
                self.path(name),
            )
        return value

    def when(self, name: str) -> datetime | None:
        """A time of ISO 8601 with its offset; None where it is left out."""
        text = self.text(name, None, 40)
        if text is None:
            return None
        try:
            when = datetime.fromisoformat(text)
        except ValueError:
            message = say("expected a date and time of ISO 8601, found {text!r}", text=text)
            raise BadRecord(message, self.path(name)) from None
        if when.tzinfo is None:
            raise BadRecord(say("a time needs its offset from UTC"), self.path(name))
        return when

    def choice(self, name: str, options: tuple[str, ...], default: Any = _MISSING) -> Any:
        value = self.take(name, default)
        if value is default and default is not _MISSING:
            return default
        if value not in options:
            raise BadRecord(
                say("expected one of {options}; found {value!r}", options=joined(", ", options), value=str(value)[:40]),
                self.path(name),
            )
        return value

    def items(self, name: str, most: int) -> Iterator[tuple[str, object]]:
        """The items of a list with their paths; an absent list is empty."""
        value = self.take(name, [])
        if not isinstance(value, list):
            raise BadRecord(say("expected a list, found {kind}", kind=_kind(value)), self.path(name))
        if len(value) > most:
            raise BadRecord(
                say("at most {most} entries; found {value_count}", most=most, value_count=len(value)), self.path(name)
            )
        for i, item in enumerate(value):
            yield f"{self.path(name)}.{i}", item

    def object(self, name: str) -> Fields:
        return Fields(self.take(name), self.path(name))

    def done(self) -> None:
        """Refuse what nobody asked for: a misspelt field must not pass unseen."""
        for name in self._left:
            raise BadRecord(say("is not a field that belongs here"), self.path(name))


def placed(path: str, build: Callable[[], T]) -> T:
    """Run `build`, and put the path in front of the field of any error of the trade."""
    try:
        return build()
    except TradeError as error:
        raise error.under(path) if path else error from None


def _kind(value: object) -> str:
    if value is None:
        return "nothing"
    for python_type, word in ((bool, "true/false"), (int | float, "a number"), (str, say("text")), (list, "a list")):
        if isinstance(value, python_type):
            return word if word != "text" else say("text {value!r}", value=str(value)[:30])
    return say("an object")
