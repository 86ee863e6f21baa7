"""The first shop of an installation, and its first owner."""

from __future__ import annotations

from zoneinfo import available_timezones

from django.db import transaction

from felloe.accounts.models import Shop, User
from felloe.accounts.rights import Role
from felloe.accounts.services.staff import set_password
from felloe.api.problems import refused_at
from felloe.core.said import say


@transaction.atomic
def open_first_shop(name: str, time_zone: str, currency: str, username: str, called: str, password: str) -> Shop:
    """The shop with its owner; nothing where there is a shop already, so that it may be asked again.

    Raises Refused for an unknown time zone, a currency that is not three letters, a weak password.
    """
    there = Shop.objects.select_for_update().order_by("pk").first()
    if there is not None:
        return there
    if not name.strip():
        raise refused_at("name", "no_name", say("Say what it is called."))
    if time_zone not in available_timezones():
        raise refused_at("time_zone", "bad_zone", say("“{name}” is no time zone, such as Europe/Lisbon", name=time_zone))
    if not (len(currency) == 3 and currency.isascii() and currency.isalpha()):
        raise refused_at("currency", "bad_currency", say("Three letters of ISO 4217"))
    shop = Shop.objects.create(name=name.strip(), time_zone=time_zone, currency=currency.upper())
    owner = User(shop=shop, username=username.strip().lower(), role=Role.OWNER)
    owner.first_name, _, owner.last_name = called.strip().partition(" ")
    if not owner.username or not owner.first_name:
        raise refused_at("owner", "no_name", say("Give it a name."))
    set_password(owner, password)
    owner.save()
    return shop
