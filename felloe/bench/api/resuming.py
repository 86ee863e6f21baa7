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
from felloe.bench import answers
from felloe.bench.api.serializers import ReadingEntrySerializer
from felloe.bench.services import resuming


class ResumeSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Resume


class ResumeProveSerializer(serializers.Serializer[Any]):
    readings = serializers.ListField(child=ReadingEntrySerializer(), max_length=2)


class ResumeView(APIView):
    """Going on with an interrupted plan: what to read first, and what the two readings said."""

    @operation("resume_get", responses=ResumeSerializer)
    def get(self, request: Request, plan_id: UUID) -> Response:
        return Response(ResumeSerializer(resuming.resume_of(staff(request), plan_id)).data)

    @operation("resume_prove", request=ResumeProveSerializer, responses={201: ResumeSerializer})
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        values = checked(ResumeProveSerializer, request.data)
        return Response(ResumeSerializer(resuming.prove(staff(request), plan_id, values["readings"])).data, status=201)
