from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.bench.models import ReadingSet
from felloe.core.hand_back import AGREED, INSIDE, LIMIT, MEASURED, REFIT, SAFE, TENSION, Requirement
from felloe.core.truing.sign_off import Figures
from felloe.records import answers
from felloe.records.models import SignOff

REQUIREMENT_KEYS = [AGREED, MEASURED, INSIDE, TENSION, LIMIT, REFIT, SAFE]


class FiguresSerializer(AnswerSerializer):
    class Meta:
        dataclass = Figures


class SignOffSerializer(serializers.ModelSerializer[SignOff]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    short_of = serializers.ListField(child=serializers.CharField())

    class Meta:
        model = SignOff
        fields = ["id", "tier", "short_of", "roadworthy", "reason", "by", "created_at"]
        read_only_fields = fields


class TracesSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Traces


class RequirementSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=REQUIREMENT_KEYS)
    waived_by = serializers.ChoiceField(choices=["skilled", "owner"])
    answered = serializers.ChoiceField(choices=["sign_off", "hand_back"])

    class Meta:
        dataclass = Requirement


class ComparisonSerializer(AnswerSerializer):
    as_left_stage = serializers.ChoiceField(choices=ReadingSet.Stage.choices)
    signed_off = SignOffSerializer(allow_null=True)

    class Meta:
        dataclass = answers.Comparison


class SignOffRequestSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    reason = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")


class HandBackSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    note = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")
