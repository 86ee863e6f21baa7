"""The rail as JSON: what all of a shop see alike is written once for as long as it holds, in each manner of speaking, and each
wheel's line for as long as that line stays the same."""

from __future__ import annotations

from functools import lru_cache
from typing import Any, NamedTuple
from weakref import WeakKeyDictionary

from django.http import HttpResponse
from rest_framework.renderers import JSONRenderer

from felloe.accounts.models import User
from felloe.api.answers import shown
from felloe.api.language import language_in_force, spoken_for
from felloe.promises import answers, services


class _Manner(NamedTuple):
    language: str
    in_kgf: bool


_written: WeakKeyDictionary[services.Shared, dict[_Manner, bytes]] = WeakKeyDictionary()


def rail_json(user: User, own: answers.OwnRail, shared: services.Shared) -> HttpResponse:
    """One object of both halves: the shared half's text goes behind one's own."""
    manner = _Manner(language_in_force(), user.force_unit == "kgf")
    known = _written.setdefault(shared, {})
    if manner not in known:
        lines = {"hanging": shared.hanging, "ready": shared.ready}
        texts = [f'"{name}":[{",".join(_line(line, manner) for line in found)}]' for name, found in lines.items()]
        rest = _text({"days": shared.days, "desk": shared.desk, "handed_back": shared.handed_back}, manner)
        known[manner] = f"{','.join(texts)},{rest[1:]}".encode()
    mine = _text({"now": own.now, "next_job_id": own.next_job_id, "mine": own.mine}, manner)
    return HttpResponse(f"{mine[:-1]},".encode() + known[manner], content_type="application/json")


@lru_cache(maxsize=4096)
def _line(line: answers.Hanging, manner: _Manner) -> str:
    return _text(line, manner)


def _text(answer: Any, manner: _Manner) -> str:
    spoken = spoken_for(shown(answer), manner.language, in_kgf=manner.in_kgf)
    text: bytes = JSONRenderer().render(spoken)
    return text.decode()
