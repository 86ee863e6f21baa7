"""Signing in and out, and a person's own settings."""

from __future__ import annotations

from uuid import UUID

from django.contrib.auth import authenticate, logout
from django.http import HttpRequest

from felloe.accounts.models import Shop, User
from felloe.accounts.services import second_factor, sessions
from felloe.accounts.services.passwords import shop_meant
from felloe.accounts.services.sign_in_tries import may_try
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.places.here import at, place


def sign_in(request: HttpRequest, username: str, password: str, shop: str = "", code: str = "") -> User:
    """Start a session; refused with one message for an unknown name and for a wrong password, and after too
    many of them for a while. Where somebody has a second factor, its `code` is asked for once the password is right."""
    was, former = place(), request.session.session_key
    meant = shop_meant(shop)
    may_try(request, meant, username)
    user = authenticate(request, username=username, password=password, shop=meant)
    if not isinstance(user, User):
        raise Refused("sign_in_failed", say("Name and password do not go together. Try again."), 400)
    second_factor.prove(request, user, code)
    sessions.begin(request, user, by_digits=False)
    if former and place() != was:
        # Whoever was signed in on this device before has his session at another place.
        with at(was):
            sessions.ended(former)
    return user


def sign_out(request: HttpRequest) -> None:
    sessions.ended(request.session.session_key)
    logout(request)


def set_force_unit(user: User, force_unit: str) -> User:
    user.force_unit = force_unit
    user.save(update_fields=["force_unit"])
    return user


def staff_of(user: User) -> list[User]:
    """Active colleagues, the person included, by name."""
    return list(User.objects.filter(shop_id=user.shop_id, is_active=True).order_by("first_name", "username"))


def find_staff(user: User, staff_id: UUID) -> User | None:
    """A colleague of the same shop by id."""
    return User.objects.filter(shop_id=user.shop_id, is_active=True, pk=staff_id).first()


def set_cuts_spokes(user: User, cuts_spokes: bool) -> None:
    """Whether the shop has a machine that cuts spokes and rolls threads."""
    Shop.objects.filter(pk=user.shop_id).update(cuts_spokes=cuts_spokes)


def one_at_a_time(user: User) -> None:
    """Until the transaction ends nobody else of this shop comes past here; all other work of the shop goes on.

    A foreign key to the shop asks for less than this lock, so that readings are saved beside a long import.
    """
    Shop.objects.select_for_update(no_key=True).get(pk=user.shop_id)
