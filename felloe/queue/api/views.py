from __future__ import annotations

from datetime import datetime
from uuid import UUID

from django.utils import timezone
from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.pages import BeforeSerializer
from felloe.api.write_keys import write_once
from felloe.core.diagnosis.causes import COMPLAINTS
from felloe.core.promise.answer import is_it_ready
from felloe.core.stages import STAGES
from felloe.queue import answers, services
from felloe.queue.api.serializers import (
    EventPageSerializer,
    HitSerializer,
    JobChangeSerializer,
    JobSerializer,
    PlaceAddSerializer,
    PlaceChangeSerializer,
    ShopPlaceSerializer,
    ShopTierSerializer,
    TierSetSerializer,
    TradeSerializer,
)
from felloe.queue.models import Job
from felloe.queue.services import places, tiers
from felloe.queue.services.find import find


class TradeView(APIView):
    @operation("trade", responses=TradeSerializer)
    def get(self, request: Request) -> Response:
        complaints = [answers.Complaint(key=key, name=name) for key, name in COMPLAINTS.items()]
        return Response(
            TradeSerializer(
                answers.Trade(
                    stages=list(STAGES), tiers=list(tiers.tiers_in_use(staff(request).shop_id).values()), complaints=complaints
                )
            ).data
        )


class TiersView(APIView):
    @operation("tiers", responses=ShopTierSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(ShopTierSerializer(tiers.tiers_of(staff(request).shop_id), many=True).data)

    @operation("tier_set", request=TierSetSerializer, responses=ShopTierSerializer(many=True))
    @write_once
    def put(self, request: Request) -> Response:
        found = tiers.set_tier(staff(request), checked(TierSetSerializer, request.data))
        return Response(ShopTierSerializer(found, many=True).data)


class FindView(APIView):
    @operation(
        "find",
        parameters=[OpenApiParameter("text", str, description="Number, name, telephone, bike, asset number, complaint")],
        responses=HitSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        now = timezone.now()
        found = [_hit(job, now) for job in find(staff(request), request.query_params.get("text", "")[:120])]
        return Response(HitSerializer(found, many=True).data)


def _hit(job: Job, now: datetime) -> answers.Hit:
    answer = is_it_ready(job.stage, job.ready_at, job.promised_at, job.waiting_on, job.ended_as, now)
    return answers.Hit(
        job=answers.rail_job(job),
        customer_id=job.wheel.bike.customer_id,
        phone=job.wheel.bike.customer.phone,
        hook=job.hook.name if job.hook else "",
        key=answer.key,
        said=answer.said,
    )


class PlacesView(APIView):
    @operation("places", responses=ShopPlaceSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(ShopPlaceSerializer(places.places_of(staff(request)), many=True).data)

    @operation("place_add", request=PlaceAddSerializer, responses={201: ShopPlaceSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        made = places.add_place(staff(request), **checked(PlaceAddSerializer, request.data))
        return Response(ShopPlaceSerializer(made).data, status=201)


class PlaceView(APIView):
    @operation("place_change", request=PlaceChangeSerializer, responses=ShopPlaceSerializer)
    @write_once
    def patch(self, request: Request, place_id: UUID) -> Response:
        values = checked(PlaceChangeSerializer, request.data)
        changed = places.change_place(staff(request), place_id, values.pop("version"), values)
        return Response(ShopPlaceSerializer(changed).data)


class EventsView(APIView):
    @operation(
        "job_events",
        parameters=[BeforeSerializer],
        responses=EventPageSerializer,
    )
    def get(self, request: Request, job_id: UUID) -> Response:
        before = checked(BeforeSerializer, request.query_params).get("before")
        events, earlier = services.events_of(services.find_job(staff(request), job_id), before)
        return Response(EventPageSerializer({"events": events, "earlier": earlier}).data)


class JobView(APIView):
    @operation("job_get", responses=JobSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(services.shown_job(staff(request), job_id)).data)

    @operation("job_change", request=JobChangeSerializer, responses=JobSerializer)
    @write_once
    def patch(self, request: Request, job_id: UUID) -> Response:
        data = JobChangeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        return Response(JobSerializer(services.change_job(staff(request), job_id, values.pop("version"), values)).data)
