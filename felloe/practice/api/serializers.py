from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.practice.compare import TrueFigures
from felloe.core.practice.deeds import MOST_TURNS
from felloe.core.practice.exercises import MODES
from felloe.core.practice.marks import PracticeMarks
from felloe.practice import answers
from felloe.practice.services import WHATS

LONGEST_KEY = 40


class TrueFiguresSerializer(AnswerSerializer):
    class Meta:
        dataclass = TrueFigures


class PracticeMarksSerializer(AnswerSerializer):
    class Meta:
        dataclass = PracticeMarks


class RungSerializer(AnswerSerializer):
    mode = serializers.ChoiceField(choices=MODES)

    class Meta:
        dataclass = answers.Rung


class LadderSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Ladder


class LearnerSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Learner


class LaceQuestionSerializer(AnswerSerializer):
    what = serializers.ChoiceField(choices=["hole", "cross"])

    class Meta:
        dataclass = answers.LaceQuestion


class PracticeNowSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.PracticeNow


class PracticeRunSerializer(AnswerSerializer):
    mode = serializers.ChoiceField(choices=MODES)

    class Meta:
        dataclass = answers.PracticeRun


class PracticeLessonSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.PracticeLesson


class BeginSerializer(serializers.Serializer[Any]):
    """What to practise; kind, faults, way and tier are for the exercise "own". `anew` puts away one that is begun."""

    exercise = serializers.CharField(max_length=LONGEST_KEY)
    kind = serializers.CharField(max_length=LONGEST_KEY, required=False, allow_blank=True, default="")
    faults = serializers.ListField(
        child=serializers.CharField(max_length=LONGEST_KEY), required=False, default=list, max_length=9
    )
    mode = serializers.ChoiceField(choices=MODES, required=False, default="meter")
    tier = serializers.CharField(max_length=LONGEST_KEY, required=False, default="sound")
    anew = serializers.BooleanField(required=False, default=False)


class DeedSerializer(serializers.Serializer[Any]):
    """One deed; which of the fields count depends on `what`."""

    what = serializers.ChoiceField(choices=WHATS)
    spoke = serializers.CharField(max_length=8, required=False, allow_blank=True, default="")
    turns = serializers.FloatField(required=False, default=0.0, min_value=-MOST_TURNS, max_value=MOST_TURNS)
    held = serializers.BooleanField(required=False, default=True)
    fault = serializers.CharField(max_length=LONGEST_KEY, required=False, allow_blank=True, default="")
    hole = serializers.IntegerField(required=False, allow_null=True, default=None, min_value=1, max_value=100)
    over = serializers.BooleanField(required=False, default=False)


class NewTaskSerializer(serializers.Serializer[Any]):
    person = serializers.UUIDField()
    exercise = serializers.CharField(max_length=LONGEST_KEY)
