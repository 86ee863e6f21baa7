"""Readings that were entered at the bench: all that wait on a tablet in one request, with what the set says of them."""

from __future__ import annotations

import logging
from functools import cache
from typing import Any
from uuid import UUID

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.problems import problem_response, refused_at
from felloe.api.write_keys import print_of, signed
from felloe.bench import answers
from felloe.bench.api.serializers import ReadingEntrySerializer, ReadingSerializer
from felloe.bench.services import entering
from felloe.bench.services.advice import advice_of_look
from felloe.bench.services.looked import Look
from felloe.bench.services.states import state_of_look
from felloe.core.said import say
from felloe.places.here import atomic

log = logging.getLogger(__name__)
#: So many go in one request; a tablet that has more sends them after another.
MOST_ENTRIES = 80


# These two describe what is sent; each reading is looked into by itself (`_keyed`), so that one is refused alone.
class KeyedEntrySerializer(serializers.Serializer[Any]):
    key = serializers.CharField(max_length=80, help_text="Of the press that made it, the same for every try")
    entry = ReadingEntrySerializer()


class EntriesSerializer(serializers.Serializer[Any]):
    entries = serializers.ListField(child=KeyedEntrySerializer(), max_length=MOST_ENTRIES, allow_empty=False)


class EntryRefusalSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.EntryRefusal


class EntryResultSerializer(AnswerSerializer):
    reading = ReadingSerializer(allow_null=True)

    class Meta:
        dataclass = answers.EntryResult


class EnteredSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Entered


class EntriesView(APIView):
    @operation("readings_enter", request=EntriesSerializer, responses=EnteredSerializer)
    def post(self, request: Request, set_id: UUID) -> Response:
        form = _form()
        ill: dict[int, answers.EntryResult] = {}
        sent = []
        for i, (key, entry) in enumerate(_keyed(request.data)):
            try:
                sent.append(entering.Sent(key, dict(form.run_validation(entry)), print_of(request.path, entry)))
            except serializers.ValidationError as error:
                ill[i] = _result(key, None, error)
        with atomic():
            signed(request)
            settled, look = entering.enter(staff(request), set_id, sent)
        results = [_result(one.key, one.reading, one.error) for one in settled]
        for i, result in ill.items():
            results.insert(i, result)
        return Response(EnteredSerializer(_with_look(results, look)).data)


@cache
def _form() -> ReadingEntrySerializer:
    # It keeps nothing of what it looks into, and its fields take longer to make than to ask.
    return ReadingEntrySerializer()


def _keyed(data: Any) -> list[tuple[str, dict[str, Any]]]:
    """Presses and what each carries, before that is looked into: what is wrong with one reading is said of that one."""
    entries = data.get("entries") if isinstance(data, dict) else None
    if not isinstance(entries, list) or not 0 < len(entries) <= MOST_ENTRIES:
        raise refused_at("entries", "invalid", say("Send 1 to {most} readings.", most=MOST_ENTRIES))
    found = []
    for i, one in enumerate(entries):
        key, entry = (one.get("key"), one.get("entry")) if isinstance(one, dict) else (None, None)
        if not isinstance(key, str) or not 0 < len(key) <= 80 or not isinstance(entry, dict):
            raise refused_at(
                f"entries.{i}", "invalid", say("A reading comes with the key of its press, of at most 80 characters.")
            )
        found.append((key, entry))
    return found


def _result(key: str, reading: Any, error: Exception | None) -> answers.EntryResult:
    if error is None:
        return answers.EntryResult(key, reading, None)
    said = problem_response(error, {})
    if said is None:
        raise error
    code = said.data["type"].rpartition(":")[2]
    return answers.EntryResult(key, None, answers.EntryRefusal(code, said.status_code, said.data["detail"]))


def _with_look(results: list[answers.EntryResult], look: Look) -> answers.Entered:
    """Readings that are saved are answered for, whatever comes of the look at them."""
    try:
        return answers.Entered(results, state_of_look(look), advice_of_look(look))
    except Exception:
        log.exception("readings are saved, the set cannot be looked at")
        return answers.Entered(results, None, None)
