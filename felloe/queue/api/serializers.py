from __future__ import annotations

from typing import Any

from drf_spectacular.utils import extend_schema_field
from rest_framework import serializers

from felloe.accounts.api.serializers import PersonSerializer
from felloe.accounts.rights import Role
from felloe.api.answers import AnswerSerializer
from felloe.api.language import spoken_for
from felloe.core.diagnosis.causes import COMPLAINTS
from felloe.core.endings import ENDS
from felloe.core.said import say
from felloe.core.stages import DONE, STAGES, Stage
from felloe.core.truing.own_tiers import LONGEST_NAME
from felloe.core.truing.tiers import Tier
from felloe.customers.api.serializers import CUSTOMER_FIELDS, BikeSerializer, CustomerSerializer
from felloe.customers.models import Bike, Customer
from felloe.queue import answers
from felloe.queue.models import Job, JobEvent, Place
from felloe.wheels.api.serializers import SpecificationSerializer, WheelSerializer
from felloe.wheels.models import Wheel

STAGE_CHOICES = [(stage.key, stage.name) for stage in STAGES]
ALL_STAGES = [*STAGE_CHOICES, (DONE, "Handed back")]


class JobCustomerSerializer(serializers.ModelSerializer[Customer]):
    class Meta:
        model = Customer
        fields = ["id", "name", "phone"]
        read_only_fields = fields


class JobEventSerializer(serializers.ModelSerializer[JobEvent]):
    note = serializers.CharField(read_only=True)
    by = serializers.CharField(source="created_by.display_name", default="", read_only=True)

    class Meta:
        model = JobEvent
        fields = ["id", "kind", "from_stage", "to_stage", "note", "by", "created_at"]
        read_only_fields = fields


class ComplaintTagsField(serializers.ListField):
    """Quick tags of the complaint, out of the core's list."""

    child = serializers.ChoiceField(choices=list(COMPLAINTS.items()))

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(max_length=len(COMPLAINTS), **kwargs)


class EndedField(serializers.ChoiceField):
    """How a job ended, empty while it is open."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(choices=list(ENDS), allow_blank=True, read_only=True)


class TierField(serializers.CharField):
    """The name of one of the shop's tiers; the service says which there are."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(max_length=LONGEST_NAME, **kwargs)


class TierSerializer(AnswerSerializer):
    class Meta:
        dataclass = Tier


class ShopTierSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ShopTier


class TierSetSerializer(serializers.Serializer[Any]):
    name = TierField()
    version = serializers.IntegerField(min_value=0, help_text="0 for one that was never changed, and for a new one")
    lateral_mm = serializers.FloatField()
    radial_mm = serializers.FloatField()
    dish_mm = serializers.FloatField()
    tension_percent = serializers.FloatField()
    plain = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")
    in_use = serializers.BooleanField(required=False, default=True)


class HookSerializer(serializers.ModelSerializer[Place]):
    class Meta:
        model = Place
        fields = ["id", "name"]
        read_only_fields = fields


class JobSerializer(serializers.ModelSerializer[Job]):
    customer = JobCustomerSerializer(source="wheel.bike.customer")
    bike = BikeSerializer(source="wheel.bike")
    wheel = WheelSerializer()
    assigned_to = PersonSerializer(allow_null=True)
    hook = HookSerializer(allow_null=True)
    stage = serializers.ChoiceField(choices=ALL_STAGES)
    ended_as = EndedField()
    tolerance = TierSerializer()
    complaint_tags = ComplaintTagsField()
    events = serializers.SerializerMethodField(help_text="The newest, oldest first")
    earlier_events = serializers.SerializerMethodField(
        help_text="Whether there are earlier ones, to be had in pages: job_events"
    )

    _read: tuple[Job, tuple[list[JobEvent], bool]] | None = None

    class Meta:
        model = Job
        fields = [
            "id", "number", "customer", "bike", "wheel", "complaint", "complaint_tags", "stage", "tier", "tolerance",
            "wanted_at",
            "promised_at", "promise_chance", "assigned_to", "waiting_on", "waits_since", "expected_on", "ready_at", "hook",
            "handed_back_at", "ended_as", "left_with", "load_kg", "with_bike", "recheck_on",
            "version", "created_at", "events", "earlier_events",
        ]  # fmt: skip
        read_only_fields = fields

    @extend_schema_field(JobEventSerializer(many=True))
    def get_events(self, job: Job) -> Any:
        return JobEventSerializer(self._newest(job)[0][::-1], many=True).data

    def get_earlier_events(self, job: Job) -> bool:
        return self._newest(job)[1]

    def _newest(self, job: Job) -> tuple[list[JobEvent], bool]:
        from felloe.queue.services import events_of

        if self._read is None or self._read[0] is not job:
            self._read = (job, events_of(job))
        return self._read[1]


class EventPageSerializer(serializers.Serializer[Any]):
    """Newest first; `earlier`: there are more before the last of them."""

    events = JobEventSerializer(many=True)
    earlier = serializers.BooleanField()


class WhoSerializer(AnswerSerializer):
    role = serializers.ChoiceField(choices=Role.choices)

    class Meta:
        dataclass = answers.Who


class RailWheelSerializer(AnswerSerializer):
    position = serializers.ChoiceField(choices=Wheel.Position.choices)

    class Meta:
        dataclass = answers.RailWheel


class RailJobSerializer(AnswerSerializer):
    stage = serializers.ChoiceField(choices=ALL_STAGES)
    waiting_on = serializers.ChoiceField(choices=Job.WaitingOn.choices, allow_blank=True)
    ended_as = serializers.ChoiceField(choices=list(ENDS), allow_blank=True)
    left_with = serializers.ChoiceField(choices=Job.LeftWith.choices, allow_blank=True)

    class Meta:
        dataclass = answers.RailJob


class HitSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=["ready", "not_yet", "late", "waits", "gone"])

    class Meta:
        dataclass = answers.Hit


class ShopPlaceSerializer(serializers.ModelSerializer[Place]):
    class Meta:
        model = Place
        fields = ["id", "kind", "name", "in_use", "version"]
        read_only_fields = fields


class PlaceAddSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=Place.Kind.choices)
    name = serializers.CharField(max_length=40)


class PlaceChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    name = serializers.CharField(max_length=40, required=False)
    in_use = serializers.BooleanField(required=False)


class NewWheelSerializer(serializers.Serializer[Any]):
    position = serializers.ChoiceField(choices=Wheel.Position.choices)
    kind = serializers.CharField(max_length=40, required=False, allow_blank=True, default="")
    measured = serializers.BooleanField(required=False, default=False)
    specification = SpecificationSerializer()


class NewCustomerSerializer(CustomerSerializer):
    class Meta(CustomerSerializer.Meta):
        fields = CUSTOMER_FIELDS


class NewBikeSerializer(BikeSerializer):
    class Meta(BikeSerializer.Meta):
        model = Bike
        fields = ["label", "brake", "use", "dropout", "axle", "axle_torque_nm", "tyre", "directional"]


class JobOpenSerializer(serializers.Serializer[Any]):
    """A known wheel, or a new wheel of a known bike, or everything new."""

    wheel_id = serializers.UUIDField(required=False)
    bike_id = serializers.UUIDField(required=False)
    customer_id = serializers.UUIDField(required=False)
    customer = NewCustomerSerializer(required=False)
    bike = NewBikeSerializer(required=False)
    wheel = NewWheelSerializer(required=False)
    complaint = serializers.CharField(max_length=500)
    complaint_tags = ComplaintTagsField(required=False)
    tier = TierField(required=False)
    wanted_at = serializers.DateTimeField(required=False, allow_null=True)
    promised_at = serializers.DateTimeField(required=False, allow_null=True)
    assigned_to = serializers.UUIDField(required=False, allow_null=True)
    load_kg = serializers.IntegerField(required=False, allow_null=True, min_value=20, max_value=400)
    with_bike = serializers.BooleanField(required=False, default=True)
    second = serializers.BooleanField(required=False, default=False, help_text="A second open job on one wheel is meant")

    def validate(self, attrs: dict[str, Any]) -> dict[str, Any]:
        if attrs.get("wheel_id"):
            return attrs
        missing = {}
        if not attrs.get("wheel"):
            missing["wheel"] = spoken_for(say("Say which wheel it is, or choose one seen before."))
        if not attrs.get("bike_id"):
            if not attrs.get("bike"):
                missing["bike"] = spoken_for(say("Say which bike the wheel belongs to."))
            if not attrs.get("customer_id") and not attrs.get("customer"):
                missing["customer"] = spoken_for(say("Say whose bike it is."))
        if missing:
            raise serializers.ValidationError(missing)
        return attrs


class JobChangeSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    complaint = serializers.CharField(max_length=500, required=False)
    complaint_tags = ComplaintTagsField(required=False)
    tier = TierField(required=False)
    tier_anew = serializers.BooleanField(required=False, help_text="The tier's figures of today, not those of its promise")
    wanted_at = serializers.DateTimeField(required=False, allow_null=True)
    assigned_to = serializers.UUIDField(required=False, allow_null=True)
    waiting_on = serializers.ChoiceField(choices=Job.WaitingOn.choices, required=False, allow_blank=True)
    expected_on = serializers.DateField(required=False, allow_null=True)
    hook = serializers.UUIDField(required=False, allow_null=True)
    load_kg = serializers.IntegerField(required=False, allow_null=True, min_value=20, max_value=400)
    with_bike = serializers.BooleanField(required=False)


class StageMoveSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    to_stage = serializers.ChoiceField(choices=STAGE_CHOICES)
    reason = serializers.CharField(max_length=500, required=False, allow_blank=True, default="")


class StageSerializer(AnswerSerializer):
    class Meta:
        dataclass = Stage


class ComplaintSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Complaint


class TradeSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Trade
