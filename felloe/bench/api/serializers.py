from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from felloe.api.language import spoken_for
from felloe.bench.models import LearntRim, Plan, PlanMove, Reading, ReadingSet
from felloe.core.measuring.coarse import FEEL
from felloe.core.said import say
from felloe.core.tension.pitch import CROSSING, WHOLE
from felloe.core.truing.objective import MODES
from felloe.queue.api.serializers import TIER_NAMES, TierSerializer

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


class SpokeStateSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    side = serializers.ChoiceField(choices=["R", "L"])
    angle_deg = serializers.FloatField()
    tension_n = serializers.FloatField()
    tension_sd_n = serializers.FloatField()
    measured_n = serializers.FloatField(allow_null=True)
    percent_of_mean = serializers.FloatField()
    lateral_mm = serializers.FloatField()
    lateral_sd_mm = serializers.FloatField()
    radial_mm = serializers.FloatField()
    radial_sd_mm = serializers.FloatField()
    outside = serializers.BooleanField()


class TraceSerializer(serializers.Serializer[Any]):
    angle_deg = serializers.ListField(child=serializers.FloatField())
    lateral_mm = serializers.ListField(child=serializers.FloatField())
    lateral_sd_mm = serializers.ListField(child=serializers.FloatField())
    radial_mm = serializers.ListField(child=serializers.FloatField())
    radial_sd_mm = serializers.ListField(child=serializers.FloatField())


class MarkSerializer(serializers.Serializer[Any]):
    angle_deg = serializers.FloatField()
    deviation_mm = serializers.FloatField()


class SideStateSerializer(serializers.Serializer[Any]):
    mean_n = serializers.FloatField()
    sd_n = serializers.FloatField()
    worst_spoke = serializers.CharField()
    worst_percent = serializers.FloatField()
    outside = serializers.ListField(child=serializers.CharField())
    target_n = serializers.FloatField()


class SidesStateSerializer(serializers.Serializer[Any]):
    R = SideStateSerializer()
    L = SideStateSerializer()


class RatioSerializer(serializers.Serializer[Any]):
    expected = serializers.FloatField()
    measured = serializers.FloatField(allow_null=True)
    difference_percent = serializers.FloatField(allow_null=True)
    warns = serializers.BooleanField()


class CheckSerializer(serializers.Serializer[Any]):
    figure = serializers.ChoiceField(choices=["lateral", "radial", "dish", "tension"])
    value = serializers.FloatField()
    limit = serializers.FloatField()
    unit = serializers.CharField()
    met = serializers.BooleanField()
    measured = serializers.BooleanField()


class StateSerializer(serializers.Serializer[Any]):
    """The estimated state of a wheel: everything the strip shows."""

    reading_count = serializers.IntegerField()
    headline = serializers.CharField()
    tier = TierSerializer()
    spokes = SpokeStateSerializer(many=True)
    trace = TraceSerializer()
    lateral_marks = MarkSerializer(many=True)
    radial_marks = MarkSerializer(many=True)
    dish_mm = serializers.FloatField()
    dish_sd_mm = serializers.FloatField()
    lateral_tir_mm = serializers.FloatField()
    radial_tir_mm = serializers.FloatField()
    sides = SidesStateSerializer()
    ratio = RatioSerializer()
    tight_side = serializers.ChoiceField(choices=["R", "L"])
    target_n = serializers.FloatField()
    cap_n = serializers.FloatField()
    tension_is_default = serializers.BooleanField()
    checks = CheckSerializer(many=True)


class PlanRequestSerializer(serializers.Serializer[Any]):
    step_turns = serializers.FloatField(required=False, allow_null=True)
    mode = serializers.ChoiceField(choices=MODE_KEYS, required=False)
    between = serializers.ListField(child=serializers.CharField(max_length=8), required=False, min_length=2, max_length=2)
    limit_turns = serializers.FloatField(required=False, allow_null=True)
    untouchable = serializers.ListField(child=serializers.CharField(max_length=8), required=False, max_length=48)
    dish_option = serializers.ChoiceField(choices=["tighten", "ease", "half"], required=False)


class DishOptionSerializer(serializers.Serializer[Any]):
    key = serializers.ChoiceField(choices=["tighten", "ease", "half"])
    name = serializers.CharField()
    right_turns = serializers.FloatField()
    left_turns = serializers.FloatField()
    dish_after_mm = serializers.FloatField()
    right_mean_n = serializers.FloatField()
    left_mean_n = serializers.FloatField()
    over_cap = serializers.BooleanField()
    proposed = serializers.BooleanField()


class DishAdviceSerializer(serializers.Serializer[Any]):
    """Ways to bring the rim to the middle, all nipples of a side alike."""

    dish_mm = serializers.FloatField()
    dish_sd_mm = serializers.FloatField()
    lateral_tir_mm = serializers.FloatField()
    straight_enough = serializers.BooleanField()
    reason = serializers.CharField()
    options = DishOptionSerializer(many=True)


class PredictedSerializer(serializers.Serializer[Any]):
    tension_n = serializers.ListField(child=serializers.FloatField())
    lateral_mm = serializers.ListField(child=serializers.FloatField())
    radial_mm = serializers.ListField(child=serializers.FloatField())
    dish_mm = serializers.FloatField()
    lateral_tir_mm = serializers.FloatField()
    radial_tir_mm = serializers.FloatField()
    trace = TraceSerializer()


class PlanMoveSerializer(serializers.ModelSerializer[PlanMove]):
    by = serializers.CharField(source="done_by.display_name", default="", read_only=True)
    fraction = serializers.SerializerMethodField()
    expected_reading = serializers.SerializerMethodField()
    twist_turns = serializers.SerializerMethodField()

    class Meta:
        model = PlanMove
        fields = [
            "place", "spoke", "turns", "fraction", "tension_before_n", "tension_after_n", "expected_reading",
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


class PlanSummarySerializer(serializers.ModelSerializer[Plan]):
    reason = serializers.CharField(read_only=True)
    reading_set_id = serializers.UUIDField()

    class Meta:
        model = Plan
        fields = ["id", "reading_set_id", "reason", "created_at"]
        read_only_fields = fields


class LearntRimSerializer(serializers.ModelSerializer[LearntRim]):
    """What the last pass taught of this rim: factors on its stiffnesses, residuals, nipples that shirked."""

    shirkers = serializers.ListField(child=serializers.DictField())

    class Meta:
        model = LearntRim
        fields = ["ei_lat", "ei_rad", "gj", "changes", "misfit_before", "misfit_after", "shirkers", "created_at"]
        read_only_fields = fields


class PlanSerializer(serializers.ModelSerializer[Plan]):
    reason = serializers.CharField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)
    job_id = serializers.UUIDField(source="reading_set.job_id")
    reading_set_id = serializers.UUIDField()
    tier = serializers.ChoiceField(choices=TIER_NAMES)
    untouchable = serializers.ListField(child=serializers.CharField())
    predicted = PredictedSerializer()
    mode = serializers.ChoiceField(choices=MODE_KEYS)
    learnt = LearntRimSerializer(allow_null=True)
    moves = serializers.SerializerMethodField()

    class Meta:
        model = Plan
        fields = [
            "id", "job_id", "reading_set_id", "tier", "mode", "step_turns", "limit_turns", "untouchable", "reason", "laps",
            "learnt", "worst_tension_n", "worst_spoke", "predicted", "moves", "by", "created_at",
        ]  # fmt: skip
        read_only_fields = fields

    @extend_schema_field(PlanMoveSerializer(many=True))
    def get_moves(self, plan: Plan) -> Any:
        from felloe.bench.services.plans import expected_readings, moves_of, twists

        context = {"expected": expected_readings(plan), "twists": twists(plan)}
        return PlanMoveSerializer(moves_of(plan), many=True, context=context).data


class MoveMarkSerializer(serializers.Serializer[Any]):
    state = serializers.ChoiceField(choices=PlanMove.State.choices)
    done_turns = serializers.FloatField(required=False, allow_null=True, min_value=-3, max_value=3)


class WhatIfRequestSerializer(serializers.Serializer[Any]):
    turns = serializers.DictField(child=serializers.FloatField(min_value=-4, max_value=4))


class WhatIfSerializer(serializers.Serializer[Any]):
    """What the wheel would measure after turns by hand."""

    tension_n = serializers.ListField(child=serializers.FloatField())
    trace = TraceSerializer()
    dish_mm = serializers.FloatField()
    lateral_tir_mm = serializers.FloatField()
    radial_tir_mm = serializers.FloatField()
    over_cap = serializers.ListField(child=serializers.CharField())
    checks = CheckSerializer(many=True)


class PlanModeSerializer(serializers.Serializer[Any]):
    key = serializers.ChoiceField(choices=MODE_KEYS)
    name = serializers.CharField()
    why = serializers.CharField()
