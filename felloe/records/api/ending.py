"""Ends without a repair, reopening, moving on, and the shop's rules for them."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.core.endings import BEYOND_REPAIR, CANCELLED, COUNTER, DECLINED, NO_FAULT, NOT_FETCHED, OWNER, SKILLED, WayToEnd
from felloe.queue.api.serializers import JobSerializer, StageMoveSerializer
from felloe.records.services import ending

WITHOUT_REPAIR = [NO_FAULT, DECLINED, CANCELLED, BEYOND_REPAIR, NOT_FETCHED]


class WayToEndSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=WITHOUT_REPAIR)
    who = serializers.ChoiceField(choices=[COUNTER, SKILLED, OWNER])

    class Meta:
        dataclass = WayToEnd


class EndJobSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    end = serializers.ChoiceField(choices=WITHOUT_REPAIR)
    reason = serializers.CharField(max_length=1000)


class ReopenSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    reason = serializers.CharField(max_length=1000)


class RulesSerializer(serializers.Serializer[Any]):
    unfetched_days = serializers.IntegerField(min_value=14, max_value=1000)
    reopen_days = serializers.IntegerField(min_value=0, max_value=365)


class EndsView(APIView):
    @operation("ways_to_end", responses=WayToEndSerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(WayToEndSerializer(ending.ways_of(staff(request), job_id), many=True).data)

    @operation("job_end", request=EndJobSerializer, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(ending.end_job(staff(request), job_id, **checked(EndJobSerializer, request.data))).data)


class ReopenView(APIView):
    @operation("job_reopen", request=ReopenSerializer, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(ending.reopen(staff(request), job_id, **checked(ReopenSerializer, request.data))).data)


class StageMoveView(APIView):
    @operation("job_move", request=StageMoveSerializer, responses=JobSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        return Response(JobSerializer(ending.move(staff(request), job_id, **checked(StageMoveSerializer, request.data))).data)


class RulesView(APIView):
    @operation("shop_rules", responses=RulesSerializer)
    def get(self, request: Request) -> Response:
        return Response(RulesSerializer(staff(request).shop).data)

    @operation("shop_rules_set", request=RulesSerializer, responses=RulesSerializer)
    @write_once
    def put(self, request: Request) -> Response:
        return Response(RulesSerializer(ending.set_rules(staff(request), **checked(RulesSerializer, request.data))).data)
