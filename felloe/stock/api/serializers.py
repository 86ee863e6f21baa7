from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.core.stock.parts import PART_KINDS
from felloe.stock.services import MOST

KINDS = list(PART_KINDS)
MOVES = ["reserve", "release", "take", "return", "count", "cut"]
ATTRIBUTE_KINDS = ["number", "word", "text", "flag"]


class PartInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=KINDS)
    name = serializers.CharField(max_length=80)
    bin = serializers.CharField(max_length=20, required=False, allow_blank=True)
    supplier = serializers.CharField(max_length=80, required=False, allow_blank=True)
    supplier_code = serializers.CharField(max_length=40, required=False, allow_blank=True)
    minimum = serializers.IntegerField(min_value=0, max_value=MOST, required=False)
    pack = serializers.IntegerField(min_value=1, max_value=MOST, required=False)
    lead_days = serializers.IntegerField(min_value=0, max_value=365, required=False)
    price_minor = serializers.IntegerField(min_value=0, max_value=10_000_000, required=False, allow_null=True)
    attributes = serializers.DictField(required=False)


class PartChangeSerializer(PartInSerializer):
    kind = None  # type: ignore[assignment]
    name = serializers.CharField(max_length=80, required=False)
    version = serializers.IntegerField()


class ClaimSerializer(serializers.Serializer[Any]):
    job = serializers.UUIDField()
    job_number = serializers.IntegerField()
    count = serializers.IntegerField()
    covered = serializers.IntegerField()


class StockPartSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    version = serializers.IntegerField()
    kind = serializers.ChoiceField(choices=KINDS)
    name = serializers.CharField()
    bin = serializers.CharField()
    supplier = serializers.CharField()
    supplier_code = serializers.CharField()
    minimum = serializers.IntegerField()
    pack = serializers.IntegerField()
    lead_days = serializers.IntegerField()
    price_minor = serializers.IntegerField(allow_null=True)
    attributes = serializers.DictField()
    on_hand = serializers.IntegerField()
    free = serializers.IntegerField()
    on_order = serializers.IntegerField()
    suggested_minimum = serializers.IntegerField()
    claims = ClaimSerializer(many=True)


class MoveInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=MOVES)
    count = serializers.IntegerField(min_value=0, max_value=MOST)
    job = serializers.UUIDField(required=False, allow_null=True)
    note = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")
    to_mm = serializers.FloatField(required=False, allow_null=True)


class MovementSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    kind = serializers.CharField()
    word = serializers.CharField()
    delta = serializers.IntegerField()
    claim_delta = serializers.IntegerField()
    job_number = serializers.IntegerField(allow_null=True)
    note = serializers.CharField()
    by = serializers.CharField()
    created_at = serializers.DateTimeField()


class ProposedLineSerializer(serializers.Serializer[Any]):
    part = serializers.UUIDField()
    name = serializers.CharField()
    count = serializers.IntegerField()
    why = serializers.CharField()


class ProposedOrderSerializer(serializers.Serializer[Any]):
    supplier = serializers.CharField(allow_blank=True)
    lines = ProposedLineSerializer(many=True)


class OrderLineSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    part = serializers.UUIDField()
    name = serializers.CharField()
    count = serializers.IntegerField()
    arrived = serializers.IntegerField()


class OrderSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    supplier = serializers.CharField(allow_blank=True)
    state = serializers.ChoiceField(choices=["sent", "received", "cancelled"])
    by = serializers.CharField()
    created_at = serializers.DateTimeField()
    lines = OrderLineSerializer(many=True)


class OrdersSerializer(serializers.Serializer[Any]):
    proposed = ProposedOrderSerializer(many=True)
    orders = OrderSerializer(many=True)
    freed_jobs = serializers.ListField(child=serializers.IntegerField(), help_text="Jobs that waited and now have all parts")


class SendLineSerializer(serializers.Serializer[Any]):
    part = serializers.UUIDField()
    count = serializers.IntegerField(min_value=1, max_value=MOST)


class SendOrderSerializer(serializers.Serializer[Any]):
    supplier = serializers.CharField(max_length=80, allow_blank=True)
    lines = SendLineSerializer(many=True)


class ArrivedLineSerializer(serializers.Serializer[Any]):
    line = serializers.UUIDField()
    count = serializers.IntegerField(min_value=0, max_value=MOST)


class ReceiveSerializer(serializers.Serializer[Any]):
    lines = ArrivedLineSerializer(many=True)


class FileSerializer(serializers.Serializer[Any]):
    text = serializers.CharField(max_length=1_000_000, trim_whitespace=False)


class PreviewRowSerializer(serializers.Serializer[Any]):
    line = serializers.IntegerField()
    name = serializers.CharField(allow_blank=True)
    kind = serializers.CharField(allow_blank=True)
    does = serializers.ChoiceField(choices=["new", "changed", "same", "wrong"])
    wrong = serializers.CharField(allow_blank=True)


class ImportedSerializer(serializers.Serializer[Any]):
    touched = serializers.IntegerField()


class AttributeSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    kind = serializers.ChoiceField(choices=ATTRIBUTE_KINDS)
    needed = serializers.BooleanField()
    words = serializers.ListField(child=serializers.CharField())


class PartKindSerializer(serializers.Serializer[Any]):
    key = serializers.ChoiceField(choices=KINDS)
    name = serializers.CharField()
    attributes = AttributeSerializer(many=True)


class StockSerializer(serializers.Serializer[Any]):
    kinds = PartKindSerializer(many=True)
    parts = StockPartSerializer(many=True)
    cuts_spokes = serializers.BooleanField()


class MachineSerializer(serializers.Serializer[Any]):
    cuts_spokes = serializers.BooleanField()
