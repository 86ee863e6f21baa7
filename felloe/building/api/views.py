from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.building.api import serializers as s
from felloe.building.services import lacing, replacing, sizing, strip
from felloe.core.naming import Side


def _sizing(request: Request, job_id: UUID) -> Response:
    asked = checked(s.SizingQuestionSerializer, request.query_params)
    return Response(s.SizingSerializer(sizing.sizing_of(staff(request), job_id, **asked)).data)


class SizingView(APIView):
    @operation("sizing", parameters=[s.SizingQuestionSerializer], responses=s.SizingSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return _sizing(request, job_id)


class ChooseView(APIView):
    @operation("spokes_choose", request=s.ChooseSerializer, responses=s.SizingSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        given = checked(s.ChooseSerializer, request.data)
        sizing.choose_length(staff(request), job_id, Side(given["side"]), given["length_mm"], given.get("part"))
        return _sizing(request, job_id)


class OldSpokesView(APIView):
    @operation("old_spoke_log", request=s.OldSpokeInSerializer, responses=s.SizingSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        sizing.log_old_spoke(staff(request), job_id, **checked(s.OldSpokeInSerializer, request.data))
        return _sizing(request, job_id)


class KitView(APIView):
    @operation("kit_lay_out", request=s.KitInSerializer, responses=s.SizingSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        sizing.lay_out_kit(staff(request), job_id, checked(s.KitInSerializer, request.data))
        return _sizing(request, job_id)


class SwapView(APIView):
    @operation("swap", parameters=[s.SwapQuestionSerializer], responses=s.SwapSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        asked = checked(s.SwapQuestionSerializer, request.query_params)
        found = sizing.swapped(staff(request), job_id, asked.get("rim_part"), asked.get("hub_part"))
        return Response(s.SwapSerializer(found).data)


def _lacing(request: Request, job_id: UUID) -> Response:
    return Response(s.LacingSerializer(lacing.lacing_of(staff(request), job_id)).data)


class LacingView(APIView):
    @operation("lacing", responses=s.LacingSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return _lacing(request, job_id)

    @operation("lacing_place", request=s.PlaceInSerializer, responses=s.LacingSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        lacing.place(staff(request), job_id, checked(s.PlaceInSerializer, request.data)["placed"])
        return _lacing(request, job_id)


class LacingInsideView(APIView):
    @operation("lacing_inside", request=s.BySideSerializer, responses=s.LacingSerializer)
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        lacing.choose_inside(staff(request), job_id, checked(s.BySideSerializer, request.data))
        return _lacing(request, job_id)


class LacingDespiteView(APIView):
    @operation("lacing_despite", request=s.LaceDespiteSerializer, responses=s.LacingSerializer)
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        lacing.lace_despite(staff(request), job_id, checked(s.LaceDespiteSerializer, request.data)["despite"])
        return _lacing(request, job_id)


class LacingLookView(APIView):
    @operation("lacing_look", request=s.LookSerializer, responses=s.LacingVerdictSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        seen = [dict(row) for row in checked(s.LookSerializer, request.data)["seen"]]
        return Response(s.LacingVerdictSerializer(lacing.look(staff(request), job_id, seen)).data)


def _strip(request: Request, job_id: UUID) -> Response:
    return Response(s.StripSerializer(strip.strip_of(staff(request), job_id)).data)


class StripView(APIView):
    @operation("strip", responses=s.StripSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return _strip(request, job_id)

    @operation("strip_facts", request=s.StripFactsSerializer, responses=s.StripSerializer)
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        strip.say_facts(staff(request), job_id, "strip", checked(s.StripFactsSerializer, request.data))
        return _strip(request, job_id)


class StripStepView(APIView):
    @operation("strip_step", request=s.StepInSerializer, responses=s.StripSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        strip.mark_strip_step(staff(request), job_id, **checked(s.StepInSerializer, request.data))
        return _strip(request, job_id)


class CountView(APIView):
    @operation("small_parts_count", request=s.CountInSerializer, responses=s.StripSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        strip.count_parts(staff(request), job_id, **checked(s.CountInSerializer, request.data))
        return _strip(request, job_id)


def _replacing(request: Request, job_id: UUID) -> Response:
    return Response(s.ReplacingSerializer(replacing.replacing_of(staff(request), job_id)).data)


class ReplacingView(APIView):
    @operation("replacing", responses=s.ReplacingSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return _replacing(request, job_id)

    @operation("replace_step", request=s.ReplaceStepInSerializer, responses=s.ReplacingSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        replacing.replace_step(staff(request), job_id, **checked(s.ReplaceStepInSerializer, request.data))
        return _replacing(request, job_id)


class SpareCardView(APIView):
    @operation("spare_card", responses=s.SpareCardSerializer)
    def get(self, request: Request, bike_id: UUID) -> Response:
        return Response(s.SpareCardSerializer(replacing.spares_of(staff(request), bike_id)).data)
