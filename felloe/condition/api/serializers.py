from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.condition.models import Finding
from felloe.core.diagnosis.causes import CAUSES
from felloe.customers.models import Bike
from felloe.queue.api.serializers import ComplaintTagsField
from felloe.wheels.models import Wheel


class AnswerChoiceSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    text = serializers.CharField()


class DiagnosisCheckSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    question = serializers.CharField()
    where = serializers.CharField()
    minutes = serializers.FloatField()
    gain_bit = serializers.FloatField()
    answers = AnswerChoiceSerializer(many=True)


class GivenAnswerSerializer(DiagnosisCheckSerializer):
    answer = serializers.CharField()
    answer_text = serializers.CharField()
    by = serializers.CharField()


class RankedCauseSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    remedy = serializers.CharField()
    unsafe = serializers.BooleanField()
    wheel_fault = serializers.BooleanField()
    share = serializers.FloatField()
    speaks_for = serializers.ListField(child=serializers.CharField())
    speaks_against = serializers.ListField(child=serializers.CharField())


class FindingSerializer(serializers.ModelSerializer[Finding]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    name = serializers.SerializerMethodField()

    class Meta:
        model = Finding
        fields = ["cause", "name", "share", "overruled", "mended", "reason", "by", "created_at"]
        read_only_fields = fields

    def get_name(self, finding: Finding) -> str:
        return CAUSES[finding.cause].name


class DiagnosisSerializer(serializers.Serializer[Any]):
    """What is wrong, by the fewest checks."""

    complaints = serializers.ListField(child=serializers.CharField())
    history = serializers.ListField(child=serializers.CharField())
    answers = GivenAnswerSerializer(many=True)
    causes = RankedCauseSerializer(many=True)
    next_check = DiagnosisCheckSerializer(allow_null=True)
    other_checks = DiagnosisCheckSerializer(many=True)
    clear = serializers.BooleanField()
    why = serializers.CharField()
    unsafe = serializers.ListField(child=serializers.CharField())
    finding = FindingSerializer(allow_null=True)


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


class LikelyCauseSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    share = serializers.FloatField()
    unsafe = serializers.BooleanField()


class CounterViewSerializer(serializers.Serializer[Any]):
    """At the counter: likely causes, what the wheel's history says, and what forbids riding until it is ruled out."""

    causes = LikelyCauseSerializer(many=True)
    history = serializers.ListField(child=serializers.CharField())
    unsafe = serializers.ListField(child=serializers.CharField())
