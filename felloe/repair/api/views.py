from __future__ import annotations

from typing import Any
from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.accounts.models import Shop
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.condition import services as condition
from felloe.condition.services import diagnosis
from felloe.core.refit.road_advice import road_card
from felloe.repair.api import serializers as s
from felloe.repair.services import conditions, decisions, prices, refit, unsafe


class ConditionView(APIView):
    @operation("condition", responses=s.ConditionSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class MarksView(APIView):
    @operation("mark_add", request=s.NewMarkSerializer, responses=s.ConditionSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_mark(staff(request), job_id, checked(s.NewMarkSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class MarkEndView(APIView):
    @operation("mark_end", request=s.EndMarkSerializer, responses=s.ConditionSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID, mark_id: UUID) -> Response:
        condition.end_mark(staff(request), job_id, mark_id, **checked(s.EndMarkSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class BreaksView(APIView):
    @operation("break_add", request=s.NewBreakSerializer, responses=s.ConditionSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_break(staff(request), job_id, checked(s.NewBreakSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class BreakEndView(APIView):
    @operation("break_end", request=s.WordSerializer, responses=s.ConditionSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID, break_id: UUID) -> Response:
        condition.end_break(staff(request), job_id, break_id, **checked(s.WordSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class FrameChecksView(APIView):
    @operation("frame_check", request=s.NewFrameCheckSerializer, responses=s.ConditionSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        condition.add_frame_check(staff(request), job_id, checked(s.NewFrameCheckSerializer, request.data))
        return Response(s.ConditionSerializer(conditions.condition_of(staff(request), job_id)).data)


class OptionsView(APIView):
    @operation("repair_options", responses=s.OptionsSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.OptionsSerializer(decisions.options_of(staff(request), job_id)).data)


class DecisionsView(APIView):
    @operation("decide", request=s.DecideSerializer, responses={201: s.DecisionSerializer})
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        made = decisions.decide(staff(request), job_id, checked(s.DecideSerializer, request.data))
        return Response(s.DecisionSerializer(made).data, status=201)


class MendedView(APIView):
    @operation("finding_mended", request=s.WordSerializer, responses=s.OptionsSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        diagnosis.mend_finding(staff(request), job_id, checked(s.WordSerializer, request.data)["note"])
        return Response(s.OptionsSerializer(decisions.options_of(staff(request), job_id)).data)


class RefitView(APIView):
    @operation("refit", responses=s.RefitSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)

    @operation("refit_answer", request=s.RefitAnswerRequestSerializer, responses=s.RefitSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        refit.answer_step(staff(request), job_id, **checked(s.RefitAnswerRequestSerializer, request.data))
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)


class RecheckView(APIView):
    @operation("recheck_set", request=s.RecheckSerializer, responses=s.RefitSerializer)
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        refit.set_recheck(staff(request), job_id, checked(s.RecheckSerializer, request.data)["on"])
        return Response(s.RefitSerializer(refit.refit_of(staff(request), job_id)).data)


class UnsafeView(APIView):
    @operation("unsafe_jobs", responses=s.UnsafeJobSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(s.UnsafeJobSerializer(unsafe.unsafe_jobs(staff(request)), many=True).data)


class RoadAdviceView(APIView):
    @operation("road_advice", parameters=[s.RoadQuestionSerializer], responses=s.RoadCardSerializer)
    def get(self, request: Request) -> Response:
        asked = checked(s.RoadQuestionSerializer, request.query_params)
        return Response(s.RoadCardSerializer(road_card(**asked)).data)


def _prices(shop: Shop) -> dict[str, Any]:
    return {
        "currency": shop.currency,
        "version": shop.prices_version,
        "tax_basis_points": shop.tax_basis_points,
        "tax_included": shop.tax_included,
        "prices_minor": shop.prices_minor,
        "names": s.priced_names(),
    }


class PricesView(APIView):
    @operation("prices", responses=s.PricesSerializer)
    def get(self, request: Request) -> Response:
        return Response(s.PricesSerializer(_prices(staff(request).shop)).data)

    @operation("prices_set", request=s.PricesSerializer, responses=s.PricesSerializer)
    @write_once
    def put(self, request: Request) -> Response:
        shop = prices.set_prices(staff(request), **checked(s.PricesSerializer, request.data))
        return Response(s.PricesSerializer(_prices(shop)).data)
