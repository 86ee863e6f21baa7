from __future__ import annotations

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.links.api.serializers import LETTER_KEYS
from felloe.messages import answers
from felloe.messages.models import Message


class SentLetterSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=LETTER_KEYS)
    state = serializers.ChoiceField(choices=Message.State.choices)

    class Meta:
        dataclass = answers.SentLetter


class OutboxSerializer(AnswerSerializer):
    letters = SentLetterSerializer(many=True)

    class Meta:
        dataclass = answers.Outbox
