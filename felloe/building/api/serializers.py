from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.core.lacing.check import RIGHT, SHORT, SLACK
from felloe.core.lacing.map import HEAD_IN, HEAD_OUT, LEADING, RADIAL, TRAILING
from felloe.core.spokes.fit import ROUNDING_SCHOOLS
from felloe.core.spokes.kit import WASHERS
from felloe.wheels.api.serializers import DerivedSerializer, SuspicionSerializer

SIDES = ["R", "L"]
HEADS, LEANS, REACHES = [HEAD_IN, HEAD_OUT], [TRAILING, LEADING, RADIAL], [SHORT, RIGHT, SLACK]
VERDICTS = ["fits", "short", "head_unsupported", "in_slot", "thread_runs_out", "proud"]


class SizingQuestionSerializer(serializers.Serializer[Any]):
    step_mm = serializers.FloatField(required=False, default=1.0)
    school = serializers.ChoiceField(choices=list(ROUNDING_SCHOOLS), required=False, default="nearest")


class KeyWhySerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    why = serializers.CharField()


class NippleFitSerializer(serializers.Serializer[Any]):
    length_mm = serializers.FloatField()
    end_mm = serializers.FloatField()
    verdict = serializers.ChoiceField(choices=VERDICTS)
    why = serializers.CharField()
    chance = serializers.FloatField()
    usable = serializers.BooleanField()


class ShareSerializer(serializers.Serializer[Any]):
    field = serializers.CharField()
    share = serializers.FloatField()


class CrossingSerializer(serializers.Serializer[Any]):
    crossings = serializers.IntegerField()
    length_mm = serializers.FloatField(allow_null=True)
    pull = serializers.FloatField()
    room_mm = serializers.FloatField(allow_null=True)
    possible = serializers.BooleanField()
    why = serializers.CharField()


class OfferSerializer(serializers.Serializer[Any]):
    key = serializers.UUIDField()
    name = serializers.CharField()
    how = serializers.ChoiceField(choices=["as_it_is", "cut"])
    fit = NippleFitSerializer()
    cut_to_mm = serializers.FloatField(allow_null=True)
    cautions = serializers.ListField(child=serializers.CharField())
    count = serializers.IntegerField()
    enough = serializers.BooleanField()


class BinSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    name = serializers.CharField()
    bin = serializers.CharField(allow_blank=True)
    free = serializers.IntegerField()
    claimed = serializers.IntegerField()
    taken = serializers.IntegerField()


class ChosenSerializer(serializers.Serializer[Any]):
    length_mm = serializers.FloatField()
    end_mm = serializers.FloatField()
    verdict = serializers.ChoiceField(choices=VERDICTS)
    needed_mm = serializers.FloatField()
    part = BinSerializer(allow_null=True)
    by = serializers.CharField()


class SizingSideSerializer(serializers.Serializer[Any]):
    side = serializers.ChoiceField(choices=SIDES)
    places = serializers.IntegerField()
    count = serializers.IntegerField()
    wire = serializers.CharField()
    crossings = serializers.IntegerField()
    needed_mm = serializers.FloatField()
    sd_mm = serializers.FloatField()
    shares = ShareSerializer(many=True)
    stretch_mm = serializers.FloatField()
    rounded_mm = serializers.FloatField()
    candidates = NippleFitSerializer(many=True)
    table = CrossingSerializer(many=True)
    offers = OfferSerializer(many=True)
    chosen = ChosenSerializer(allow_null=True)


class OldNippleFitSerializer(NippleFitSerializer):
    spoke = serializers.CharField()


class OldSideSerializer(serializers.Serializer[Any]):
    side = serializers.ChoiceField(choices=SIDES)
    count = serializers.IntegerField()
    spread_mm = serializers.FloatField()
    needed_mm = serializers.FloatField()
    fits = OldNippleFitSerializer(many=True)
    explains = serializers.ListField(child=serializers.CharField())
    rebuild = serializers.BooleanField()


class OldLengthSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField()
    length_mm = serializers.FloatField()


class KitInSerializer(serializers.Serializer[Any]):
    nipple_part = serializers.UUIDField(required=False, allow_null=True)
    washer_part = serializers.UUIDField(required=False, allow_null=True)
    nipple_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    right_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    left_count = serializers.IntegerField(required=False, allow_null=True, min_value=0, max_value=1000)
    rim_hole_mm = serializers.FloatField(required=False)
    key_mm = serializers.FloatField(required=False)
    washers = serializers.ChoiceField(choices=list(WASHERS), required=False)
    washer_count = serializers.IntegerField(required=False, min_value=0, max_value=1000)
    rim_had_washers = serializers.BooleanField(required=False)
    measured_one = serializers.BooleanField(required=False)
    whole_wheel = serializers.BooleanField(required=False)
    wet_or_salt = serializers.BooleanField(required=False, allow_null=True)


class KitSerializer(serializers.Serializer[Any]):
    nipple_part = serializers.UUIDField(allow_null=True)
    washer_part = serializers.UUIDField(allow_null=True)
    nipple_count = serializers.IntegerField(allow_null=True)
    right_count = serializers.IntegerField(allow_null=True)
    left_count = serializers.IntegerField(allow_null=True)
    rim_hole_mm = serializers.FloatField()
    key_mm = serializers.FloatField()
    washers = serializers.ChoiceField(choices=list(WASHERS))
    washer_count = serializers.IntegerField()
    rim_had_washers = serializers.BooleanField()
    measured_one = serializers.BooleanField()
    whole_wheel = serializers.BooleanField()
    wet_or_salt = serializers.BooleanField()


class RuleSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    level = serializers.ChoiceField(choices=["stop", "caution", "note"])
    holds = serializers.BooleanField()
    found = serializers.CharField()
    reason = serializers.CharField()
    side = serializers.ChoiceField(choices=SIDES, allow_null=True)


class NippleDrawnSerializer(serializers.Serializer[Any]):
    length_mm = serializers.FloatField()
    head_mm = serializers.FloatField()
    slot_mm = serializers.FloatField()
    thread_mm = serializers.FloatField()


class SizingSerializer(serializers.Serializer[Any]):
    step_mm = serializers.FloatField()
    school = serializers.ChoiceField(choices=list(ROUNDING_SCHOOLS))
    steps_mm = serializers.ListField(child=serializers.FloatField())
    schools = KeyWhySerializer(many=True)
    nipple = NippleDrawnSerializer()
    sides = SizingSideSerializer(many=True)
    suspicions = SuspicionSerializer(many=True)
    old = OldSideSerializer(many=True)
    old_lengths = OldLengthSerializer(many=True)
    kit = KitSerializer()
    rules = RuleSerializer(many=True)
    nipple_parts = BinSerializer(many=True)
    washer_parts = BinSerializer(many=True)
    measured = serializers.BooleanField()
    can_cut = serializers.BooleanField()


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


class SwapSideSerializer(serializers.Serializer[Any]):
    side = serializers.ChoiceField(choices=SIDES)
    needed_mm = serializers.FloatField()
    change_mm = serializers.FloatField()
    own = NippleFitSerializer(allow_null=True)
    other = NippleFitSerializer(allow_null=True)


class SwapSerializer(serializers.Serializer[Any]):
    advice = serializers.ChoiceField(choices=["as_they_are", "change_sides", "one_side", "new"])
    why = serializers.CharField()
    cautions = serializers.ListField(child=serializers.CharField())
    sides = SwapSideSerializer(many=True)


class BySideSerializer(serializers.Serializer[Any]):
    R = serializers.CharField()
    L = serializers.CharField()


class LengthsBySideSerializer(serializers.Serializer[Any]):
    R = serializers.FloatField()
    L = serializers.FloatField()


class ChoicesBySideSerializer(serializers.Serializer[Any]):
    R = KeyWhySerializer(many=True)
    L = KeyWhySerializer(many=True)


class LacingSetSerializer(serializers.Serializer[Any]):
    number = serializers.IntegerField()
    side = serializers.ChoiceField(choices=SIDES)
    title = serializers.CharField()
    before = serializers.CharField(allow_blank=True)
    every = serializers.IntegerField()


class CrossedSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField()
    way = serializers.ChoiceField(choices=["over", "under"])


class LacingPlaceSerializer(serializers.Serializer[Any]):
    order = serializers.IntegerField()
    set_number = serializers.IntegerField()
    spoke = serializers.CharField()
    side = serializers.ChoiceField(choices=SIDES)
    rim_hole = serializers.IntegerField()
    flange_hole = serializers.IntegerField()
    head = serializers.ChoiceField(choices=HEADS)
    lean = serializers.ChoiceField(choices=LEANS)
    crosses = CrossedSerializer(many=True)
    beside_valve = serializers.BooleanField()


class LacingSerializer(serializers.Serializer[Any]):
    inside = BySideSerializer()
    choices = ChoicesBySideSerializer()
    rotor_left = serializers.BooleanField()
    sets = LacingSetSerializer(many=True)
    places = LacingPlaceSerializer(many=True)
    lengths_mm = LengthsBySideSerializer()
    placed = serializers.IntegerField()
    placed_by = serializers.CharField(allow_blank=True)
    derived = DerivedSerializer()


class PlaceInSerializer(serializers.Serializer[Any]):
    placed = serializers.IntegerField()


class SeenSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField(max_length=4)
    lean = serializers.ChoiceField(choices=LEANS, required=False, allow_null=True)
    crosses = serializers.IntegerField(required=False, allow_null=True)
    head = serializers.ChoiceField(choices=HEADS, required=False, allow_null=True)
    flange_hole = serializers.IntegerField(required=False, allow_null=True)
    reach = serializers.ChoiceField(choices=REACHES, required=False, allow_null=True)


class LookSerializer(serializers.Serializer[Any]):
    seen = SeenSerializer(many=True)


class LacingErrorSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    side = serializers.ChoiceField(choices=SIDES, allow_null=True)
    spoke = serializers.CharField(allow_blank=True)
    what = serializers.CharField()
    mend = serializers.CharField()


class SpokeNeedSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField()
    needed_mm = serializers.FloatField()
    surplus_mm = serializers.FloatField()


class LacingVerdictSerializer(serializers.Serializer[Any]):
    faults = LacingErrorSerializer(many=True)
    sure = serializers.BooleanField()
    also = serializers.ListField(child=serializers.CharField())
    needs = SpokeNeedSerializer(many=True)


class StepSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    what = serializers.CharField()
    why = serializers.CharField(allow_blank=True)
    done = serializers.BooleanField()


class StripFactsSerializer(serializers.Serializer[Any]):
    washers = serializers.BooleanField(required=False)
    closed_rim = serializers.BooleanField(required=False)
    cut = serializers.BooleanField(required=False)
    keep_spokes = serializers.BooleanField(required=False)


class SlackLapSerializer(serializers.Serializer[Any]):
    number = serializers.IntegerField()
    turns = serializers.FloatField()
    right_n = serializers.FloatField()
    left_n = serializers.FloatField()


class TallySerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=["nipple", "washer", "spoke"])
    name = serializers.CharField()
    was_in = serializers.IntegerField()
    out = serializers.IntegerField()
    put_in = serializers.IntegerField()
    still_in = serializers.IntegerField()
    places = serializers.IntegerField()
    word = serializers.CharField()


class StripSerializer(serializers.Serializer[Any]):
    facts = StripFactsSerializer()
    measured = serializers.BooleanField()
    laps = SlackLapSerializer(many=True)
    steps = StepSerializer(many=True)
    counts = TallySerializer(many=True)


class CountInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=["nipple", "washer", "spoke"])
    way = serializers.ChoiceField(choices=["out", "in"])
    count = serializers.IntegerField()


class StepInSerializer(serializers.Serializer[Any]):
    step = serializers.CharField(max_length=20)
    done = serializers.BooleanField()


class ReplaceStepInSerializer(StepInSerializer):
    spoke = serializers.CharField(max_length=4)


class ReplacedSpokeSerializer(serializers.Serializer[Any]):
    spoke = serializers.CharField()
    standing = serializers.BooleanField()
    broke_at = serializers.CharField(allow_blank=True)
    old_length_mm = serializers.FloatField(allow_null=True)
    length_mm = serializers.FloatField()
    length_is_chosen = serializers.BooleanField()
    neighbours = serializers.ListField(child=serializers.CharField())
    neighbours_n = serializers.FloatField(allow_null=True)
    head = serializers.ChoiceField(choices=HEADS)
    lean = serializers.ChoiceField(choices=LEANS)
    crosses = CrossedSerializer(many=True)
    steps = StepSerializer(many=True)


class ReplacingSerializer(serializers.Serializer[Any]):
    spokes = ReplacedSpokeSerializer(many=True)
    measured = serializers.BooleanField()
    derived = DerivedSerializer()


class SpareLineSerializer(serializers.Serializer[Any]):
    position = serializers.CharField()
    side = serializers.ChoiceField(choices=SIDES)
    length_mm = serializers.FloatField()
    wire = serializers.CharField()
    carry = serializers.IntegerField()
    measured = serializers.BooleanField()


class SpareCardSerializer(serializers.Serializer[Any]):
    bike = serializers.CharField(allow_blank=True)
    customer = serializers.CharField(allow_blank=True)
    spokes = SpareLineSerializer(many=True)
    carry = serializers.ListField(child=serializers.CharField())
    mind = serializers.ListField(child=serializers.CharField())
