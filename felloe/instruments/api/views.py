"""Instruments: what the shop has, their tables, calibrations and checks."""

from __future__ import annotations

from typing import Any, cast
from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.files import TextParser, keeps
from felloe.api.write_keys import write_once
from felloe.instruments.api.serializers import (
    CalibrationSerializer,
    DeriveSerializer,
    FitSerializer,
    InstrumentChangeSerializer,
    InstrumentSerializer,
    LiveSerializer,
    MeterSerializer,
    MeterTableSerializer,
    NewCheckSerializer,
    NewInstrumentSerializer,
    StandCheckSerializer,
)
from felloe.instruments.services import instruments, live


def _one(request: Request, instrument_id: UUID) -> Response:
    found = next(i for i in instruments.instruments_of(staff(request)) if i.pk == instrument_id)
    return Response(InstrumentSerializer(found).data)


class InstrumentsView(APIView):
    @operation("instruments", responses=InstrumentSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(InstrumentSerializer(instruments.instruments_of(staff(request)), many=True).data)

    @operation("instrument_add", request=NewInstrumentSerializer, responses={201: InstrumentSerializer})
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
    @operation("instrument", responses=InstrumentSerializer)
    def get(self, request: Request, instrument_id: UUID) -> Response:
        instruments.find_instrument(staff(request), instrument_id)
        return _one(request, instrument_id)

    @operation("instrument_change", request=InstrumentChangeSerializer, responses=InstrumentSerializer)
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
    @operation("calibrate", request=CalibrationSerializer, responses=FitSerializer)
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = CalibrationSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(FitSerializer(instruments.calibration(staff(request), instrument_id, data.validated_data)).data)


class DerivedTablesView(APIView):
    @operation("derive_table", request=DeriveSerializer, responses=MeterTableSerializer)
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = DeriveSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(
            MeterTableSerializer(cast(Any, instruments.derive_table(staff(request), instrument_id, data.validated_data))).data
        )


class ChartView(APIView):
    def get_parsers(self) -> list[BaseParser]:
        return [TextParser()]

    @operation(
        "chart_in",
        request={"text/csv": OpenApiTypes.STR},
        parameters=[OpenApiParameter("keep", bool)],
        responses=MeterTableSerializer(many=True),
    )
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        sent: dict[str, bytes] = dict(request.data)
        tables = instruments.take_chart(staff(request), instrument_id, sent.get("file", b""), keeps(request))
        return Response(MeterTableSerializer(cast(Any, tables), many=True).data)


class InstrumentChecksView(APIView):
    @operation("instrument_check", request=NewCheckSerializer, responses=InstrumentSerializer)
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = NewCheckSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        instruments.add_check(staff(request), instrument_id, **data.validated_data)
        return _one(request, instrument_id)


class StandChecksView(APIView):
    @operation("stand_check", request=StandCheckSerializer, responses=InstrumentSerializer)
    @write_once
    def post(self, request: Request, instrument_id: UUID) -> Response:
        data = StandCheckSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        instruments.check_stand(staff(request), instrument_id, data.validated_data)
        return _one(request, instrument_id)


class LiveView(APIView):
    @operation("instrument_live", parameters=[OpenApiParameter("spoke", str)], responses=LiveSerializer)
    def get(self, request: Request, instrument_id: UUID) -> Response:
        found = live.live(staff(request), instrument_id, request.query_params.get("spoke", "")[:8])
        return Response(LiveSerializer(found).data)


class MetersView(APIView):
    @operation("meters", responses=MeterSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(MeterSerializer(instruments.meters_of(staff(request)), many=True).data)
