from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.materials import MATERIALS
from felloe.core.measuring.material import PULLS
from felloe.wheels import answers
from felloe.wheels.models import Wheel

SPOKE_MATERIALS = list(MATERIALS)


class SpokeSpecSerializer(serializers.Serializer[Any]):
    end_diameter_mm = serializers.FloatField(required=False)
    middle_diameter_mm = serializers.FloatField(required=False, allow_null=True)
    blade_thickness_mm = serializers.FloatField(required=False, allow_null=True)
    blade_width_mm = serializers.FloatField(required=False, allow_null=True)
    end_length_mm = serializers.FloatField(required=False)
    material = serializers.ChoiceField(choices=SPOKE_MATERIALS, required=False)


class SideSpecSerializer(serializers.Serializer[Any]):
    count = serializers.IntegerField()
    crossings = serializers.IntegerField()
    pitch_mm = serializers.FloatField(required=False)
    spoke = SpokeSpecSerializer(required=False)


class FlangeSpecSerializer(serializers.Serializer[Any]):
    pitch_circle_mm = serializers.FloatField()
    center_to_flange_mm = serializers.FloatField(required=False)
    locknut_to_flange_mm = serializers.FloatField(required=False)
    hole_diameter_mm = serializers.FloatField(required=False)
    straight_pull_angle_deg = serializers.FloatField(required=False, allow_null=True)


class HubSpecSerializer(serializers.Serializer[Any]):
    old_mm = serializers.FloatField()
    right = FlangeSpecSerializer()
    left = FlangeSpecSerializer()


class RimSpecSerializer(serializers.Serializer[Any]):
    erd_mm = serializers.FloatField()
    bead_seat_mm = serializers.IntegerField(required=False, allow_null=True)
    spoke_bed_offset_mm = serializers.FloatField(required=False)
    stagger_mm = serializers.FloatField(required=False)
    centroid_depth_mm = serializers.FloatField(required=False)
    ea_n = serializers.FloatField(required=False)
    ei_lat_nm2 = serializers.FloatField(required=False)
    ei_rad_nm2 = serializers.FloatField(required=False)
    gj_nm2 = serializers.FloatField(required=False)
    target_n = serializers.FloatField(required=False, allow_null=True)
    cap_n = serializers.FloatField(required=False, allow_null=True)
    material = serializers.ChoiceField(choices=["aluminium", "carbon", "steel"], required=False)


class SpecificationSerializer(serializers.Serializer[Any]):
    """The `wheel` object of the wheel record: shape here, sense in the core."""

    first_side = serializers.ChoiceField(choices=["R", "L"], required=False)
    rim = RimSpecSerializer()
    hub = HubSpecSerializer()
    right = SideSpecSerializer()
    left = SideSpecSerializer()
    dish_target_mm = serializers.FloatField(required=False)


class SideDerivedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SideDerived


class SidesDerivedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SidesDerived


class SpokePlaceSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SpokePlace


class SuspicionSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Suspicion


class DerivedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Derived


class WheelKindSerializer(AnswerSerializer):
    specification = SpecificationSerializer()

    class Meta:
        dataclass = answers.WheelKind


class WheelSerializer(serializers.ModelSerializer[Wheel]):
    specification = SpecificationSerializer()
    uncertainty_mm = serializers.DictField(child=serializers.FloatField())
    derived = serializers.SerializerMethodField()

    class Meta:
        model = Wheel
        fields = ["id", "position", "kind", "measured", "version", "specification", "uncertainty_mm", "derived"]
        read_only_fields = fields

    @extend_schema_field(DerivedSerializer())
    def get_derived(self, wheel: Wheel) -> Any:
        from felloe.wheels.services import core_wheel, derived

        return DerivedSerializer(derived(core_wheel(wheel), wheel.uncertainty_mm, wheel.measured)).data


class WheelChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    kind = serializers.CharField(max_length=40, allow_blank=True, required=False, default="")
    specification = SpecificationSerializer()
    uncertainty_mm = serializers.DictField(child=serializers.FloatField(), required=False)


class GeometryCheckSerializer(serializers.Serializer[Any]):
    specification = SpecificationSerializer()
    uncertainty_mm = serializers.DictField(child=serializers.FloatField(), required=False)


class MaterialQuestionSerializer(serializers.Serializer[Any]):
    pull = serializers.ChoiceField(choices=list(PULLS))
    thickness_mm = serializers.FloatField()
    tied = serializers.BooleanField(default=False)


class MaterialGuessSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.MaterialGuess
