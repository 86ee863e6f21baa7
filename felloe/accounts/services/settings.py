"""What holds in a shop: its name and address, its line for promises, its share of other work."""

from __future__ import annotations

from typing import Any

from felloe.accounts.models import Shop, User
from felloe.api.language import customers_languages
from felloe.api.problems import StaleWrite, refused_at
from felloe.core.said import say
from felloe.places.here import atomic

FIELDS = (
    "name", "address", "phone", "email", "promise_line_percent", "interrupted_percent", "language", "letter_texts",
    "tag_text",     "keep_photos_months", "keep_letters_months", "keep_customers_months",
)  # fmt: skip


def shop_of(user: User) -> Shop:
    return Shop.objects.get(pk=user.shop_id)


@atomic
def set_shop(user: User, version: int, values: dict[str, Any]) -> Shop:
    """Replace the shop's settings; a stale write comes back with both versions."""
    shop = Shop.objects.select_for_update().get(pk=user.shop_id)
    if shop.version != version:
        raise StaleWrite(
            {**values, "version": version}, {name: getattr(shop, name) for name in FIELDS} | {"version": shop.version}
        )
    if "language" in values:
        known_language("language", values["language"])
    if "letter_texts" in values:
        values = {**values, "letter_texts": _letter_texts(values["letter_texts"])}
    for name in FIELDS:
        if name in values:
            setattr(shop, name, values[name])
    shop.version += 1
    shop.save(update_fields=[*FIELDS, "version"])
    return shop


def known_language(field: str, language: str) -> None:
    """Raises Refused at the field for a language that nobody is written to in."""
    if language not in customers_languages():
        raise refused_at(field, "unknown_language", say("Customers are not written to in “{language}”.", language=language))


def _letter_texts(given: dict[str, str]) -> dict[str, str]:
    """By language, empty ones left out; refused for a language that nobody is written to in."""
    for language in given:
        known_language("letter_texts", language)
    return {language: text.strip() for language, text in given.items() if text.strip()}
