from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.promise import desk
from felloe.promises import answers
from felloe.queue.api.serializers import TierField
from felloe.queue.models import Job

LEVELS = ["late", "danger", "fine", "ready", "none"]
OFFER_KEYS = ["wanted", "shop", "sure"]


class InHandSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.InHand


class HangingSerializer(AnswerSerializer):
    level = serializers.ChoiceField(choices=LEVELS)

    class Meta:
        dataclass = answers.Hanging


class DaySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Day


class DeskTaskSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=list(desk.ORDER))

    class Meta:
        dataclass = answers.DeskTask


class RailSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Rail


class DateOfferSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=OFFER_KEYS)

    class Meta:
        dataclass = answers.DateOffer


class EffectSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Effect


class OffersSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Offers


class OffersAskSerializer(serializers.Serializer[Any]):
    tier = TierField(required=False)
    wheel_id = serializers.UUIDField(required=False, allow_null=True)
    spokes = serializers.IntegerField(required=False, allow_null=True, min_value=8, max_value=60)
    rear = serializers.BooleanField(required=False, default=False)
    wanted_at = serializers.DateTimeField(required=False, allow_null=True)


class WantedSerializer(serializers.Serializer[Any]):
    wanted_at = serializers.DateTimeField(required=False, allow_null=True)


class PromiseLookSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.PromiseLook


class LookAskSerializer(serializers.Serializer[Any]):
    promised_at = serializers.DateTimeField()


class PromiseGiveSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    promised_at = serializers.DateTimeField(allow_null=True)


class StepTimeSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.StepTime


class WorkSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Work


class TakeUpSerializer(serializers.Serializer[Any]):
    stand = serializers.UUIDField(required=False, allow_null=True)


class PutDownSerializer(serializers.Serializer[Any]):
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")
    hook = serializers.UUIDField(required=False, allow_null=True)
    to = serializers.UUIDField(required=False, allow_null=True)
    waiting_on = serializers.ChoiceField(choices=Job.WaitingOn.choices, required=False, allow_blank=True)
    expected_on = serializers.DateField(required=False, allow_null=True)
    stopped_at = serializers.DateTimeField(required=False, allow_null=True)


class ToldSerializer(serializers.Serializer[Any]):
    about = serializers.ChoiceField(choices=list(desk.ORDER))
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")
