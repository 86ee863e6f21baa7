from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.utils import timezone
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.promises import services
from felloe.promises.api.serializers import (
    LookAskSerializer,
    OffersAskSerializer,
    OffersSerializer,
    PromiseGiveSerializer,
    PromiseLookSerializer,
    PutDownSerializer,
    RailSerializer,
    TakeUpSerializer,
    ToldSerializer,
    WantedSerializer,
    WorkSerializer,
)
from felloe.promises.api.shown import rail_json
from felloe.queue.api.serializers import JobOpenSerializer, JobSerializer


class RailView(APIView):
    @operation("rail", responses=RailSerializer)
    def get(self, request: Request) -> HttpResponse:
        user = staff(request)
        return rail_json(user, *services.own_and_shared(user, timezone.now()))


class JobsView(APIView):
    @operation("job_open", request=JobOpenSerializer, responses={201: JobSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        job = services.open_job(staff(request), checked(JobOpenSerializer, request.data))
        return Response(JobSerializer(job).data, status=201)


class OffersView(APIView):
    @operation("offers", request=OffersAskSerializer, responses=OffersSerializer)
    def post(self, request: Request) -> Response:
        found = services.offers_for_new(staff(request), checked(OffersAskSerializer, request.data))
        return Response(OffersSerializer(found).data)


class JobOffersView(APIView):
    @operation("job_offers", request=WantedSerializer, responses=OffersSerializer)
    def post(self, request: Request, job_id: UUID) -> Response:
        wanted = checked(WantedSerializer, request.data).get("wanted_at")
        return Response(OffersSerializer(services.offers_for_job(staff(request), job_id, wanted)).data)


class LookView(APIView):
    @operation("promise_look", request=LookAskSerializer, responses=PromiseLookSerializer)
    def post(self, request: Request, job_id: UUID) -> Response:
        at = checked(LookAskSerializer, request.data)["promised_at"]
        return Response(PromiseLookSerializer(services.look(staff(request), job_id, at)).data)


class PromiseView(APIView):
    @operation("promise_give", request=PromiseGiveSerializer, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        values = checked(PromiseGiveSerializer, request.data)
        job = services.give(staff(request), job_id, values["version"], values["promised_at"])
        return Response(JobSerializer(job).data)


class WorkView(APIView):
    @operation("job_work", responses=WorkSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(WorkSerializer(services.work_of(staff(request), job_id)).data)


class TakeUpView(APIView):
    @operation("take_up", request=TakeUpSerializer, responses=WorkSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        stand = checked(TakeUpSerializer, request.data).get("stand")
        return Response(WorkSerializer(services.take_up(staff(request), job_id, stand)).data)


class PutDownView(APIView):
    @operation("put_down", request=PutDownSerializer, responses=WorkSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        found = services.put_down(staff(request), job_id, checked(PutDownSerializer, request.data))
        return Response(WorkSerializer(found).data)


class ToldView(APIView):
    @operation("customer_told", request=ToldSerializer, responses={204: None})
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        services.told(staff(request), job_id, **checked(ToldSerializer, request.data))
        return Response(status=204)
