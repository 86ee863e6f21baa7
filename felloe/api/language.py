"""In which language an answer is given: the request's, out of the catalogues that ship with Felloe.

What is said to people is a `Said` until it leaves; `spoken_for` gives a whole answer in the language of the request. English
stands in the code, so its catalogue is the template (`felloe/locale/felloe.pot`). PSEUDO makes every letter of a message
foreign and leaves data alone: whatever is still plain English in an answer was missed.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from contextvars import ContextVar
from functools import cache
from gettext import c2py
from pathlib import Path
from typing import Any

from babel import Locale, UnknownLocaleError
from babel.messages.pofile import read_po
from babel.numbers import get_decimal_symbol
from django.conf import settings
from django.http import HttpRequest
from django.http.response import HttpResponseBase
from django.utils import translation
from django.utils.cache import patch_vary_headers
from django.utils.translation.trans_real import parse_accept_lang_header
from rest_framework.renderers import JSONRenderer

from felloe.api.pseudo import PSEUDO, foreign
from felloe.core.said import Said, Translate, spoken

ENGLISH = "en"
CATALOGUES = Path(__file__).resolve().parent.parent / "locale"
#: What is written to customers, in more languages than the shop itself works in.
LETTERS = CATALOGUES / "customers"
#: Languages that write every noun with a capital.
NOUNS_TALL = frozenset({"de", "lb"})
_language: ContextVar[str] = ContextVar("language", default=ENGLISH)


def language_in_force() -> str:
    """The language of the request; English outside of one."""
    return _language.get()


@cache
def languages() -> tuple[str, ...]:
    """English, and what has a catalogue in felloe/locale."""
    return (ENGLISH, *sorted(path.stem for path in CATALOGUES.glob("*.po")))


def asked_for(header: str) -> str:
    """The first language of an Accept-Language header that there is; English otherwise."""
    for code, _ in parse_accept_lang_header(header):
        if code == PSEUDO and settings.FELLOE_PSEUDO_LANGUAGE:
            return PSEUDO
        for wanted in (code, code.partition("-")[0]):
            if wanted in languages():
                return wanted
    return ENGLISH


def by_language(get_response: Callable[[HttpRequest], HttpResponseBase]) -> Callable[[HttpRequest], HttpResponseBase]:
    """Middleware: the language of the request, also for what Django itself says."""

    def answer(request: HttpRequest) -> HttpResponseBase:
        language = asked_for(request.headers.get("Accept-Language", ""))
        token = _language.set(language)
        try:
            with translation.override(ENGLISH if language == PSEUDO else language):
                response = get_response(request)
        finally:
            _language.reset(token)
        response["Content-Language"] = language
        patch_vary_headers(response, ["Accept-Language"])
        return response

    return answer


@cache
def customers_languages() -> tuple[str, ...]:
    """The languages in which customers are written to: the shop's own, and what has a catalogue of letters alone."""
    return tuple(sorted({*languages(), *(path.stem for path in LETTERS.glob("*.po"))}))


@cache
def _messages(language: str) -> tuple[Mapping[str, tuple[str, ...]], Callable[[int], int]]:
    """From the English template to the translated forms, and which form a count takes. What is not translated stays English."""
    place = CATALOGUES / f"{language}.po"
    with (place if place.exists() else LETTERS / f"{language}.po").open("rb") as file:
        catalogue = read_po(file, locale=language)
    found = {}
    for message in catalogue:
        template = message.id if isinstance(message.id, str) else message.id[0]
        forms = (message.string,) if isinstance(message.string, str) else tuple(message.string or ())
        if template and forms and all(forms) and not message.fuzzy:
            found[template] = forms
    return found, c2py(catalogue.plural_expr)


def translator(language: str) -> Translate:
    """How templates are turned into `language`."""
    if language == PSEUDO:
        return lambda template, plural, count: foreign(template if plural is None or count == 1 else plural)
    messages, form = _messages(language)

    def translate(template: str, plural: str | None, count: float) -> str:
        forms = messages.get(template)
        if forms is None:
            return template if plural is None or count == 1 else plural
        return forms[0] if plural is None else forms[form(int(count))]

    return translate


def _as_it_is(template: str, plural: str | None, count: float) -> str:
    return template if plural is None or count == 1 else plural


def spoken_for(value: Any, language: str | None = None, *, in_kgf: bool = False) -> Any:
    """An answer, or one message, in the language of the request or the one named; forces in N, or all of them in kgf."""
    language = language or _language.get()
    if language == ENGLISH and not in_kgf:
        return value
    translate = _as_it_is if language == ENGLISH else translator(language)
    decimal = None if language in (ENGLISH, PSEUDO) else _decimal(language)

    def walk(part: Any) -> Any:
        if isinstance(part, Said):
            return spoken(part, translate, decimal, nouns_tall=language in NOUNS_TALL, in_kgf=in_kgf)
        if isinstance(part, Mapping):
            return {key: walk(inner) for key, inner in part.items()}
        if isinstance(part, list | tuple):
            return [walk(inner) for inner in part]
        return part

    return walk(value)


def spoken_to_customer(value: Any, language: str, *, in_kgf: bool = False) -> Any:
    """What a customer reads, in their language of `customers_languages`, as plain text: it leaves Felloe here."""

    def plain(part: Any) -> Any:
        if isinstance(part, Said):
            return "".join([part])
        if isinstance(part, Mapping):
            return {key: plain(inner) for key, inner in part.items()}
        return [plain(inner) for inner in part] if isinstance(part, list | tuple) else part

    return plain(spoken_for(value, language, in_kgf=in_kgf))


@cache
def _decimal(language: str) -> str | None:
    """The decimal mark where it is not the point."""
    try:
        mark = get_decimal_symbol(Locale.parse(language, sep="-"))
    except (ValueError, UnknownLocaleError):
        return None
    return None if mark == "." else mark


class SpokenRenderer(JSONRenderer):
    """JSON with every message in the language of the request, and its forces in the unit of who asks."""

    def render(self, data: Any, accepted_media_type: Any = None, renderer_context: Any = None) -> Any:
        request = (renderer_context or {}).get("request")
        in_kgf = getattr(getattr(request, "user", None), "force_unit", "") == "kgf"
        return super().render(spoken_for(data, in_kgf=in_kgf), accepted_media_type, renderer_context)
