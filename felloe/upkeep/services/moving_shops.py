"""A whole shop goes to another place of this server: out, in there, held against each other row by row, only then erased."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import TypeVar

from felloe.accounts.models import Shop, User
from felloe.accounts.services import shops as accounts
from felloe.places.here import at, places
from felloe.upkeep.services import shops
from felloe.upkeep.services.database import Place

T = TypeVar("T")


class CannotMove(Exception):
    """Why a shop stays where it is."""


def held_at(code: str) -> list[str]:
    """The places that hold a shop of that code: one, or two where a move was broken off."""
    return [name for name in places() if _at(name, lambda: Shop.objects.filter(code=code).exists())]


def _at(name: str, run: Callable[[], T]) -> T:
    with at(name):
        return run()


def move_shop(code: str, to: str) -> shops.ShopFile | None:
    """Move a shop, suspended meanwhile; what the file says of it, None where only the end of an earlier move was left to do.

    A move that was broken off is taken up by the same call: where the shop is at both places and equal row for row, the former
    one is erased. It stays suspended then, as nobody can tell who suspended it.

    Raises LookupError for an unknown place or shop; CannotMove where it is there already, where the two copies differ, or where
    somebody of it works in another shop too, since one person's branches are asked for in one place.
    """
    with at(to):
        pass
    held = held_at(code)
    if not held:
        raise LookupError(code)
    if held == [to]:
        raise CannotMove(f"“{code}” is at “{to}” already")
    source = next(name for name in held if name != to)
    if to in held:
        _equal_or_raise(code, source, to)
        _at(source, lambda: shops.erase_shop(Place.of_settings(), code))
        return None
    with at(source):
        _alone_or_raise(code)
        was_open = Shop.objects.get(code=code).suspended_at is None
        accounts.suspend(code)
        try:
            with tempfile.TemporaryDirectory() as folder:
                path = Path(folder, "shop.zip")
                shops.export_shop(Place.of_settings(), code, path)
                found = _at(to, lambda: shops.import_shop(Place.of_settings(), path))
        except BaseException:
            # What was put in is one transaction: it is not there.
            if was_open:
                accounts.suspend(code, until_told=False)
            raise
        _equal_or_raise(code, source, to)
        shops.erase_shop(Place.of_settings(), code)
    if was_open:
        _at(to, lambda: accounts.suspend(code, until_told=False))
    return found


def _equal_or_raise(code: str, one: str, other: str) -> None:
    sums = [_at(name, lambda: shops.sums_of(Place.of_settings(), code)) for name in (one, other)]
    if sums[0] != sums[1]:
        wrong = sorted(name for name in sums[0] if sums[0][name] != sums[1].get(name))
        raise CannotMove(f"“{code}” is at “{one}” and at “{other}”, and differs in {', '.join(wrong[:5])}: nothing was erased")


def _alone_or_raise(code: str) -> None:
    elsewhere = User.objects.exclude(shop__code=code).exclude(one_person=None)
    both = User.objects.filter(shop__code=code, one_person__in=elsewhere.values("one_person")).order_by("username")
    if both:
        raise CannotMove(f"{', '.join(user.username for user in both)} of “{code}” also work in another shop: part them first")
