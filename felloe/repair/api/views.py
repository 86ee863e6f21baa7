from __future__ import annotations

from typing import Any
from uuid import UUID

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.models import Shop
from felloe.api.checked import checked
from felloe.api.permissions import staff
from felloe.api.write_keys import write_once
from felloe.bench import diagnosis
from felloe.condition import services as condition
from felloe.core.refit.road_advice import road_card
from felloe.repair import conditions, decisions, prices, refit
from felloe.repair.api import serializers as s


class ConditionView(APIView):
    @extend_schema(responses=s.ConditionSerializer, operation_id="condition")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class MarksView(APIView):
    @extend_schema(request=s.NewMarkSerializer, responses=s.ConditionSerializer, operation_id="mark_add")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_mark(staff(request), job_id, checked(s.NewMarkSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class MarkEndView(APIView):
    @extend_schema(request=s.EndMarkSerializer, responses=s.ConditionSerializer, operation_id="mark_end")
    @write_once
    def post(self, request: Request, job_id: UUID, mark_id: UUID) -> Response:
        condition.end_mark(staff(request), job_id, mark_id, **checked(s.EndMarkSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class BreaksView(APIView):
    @extend_schema(request=s.NewBreakSerializer, responses=s.ConditionSerializer, operation_id="break_add")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_break(staff(request), job_id, checked(s.NewBreakSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class BreakEndView(APIView):
    @extend_schema(request=s.WordSerializer, responses=s.ConditionSerializer, operation_id="break_end")
    @write_once
    def post(self, request: Request, job_id: UUID, break_id: UUID) -> Response:
        condition.end_break(staff(request), job_id, break_id, **checked(s.WordSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class FrameChecksView(APIView):
    @extend_schema(request=s.NewFrameCheckSerializer, responses=s.ConditionSerializer, operation_id="frame_check")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_frame_check(staff(request), job_id, checked(s.NewFrameCheckSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class OptionsView(APIView):
    @extend_schema(responses=s.OptionsSerializer, operation_id="repair_options")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.OptionsSerializer(decisions.options_of(staff(request), job_id)).data)


class DecisionsView(APIView):
    @extend_schema(request=s.DecideSerializer, responses={201: s.DecisionSerializer}, operation_id="decide")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        made = decisions.decide(staff(request), job_id, checked(s.DecideSerializer, request.data))
        return Response(s.DecisionSerializer(made).data, status=201)


class MendedView(APIView):
    @extend_schema(request=s.WordSerializer, responses=s.OptionsSerializer, operation_id="finding_mended")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        diagnosis.mend_finding(staff(request), job_id, checked(s.WordSerializer, request.data)["note"])
        return Response(s.OptionsSerializer(decisions.options_of(staff(request), job_id)).data)


class RefitView(APIView):
    @extend_schema(responses=s.RefitSerializer, operation_id="refit")
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)

    @extend_schema(request=s.RefitAnswerRequestSerializer, responses=s.RefitSerializer, operation_id="refit_answer")
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        refit.answer_step(staff(request), job_id, **checked(s.RefitAnswerRequestSerializer, request.data))
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)


class RecheckView(APIView):
    @extend_schema(request=s.RecheckSerializer, responses=s.RefitSerializer, operation_id="recheck_set")
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        refit.set_recheck(staff(request), job_id, checked(s.RecheckSerializer, request.data)["on"])
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)


class RoadAdviceView(APIView):
    @extend_schema(parameters=[s.RoadQuestionSerializer], responses=s.RoadCardSerializer, operation_id="road_advice")
    def get(self, request: Request) -> Response:
        asked = checked(s.RoadQuestionSerializer, request.query_params)
        return Response(s.RoadCardSerializer(road_card(**asked)).data)


def _prices(shop: Shop) -> dict[str, Any]:
    return {
        "currency": shop.currency,
        "version": shop.prices_version,
        "prices_minor": shop.prices_minor,
        "names": s.priced_names(),
    }


class PricesView(APIView):
    @extend_schema(responses=s.PricesSerializer, operation_id="prices")
    def get(self, request: Request) -> Response:
        return Response(s.PricesSerializer(_prices(staff(request).shop)).data)

    @extend_schema(request=s.PricesSerializer, responses=s.PricesSerializer, operation_id="prices_set")
    @write_once
    def put(self, request: Request) -> Response:
        shop = prices.set_prices(staff(request), **checked(s.PricesSerializer, request.data))
        return Response(s.PricesSerializer(_prices(shop)).data)
