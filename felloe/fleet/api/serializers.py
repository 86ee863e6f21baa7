from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.customers.models import Bike
from felloe.fleet import answers
from felloe.queue.api.serializers import TierField
from felloe.wheels.models import Wheel


class LotLineSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LotLine


class ItemSerializer(AnswerSerializer):
    state = serializers.ChoiceField(choices=["waits", "bench", "ready", "returned", "exception"])
    sample = serializers.ChoiceField(choices=["", "good", "bad"])

    class Meta:
        dataclass = answers.Item


class VerdictSerializer(AnswerSerializer):
    lot_is = serializers.ChoiceField(choices=["good", "bad", "between", "go_on"])

    class Meta:
        dataclass = answers.Verdict


class BatchSerializer(AnswerSerializer):
    points_to = serializers.ChoiceField(choices=["batch", "more", "usual", "too_few"])

    class Meta:
        dataclass = answers.Batch


class LotSerializer(AnswerSerializer):
    items = ItemSerializer(many=True)
    sampling = VerdictSerializer()
    batch = BatchSerializer()

    class Meta:
        dataclass = answers.Lot


class LabelSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Label


class PreviewSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Preview


class DoneSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Done


class PreviewQuestionSerializer(serializers.Serializer[Any]):
    customer_id = serializers.UUIDField()
    text = serializers.CharField(max_length=100_000, trim_whitespace=False)
    position = serializers.ChoiceField(choices=Wheel.Position.choices)


class LotWheelSerializer(serializers.Serializer[Any]):
    position = serializers.ChoiceField(choices=Wheel.Position.choices)
    kind = serializers.CharField(max_length=40)
    specification = serializers.JSONField()


class NewLotSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120)
    customer_id = serializers.UUIDField()
    text = serializers.CharField(max_length=100_000, trim_whitespace=False)
    brake = serializers.ChoiceField(choices=Bike.Brake.choices)
    use = serializers.ChoiceField(choices=Bike.Use.choices, required=False, default=Bike.Use.EVERYDAY)
    wheel = LotWheelSerializer()
    complaint = serializers.CharField(max_length=500)
    tier = TierField(required=False)
    wanted_at = serializers.DateTimeField(required=False, allow_null=True, default=None)


class AgreeSerializer(serializers.Serializer[Any]):
    chosen = serializers.ListField(child=serializers.CharField(max_length=20), min_length=1, max_length=8)
    by_whom = serializers.CharField(max_length=120)
    how = serializers.ChoiceField(choices=["counter", "writing"])
    each_minor = serializers.IntegerField(help_text="What each wheel was told to cost")


class GiveBackSerializer(serializers.Serializer[Any]):
    jobs = serializers.ListField(child=serializers.UUIDField(), min_length=1, max_length=500)


class ExceptionSerializer(serializers.Serializer[Any]):
    reason = serializers.CharField(max_length=200, allow_blank=True)
