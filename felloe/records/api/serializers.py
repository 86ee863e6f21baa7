from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.bench.api.serializers import CheckSerializer, TraceSerializer
from felloe.bench.models import ReadingSet
from felloe.queue.api.serializers import TIER_NAMES
from felloe.records.models import SignOff


class FiguresSerializer(serializers.Serializer[Any]):
    lateral_tir_mm = serializers.FloatField()
    radial_tir_mm = serializers.FloatField()
    dish_mm = serializers.FloatField()
    worst_spread_percent = serializers.FloatField()
    right_mean_n = serializers.FloatField()
    left_mean_n = serializers.FloatField()


class SignOffSerializer(serializers.ModelSerializer[SignOff]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    short_of = serializers.ListField(child=serializers.CharField())

    class Meta:
        model = SignOff
        fields = ["id", "tier", "short_of", "roadworthy", "reason", "by", "created_at"]
        read_only_fields = fields


class TracesSerializer(serializers.Serializer[Any]):
    as_found = TraceSerializer(allow_null=True)
    as_left = TraceSerializer()


class ComparisonSerializer(serializers.Serializer[Any]):
    tier = serializers.ChoiceField(choices=TIER_NAMES)
    as_found_set = serializers.UUIDField(allow_null=True)
    as_left_set = serializers.UUIDField()
    as_left_stage = serializers.ChoiceField(choices=ReadingSet.Stage.choices)
    as_found = FiguresSerializer(allow_null=True)
    as_left = FiguresSerializer()
    traces = TracesSerializer()
    checks = CheckSerializer(many=True)
    short_of = serializers.ListField(child=serializers.CharField())
    needs_reason = serializers.BooleanField()
    roadworthy = serializers.BooleanField()
    roadworthy_limit_mm = serializers.FloatField()
    signed_off = SignOffSerializer(allow_null=True)
    handed_back_at = serializers.DateTimeField(allow_null=True)
    unsafe = serializers.ListField(child=serializers.CharField())


class SignOffRequestSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    reason = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")


class HandBackSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    note = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")
