from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.api.permissions import staff
from felloe.api.write_keys import write_once
from felloe.bench import diagnosis, instruments, plans, readings, states
from felloe.bench.api.serializers import (
    CheckAnswerSerializer,
    ConcludeSerializer,
    CounterQuestionSerializer,
    CounterViewSerializer,
    DiagnosisSerializer,
    DishAdviceSerializer,
    MeterSerializer,
    MoveMarkSerializer,
    OpenSetSerializer,
    PlanModeSerializer,
    PlanMoveSerializer,
    PlanRequestSerializer,
    PlanSerializer,
    PlanSummarySerializer,
    ReadingEntrySerializer,
    ReadingPlaceSerializer,
    ReadingSerializer,
    ReadingSetDetailSerializer,
    ReadingSetSerializer,
    StateSerializer,
    WhatIfRequestSerializer,
    WhatIfSerializer,
)
from felloe.core.truing.objective import MODES


class MetersView(APIView):
    @extend_schema(responses=MeterSerializer(many=True), operation_id="meters")
    def get(self, request: Request) -> Response:
        return Response(MeterSerializer(instruments.meters_of(staff(request)), many=True).data)


class JobSetsView(APIView):
    @extend_schema(responses=ReadingSetSerializer(many=True), operation_id="reading_sets")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(ReadingSetSerializer(readings.sets_of(staff(request), job_id), many=True).data)

    @extend_schema(request=OpenSetSerializer, responses={201: ReadingSetSerializer}, operation_id="reading_set_open")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = OpenSetSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        made = readings.open_set(staff(request), job_id, **data.validated_data)
        return Response(ReadingSetSerializer(made).data, status=201)


class SetView(APIView):
    @extend_schema(responses=ReadingSetDetailSerializer, operation_id="reading_set_get")
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(ReadingSetDetailSerializer(readings.find_set(staff(request), set_id)).data)


class ReadingsView(APIView):
    @extend_schema(request=ReadingEntrySerializer, responses={201: ReadingSerializer}, operation_id="reading_save")
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = ReadingEntrySerializer(data=request.data)
        data.is_valid(raise_exception=True)
        made = readings.save_reading(staff(request), set_id, dict(data.validated_data))
        return Response(ReadingSerializer(made).data, status=201)


class ReadingWithdrawView(APIView):
    @extend_schema(request=ReadingPlaceSerializer, responses={204: None}, operation_id="reading_withdraw")
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = ReadingPlaceSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        readings.withdraw_reading(staff(request), set_id, **data.validated_data)
        return Response(status=204)


class ReadingHistoryView(APIView):
    @extend_schema(
        parameters=[OpenApiParameter("kind", str, required=True), OpenApiParameter("spoke", str)],
        responses=ReadingSerializer(many=True),
        operation_id="reading_history",
    )
    def get(self, request: Request, set_id: UUID) -> Response:
        place = ReadingPlaceSerializer(data=request.query_params)
        place.is_valid(raise_exception=True)
        found = readings.history_of(readings.find_set(staff(request), set_id), **place.validated_data)
        return Response(ReadingSerializer(found, many=True).data)


class StateView(APIView):
    @extend_schema(responses=StateSerializer, operation_id="state_get")
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(states.state_of_set(readings.find_set(staff(request), set_id)))


class DishOptionsView(APIView):
    @extend_schema(responses=DishAdviceSerializer, operation_id="dish_options")
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(plans.dish_options_of(staff(request), set_id))


class SetPlansView(APIView):
    @extend_schema(request=PlanRequestSerializer, responses={201: PlanSerializer}, operation_id="plan_make")
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = PlanRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        plan = plans.add_plan(staff(request), set_id, data.validated_data)
        return Response(PlanSerializer(plan).data, status=201)


class JobPlansView(APIView):
    @extend_schema(responses=PlanSummarySerializer(many=True), operation_id="job_plans")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(PlanSummarySerializer(plans.plans_of_job(staff(request), job_id), many=True).data)


class PlanView(APIView):
    @extend_schema(responses=PlanSerializer, operation_id="plan_get")
    def get(self, request: Request, plan_id: UUID) -> Response:
        return Response(PlanSerializer(plans.find_plan(staff(request), plan_id)).data)


class PlanMoveView(APIView):
    @extend_schema(request=MoveMarkSerializer, responses=PlanMoveSerializer, operation_id="move_mark")
    @write_once
    def put(self, request: Request, plan_id: UUID, spoke: str) -> Response:
        data = MoveMarkSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        move = plans.mark_move(staff(request), plan_id, spoke, values["state"], values.get("done_turns"))
        return Response(PlanMoveSerializer(move).data)


class DiagnosisView(APIView):
    @extend_schema(responses=DiagnosisSerializer, operation_id="diagnosis")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class CheckAnswersView(APIView):
    @extend_schema(request=CheckAnswerSerializer, responses=DiagnosisSerializer, operation_id="check_answer")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = CheckAnswerSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        diagnosis.answer_check(staff(request), job_id, values["check_key"], values["answer"])
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class FindingsView(APIView):
    @extend_schema(request=ConcludeSerializer, responses=DiagnosisSerializer, operation_id="conclude")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = ConcludeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        diagnosis.conclude(staff(request), job_id, **data.validated_data)
        return Response(DiagnosisSerializer(diagnosis.diagnosis_of(staff(request), job_id)).data)


class CounterView(APIView):
    @extend_schema(request=CounterQuestionSerializer, responses=CounterViewSerializer, operation_id="likely_causes")
    def post(self, request: Request) -> Response:
        data = CounterQuestionSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(CounterViewSerializer(diagnosis.preview(staff(request), data.validated_data)).data)


class WhatIfView(APIView):
    @extend_schema(request=WhatIfRequestSerializer, responses=WhatIfSerializer, operation_id="what_if")
    def post(self, request: Request, set_id: UUID) -> Response:
        data = WhatIfRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        reading_set = readings.find_set(staff(request), set_id)
        return Response(states.what_if(reading_set, data.validated_data["turns"]))


class PlanModesView(APIView):
    @extend_schema(responses=PlanModeSerializer(many=True), operation_id="plan_modes")
    def get(self, request: Request) -> Response:
        modes = [{"key": key, "name": name, "why": why} for key, (name, why) in MODES.items()]
        return Response(PlanModeSerializer(modes, many=True).data)
