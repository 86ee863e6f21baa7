from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.bench.api.judging import BendSerializer, CurveSerializer
from felloe.condition.models import Ending
from felloe.core.decision.prices import PRICED
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.condition import CONDITIONS, LEVELS
from felloe.core.refit.road_advice import TROUBLES
from felloe.core.runout.frame_gauge import FRAME_MATERIALS
from felloe.queue.api.serializers import TIER_NAMES
from felloe.repair.models import Decision, RefitAnswer

CONDITION_KEYS = list(CONDITIONS)
FRAME_MATERIAL_KEYS = list(FRAME_MATERIALS)


class ConditionKindSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    part = serializers.ChoiceField(choices=["rim", "spoke", "hub"])
    measure = serializers.CharField()
    placed = serializers.BooleanField()


class PlaceSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()


class ConditionMarkSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    kind = serializers.CharField()
    name = serializers.CharField()
    part = serializers.ChoiceField(choices=["rim", "spoke", "hub"])
    spoke = serializers.CharField()
    measure_mm = serializers.FloatField(allow_null=True)
    note = serializers.CharField()
    photo = serializers.UUIDField(allow_null=True)
    level = serializers.ChoiceField(choices=LEVELS)
    why = serializers.CharField()
    remedy = serializers.CharField()
    earlier_job = serializers.IntegerField(allow_null=True)
    by = serializers.CharField()
    created_at = serializers.DateTimeField()


class BreakSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    spoke = serializers.CharField()
    place = serializers.CharField()
    place_name = serializers.CharField()
    noticed_on = serializers.DateField()
    note = serializers.CharField()
    job_number = serializers.IntegerField()


class SuspectSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    share = serializers.FloatField()
    why = serializers.CharField()


class PatternSerializer(serializers.Serializer[Any]):
    advice = serializers.ChoiceField(choices=["one_spoke", "side", "wheel", "new_rim"])
    side = serializers.ChoiceField(choices=["R", "L"], allow_null=True)
    reasons = serializers.ListField(child=serializers.CharField())
    suspects = SuspectSerializer(many=True)


class FrameCheckSerializer(serializers.Serializer[Any]):
    material = serializers.CharField()
    gap_right_mm = serializers.FloatField()
    gap_left_mm = serializers.FloatField()
    stay_length_mm = serializers.FloatField(allow_null=True)
    offset_mm = serializers.FloatField()
    sd_mm = serializers.FloatField()
    each_stay_mm = serializers.FloatField()
    toward = serializers.ChoiceField(choices=["R", "L"], allow_null=True)
    at_rim_swung_mm = serializers.FloatField()
    at_rim_parallel_mm = serializers.FloatField()
    advice = serializers.ChoiceField(choices=["leave", "set", "refer"])
    why = serializers.CharField()
    by = serializers.CharField()


class ConditionSerializer(serializers.Serializer[Any]):
    """What was found on the wheel, each judged at its place."""

    kinds = ConditionKindSerializer(many=True)
    places = PlaceSerializer(many=True)
    marks = ConditionMarkSerializer(many=True)
    breaks = BreakSerializer(many=True)
    pattern = PatternSerializer(allow_null=True)
    bends = BendSerializer(many=True)
    frame = FrameCheckSerializer(allow_null=True)
    measured = serializers.BooleanField()
    rim_material = serializers.CharField()


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


class PartSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    count = serializers.IntegerField()


class RepairOptionSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    name = serializers.CharField()
    minutes = serializers.IntegerField()
    parts = PartSerializer(many=True)
    price_minor = serializers.IntegerField(allow_null=True)
    result = serializers.CharField()
    chance = serializers.FloatField(allow_null=True)
    chance_why = serializers.CharField()
    why = serializers.CharField()
    proposed = serializers.BooleanField()
    barred = serializers.CharField()


class DecisionSerializer(serializers.ModelSerializer[Decision]):
    warning = serializers.CharField(read_only=True)
    chosen = serializers.ListField(child=serializers.CharField(), read_only=True)
    chosen_names = serializers.SerializerMethodField()
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = Decision
        fields = [
            "id", "outcome", "chosen", "chosen_names", "tier", "price_minor", "minutes", "by_whom", "how", "warning", "note",
            "by", "created_at",
        ]  # fmt: skip
        read_only_fields = fields

    def get_chosen_names(self, row: Decision) -> list[str]:
        names = {option["key"]: str(option["name"]) for option in row.offered}
        return [names[key] for key in row.chosen]


class OptionsSerializer(serializers.Serializer[Any]):
    """What can be done, side by side, and what was decided."""

    tier = serializers.ChoiceField(choices=TIER_NAMES)
    currency = serializers.CharField()
    options = RepairOptionSerializer(many=True)
    curve = CurveSerializer(allow_null=True)
    cause_to_mend = serializers.CharField(allow_null=True, help_text="A cause that forbids riding until it is put right")
    unsafe = serializers.ListField(child=serializers.CharField())
    decisions = DecisionSerializer(many=True)


class DecideSerializer(serializers.Serializer[Any]):
    outcome = serializers.ChoiceField(choices=Decision.Outcome.choices)
    chosen = serializers.ListField(child=serializers.CharField(max_length=20), max_length=8)
    by_whom = serializers.CharField(max_length=120)
    how = serializers.ChoiceField(choices=Decision.How.choices)
    warning = serializers.CharField(max_length=1000, required=False, allow_blank=True, default="")
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")


class RefitStepSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    text = serializers.CharField()
    must = serializers.BooleanField()
    result = serializers.ChoiceField(choices=RefitAnswer.Result.choices, allow_null=True)
    note = serializers.CharField()
    by = serializers.CharField()


class RefitSerializer(serializers.Serializer[Any]):
    steps = RefitStepSerializer(many=True)
    recheck_proposed_on = serializers.DateField()
    recheck_why = serializers.CharField()
    recheck_on = serializers.DateField(allow_null=True)


class RefitAnswerRequestSerializer(serializers.Serializer[Any]):
    step = serializers.CharField(max_length=20)
    result = serializers.ChoiceField(choices=RefitAnswer.Result.choices)
    note = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")


class RecheckSerializer(serializers.Serializer[Any]):
    on = serializers.DateField()


class RoadCardSerializer(serializers.Serializer[Any]):
    ride = serializers.BooleanField()
    steps = serializers.ListField(child=serializers.CharField())
    km = serializers.IntegerField()
    km_h = serializers.IntegerField()
    label = serializers.CharField()  # type: ignore[assignment]


class RoadQuestionSerializer(serializers.Serializer[Any]):
    trouble = serializers.ChoiceField(choices=list(TROUBLES.items()))
    rim_brake = serializers.BooleanField(default=True)
    loaded = serializers.BooleanField(default=False)
    carbon = serializers.BooleanField(default=False)
    spokes = serializers.IntegerField(default=32, min_value=8, max_value=72)


class PricesSerializer(serializers.Serializer[Any]):
    """A shop's price list in minor units; `names` says what can be priced."""

    currency = serializers.RegexField(r"^[A-Z]{3}$")
    version = serializers.IntegerField()
    prices_minor = serializers.DictField(child=serializers.IntegerField())
    names = serializers.DictField(child=serializers.CharField(), read_only=True)


def priced_names() -> dict[str, str]:
    return dict(PRICED)
