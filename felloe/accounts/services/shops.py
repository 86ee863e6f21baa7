"""The shops of an installation, as whoever runs it opens, suspends and limits them."""

from __future__ import annotations

from zoneinfo import available_timezones

from django.utils import timezone
from django.utils.text import slugify

from felloe.accounts.models import Shop, User
from felloe.accounts.rights import Role
from felloe.accounts.services.settings import known_language
from felloe.accounts.services.staff import set_password
from felloe.api.problems import refused_at
from felloe.core.said import say
from felloe.places.here import atomic


@atomic
def open_first_shop(
    name: str, time_zone: str, currency: str, username: str, called: str, password: str, language: str = "en"
) -> Shop:
    """The shop with its owner; nothing where there is a shop already, so that it may be asked again. Raises as `open_shop`."""
    there = Shop.objects.select_for_update().order_by("pk").first()
    return there or open_shop(name, time_zone, currency, username, called, password, language=language)


@atomic
def open_shop(
    name: str,
    time_zone: str,
    currency: str,
    username: str,
    called: str,
    password: str,
    code: str | None = None,
    language: str = "en",
) -> Shop:
    """A new shop with its owner.

    Raises Refused for an unknown time zone, a currency that is not three letters, a weak password, a code that is taken or bad,
    a language that nobody is written to in.
    """
    if not name.strip():
        raise refused_at("name", "no_name", say("Say what it is called."))
    if time_zone not in available_timezones():
        raise refused_at("time_zone", "bad_zone", say("“{name}” is no time zone, such as Europe/Lisbon", name=time_zone))
    if not (len(currency) == 3 and currency.isascii() and currency.isalpha()):
        raise refused_at("currency", "bad_currency", say("Three letters of ISO 4217"))
    known_language("language", language)
    shop = Shop(language=language, name=name.strip(), time_zone=time_zone, currency=currency.upper(), code=code or "")
    if code is not None and (slugify(code) != code or not code or len(code) > 40):
        raise refused_at("code", "bad_code", say("Small letters, digits and hyphens, 40 at most"))
    if code is not None and Shop.objects.filter(code=code).exists():
        raise refused_at("code", "code_taken", say("Another shop on this server has that code."))
    shop.save()
    owner = User(shop=shop, username=username.strip().lower(), role=Role.OWNER)
    owner.first_name, _, owner.last_name = called.strip().partition(" ")
    if not owner.username or not owner.first_name:
        raise refused_at("owner", "no_name", say("Give it a name."))
    set_password(owner, password)
    owner.save()
    return shop


@atomic
def suspend(code: str, until_told: bool = True) -> Shop:
    """Nobody of the shop is let in from now on, sessions included; or again. Raises Shop.DoesNotExist."""
    shop = Shop.objects.select_for_update().get(code=code)
    if until_told and shop.suspended_at is None:
        shop.suspended_at = timezone.now()
    elif not until_told:
        shop.suspended_at = None
    shop.save(update_fields=["suspended_at"])
    return shop


LIMITS = ("most_staff", "most_open_jobs", "most_photo_mb")


@atomic
def limit(code: str, **limits: int) -> Shop:
    """What a shop may have at most (LIMITS). Raises Shop.DoesNotExist."""
    shop = Shop.objects.select_for_update().get(code=code)
    for name in LIMITS:
        setattr(shop, name, limits.get(name, getattr(shop, name)))
    shop.save(update_fields=list(LIMITS))
    return shop
