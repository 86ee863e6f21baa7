"""Which database is asked. A place is a database that whole shops live in; most servers have one, “default”.

The place of what runs is set where it is known whose it is: by a request's cookie (asked.py), at sign-in, by the token of a
link, for a worker or a command by FELLOE_PLACE. Django's router (router.py) sends every question there, `atomic` opens its
transaction there, `database` is the connection for what is asked in SQL.

`reading` sends what is only read to the place's standby, where it has one: for what is long and may be as old as the standby
lags, some milliseconds. Whatever would write in there is refused, with and without a standby.
"""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any, TypeVar, overload

from django.db import DEFAULT_DB_ALIAS, connections, transaction
from django.db.backends.base.base import BaseDatabaseWrapper

STANDBY = "-standby"
T = TypeVar("T")
F = TypeVar("F", bound=Callable[..., Any])
_place: ContextVar[str] = ContextVar("felloe_place", default=os.environ.get("FELLOE_PLACE") or DEFAULT_DB_ALIAS)
_stays: ContextVar[bool] = ContextVar("felloe_stays", default=False)
_whole: ContextVar[bool] = ContextVar("felloe_whole", default=False)
_reading: ContextVar[bool] = ContextVar("felloe_reading", default=False)


def places() -> list[str]:
    """The places of this server, the first one first."""
    return [alias for alias in connections.settings if not alias.endswith(STANDBY)]


def place() -> str:
    """The place in force."""
    return _place.get()


@contextmanager
def at(name: str) -> Iterator[None]:
    """What is asked in here is asked at that place. Raises LookupError where there is none of that name."""
    before = _place.set(_known(name))
    try:
        yield
    finally:
        _place.reset(before)


def found_at(look: Callable[[], T | None]) -> T | None:
    """What a look finds, the place in force first, then the others; where it was found is the place from here on.

    For what comes in without a place: a shop's code, a link's token. Such a look costs an indexed question each.
    """
    first = place()
    for name in [first, *(other for other in places() if other != first)]:
        with at(name):
            found = look()
        if found is not None:
            settle(name)
            return found
    return None


def settle(name: str) -> None:
    """That place from here on, for the rest of the request: not within a transaction. Raises LookupError."""
    _place.set(_known(name))


def _known(name: str) -> str:
    if name not in places():
        raise LookupError(f"there is no place “{name}”")
    if _stays.get() and name != _place.get():
        raise RuntimeError(f"what is asked for one shop does not go to “{name}”")
    return name


@contextmanager
def staying(stays: bool) -> Iterator[None]:
    """Whether the place may not change in here: a fence stands at one place only (felloe/accounts/fence.py)."""
    before = _stays.set(stays)
    try:
        yield
    finally:
        _stays.reset(before)


@contextmanager
def reading() -> Iterator[None]:
    """What is asked in here only reads, and may be answered by the standby."""
    before = _reading.set(True)
    try:
        yield
    finally:
        _reading.reset(before)


def only_reads() -> bool:
    return _reading.get()


def alias() -> str:
    """The name of the database that is asked: the place's, or its standby's."""
    standby = _place.get() + STANDBY
    return standby if _reading.get() and standby in connections.settings else _place.get()


def database() -> BaseDatabaseWrapper:
    """The connection of this thread to the database that is asked."""
    return connections[alias()]


class _Atomic(transaction.Atomic):
    """Django's, in the database that is asked when it is entered; the same object serves all threads."""

    using = property(lambda self: alias(), lambda self, value: None)
    savepoint = property(
        lambda self: self._savepoint and not _whole.get(), lambda self, value: setattr(self, "_savepoint", value)
    )


@contextmanager
def whole() -> Iterator[None]:
    """All in here, or nothing: what is begun within has no way back to its middle, which spares two questions each.

    Whoever goes on after a refusal in here finds the transaction broken, and nothing of it is kept.
    """
    before = _whole.set(True)
    try:
        with atomic():
            yield
    finally:
        _whole.reset(before)


@overload
def atomic(run: F) -> F: ...
@overload
def atomic(*, savepoint: bool = True, durable: bool = False) -> transaction.Atomic: ...
def atomic(run: Any = None, *, savepoint: bool = True, durable: bool = False) -> Any:
    """`transaction.atomic` for the place in force: about a function or a block."""
    made = _Atomic(None, savepoint, durable)
    return made if run is None else made(run)
