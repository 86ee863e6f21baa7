"""The verdict on a rim, the pass looked back on, and the laps of a wheel under construction."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.bench.api.serializers import TraceSerializer
from felloe.bench.services import passes, verdicts
from felloe.queue.api.serializers import TIER_NAMES


class BendSerializer(serializers.Serializer[Any]):
    spokes = serializers.ListField(child=serializers.CharField())
    why = serializers.CharField()


class CurvePointSerializer(serializers.Serializer[Any]):
    spread_percent = serializers.FloatField()
    lateral_tir_mm = serializers.FloatField()
    radial_tir_mm = serializers.FloatField()


class CurveSerializer(serializers.Serializer[Any]):
    """Straight against even: the best runout at each tension spread, the tier's place on it, and the verdict."""

    points = CurvePointSerializer(many=True)
    tier_lateral_mm = serializers.FloatField()
    tier_radial_mm = serializers.FloatField()
    tier_spread_percent = serializers.FloatField()
    can = serializers.BooleanField()
    chance = serializers.FloatField()
    best_tier = serializers.ChoiceField(choices=TIER_NAMES, allow_null=True)
    why = serializers.CharField()
    bends = BendSerializer(many=True)
    to_customer = serializers.CharField()


class ForeseenSerializer(serializers.Serializer[Any]):
    tension_n = serializers.ListField(child=serializers.FloatField())
    trace = TraceSerializer()


class ShirkerSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField()
    share = serializers.FloatField()


class PassSerializer(serializers.Serializer[Any]):
    """What was foreseen for the turns really made, beside what was measured after."""

    made = serializers.BooleanField()
    plan_id = serializers.UUIDField(allow_null=True)
    foreseen = ForeseenSerializer(allow_null=True)
    as_foreseen = serializers.BooleanField()
    said = serializers.CharField()
    shirkers = ShirkerSerializer(many=True)


class LapSerializer(serializers.Serializer[Any]):
    """One lap of a wheel under construction: turns of every nipple of a side, and the means after it."""

    number = serializers.IntegerField()
    share = serializers.FloatField()
    right_turns = serializers.FloatField()
    left_turns = serializers.FloatField()
    right_mean_n = serializers.FloatField()
    left_mean_n = serializers.FloatField()
    care = serializers.CharField()


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
