from __future__ import annotations

from uuid import UUID

from django.conf import settings
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.fleet import services
from felloe.fleet.api import serializers as s


class LotsView(APIView):
    @operation("lots", responses=s.LotLineSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(s.LotLineSerializer(services.lots_of(staff(request)), many=True).data)

    @operation("lot_open", request=s.NewLotSerializer, responses={201: s.LotSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        lot = services.open_lot(staff(request), checked(s.NewLotSerializer, request.data))
        return Response(s.LotSerializer(services.lot_of(staff(request), lot.pk)).data, status=201)


class PreviewView(APIView):
    @operation("lot_preview", request=s.PreviewQuestionSerializer, responses=s.PreviewSerializer)
    def post(self, request: Request) -> Response:
        found = services.preview(staff(request), **checked(s.PreviewQuestionSerializer, request.data))
        return Response(s.PreviewSerializer(found).data)


class LotView(APIView):
    @operation("lot", responses=s.LotSerializer)
    def get(self, request: Request, lot_id: UUID) -> Response:
        return Response(s.LotSerializer(services.lot_of(staff(request), lot_id)).data)


class LabelsView(APIView):
    @operation("lot_labels", responses=s.LabelSerializer(many=True))
    def get(self, request: Request, lot_id: UUID) -> Response:
        base = settings.FELLOE_ADDRESS or request.build_absolute_uri("/")
        return Response(s.LabelSerializer(services.labels_of(staff(request), lot_id, base), many=True).data)


class LotAgreeView(APIView):
    @operation("lot_agree", request=s.AgreeSerializer, responses=s.DoneSerializer)
    @write_once
    def post(self, request: Request, lot_id: UUID) -> Response:
        done = services.agree(staff(request), lot_id, checked(s.AgreeSerializer, request.data))
        return Response(s.DoneSerializer(done).data)


class LotReturnView(APIView):
    @operation("lot_return", request=s.GiveBackSerializer, responses=s.DoneSerializer)
    @write_once
    def post(self, request: Request, lot_id: UUID) -> Response:
        done = services.give_back(staff(request), lot_id, checked(s.GiveBackSerializer, request.data)["jobs"])
        return Response(s.DoneSerializer(done).data)


class LotItemView(APIView):
    @operation("lot_exception", request=s.ExceptionSerializer, responses=s.LotSerializer)
    @write_once
    def put(self, request: Request, lot_id: UUID, job_id: UUID) -> Response:
        services.set_exception(staff(request), lot_id, job_id, checked(s.ExceptionSerializer, request.data)["reason"])
        return Response(s.LotSerializer(services.lot_of(staff(request), lot_id)).data)
