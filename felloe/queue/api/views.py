from __future__ import annotations

from uuid import UUID

from django.utils import timezone
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.write_keys import write_once
from felloe.core.diagnosis.causes import COMPLAINTS
from felloe.core.stages import STAGES
from felloe.core.truing.tiers import TIERS
from felloe.queue import answers, services
from felloe.queue.api.serializers import (
    JobChangeSerializer,
    JobOpenSerializer,
    JobSerializer,
    RailSerializer,
    TradeSerializer,
)


class TradeView(APIView):
    @operation("trade", responses=TradeSerializer)
    def get(self, request: Request) -> Response:
        complaints = [answers.Complaint(key=key, name=name) for key, name in COMPLAINTS.items()]
        return Response(
            TradeSerializer(answers.Trade(stages=list(STAGES), tiers=list(TIERS.values()), complaints=complaints)).data
        )


class RailView(APIView):
    @operation("rail", responses=RailSerializer)
    def get(self, request: Request) -> Response:
        now = timezone.now()
        rail = services.rail(staff(request), now)
        hanging = [answers.Hanging(job=job, level=standing.level, why=standing.why) for job, standing in rail.jobs]
        value = answers.Rail(
            now=now,
            next_job_id=UUID(rail.next_job_id) if rail.next_job_id else None,
            hanging=hanging,
            handed_back=rail.handed_back,
        )
        return Response(RailSerializer(value).data)


class JobsView(APIView):
    @operation("job_open", request=JobOpenSerializer, responses={201: JobSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        data = JobOpenSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(JobSerializer(services.open_job(staff(request), data.validated_data)).data, status=201)


class JobView(APIView):
    @operation("job_get", responses=JobSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(services.find_job(staff(request), job_id)).data)

    @operation("job_change", request=JobChangeSerializer, responses=JobSerializer)
    @write_once
    def patch(self, request: Request, job_id: UUID) -> Response:
        data = JobChangeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        return Response(JobSerializer(services.change_job(staff(request), job_id, values.pop("version"), values)).data)
