from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.measuring.instruments import INSTRUMENT_KINDS
from felloe.core.tension.meter import USUAL_RESOLUTION
from felloe.instruments import answers
from felloe.instruments.models import Instrument, InstrumentCheck, MeterTable
from felloe.instruments.services import instruments
from felloe.wheels.api.serializers import SPOKE_MATERIALS

INSTRUMENT_KEYS = list(INSTRUMENT_KINDS)
#: What instruments measure round the rim, and what a dial measures.
MEASURED_KINDS = [("tension", "Tension"), ("lateral", "Lateral"), ("radial", "Radial")]
DIAL_KINDS = [("lateral", "Lateral"), ("radial", "Radial")]
STANDINGS = ["good", "due_soon", "overdue", "drifted", "never"]


class MeterTableSerializer(serializers.ModelSerializer[MeterTable]):
    readings = serializers.ListField(child=serializers.FloatField(), max_length=200)
    forces_n = serializers.ListField(child=serializers.FloatField(), max_length=200)

    class Meta:
        model = MeterTable
        fields = ["spoke_kind", "readings", "forces_n", "resolution", "residual_n"]


class MeterSerializer(serializers.ModelSerializer[Instrument]):
    tables = MeterTableSerializer(many=True, allow_empty=False)

    class Meta:
        model = Instrument
        fields = ["id", "name", "serial", "tables"]
        read_only_fields = ["id"]

    def to_representation(self, instance: Instrument) -> dict[str, Any]:
        shown = super().to_representation(instance)
        return {**shown, "tables": MeterTableSerializer(instruments.current_tables(instance), many=True).data}


class StandingSerializer(AnswerSerializer):
    word = serializers.ChoiceField(choices=STANDINGS)

    class Meta:
        dataclass = answers.Standing


class InstrumentCheckSerializer(serializers.ModelSerializer[InstrumentCheck]):
    note = serializers.CharField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = InstrumentCheck
        fields = ["id", "passed", "note", "by", "created_at"]
        read_only_fields = fields


class KeptTableSerializer(serializers.ModelSerializer[MeterTable]):
    readings = serializers.ListField(child=serializers.FloatField())
    forces_n = serializers.ListField(child=serializers.FloatField())
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = MeterTable
        fields = ["id", "spoke_kind", "readings", "forces_n", "resolution", "residual_n", "source", "by", "created_at"]
        read_only_fields = fields


class InstrumentSerializer(serializers.ModelSerializer[Instrument]):
    kind = serializers.ChoiceField(choices=INSTRUMENT_KEYS)
    kind_name = serializers.SerializerMethodField()
    how_to_check = serializers.SerializerMethodField()
    standing = serializers.SerializerMethodField()
    tables = serializers.SerializerMethodField()
    checks = InstrumentCheckSerializer(many=True)

    class Meta:
        model = Instrument
        fields = [
            "id", "name", "kind", "kind_name", "how_to_check", "owner", "serial", "use", "check_every_days", "address",
            "version", "standing", "tables", "checks",
        ]  # fmt: skip
        read_only_fields = fields

    def get_kind_name(self, row: Instrument) -> str:
        return INSTRUMENT_KINDS[row.kind].name

    def get_how_to_check(self, row: Instrument) -> str:
        return INSTRUMENT_KINDS[row.kind].check

    @extend_schema_field(StandingSerializer())
    def get_standing(self, row: Instrument) -> Any:
        return StandingSerializer(instruments.standing_of(row)).data

    @extend_schema_field(KeptTableSerializer(many=True))
    def get_tables(self, row: Instrument) -> Any:
        return KeptTableSerializer(instruments.current_tables(row), many=True).data


class NewInstrumentSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120)
    kind = serializers.ChoiceField(choices=INSTRUMENT_KEYS, required=False, default="tension_meter")
    owner = serializers.CharField(max_length=120, required=False, allow_blank=True)
    serial = serializers.CharField(max_length=60, required=False, allow_blank=True)
    check_every_days = serializers.IntegerField(required=False, min_value=1, max_value=3650)
    address = serializers.CharField(max_length=120, required=False, allow_blank=True)
    tables = MeterTableSerializer(many=True, required=False)


class InstrumentChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    owner = serializers.CharField(max_length=120, required=False, allow_blank=True)
    serial = serializers.CharField(max_length=60, required=False, allow_blank=True)
    use = serializers.ChoiceField(choices=Instrument.Use.choices, required=False)
    check_every_days = serializers.IntegerField(required=False, min_value=1, max_value=3650)
    address = serializers.CharField(max_length=120, required=False, allow_blank=True)


class CalibrationSerializer(serializers.Serializer[Any]):
    """Known loads against readings; nothing is kept unless `keep`."""

    spoke_kind = serializers.CharField(max_length=40)
    readings = serializers.ListField(child=serializers.FloatField(), max_length=100)
    loads_n = serializers.ListField(child=serializers.FloatField(), max_length=100)
    resolution = serializers.FloatField(required=False, default=USUAL_RESOLUTION, min_value=0.001)
    note = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")
    keep = serializers.BooleanField(required=False, default=False)


class FitPointSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.FitPoint


class FitCurveSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.FitCurve


class DriftSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Drift


class FitSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Fit


class SpokeFieldsSerializer(serializers.Serializer[Any]):
    end_diameter_mm = serializers.FloatField(required=False, default=2.0)
    middle_diameter_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    blade_thickness_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    blade_width_mm = serializers.FloatField(required=False, allow_null=True, default=None)
    material = serializers.ChoiceField(choices=SPOKE_MATERIALS, required=False, default="stainless")


class DeriveSerializer(serializers.Serializer[Any]):
    table = serializers.UUIDField()
    of = SpokeFieldsSerializer()
    to = SpokeFieldsSerializer()
    span_mm = serializers.FloatField()
    mm_per_unit = serializers.FloatField()
    keep = serializers.BooleanField(required=False, default=False)


class NewCheckSerializer(serializers.Serializer[Any]):
    passed = serializers.BooleanField()
    note = serializers.CharField(max_length=500, allow_blank=True)


class StandCheckSerializer(serializers.Serializer[Any]):
    first_mm = serializers.FloatField()
    first_side = serializers.ChoiceField(choices=["R", "L"])
    flipped_mm = serializers.FloatField()
    flipped_side = serializers.ChoiceField(choices=["R", "L"])


class SampleSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=MEASURED_KINDS)

    class Meta:
        dataclass = answers.Sample


class LiveSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Live
