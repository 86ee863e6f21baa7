"""Patterns over HTTP. They stand with the queue, which knows the shop's tiers."""

from __future__ import annotations

from typing import Any, cast
from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.queue import services as queue
from felloe.wheels import answers
from felloe.wheels.api.serializers import WheelKindSerializer
from felloe.wheels.services import patterns


class PatternsInSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.PatternsIn


class PatternKeepSerializer(serializers.Serializer[Any]):
    wheel = serializers.UUIDField()
    name = serializers.CharField(max_length=80)
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")
    tier = serializers.CharField(max_length=20, required=False, allow_blank=True, default="")


class PatternChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    name = serializers.CharField(max_length=80, required=False)
    note = serializers.CharField(max_length=500, required=False, allow_blank=True)
    tier = serializers.CharField(max_length=20, required=False, allow_blank=True)
    in_use = serializers.BooleanField(required=False)


class JsonFileParser(BaseParser):
    """The raw bytes of a JSON file, one byte past the limit at most."""

    media_type = "application/json"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"file": stream.read(patterns.MOST_BYTES + 1)}  # type: ignore[attr-defined]


class PatternsView(APIView):
    @operation("patterns", responses=WheelKindSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(WheelKindSerializer(patterns.patterns_of(staff(request)), many=True).data)

    @operation("pattern_keep", request=PatternKeepSerializer, responses={201: WheelKindSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        user, values = staff(request), checked(PatternKeepSerializer, request.data)
        queue.chosen_tier(user.shop_id, values["tier"] or None)
        return Response(WheelKindSerializer(patterns.keep_pattern(user, values.pop("wheel"), values)).data, status=201)


class PatternView(APIView):
    @operation("pattern_change", request=PatternChangeSerializer, responses=WheelKindSerializer)
    @write_once
    def patch(self, request: Request, pattern_id: UUID) -> Response:
        user, values = staff(request), checked(PatternChangeSerializer, request.data)
        queue.chosen_tier(user.shop_id, values.get("tier") or None)
        found = patterns.change_pattern(user, pattern_id, values.pop("version"), values)
        return Response(WheelKindSerializer(found).data)


class PatternsOutView(APIView):
    """The shop's patterns as a file."""

    @operation("patterns_out", responses={(200, "application/json"): OpenApiTypes.OBJECT})
    def get(self, request: Request) -> HttpResponse:
        answer = HttpResponse(patterns.patterns_out(staff(request)), content_type="application/json")
        answer["Content-Disposition"] = 'attachment; filename="patterns.json"'
        return answer


class PatternsInView(APIView):
    parser_classes = [JsonFileParser]

    @operation("patterns_in", request=OpenApiTypes.OBJECT, responses=PatternsInSerializer)
    @write_once
    def post(self, request: Request) -> Response:
        user = staff(request)
        tiers = set(queue.tiers_in_use(user.shop_id))
        data = cast(dict[str, bytes], request.data).get("file", b"")
        return Response(PatternsInSerializer(patterns.patterns_in(user, data, tiers)).data)
