from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.letters import LETTERS
from felloe.links import answers
from felloe.links.services.links import USUAL_DAYS

LETTER_KEYS = list(LETTERS)


class LinkSerializer(AnswerSerializer):
    state = serializers.ChoiceField(choices=["open", "answered", "expired", "revoked"])

    class Meta:
        dataclass = answers.Link


class NewLinkSerializer(serializers.Serializer[Any]):
    chosen = serializers.ListField(child=serializers.CharField(max_length=20), max_length=8, required=False, default=list)
    warning = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")
    days = serializers.IntegerField(min_value=1, max_value=90, required=False, default=USUAL_DAYS)


class LetterSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=LETTER_KEYS)

    class Meta:
        dataclass = answers.Letter


class LetterQuestionSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=LETTER_KEYS)
    link = serializers.UUIDField(required=False, allow_null=True, default=None)
