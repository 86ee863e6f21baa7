"""Instruments: what the shop has, their tables, calibrations and checks."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema, extend_schema_field
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.api.permissions import staff
from felloe.api.write_keys import write_once
from felloe.bench import instruments, live
from felloe.bench.api.serializers import MeterTableSerializer
from felloe.bench.models import Instrument, InstrumentCheck, MeterTable
from felloe.core.measuring.csv_readings import MOST_BYTES
from felloe.core.measuring.instruments import INSTRUMENT_KINDS
from felloe.wheels.api.serializers import SPOKE_MATERIALS

INSTRUMENT_KEYS = list(INSTRUMENT_KINDS)
#: What instruments measure round the rim, and what a dial measures.
MEASURED_KINDS = [("tension", "Tension"), ("lateral", "Lateral"), ("radial", "Radial")]
DIAL_KINDS = [("lateral", "Lateral"), ("radial", "Radial")]
STANDINGS = ["good", "due_soon", "overdue", "drifted", "never"]


class StandingSerializer(serializers.Serializer[Any]):
    word = serializers.ChoiceField(choices=STANDINGS)
    due_on = serializers.DateField(allow_null=True)
    why = serializers.CharField()
    warns = serializers.BooleanField()


class InstrumentCheckSerializer(serializers.ModelSerializer[InstrumentCheck]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = InstrumentCheck
        fields = ["id", "passed", "note", "by", "created_at"]
        read_only_fields = fields


class KeptTableSerializer(serializers.ModelSerializer[MeterTable]):
    readings = serializers.ListField(child=serializers.FloatField())
    forces_n = serializers.ListField(child=serializers.FloatField())
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = MeterTable
        fields = ["id", "spoke_kind", "readings", "forces_n", "resolution", "residual_n", "source", "by", "created_at"]
        read_only_fields = fields


class InstrumentSerializer(serializers.ModelSerializer[Instrument]):
    kind = serializers.ChoiceField(choices=INSTRUMENT_KEYS)
    kind_name = serializers.SerializerMethodField()
    how_to_check = serializers.SerializerMethodField()
    standing = serializers.SerializerMethodField()
    tables = serializers.SerializerMethodField()
    checks = InstrumentCheckSerializer(many=True)

    class Meta:
        model = Instrument
        fields = [
            "id", "name", "kind", "kind_name", "how_to_check", "owner", "serial", "use", "check_every_days", "address",
            "version", "standing", "tables", "checks",
        ]  # fmt: skip
        read_only_fields = fields

    def get_kind_name(self, row: Instrument) -> str:
        return INSTRUMENT_KINDS[row.kind].name

    def get_how_to_check(self, row: Instrument) -> str:
        return INSTRUMENT_KINDS[row.kind].check

    @extend_schema_field(StandingSerializer())
    def get_standing(self, row: Instrument) -> Any:
        return StandingSerializer(instruments.standing_of(row)).data

    @extend_schema_field(KeptTableSerializer(many=True))
    def get_tables(self, row: Instrument) -> Any:
        return KeptTableSerializer(instruments.current_tables(row), many=True).data


class NewInstrumentSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120)
    kind = serializers.ChoiceField(choices=INSTRUMENT_KEYS, required=False, default="tension_meter")
    owner = serializers.CharField(max_length=120, required=False, allow_blank=True)
    serial = serializers.CharField(max_length=60, required=False, allow_blank=True)
    check_every_days = serializers.IntegerField(required=False, min_value=1, max_value=3650)
    address = serializers.CharField(max_length=120, required=False, allow_blank=True)
    tables = MeterTableSerializer(many=True, required=False)


class InstrumentChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    owner = serializers.CharField(max_length=120, required=False, allow_blank=True)
    serial = serializers.CharField(max_length=60, required=False, allow_blank=True)
    use = serializers.ChoiceField(choices=Instrument.Use.choices, required=False)
    check_every_days = serializers.IntegerField(required=False, min_value=1, max_value=3650)
    address = serializers.CharField(max_length=120, required=False, allow_blank=True)


class CalibrationSerializer(serializers.Serializer[Any]):
    """Known loads against readings; nothing is kept unless `keep`."""

    spoke_kind = serializers.CharField(max_length=40)
    readings = serializers.ListField(child=serializers.FloatField(), max_length=100)
    loads_n = serializers.ListField(child=serializers.FloatField(), max_length=100)
    resolution = serializers.FloatField(required=False, default=0.5, min_value=0.001)
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")
    keep = serializers.BooleanField(required=False, default=False)


class FitPointSerializer(serializers.Serializer[Any]):
    reading = serializers.FloatField()
    load_n = serializers.FloatField()
    residual_n = serializers.FloatField()


class FitCurveSerializer(serializers.Serializer[Any]):
    reading = serializers.FloatField()
    force_n = serializers.FloatField()
    band_n = serializers.FloatField()


class DriftSerializer(serializers.Serializer[Any]):
    mean_n = serializers.FloatField()
    largest_n = serializers.FloatField()
    at_reading = serializers.FloatField()
    drifted = serializers.BooleanField()


class FitSerializer(serializers.Serializer[Any]):
    spoke_kind = serializers.CharField()
    sd_n = serializers.FloatField()
    points = FitPointSerializer(many=True)
    curve = FitCurveSerializer(many=True)
    drift = DriftSerializer(allow_null=True)


class SpokeFieldsSerializer(serializers.Serializer[Any]):
    end_diameter_mm = serializers.FloatField(required=False, default=2.0)
    middle_diameter_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    blade_thickness_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    blade_width_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    material = serializers.ChoiceField(choices=SPOKE_MATERIALS, required=False, default="stainless")


class DeriveSerializer(serializers.Serializer[Any]):
    table = serializers.UUIDField()
    of = SpokeFieldsSerializer()
    to = SpokeFieldsSerializer()
    span_mm = serializers.FloatField()
    mm_per_unit = serializers.FloatField()
    keep = serializers.BooleanField(required=False, default=False)


class NewCheckSerializer(serializers.Serializer[Any]):
    passed = serializers.BooleanField()
    note = serializers.CharField(max_length=500, allow_blank=True)


class StandCheckSerializer(serializers.Serializer[Any]):
    first_mm = serializers.FloatField()
    first_side = serializers.ChoiceField(choices=["R", "L"])
    flipped_mm = serializers.FloatField()
    flipped_side = serializers.ChoiceField(choices=["R", "L"])


class SampleSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=MEASURED_KINDS)
    value = serializers.FloatField()
    unit = serializers.CharField()
    spoke = serializers.CharField()
    angle_deg = serializers.FloatField(allow_null=True)


class LiveSerializer(serializers.Serializer[Any]):
    connected = serializers.BooleanField()
    message = serializers.CharField()
    sample = SampleSerializer(allow_null=True)
    steady = serializers.BooleanField()


class TextParser(BaseParser):
    """The raw bytes of a text file, one byte past the limit at most."""

    media_type = "text/csv"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"file": stream.read(MOST_BYTES + 1)}  # type: ignore[attr-defined]


def keeps(request: Request) -> bool:
    """Whether a file is to be kept, not only looked at."""
    return request.query_params.get("keep", "") in ("1", "true")


def _one(request: Request, instrument_id: UUID) -> Response:
    found = next(i for i in instruments.instruments_of(staff(request)) if i.pk == instrument_id)
    return Response(InstrumentSerializer(found).data)


class InstrumentsView(APIView):
    @extend_schema(responses=InstrumentSerializer(many=True), operation_id="instruments")
    def get(self, request: Request) -> Response:
        return Response(InstrumentSerializer(instruments.instruments_of(staff(request)), many=True).data)

    @extend_schema(request=NewInstrumentSerializer, responses={201: InstrumentSerializer}, operation_id="instrument_add")
    @write_once
    def post(self, request: Request) -> Response:
        data = NewInstrumentSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        if data.validated_data.get("address"):
            live.checked_address(data.validated_data["address"])
        made = instruments.add_instrument(staff(request), data.validated_data)
        answer = _one(request, made.pk)
        answer.status_code = 201
        return answer


class InstrumentView(APIView):
    @extend_schema(responses=InstrumentSerializer, operation_id="instrument")
    def get(self, request: Request, instrument_id: UUID) -> Response:
        instruments.find_instrument(staff(request), instrument_id)
        return _one(request, instrument_id)

    @extend_schema(request=InstrumentChangeSerializer, responses=InstrumentSerializer, operation_id="instrument_change")
    @write_once
    def patch(self, request: Request, instrument_id: UUID) -> Response:
        data = InstrumentChangeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        if values.get("address"):
            live.checked_address(values["address"])
        instruments.change_instrument(staff(request), instrument_id, values.pop("version"), values)
        return _one(request, instrument_id)


class CalibrationsView(APIView):
    @extend_schema(request=CalibrationSerializer, responses=FitSerializer, operation_id="calibrate")
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = CalibrationSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(FitSerializer(instruments.calibration(staff(request), instrument_id, data.validated_data)).data)


class DerivedTablesView(APIView):
    @extend_schema(request=DeriveSerializer, responses=MeterTableSerializer, operation_id="derive_table")
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = DeriveSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(instruments.derive_table(staff(request), instrument_id, data.validated_data))


class ChartView(APIView):
    def get_parsers(self) -> list[BaseParser]:
        return [TextParser()]

    @extend_schema(
        request={"text/csv": OpenApiTypes.STR},
        parameters=[OpenApiParameter("keep", bool)],
        responses=MeterTableSerializer(many=True),
        operation_id="chart_in",
    )
    def post(self, request: Request, instrument_id: UUID) -> Response:
        sent: dict[str, bytes] = dict(request.data)
        return Response(instruments.take_chart(staff(request), instrument_id, sent.get("file", b""), keeps(request)))


class InstrumentChecksView(APIView):
    @extend_schema(request=NewCheckSerializer, responses=InstrumentSerializer, operation_id="instrument_check")
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = NewCheckSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        instruments.add_check(staff(request), instrument_id, **data.validated_data)
        return _one(request, instrument_id)


class StandChecksView(APIView):
    @extend_schema(request=StandCheckSerializer, responses=InstrumentSerializer, operation_id="stand_check")
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = StandCheckSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        instruments.check_stand(staff(request), instrument_id, data.validated_data)
        return _one(request, instrument_id)


class LiveView(APIView):
    @extend_schema(parameters=[OpenApiParameter("spoke", str)], responses=LiveSerializer, operation_id="instrument_live")
    def get(self, request: Request, instrument_id: UUID) -> Response:
        found = live.live(staff(request), instrument_id, request.query_params.get("spoke", "")[:8])
        return Response(LiveSerializer(found).data)
