"""Readings that come many at a time, and what to read next."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.files import TextParser, keeps
from felloe.api.problems import refused_at
from felloe.api.write_keys import write_once
from felloe.bench import answers
from felloe.bench.models import DialTrace, Reading
from felloe.bench.services import advice, traces, turns
from felloe.core.measuring.stream import Sample
from felloe.core.said import say
from felloe.core.tension.pitch import CROSSING, WHOLE
from felloe.instruments.api.serializers import DIAL_KINDS, MEASURED_KINDS


class NextReadingSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=Reading.Kind.choices)

    class Meta:
        dataclass = answers.NextReading


class DialTraceSerializer(serializers.ModelSerializer[DialTrace]):
    said = serializers.CharField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    places = serializers.SerializerMethodField()

    class Meta:
        model = DialTrace
        fields = ["id", "kind", "source", "said", "places", "by", "created_at"]
        read_only_fields = fields

    def get_places(self, row: DialTrace) -> int:
        return len(row.points)


class ReadingAdviceSerializer(AnswerSerializer):
    traces = DialTraceSerializer(many=True)

    class Meta:
        dataclass = answers.ReadingAdvice


class LumpSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=DIAL_KINDS)
    first = serializers.CharField(max_length=8)
    last = serializers.CharField(max_length=8)
    height_mm = serializers.FloatField()
    toward = serializers.ChoiceField(choices=["R", "L"], required=False)


class CsvRowSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=MEASURED_KINDS)

    class Meta:
        dataclass = answers.CsvRow


class CsvLookSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.CsvLook


class ToneSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Tone


class HeardSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Heard


class TurnRequestSerializer(serializers.Serializer[Any]):
    instrument = serializers.UUIDField()
    kind = serializers.ChoiceField(choices=DIAL_KINDS)


class TurnHeardSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.TurnHeard


class SoundParser(BaseParser):
    """The raw bytes of a recording, one byte past the limit at most."""

    media_type = "audio/wav"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"recording": stream.read(traces.MOST_RECORDING_BYTES + 1)}  # type: ignore[attr-defined]


class AdviceView(APIView):
    @operation("reading_advice", responses=ReadingAdviceSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(ReadingAdviceSerializer(advice.advice_for(staff(request), set_id)).data)


class LumpsView(APIView):
    @operation("lump_add", request=LumpSerializer, responses={201: DialTraceSerializer})
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = LumpSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(DialTraceSerializer(traces.add_lump(staff(request), set_id, data.validated_data)).data, status=201)


class TraceWithdrawView(APIView):
    @operation("trace_withdraw", request=None, responses={204: None})
    @write_once
    def post(self, request: Request, set_id: UUID, trace_id: UUID) -> Response:
        traces.withdraw_trace(staff(request), set_id, trace_id)
        return Response(status=204)


class SetCsvView(APIView):
    def get_parsers(self) -> list[BaseParser]:
        return [TextParser()]

    @operation("readings_csv_out", responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request, set_id: UUID) -> HttpResponse:
        answer = HttpResponse(traces.export_csv(staff(request), set_id), content_type="text/csv; charset=utf-8; header=present")
        answer["Content-Disposition"] = 'attachment; filename="readings.csv"'
        return answer

    @operation(
        "readings_csv_in",
        request={"text/csv": OpenApiTypes.STR},
        parameters=[OpenApiParameter("keep", bool), OpenApiParameter("meter", OpenApiTypes.UUID)],
        responses=CsvLookSerializer,
    )
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        sent: dict[str, bytes] = dict(request.data)
        meter = request.query_params.get("meter")
        try:
            which = UUID(meter) if meter else None
        except ValueError:
            raise refused_at("meter", "unknown_meter", say("an id is a UUID")) from None
        found = traces.take_csv(staff(request), set_id, sent.get("file", b""), which, keeps(request))
        return Response(CsvLookSerializer(found).data)


class RecordingsView(APIView):
    def get_parsers(self) -> list[BaseParser]:
        return [SoundParser()]

    @operation(
        "hear",
        request={"audio/wav": OpenApiTypes.BINARY},
        parameters=[
            OpenApiParameter("spokes", str, description="Names in the order of plucking, by commas"),
            OpenApiParameter("ends_at", str, enum=[CROSSING, WHOLE]),
        ],
        responses=HeardSerializer,
    )
    def post(self, request: Request, set_id: UUID) -> Response:
        sent: dict[str, bytes] = dict(request.data)
        spokes = [name for name in request.query_params.get("spokes", "").upper().split(",") if name][:64]
        ends_at = WHOLE if request.query_params.get("ends_at") == WHOLE else CROSSING
        return Response(HeardSerializer(traces.hear(staff(request), set_id, sent.get("recording", b""), ends_at, spokes)).data)


class TurnsView(APIView):
    """Asked again and again while the wheel is turned; what is heard whole is written, and no socket is read meanwhile."""

    @operation("turn_record", request=TurnRequestSerializer, responses={201: DialTraceSerializer, 202: TurnHeardSerializer})
    def post(self, request: Request, set_id: UUID) -> Response:
        data = TurnRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        asked = data.validated_data
        press = request.headers.get("Idempotency-Key", "")
        heard = turns.turn_so_far(staff(request), set_id, asked["instrument"], asked["kind"], press)
        if heard.turn is None:
            return Response(TurnHeardSerializer(heard).data, status=202)
        return self.kept(request, set_id, heard.turn)

    @write_once
    def kept(self, request: Request, set_id: UUID, turn: list[Sample]) -> Response:
        asked = checked(TurnRequestSerializer, request.data)
        made = turns.keep_turn(staff(request), set_id, asked["instrument"], asked["kind"], turn)
        return Response(DialTraceSerializer(made).data, status=201)
