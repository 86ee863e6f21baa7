"""The shop of a query: the one place that sets it, for the database as for the code.

Every service filters by shop itself. Beneath, as the second lock, PostgreSQL's row-level security (put up by
felloe/upkeep/fencing.py) lets the role ROLE see and write the rows of one shop only: a forgotten filter finds nothing of
another's. Requests of the staff and of customers run in that role. What belongs to no shop's request (signing in, the worker,
commands, migrations) does not: it says for itself whose rows it touches.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from typing import Any
from uuid import UUID

from django.db import connections
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.backends.signals import connection_created
from psycopg.pq import TransactionStatus

from felloe.places.here import STANDBY, place, staying

#: May see and write only rows of the shop that the setting names.
ROLE, SETTING = "felloe_fenced", "felloe.shop"
_shop: ContextVar[UUID | None] = ContextVar("felloe_shop", default=None)


@contextmanager
def within(shop_id: UUID) -> Iterator[None]:
    """What is asked of the database in here is asked for this shop. May be nested; the outer shop comes back."""
    before = _shop.set(shop_id)
    try:
        _apply(shop_id)
        with staying(True):
            yield
    finally:
        _shop.reset(before)
        _back()


@contextmanager
def beyond() -> Iterator[None]:
    """Outside of the fence for a while: only for what is on purpose between shops, of one person who may in both."""
    before = _shop.set(None)
    try:
        _apply(None)
        with staying(False):
            yield
    finally:
        _shop.reset(before)
        _back()


def shop_in_force() -> UUID | None:
    """Whose rows are asked for here; None outside of the fence."""
    return _shop.get()


def _apply(shop_id: UUID | None) -> None:
    """To the connections that are there; one that is made later begins with it (`_again`)."""
    for to in _connected():
        # One that was kept from before, to a server that has been replaced meanwhile, is made anew.
        to.close_if_health_check_failed()
        if to.connection is not None:
            _say(to, shop_id)


def _connected() -> list[BaseDatabaseWrapper]:
    """This thread's connections to the place in force and to its standby."""
    names = (place(), place() + STANDBY)
    return [one for one in connections.all(initialized_only=True) if one.alias in names and one.connection is not None]


def _say(to: BaseDatabaseWrapper, shop_id: UUID | None) -> None:
    """Past Django's cursor, as a part of the connection and no question of ours: one message, some 0.1 ms."""
    # A UUID holds nothing that could end the text.
    asked = f"RESET ROLE; SET {SETTING} = ''" if shop_id is None else f"SET ROLE {ROLE}; SET {SETTING} = '{UUID(str(shop_id))}'"
    with to.wrap_database_errors:
        to.connection.execute(asked)


def _back() -> None:
    """To what is in force outside. A connection that was lost meanwhile has forgotten it all by itself, and a transaction that
    failed takes back with itself what was set in it; nothing can be said to it before."""
    for there in _connected():
        if not there.connection.closed and there.connection.info.transaction_status != TransactionStatus.INERROR:
            _say(there, _shop.get())


def _again(sender: Any, connection: BaseDatabaseWrapper, **_more: Any) -> None:
    """A connection that is made within the fence begins within it."""
    shop_id = _shop.get()
    if shop_id is not None:
        _say(connection, shop_id)


connection_created.connect(_again, dispatch_uid="felloe_fence")
