from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.records import answers
from felloe.records.services import history


class WheelHistorySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.WheelHistory


class ComebackSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Comeback


class WheelHistoryView(APIView):
    @operation("wheel_history", may_lag=True, responses=WheelHistorySerializer)
    def get(self, request: Request, wheel_id: UUID) -> Response:
        return Response(WheelHistorySerializer(history.history_of(staff(request), wheel_id)).data)


class ComebackView(APIView):
    """What became of the wheel since it left: a proposal, with its figures and how sure they are."""

    @operation("comeback", responses=ComebackSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(ComebackSerializer(history.comeback_of(staff(request), job_id)).data)
