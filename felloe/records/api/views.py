from __future__ import annotations

from uuid import UUID

from drf_spectacular.types import OpenApiTypes
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.write_keys import write_once
from felloe.core.record import MAX_BYTES
from felloe.queue.api.serializers import JobSerializer
from felloe.records import services
from felloe.records.api.serializers import (
    ComparisonSerializer,
    HandBackSerializer,
    RequirementSerializer,
    SignOffRequestSerializer,
    SignOffSerializer,
)
from felloe.records.services import leaving, wheel_records


class ComparisonView(APIView):
    @operation("comparison", responses=ComparisonSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(ComparisonSerializer(services.comparison(staff(request), job_id)).data)


class RequirementsView(APIView):
    """What must be met before the wheel may leave, from the first stage on."""

    @operation("requirements", responses=RequirementSerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(RequirementSerializer(leaving.of_job(staff(request), job_id), many=True).data)


class SignOffView(APIView):
    @operation("sign_off", request=SignOffRequestSerializer, responses={201: SignOffSerializer})
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = SignOffRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        made = services.sign_off(staff(request), job_id, **data.validated_data)
        return Response(SignOffSerializer(made).data, status=201)


class HandBackView(APIView):
    @operation("hand_back", request=HandBackSerializer, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = HandBackSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(JobSerializer(services.hand_back(staff(request), job_id, **data.validated_data)).data)


class RecordParser(BaseParser):
    """The raw bytes of a record, one byte past the limit at most: the core says what is wrong with them."""

    media_type = "application/json"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, str]:
        raw: bytes = stream.read(MAX_BYTES + 1)  # type: ignore[attr-defined]
        return {"record": raw.decode("latin-1")}


class RecordView(APIView):
    """The open wheel record of a job."""

    def get_parsers(self) -> list[BaseParser]:
        return [RecordParser()]

    @operation("record_out", may_lag=True, responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, job_id: UUID) -> Response:
        record = wheel_records.export_record(staff(request), job_id)
        headers = {"Content-Disposition": 'attachment; filename="wheel-record.json"'}
        return Response(record, headers=headers)

    @operation("record_in", request=OpenApiTypes.OBJECT, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        # Without a body there is nothing to be parsed.
        data = dict(request.data).get("record", "").encode("latin-1")
        return Response(JobSerializer(wheel_records.import_record(staff(request), job_id, data)).data)
