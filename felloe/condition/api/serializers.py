from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.condition import answers
from felloe.condition.models import Finding
from felloe.core.diagnosis.causes import CAUSES
from felloe.customers.models import Bike
from felloe.queue.api.serializers import ComplaintTagsField
from felloe.wheels.models import Wheel


class AnswerChoiceSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.AnswerChoice


class DiagnosisCheckSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.DiagnosisCheck


class GivenAnswerSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.GivenAnswer


class RankedCauseSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.RankedCause


class FindingSerializer(serializers.ModelSerializer[Finding]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    name = serializers.SerializerMethodField()

    class Meta:
        model = Finding
        fields = ["cause", "name", "share", "overruled", "mended", "reason", "by", "created_at"]
        read_only_fields = fields

    def get_name(self, finding: Finding) -> str:
        return CAUSES[finding.cause].name


class DiagnosisSerializer(AnswerSerializer):
    finding = FindingSerializer(allow_null=True)

    class Meta:
        dataclass = answers.Diagnosis


class CheckAnswerSerializer(serializers.Serializer[Any]):
    check_key = serializers.CharField(max_length=40)
    answer = serializers.CharField(max_length=20)


class ConcludeSerializer(serializers.Serializer[Any]):
    cause = serializers.CharField(max_length=40)
    reason = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")


class CounterQuestionSerializer(serializers.Serializer[Any]):
    complaint_tags = ComplaintTagsField(required=False)
    wheel_id = serializers.UUIDField(required=False)
    brake = serializers.ChoiceField(choices=Bike.Brake.choices, required=False)
    position = serializers.ChoiceField(choices=Wheel.Position.choices, required=False)


class LikelyCauseSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LikelyCause


class CounterViewSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.CounterView
