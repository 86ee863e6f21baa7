"""The verdict on a rim, the pass looked back on, and the laps of a wheel under construction."""

from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.bench import answers
from felloe.bench.services import passes, verdicts


class BendSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Bend


class CurvePointSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.CurvePoint


class CurveSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Curve


class ForeseenSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Foreseen


class ShirkerSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Shirker


class PassSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Pass


class LapSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Lap


class VerdictView(APIView):
    @operation("verdict", responses=CurveSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(CurveSerializer(verdicts.verdict_of(staff(request), set_id)).data)


class PassView(APIView):
    @operation("pass_before", responses=PassSerializer)
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(PassSerializer(passes.pass_before(staff(request), set_id)).data)


class LapsView(APIView):
    @operation("laps_ahead", responses=LapSerializer(many=True))
    def get(self, request: Request, set_id: UUID) -> Response:
        return Response(LapSerializer(passes.laps_of(staff(request), set_id), many=True).data)
