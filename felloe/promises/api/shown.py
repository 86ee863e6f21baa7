"""The rail as JSON: what all of a shop see alike is written once for as long as it holds, in each manner of speaking."""

from __future__ import annotations

from typing import Any
from weakref import WeakKeyDictionary

from django.http import HttpResponse
from rest_framework.request import Request

from felloe.accounts.models import User
from felloe.api.language import SpokenRenderer, language_in_force
from felloe.promises import answers, services
from felloe.promises.api.serializers import RailSerializer

#: By language and unit of force, as an answer is spoken.
_written: WeakKeyDictionary[services.Shared, dict[tuple[str, str], bytes]] = WeakKeyDictionary()
OWN = ("now", "next_job_id", "mine")


def rail_json(request: Request, user: User, own: answers.OwnRail, shared: services.Shared) -> HttpResponse:
    """One object of both halves: the shared half's text goes behind one's own."""

    def written(**fields: Any) -> bytes:
        text: bytes = SpokenRenderer().render(fields, renderer_context={"request": request})
        return text

    manner = (language_in_force(), user.force_unit)
    known = _written.setdefault(shared, {})
    if manner not in known:
        whole = RailSerializer(services.whole(own, shared)).data
        known[manner] = written(**{name: value for name, value in whole.items() if name not in OWN})
    mine = written(**{name: getattr(own, name) for name in OWN})
    return HttpResponse(mine[:-1] + b"," + known[manner][1:], content_type="application/json")
