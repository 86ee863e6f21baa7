"""The customer's language: sentences, days and money as they are written there."""

from __future__ import annotations

from datetime import date, datetime
from decimal import Decimal
from zoneinfo import ZoneInfo

from babel import Locale, UnknownLocaleError
from babel.dates import format_date, format_skeleton
from babel.numbers import format_currency

from felloe.api.language import ENGLISH, customers_languages


def language_of(wanted: str) -> str:
    """The language that is written to who wants `wanted`: it, its mother, else English."""
    for code in (wanted, wanted.partition("-")[0]):
        if code in customers_languages():
            return code
    return ENGLISH


def locale_of(language: str) -> Locale:
    """English is written the British way."""
    try:
        return Locale.parse("en_GB" if language == ENGLISH else language, sep="_" if language == ENGLISH else "-")
    except (ValueError, UnknownLocaleError):
        return Locale("en", "GB")


def name_of(language: str) -> str:
    """What a language calls itself."""
    name = locale_of(language).get_language_name() or language
    return name[:1].upper() + name[1:]


def day(at: datetime | None, zone: ZoneInfo, language: str) -> str:
    """A moment on the shop's wall clock, spelt out; empty where there is none."""
    if at is None:
        return ""
    there = at.astimezone(zone)
    locale = locale_of(language)
    between = " " if language == ENGLISH else ", "
    return f"{format_date(there, 'EEEE', locale)}{between}{format_skeleton('MMMMd', there, locale=locale)}, {there:%H:%M}"


def dated(at: datetime, zone: ZoneInfo, language: str) -> str:
    """A moment on the shop's wall clock with its year, for what is kept."""
    there = at.astimezone(zone)
    return f"{plain_day(there, language)}, {there:%H:%M}"


def plain_day(at: date, language: str) -> str:
    return format_date(at, "long", locale=locale_of(language))


def money(minor: int | None, currency: str, language: str) -> str:
    return "" if minor is None else format_currency(Decimal(minor) / 100, currency, locale=locale_of(language))
