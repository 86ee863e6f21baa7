from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.write_keys import write_once
from felloe.condition.api.serializers import (
    CheckAnswerSerializer,
    ConcludeSerializer,
    CounterQuestionSerializer,
    CounterViewSerializer,
    DiagnosisSerializer,
)
from felloe.condition.services import diagnosis


class DiagnosisView(APIView):
    @operation("diagnosis", responses=DiagnosisSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class CheckAnswersView(APIView):
    @operation("check_answer", request=CheckAnswerSerializer, responses=DiagnosisSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = CheckAnswerSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        diagnosis.answer_check(staff(request), job_id, values["check_key"], values["answer"])
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class FindingsView(APIView):
    @operation("conclude", request=ConcludeSerializer, responses=DiagnosisSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = ConcludeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        diagnosis.conclude(staff(request), job_id, **data.validated_data)
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class CounterView(APIView):
    @operation("likely_causes", request=CounterQuestionSerializer, responses=CounterViewSerializer)
    def post(self, request: Request) -> Response:
        data = CounterQuestionSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(CounterViewSerializer(diagnosis.preview(staff(request), data.validated_data)).data)
