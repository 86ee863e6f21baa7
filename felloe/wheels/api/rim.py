"""The rim's stiffness, from its section or from a weight hung on the wheel."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation
from felloe.api.answers import AnswerSerializer
from felloe.core.mechanics.rim_section import box_section, hang_test
from felloe.core.specification import wheel_from_dict
from felloe.wheels import answers
from felloe.wheels.api.serializers import SpecificationSerializer


class BoxSectionSerializer(serializers.Serializer[Any]):
    width_mm = serializers.FloatField()
    height_mm = serializers.FloatField()
    wall_mm = serializers.FloatField()
    material = serializers.ChoiceField(choices=["aluminium", "carbon", "steel"])


class StiffnessSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Stiffness


class HangSerializer(serializers.Serializer[Any]):
    specification = SpecificationSerializer()
    angle_deg = serializers.FloatField(required=False, default=180, min_value=0, max_value=360)
    mass_kg = serializers.FloatField()
    measured_mm = serializers.FloatField()
    sideways = serializers.BooleanField()


class HangAnswerSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.HangAnswer


class BoxSectionView(APIView):
    @operation("rim_section", request=BoxSectionSerializer, responses=StiffnessSerializer)
    def post(self, request: Request) -> Response:
        data = BoxSectionSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(StiffnessSerializer(asdict(box_section(**data.validated_data))).data)


class HangTestView(APIView):
    @operation("rim_hang_test", request=HangSerializer, responses=HangAnswerSerializer)
    def post(self, request: Request) -> Response:
        data = HangSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        sent: dict[str, Any] = dict(request.data)
        wheel = wheel_from_dict(sent["specification"], "specification")
        found = hang_test(wheel, values["angle_deg"] % 360, values["mass_kg"], values["measured_mm"], values["sideways"])
        rim = found.rim
        answer = answers.HangAnswer(
            ea_n=rim.ea_n,
            ei_lat_nm2=rim.ei_lat_nm2,
            ei_rad_nm2=rim.ei_rad_nm2,
            gj_nm2=rim.gj_nm2,
            spread=found.log_sd,
            factor=found.factor,
            predicted_mm=found.predicted_mm,
        )
        return Response(HangAnswerSerializer(answer).data)
