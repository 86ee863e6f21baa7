from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.write_keys import write_once
from felloe.bench import answers
from felloe.bench.api.serializers import (
    DishAdviceSerializer,
    LeftAloneSerializer,
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
    TradeOffSerializer,
    WhatIfRequestSerializer,
    WhatIfSerializer,
)
from felloe.bench.services import entering, plans, readings, states
from felloe.core.truing.objective import MODES


class JobSetsView(APIView):
    @operation("reading_sets", responses=ReadingSetSerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(ReadingSetSerializer(readings.sets_of(staff(request), job_id), many=True).data)

    @operation("reading_set_open", request=OpenSetSerializer, responses={201: ReadingSetSerializer})
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        data = OpenSetSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        made = readings.open_set(staff(request), job_id, **data.validated_data)
        return Response(ReadingSetSerializer(made).data, status=201)


class SetView(APIView):
    @operation("reading_set_get", responses=ReadingSetDetailSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(ReadingSetDetailSerializer(readings.find_set(staff(request), set_id)).data)


class ReadingsView(APIView):
    @operation("reading_save", request=ReadingEntrySerializer, responses={201: ReadingSerializer})
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = ReadingEntrySerializer(data=request.data)
        data.is_valid(raise_exception=True)
        made = entering.save_reading(staff(request), set_id, dict(data.validated_data))
        return Response(ReadingSerializer(made).data, status=201)


class ReadingWithdrawView(APIView):
    @operation("reading_withdraw", request=ReadingPlaceSerializer, responses={204: None})
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = ReadingPlaceSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        readings.withdraw_reading(staff(request), set_id, **data.validated_data)
        return Response(status=204)


class ReadingHistoryView(APIView):
    @operation(
        "reading_history",
        parameters=[OpenApiParameter("kind", str, required=True), OpenApiParameter("spoke", str)],
        responses=ReadingSerializer(many=True),
    )
    def get(self, request: Request, set_id: UUID) -> Response:
        place = ReadingPlaceSerializer(data=request.query_params)
        place.is_valid(raise_exception=True)
        found = readings.history_of(readings.find_set(staff(request), set_id), **place.validated_data)
        return Response(ReadingSerializer(found, many=True).data)


class StateView(APIView):
    @operation("state_get", responses=StateSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(StateSerializer(states.state_of_set(readings.find_set(staff(request), set_id))).data)


class DishOptionsView(APIView):
    @operation("dish_options", responses=DishAdviceSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(DishAdviceSerializer(plans.dish_options_of(staff(request), set_id)).data)


class SetPlansView(APIView):
    @operation("plan_make", request=PlanRequestSerializer, responses={201: PlanSerializer})
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        data = PlanRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        plan = plans.add_plan(staff(request), set_id, data.validated_data)
        return Response(PlanSerializer(plan).data, status=201)


class TradeOffView(APIView):
    @operation("trade_off", request=PlanRequestSerializer, responses=TradeOffSerializer)
    def post(self, request: Request, set_id: UUID) -> Response:
        data = PlanRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(TradeOffSerializer(plans.trade_off_of(staff(request), set_id, data.validated_data)).data)


class LeftAloneView(APIView):
    @operation("left_alone", responses=LeftAloneSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(LeftAloneSerializer(plans.left_alone(staff(request), set_id)).data)


class JobPlansView(APIView):
    @operation("job_plans", responses=PlanSummarySerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(PlanSummarySerializer(plans.plans_of_job(staff(request), job_id), many=True).data)


class PlanView(APIView):
    @operation("plan_get", responses=PlanSerializer)
    def get(self, request: Request, plan_id: UUID) -> Response:
        return Response(PlanSerializer(plans.find_plan(staff(request), plan_id)).data)


class PlanMoveView(APIView):
    @operation("move_mark", request=MoveMarkSerializer, responses=PlanMoveSerializer)
    @write_once
    def put(self, request: Request, plan_id: UUID, spoke: str) -> Response:
        data = MoveMarkSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        move = plans.mark_move(
            staff(request), plan_id, spoke, values["state"], values.get("done_turns"), values.get("instead", "")
        )
        return Response(PlanMoveSerializer(move).data)


class WhatIfView(APIView):
    @operation("what_if", request=WhatIfRequestSerializer, responses=WhatIfSerializer)
    def post(self, request: Request, set_id: UUID) -> Response:
        data = WhatIfRequestSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        reading_set = readings.find_set(staff(request), set_id)
        return Response(WhatIfSerializer(states.what_if(reading_set, data.validated_data["turns"])).data)


class PlanModesView(APIView):
    @operation("plan_modes", responses=PlanModeSerializer(many=True))
    def get(self, request: Request) -> Response:
        modes = [answers.PlanMode(key=key, name=name, why=why) for key, (name, why) in MODES.items()]
        return Response(PlanModeSerializer(modes, many=True).data)
