"""What differs between two values made of dictionaries, lists and plain values: each leaf by its path."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

Leaf = tuple[str, Any, Any]


def leaf_changes(before: Any, after: Any, path: str = "") -> Iterator[Leaf]:
    """(path, before, after) of every leaf that differs, in the order of `after`; None where one side has none.

    Dictionaries are gone into; lists count as a whole, since their places mean nothing.
    """
    if isinstance(before, Mapping) or isinstance(after, Mapping):
        was = before if isinstance(before, Mapping) else {}
        now = after if isinstance(after, Mapping) else {}
        for key in dict.fromkeys([*now, *was]):
            yield from leaf_changes(was.get(key), now.get(key), f"{path}.{key}" if path else str(key))
    elif before != after:
        yield path, before, after
