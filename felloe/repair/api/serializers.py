from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.condition.models import Ending
from felloe.core.decision.prices import PRICED
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.condition import CONDITIONS, LEVELS
from felloe.core.money.quote import Extra, QuoteLine
from felloe.core.refit.road_advice import TROUBLES
from felloe.core.runout.frame_gauge import FRAME_MATERIALS
from felloe.repair import answers
from felloe.repair.models import Decision, Payment, RefitAnswer

#: A link's answer comes by the link alone.
AT_THE_DESK = [choice for choice in Decision.How.choices if choice[0] != Decision.How.LINK]
CONDITION_KEYS = list(CONDITIONS)
FRAME_MATERIAL_KEYS = list(FRAME_MATERIALS)


class ConditionKindSerializer(AnswerSerializer):
    part = serializers.ChoiceField(choices=["rim", "spoke", "hub"])

    class Meta:
        dataclass = answers.ConditionKind


class PlaceSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Place


class ConditionMarkSerializer(AnswerSerializer):
    level = serializers.ChoiceField(choices=LEVELS)
    part = serializers.ChoiceField(choices=["rim", "spoke", "hub"])

    class Meta:
        dataclass = answers.ConditionMark


class BreakSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Break


class SuspectSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Suspect


class PatternSerializer(AnswerSerializer):
    advice = serializers.ChoiceField(choices=["one_spoke", "side", "wheel", "new_rim"])

    class Meta:
        dataclass = answers.Pattern


class FrameCheckSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.FrameCheck


class ConditionSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Condition


class NewMarkSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=CONDITION_KEYS)
    spoke = serializers.CharField(max_length=8, required=False, allow_blank=True, default="")
    measure_mm = serializers.FloatField(required=False, allow_null=True)
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")
    photo = serializers.UUIDField(required=False, allow_null=True)


class EndMarkSerializer(serializers.Serializer[Any]):
    how = serializers.ChoiceField(choices=Ending.How.choices)
    note = serializers.CharField(max_length=300, allow_blank=True)


class NewBreakSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField(max_length=8)
    place = serializers.ChoiceField(choices=list(PLACES))
    noticed_on = serializers.DateField(required=False, allow_null=True)
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")


class WordSerializer(serializers.Serializer[Any]):
    note = serializers.CharField(max_length=300, allow_blank=True)


class NewFrameCheckSerializer(serializers.Serializer[Any]):
    material = serializers.ChoiceField(choices=FRAME_MATERIAL_KEYS)
    gap_right_mm = serializers.FloatField()
    gap_left_mm = serializers.FloatField()
    stay_length_mm = serializers.FloatField(required=False, allow_null=True)


class PartSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Part


class RepairOptionSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.RepairOption


class QuoteLineSerializer(AnswerSerializer):
    class Meta:
        dataclass = QuoteLine


class DecisionSerializer(serializers.ModelSerializer[Decision]):
    warning = serializers.CharField(read_only=True)
    chosen = serializers.ListField(child=serializers.CharField(), read_only=True)
    chosen_names = serializers.SerializerMethodField()
    lines = QuoteLineSerializer(many=True, read_only=True)
    words = serializers.ListField(child=serializers.CharField(), read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = Decision
        fields = [
            "id", "outcome", "chosen", "chosen_names", "tier", "price_minor", "minutes", "by_whom", "how", "warning", "note",
            "by", "created_at", "lines", "currency", "net_minor", "tax_minor", "tax_basis_points", "words",
        ]  # fmt: skip
        read_only_fields = fields

    def get_chosen_names(self, row: Decision) -> list[str]:
        names = {option["key"]: str(option["name"]) for option in row.offered}
        return [names[key] for key in row.chosen]


class OptionsSerializer(AnswerSerializer):
    decisions = DecisionSerializer(many=True)

    class Meta:
        dataclass = answers.Options


class DecideSerializer(serializers.Serializer[Any]):
    outcome = serializers.ChoiceField(choices=Decision.Outcome.choices)
    chosen = serializers.ListField(child=serializers.CharField(max_length=20), max_length=8)
    by_whom = serializers.CharField(max_length=120)
    how = serializers.ChoiceField(choices=AT_THE_DESK)
    warning = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")
    told_minor = serializers.IntegerField(required=False, help_text="The price that the customer was told")
    digits = serializers.CharField(max_length=9, required=False, allow_blank=True, help_text="What they repeated")


class ExtraSerializer(AnswerSerializer):
    class Meta:
        dataclass = Extra


class QuoteSerializer(AnswerSerializer):
    lines = QuoteLineSerializer(many=True)
    extras = ExtraSerializer(many=True)

    class Meta:
        dataclass = answers.Quote


class QuoteQuestionSerializer(serializers.Serializer[Any]):
    chosen = serializers.CharField(max_length=200, required=False, allow_blank=True, default="", help_text="Keys, with commas")
    warning = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")


class ExtraInSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120)
    amount_minor = serializers.IntegerField(min_value=-10_000_000, max_value=10_000_000)


class ExtrasSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    extras = serializers.ListField(child=ExtraInSerializer(), max_length=20)


class AccountSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Account


class PaymentInSerializer(serializers.Serializer[Any]):
    amount_minor = serializers.IntegerField(min_value=-100_000_000, max_value=100_000_000)
    how = serializers.ChoiceField(choices=Payment.How.choices)
    note = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")


class DaysSerializer(serializers.Serializer[Any]):
    since = serializers.DateField()
    until = serializers.DateField()


class RefitStepSerializer(AnswerSerializer):
    result = serializers.ChoiceField(choices=RefitAnswer.Result.choices, allow_null=True)

    class Meta:
        dataclass = answers.RefitStep


class RefitSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Refit


class RefitAnswerRequestSerializer(serializers.Serializer[Any]):
    step = serializers.CharField(max_length=20)
    result = serializers.ChoiceField(choices=RefitAnswer.Result.choices)
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")


class RecheckSerializer(serializers.Serializer[Any]):
    on = serializers.DateField()


class RoadCardSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.RoadCard


class RoadQuestionSerializer(serializers.Serializer[Any]):
    trouble = serializers.ChoiceField(choices=list(TROUBLES.items()))
    rim_brake = serializers.BooleanField(default=True)
    loaded = serializers.BooleanField(default=False)
    carbon = serializers.BooleanField(default=False)
    spokes = serializers.IntegerField(default=32, min_value=8, max_value=72)


class PricesSerializer(serializers.Serializer[Any]):
    """A shop's price list in minor units; `names` says what can be priced."""

    currency = serializers.RegexField(r"^[A-Z]{3}$")
    tax_basis_points = serializers.IntegerField(required=False, min_value=0, max_value=5000)
    tax_included = serializers.BooleanField(required=False)
    version = serializers.IntegerField()
    prices_minor = serializers.DictField(child=serializers.IntegerField())
    names = serializers.DictField(child=serializers.CharField(), read_only=True)


def priced_names() -> dict[str, str]:
    return dict(PRICED)


class UnsafeJobSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.UnsafeJob
