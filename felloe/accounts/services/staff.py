"""The staff as the owner keeps it: who, in which role, with which skills; and the digits for a quick change of person."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth.hashers import check_password, make_password
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db.models import Exists, OuterRef
from django.http import Http404, HttpRequest
from django.utils import timezone

from felloe.accounts.models import PinTry, SecondFactor, Shop, User
from felloe.accounts.rights import Role
from felloe.accounts.services import second_factor, sessions
from felloe.api.problems import Refused, StaleWrite, refused_at
from felloe.core.promise.skills import SKILLS
from felloe.core.said import say
from felloe.places.here import atomic

#: After so many wrong digits within so long the way of the digits is shut; the password opens it again.
MOST_TRIES, TRIES_WITHIN = 5, timedelta(minutes=15)


def everybody(user: User) -> list[User]:
    """All who work or have worked here; who has left last."""
    factor_on = Exists(SecondFactor.objects.filter(person=OuterRef("pk"), confirmed_at__isnull=False))
    rows = User.objects.filter(shop_id=user.shop_id).annotate(factor_on=factor_on)
    return list(rows.order_by("-is_active", "first_name", "username"))


@atomic
def add_person(user: User, values: dict[str, Any]) -> User:
    """A new member of staff with a first password, which the owner hands over."""
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    if User.objects.filter(shop=shop, is_active=True).count() >= shop.most_staff:
        raise Refused("shop_full", say("This server gives the shop {most} people.", most=shop.most_staff), 422)
    username = values["username"].strip().lower()
    if User.objects.filter(shop_id=user.shop_id, username__iexact=username).exists():
        raise refused_at("username", "name_taken", say("Somebody signs in with that name already."))
    person = User(shop_id=user.shop_id, username=username, role=values["role"])
    person.first_name, _, person.last_name = values["name"].strip().partition(" ")
    set_password(person, values["password"])
    person.skills = _skills(values.get("skills", []))
    person.save()
    return person


@atomic
def change_person(user: User, person_id: UUID, version: int, values: dict[str, Any]) -> User:
    """Name, role, skills, whether he still works here, a new password; out of all his devices, no code at sign-in any more. The
    last owner stays one."""
    Shop.objects.select_for_update().get(pk=user.shop_id)
    person = User.objects.select_for_update().filter(shop_id=user.shop_id, pk=person_id).first()
    if person is None:
        raise Http404
    if person.version != version:
        current = {"name": person.display_name, "role": person.role, "is_active": person.is_active, "version": person.version}
        raise StaleWrite({**values, "password": "", "version": version}, current)
    stays_owner = values.get("role", person.role) == Role.OWNER and values.get("is_active", person.is_active)
    if person.role == Role.OWNER and not stays_owner and _owners(user) == 1:
        raise Refused("last_owner", say("This is the shop's only owner: make somebody else one first."), 409)
    if "name" in values:
        person.first_name, _, person.last_name = values["name"].strip().partition(" ")
    if "skills" in values:
        person.skills = _skills(values["skills"])
    person.role = values.get("role", person.role)
    person.is_active = values.get("is_active", person.is_active)
    if values.get("password"):
        set_password(person, values["password"])
    if not person.is_active:
        person.pin = ""
    if values.get("password") or not person.is_active or values.get("sign_out"):
        sessions.end_all(person)
    if values.get("drop_second_factor"):
        second_factor.end(person)
    person.version += 1
    person.save()
    return person


def _owners(user: User) -> int:
    return User.objects.filter(shop_id=user.shop_id, role=Role.OWNER, is_active=True).count()


def _skills(keys: list[str]) -> list[str]:
    for key in keys:
        if key not in SKILLS:
            raise refused_at("skills", "unknown_skill", say("“{key}” is no skill that jobs ask for", key=key[:40]))
    return list(dict.fromkeys(keys))


def set_password(person: User, password: str, field: str = "password") -> None:
    """Raises Refused for a weak one, at its field."""
    try:
        validate_password(password, person)
    except ValidationError:
        message = say("Take a password of ten characters or more that nobody guesses.")
        raise refused_at(field, "weak_password", message) from None
    person.set_password(password)
    # Whoever had got at the old one may have joined this name with his own: a new one parts them. The caller saves both.
    person.one_person = None


@atomic
def set_pin(user: User, pin: str) -> User:
    """One's own digits for a shared tablet; empty takes them away."""
    if pin and not (pin.isascii() and pin.isdigit() and 4 <= len(pin) <= 8):
        raise refused_at("pin", "bad_pin", say("Four to eight digits."))
    if pin and (len(set(pin)) == 1 or pin in "0123456789876543210"):
        raise refused_at("pin", "bad_pin", say("Anybody would try these first: take others."))
    user.pin = make_password(pin) if pin else ""
    user.save(update_fields=["pin"])
    PinTry.objects.filter(person=user).delete()
    return user


def change_by_pin(request: HttpRequest, user: User, person_id: UUID, pin: str) -> User:
    """Somebody else takes the tablet over by digits. Only behind a full sign-in of the same shop, and within few tries."""
    person = User.objects.filter(shop_id=user.shop_id, is_active=True, pk=person_id).first()
    if person is None:
        raise Http404
    since = timezone.now() - TRIES_WITHIN
    if PinTry.objects.filter(person=person, at__gte=since).count() >= MOST_TRIES:
        raise Refused("pin_shut", say("Too many wrong digits: sign in with name and password."), 403)
    if not person.pin or not check_password(pin, person.pin):
        PinTry.objects.create(person=person, at=timezone.now())
        raise Refused("pin_wrong", say("These are not the digits of {name}.", name=person.display_name), 400)
    PinTry.objects.filter(person=person).delete()
    sessions.begin(request, person, by_digits=True)
    return person
