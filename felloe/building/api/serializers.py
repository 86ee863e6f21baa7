from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.building import answers
from felloe.core.lacing.check import RIGHT, SHORT, SLACK, Seen
from felloe.core.lacing.map import HEAD_IN, HEAD_OUT, LEADING, RADIAL, TRAILING
from felloe.core.spokes.fit import ROUNDING_SCHOOLS
from felloe.core.spokes.kit import WASHERS

SIDES = ["R", "L"]
HEADS, LEANS, REACHES = [HEAD_IN, HEAD_OUT], [TRAILING, LEADING, RADIAL], [SHORT, RIGHT, SLACK]
VERDICTS = ["fits", "short", "head_unsupported", "in_slot", "thread_runs_out", "proud"]


class SizingQuestionSerializer(serializers.Serializer[Any]):
    step_mm = serializers.FloatField(required=False, default=1.0)
    school = serializers.ChoiceField(choices=list(ROUNDING_SCHOOLS), required=False, default="nearest")


class KeyWhySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.KeyWhy


class NippleFitSerializer(AnswerSerializer):
    verdict = serializers.ChoiceField(choices=VERDICTS)

    class Meta:
        dataclass = answers.NippleFit


class ShareSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Share


class CrossingSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Crossing


class OfferSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Offer


class BinSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Bin


class ChosenSerializer(AnswerSerializer):
    verdict = serializers.ChoiceField(choices=VERDICTS)

    class Meta:
        dataclass = answers.Chosen


class SizingSideSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SizingSide


class OldNippleFitSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.OldNippleFit


class OldSideSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.OldSide


class OldLengthSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.OldLength


class KitInSerializer(serializers.Serializer[Any]):
    nipple_part = serializers.UUIDField(required=False, allow_null=True)
    washer_part = serializers.UUIDField(required=False, allow_null=True)
    nipple_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    right_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    left_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    rim_hole_mm = serializers.FloatField(required=False, allow_null=True)
    key_mm = serializers.FloatField(required=False, allow_null=True)
    despite = serializers.CharField(required=False, allow_blank=True, max_length=300)
    washers = serializers.ChoiceField(choices=list(WASHERS), required=False)
    washer_count = serializers.IntegerField(required=False, min_value=0, max_value=1000)
    rim_had_washers = serializers.BooleanField(required=False)
    measured_one = serializers.BooleanField(required=False)
    whole_wheel = serializers.BooleanField(required=False)
    wet_or_salt = serializers.BooleanField(required=False, allow_null=True)


class KitSerializer(AnswerSerializer):
    washers = serializers.ChoiceField(choices=list(WASHERS))

    class Meta:
        dataclass = answers.Kit


class RuleSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Rule


class NippleDrawnSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.NippleDrawn


class SizingSerializer(AnswerSerializer):
    school = serializers.ChoiceField(choices=list(ROUNDING_SCHOOLS))

    class Meta:
        dataclass = answers.Sizing


class ChooseSerializer(serializers.Serializer[Any]):
    side = serializers.ChoiceField(choices=SIDES)
    length_mm = serializers.FloatField()
    part = serializers.UUIDField(required=False, allow_null=True)


class OldSpokeInSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField(max_length=4)
    length_mm = serializers.FloatField(allow_null=True)
    note = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")


class SwapQuestionSerializer(serializers.Serializer[Any]):
    rim_part = serializers.UUIDField(required=False, allow_null=True)
    hub_part = serializers.UUIDField(required=False, allow_null=True)


class SwapSideSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SwapSide


class SwapSerializer(AnswerSerializer):
    advice = serializers.ChoiceField(choices=["as_they_are", "change_sides", "one_side", "new", "measure"])

    class Meta:
        dataclass = answers.Swap


class BySideSerializer(serializers.Serializer[Any]):
    R = serializers.CharField()
    L = serializers.CharField()


class LengthsBySideSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LengthsBySide


class ChoicesBySideSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ChoicesBySide


class LacingSetSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LacingSet


class CrossedSerializer(AnswerSerializer):
    way = serializers.ChoiceField(choices=["over", "under"])

    class Meta:
        dataclass = answers.Crossed


class LacingPlaceSerializer(AnswerSerializer):
    head = serializers.ChoiceField(choices=HEADS)
    lean = serializers.ChoiceField(choices=LEANS)

    class Meta:
        dataclass = answers.LacingPlace


class LookedAtSerializer(AnswerSerializer):
    lean = serializers.ChoiceField(choices=LEANS, allow_null=True)
    head = serializers.ChoiceField(choices=HEADS, allow_null=True)
    reach = serializers.ChoiceField(choices=REACHES, allow_null=True)

    class Meta:
        dataclass = Seen


class LacingSerializer(AnswerSerializer):
    inside = BySideSerializer()
    looked = LookedAtSerializer(many=True)

    class Meta:
        dataclass = answers.Lacing


class PlaceInSerializer(serializers.Serializer[Any]):
    placed = serializers.IntegerField()


class LaceDespiteSerializer(serializers.Serializer[Any]):
    despite = serializers.CharField(max_length=300)


class SeenSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField(max_length=4)
    lean = serializers.ChoiceField(choices=LEANS, required=False, allow_null=True)
    crosses = serializers.IntegerField(required=False, allow_null=True)
    head = serializers.ChoiceField(choices=HEADS, required=False, allow_null=True)
    flange_hole = serializers.IntegerField(required=False, allow_null=True)
    reach = serializers.ChoiceField(choices=REACHES, required=False, allow_null=True)


class LookSerializer(serializers.Serializer[Any]):
    seen = SeenSerializer(many=True)


class LacingErrorSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LacingError


class SpokeNeedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpokeNeed


class LacingVerdictSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LacingVerdict


class StepSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Step


class StripFactsSerializer(serializers.Serializer[Any]):
    washers = serializers.BooleanField(required=False)
    closed_rim = serializers.BooleanField(required=False)
    cut = serializers.BooleanField(required=False)
    keep_spokes = serializers.BooleanField(required=False)


class SlackLapSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SlackLap


class TallySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Tally


class StripSerializer(AnswerSerializer):
    facts = StripFactsSerializer()

    class Meta:
        dataclass = answers.Strip


class CountInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=["nipple", "washer", "spoke"])
    way = serializers.ChoiceField(choices=["out", "in"])
    count = serializers.IntegerField()


class StepInSerializer(serializers.Serializer[Any]):
    step = serializers.CharField(max_length=20)
    done = serializers.BooleanField()


class ReplaceStepInSerializer(StepInSerializer):
    spoke = serializers.CharField(max_length=4)


class ReplacedSpokeSerializer(AnswerSerializer):
    head = serializers.ChoiceField(choices=HEADS)
    lean = serializers.ChoiceField(choices=LEANS)

    class Meta:
        dataclass = answers.ReplacedSpoke


class ReplacingSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Replacing


class SpareLineSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpareLine


class SpareCardSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpareCard
