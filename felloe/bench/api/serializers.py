from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.api.language import spoken_for
from felloe.bench import answers
from felloe.bench.models import LearntRim, Plan, PlanMove, Reading, ReadingSet
from felloe.core.measuring.coarse import FEEL
from felloe.core.said import say
from felloe.core.tension.pitch import CROSSING, WHOLE
from felloe.core.truing.objective import MODES

MODE_KEYS = list(MODES)


class ReadingSerializer(serializers.ModelSerializer[Reading]):
    entered = serializers.JSONField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = Reading
        fields = ["id", "kind", "spoke", "revision", "withdrawn", "value", "sd", "entered", "by", "created_at"]
        read_only_fields = fields


class ReadingEntrySerializer(serializers.Serializer[Any]):
    """One reading as entered. Tension: value in `unit`, with `meter` for a meter's own units. Dish: by gauge or flipping."""

    kind = serializers.ChoiceField(choices=Reading.Kind.choices)
    spoke = serializers.CharField(max_length=8, required=False, allow_blank=True)
    value = serializers.FloatField(required=False)
    unit = serializers.ChoiceField(choices=["meter", "N", "kgf", "lbf", "Hz", "mm", "in"], required=False)
    meter = serializers.UUIDField(required=False)
    method = serializers.ChoiceField(choices=["gauge", "flip", "stand"], required=False)
    gap_mm = serializers.FloatField(required=False)
    gap_side = serializers.ChoiceField(choices=["R", "L"], required=False)
    clearance_right_way_mm = serializers.FloatField(required=False)
    clearance_flipped_mm = serializers.FloatField(required=False)
    offset_mm = serializers.FloatField(required=False)
    side = serializers.ChoiceField(choices=["R", "L"], required=False)
    feel = serializers.ChoiceField(choices=list(FEEL), required=False)
    ends_at = serializers.ChoiceField(choices=[CROSSING, WHOLE], required=False)
    pitch_factor = serializers.FloatField(required=False, min_value=0.3, max_value=3)
    repeat = serializers.BooleanField(required=False)
    instrument = serializers.UUIDField(required=False)

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        if attrs["kind"] == Reading.Kind.TENSION:
            if attrs.get("feel"):
                return attrs
            if attrs.get("unit") not in ("meter", "N", "kgf", "lbf", "Hz"):
                raise serializers.ValidationError(
                    {"unit": spoken_for(say("A tension is in meter units, N, kgf, lbf, Hz or by feel."))}
                )
            if attrs["unit"] == "meter" and not attrs.get("meter"):
                raise serializers.ValidationError({"meter": spoken_for(say("Say which meter was used."))})
        elif attrs["kind"] != Reading.Kind.DISH and attrs.get("unit", "mm") not in ("mm", "in"):
            raise serializers.ValidationError({"unit": spoken_for(say("A deviation is in mm or in inches."))})
        return attrs


class ReadingPlaceSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=Reading.Kind.choices)
    spoke = serializers.CharField(max_length=8, required=False, allow_blank=True, default="")


class ReadingSetSerializer(serializers.ModelSerializer[ReadingSet]):
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = ReadingSet
        fields = ["id", "job_id", "stage", "number", "by", "created_at"]
        read_only_fields = fields


class ReadingSetDetailSerializer(ReadingSetSerializer):
    readings = serializers.SerializerMethodField()

    class Meta(ReadingSetSerializer.Meta):
        fields = [*ReadingSetSerializer.Meta.fields, "readings"]

    @extend_schema_field(ReadingSerializer(many=True))
    def get_readings(self, reading_set: ReadingSet) -> Any:
        from felloe.bench.services.readings import current_readings

        return ReadingSerializer(current_readings(reading_set), many=True).data


class OpenSetSerializer(serializers.Serializer[Any]):
    stage = serializers.ChoiceField(choices=ReadingSet.Stage.choices)
    set_id = serializers.UUIDField(required=False, allow_null=True, default=None, help_text="As a tablet off the net called it")


class SpokeStateSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpokeState


class TraceSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Trace


class MarkSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Mark


class SideStateSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SideState


class SidesStateSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SidesState


class RatioSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Ratio


class CheckSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Check


class StateSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.State


class PlanRequestSerializer(serializers.Serializer[Any]):
    step_turns = serializers.FloatField(required=False, allow_null=True)
    mode = serializers.ChoiceField(choices=MODE_KEYS, required=False)
    between = serializers.ListField(child=serializers.CharField(max_length=8), required=False, min_length=2, max_length=2)
    limit_turns = serializers.FloatField(required=False, allow_null=True)
    untouchable = serializers.ListField(child=serializers.CharField(max_length=8), required=False, max_length=48)
    dish_option = serializers.ChoiceField(choices=["tighten", "ease", "half"], required=False)
    turns = serializers.DictField(
        child=serializers.FloatField(min_value=-2, max_value=2), required=False, help_text="Turns tried by hand, as they are"
    )
    as_read = serializers.BooleanField(required=False, help_text="Plan although a slip is suspected that would change the plan")
    chance = serializers.FloatField(required=False, allow_null=True)
    nipples = serializers.IntegerField(required=False, allow_null=True, max_value=48)
    despite = serializers.CharField(max_length=500, required=False, allow_blank=True)


class DishOptionSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=["tighten", "ease", "half"])

    class Meta:
        dataclass = answers.DishOption


class DishAdviceSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.DishAdvice


class PredictedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Predicted


class PlanMoveSerializer(serializers.ModelSerializer[PlanMove]):
    by = serializers.CharField(source="done_by.display_name", default="", read_only=True)
    key = serializers.CharField(read_only=True)
    why = serializers.CharField(read_only=True)
    fraction = serializers.SerializerMethodField()
    expected_reading = serializers.SerializerMethodField()
    twist_turns = serializers.SerializerMethodField()

    class Meta:
        model = PlanMove
        fields = [
            "key", "place", "spoke", "turns", "fraction", "tension_before_n", "tension_after_n", "turn_from_n", "turn_to_n",
            "why", "expected_reading",
            "twist_turns",
            "state", "done_turns", "done_at", "by",
        ]  # fmt: skip
        read_only_fields = fields

    def get_fraction(self, move: PlanMove) -> str:
        from felloe.core.units import turns_as_fraction

        return turns_as_fraction(move.turns)

    def get_expected_reading(self, move: PlanMove) -> float | None:
        expected: dict[str, float] = self.context.get("expected", {})
        return expected.get(move.spoke)

    def get_twist_turns(self, move: PlanMove) -> float | None:
        twisted: dict[str, float] = self.context.get("twists", {})
        return twisted.get(move.spoke)


class WithLiveSerializer(serializers.ModelSerializer[Plan]):
    """Whether a plan is a live pass, and whether that is still worked."""

    live = serializers.SerializerMethodField()

    @extend_schema_field(serializers.ChoiceField(choices=["no", "open", "ended"]))
    def get_live(self, plan: Plan) -> str:
        live = getattr(plan, "live", None)
        if live is None:
            return "no"
        return "open" if live.ended_at is None else "ended"


class PlanSummarySerializer(WithLiveSerializer):
    reason = serializers.CharField(read_only=True)
    reading_set_id = serializers.UUIDField()

    class Meta:
        model = Plan
        fields = ["id", "reading_set_id", "reason", "live", "created_at"]
        read_only_fields = fields


class LearntRimSerializer(serializers.ModelSerializer[LearntRim]):
    """What the last pass taught of this rim: factors on its stiffnesses, residuals, nipples that shirked."""

    shirkers = serializers.ListField(child=serializers.DictField())

    class Meta:
        model = LearntRim
        fields = ["ei_lat", "ei_rad", "gj", "changes", "misfit_before", "misfit_after", "shirkers", "created_at"]
        read_only_fields = fields


class PlanSerializer(WithLiveSerializer):
    reason = serializers.CharField(read_only=True)
    caution = serializers.CharField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    job_id = serializers.UUIDField(source="reading_set.job_id")
    reading_set_id = serializers.UUIDField()
    untouchable = serializers.ListField(child=serializers.CharField())
    unread = serializers.ListField(child=serializers.CharField())
    predicted = PredictedSerializer()
    mode = serializers.ChoiceField(choices=MODE_KEYS)
    learnt = LearntRimSerializer(allow_null=True)
    moves = serializers.SerializerMethodField()
    outdated = serializers.SerializerMethodField()

    class Meta:
        model = Plan
        fields = [
            "id", "job_id", "reading_set_id", "tier", "mode", "step_turns", "limit_turns", "untouchable", "reason", "laps",
            "caution", "eased_first", "chance", "chance_before", "spread_after_percent", "mean_after_n", "minutes", "unread",
            "learnt",
            "worst_tension_n", "worst_spoke", "predicted", "moves", "live", "outdated", "by", "created_at",
        ]  # fmt: skip
        read_only_fields = fields

    def get_outdated(self, plan: Plan) -> str:
        from felloe.bench.services.plans import outdated

        return outdated(plan)

    @extend_schema_field(PlanMoveSerializer(many=True))
    def get_moves(self, plan: Plan) -> Any:
        from felloe.bench.services.plans import expected_readings, moves_of, twists

        context = {"expected": expected_readings(plan), "twists": twists(plan)}
        return PlanMoveSerializer(moves_of(plan), many=True, context=context).data


class MoveMarkSerializer(serializers.Serializer[Any]):
    state = serializers.ChoiceField(choices=PlanMove.State.choices)
    done_turns = serializers.FloatField(required=False, allow_null=True, min_value=-3, max_value=3)
    instead = serializers.ChoiceField(choices=["more", "replace"], required=False)


class WhatIfRequestSerializer(serializers.Serializer[Any]):
    turns = serializers.DictField(child=serializers.FloatField(min_value=-4, max_value=4))


class WhatIfSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.WhatIf


class LeftAloneSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LeftAlone


class TradeOffSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.TradeOff


class PlanModeSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=MODE_KEYS)

    class Meta:
        dataclass = answers.PlanMode
