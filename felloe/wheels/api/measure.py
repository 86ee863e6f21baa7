"""Guided measuring: what rods, ruler and caliper show, as dimensions with their uncertainty. Nothing is saved."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.core.naming import Side
from felloe.core.runout.dish import dish_target_from_edge
from felloe.core.spokes.measuring import Found, Rods, bed_offset, erd_by_rods, erd_from_inside, locknut_to_flange, pitch_circle
from felloe.core.spokes.old_spokes import thread_in_nipple
from felloe.wheels import answers


class RodsSerializer(serializers.Serializer[Any]):
    first_mm = serializers.FloatField()
    second_mm = serializers.FloatField()
    gap_mm = serializers.FloatField()


class ErdByRodsSerializer(serializers.Serializer[Any]):
    diameters = RodsSerializer(many=True)
    hole_count = serializers.IntegerField()
    holes_apart = serializers.IntegerField(required=False, allow_null=True, default=None)
    stagger_mm = serializers.FloatField(required=False, default=0.0)


class ErdInsideSerializer(serializers.Serializer[Any]):
    inside_diameter_mm = serializers.FloatField()
    bed_mm = serializers.FloatField()
    seat_mm = serializers.FloatField()


class BedSerializer(serializers.Serializer[Any]):
    to_left_edge_mm = serializers.FloatField()
    to_right_edge_mm = serializers.FloatField()


class FlangeCircleSerializer(serializers.Serializer[Any]):
    inner_edges_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    outer_edges_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    hole_mm = serializers.FloatField()


class LocknutSerializer(serializers.Serializer[Any]):
    to_outer_face_mm = serializers.FloatField()
    flange_thickness_mm = serializers.FloatField()


class RimPlaceSerializer(serializers.Serializer[Any]):
    old_mm = serializers.FloatField()
    side = serializers.ChoiceField(choices=["R", "L"])
    edge_inside_mm = serializers.FloatField(required=False, default=0.0)
    distance_mm = serializers.FloatField()
    rim_width_mm = serializers.FloatField(required=False, default=0.0)


class RimBelongsSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.RimBelongs


class FoundSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Found


class ThreadQuestionSerializer(serializers.Serializer[Any]):
    depth_mm = serializers.FloatField()


class ThreadFoundSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ThreadFound


def _answer(found: Found) -> Response:
    return Response(FoundSerializer(asdict(found)).data)


class ErdByRodsView(APIView):
    @operation("measure_erd_by_rods", request=ErdByRodsSerializer, responses=FoundSerializer)
    def post(self, request: Request) -> Response:
        given = checked(ErdByRodsSerializer, request.data)
        rods = [Rods(**values) for values in given.pop("diameters")]
        return _answer(erd_by_rods(rods, **given))


class ErdInsideView(APIView):
    @operation("measure_erd_inside", request=ErdInsideSerializer, responses=FoundSerializer)
    def post(self, request: Request) -> Response:
        return _answer(erd_from_inside(**checked(ErdInsideSerializer, request.data)))


class BedView(APIView):
    @operation("measure_bed", request=BedSerializer, responses=FoundSerializer)
    def post(self, request: Request) -> Response:
        return _answer(bed_offset(**checked(BedSerializer, request.data)))


class FlangeCircleView(APIView):
    @operation("measure_flange", request=FlangeCircleSerializer, responses=FoundSerializer)
    def post(self, request: Request) -> Response:
        return _answer(pitch_circle(**checked(FlangeCircleSerializer, request.data)))


class LocknutView(APIView):
    @operation("measure_locknut", request=LocknutSerializer, responses=FoundSerializer)
    def post(self, request: Request) -> Response:
        return _answer(locknut_to_flange(**checked(LocknutSerializer, request.data)))


class RimPlaceView(APIView):
    """Where the rim belongs, as a drawing or the wheel's owner states it."""

    @operation("measure_rim_place", request=RimPlaceSerializer, responses=RimBelongsSerializer)
    def post(self, request: Request) -> Response:
        given = checked(RimPlaceSerializer, request.data)
        target = dish_target_from_edge(**{**given, "side": Side(given["side"])})
        return Response(RimBelongsSerializer(asdict(answers.RimBelongs(round(target, 2)))).data)


class ThreadInNippleView(APIView):
    @operation("thread_in_nipple", parameters=[ThreadQuestionSerializer], responses=ThreadFoundSerializer)
    def get(self, request: Request) -> Response:
        found = thread_in_nipple(**checked(ThreadQuestionSerializer, request.query_params))
        return Response(ThreadFoundSerializer(asdict(found)).data)
