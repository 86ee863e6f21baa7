from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.api.answers import AnswerSerializer
from felloe.core.stock.parts import PART_KINDS, TEXT_LENGTHS, WHOLE_LIMITS
from felloe.stock import answers
from felloe.stock.services import MOST

KINDS = list(PART_KINDS)
MOVES = ["reserve", "release", "take", "return", "count", "cut"]
ATTRIBUTE_KINDS = ["number", "word", "text", "flag"]


def _whole(name: str, **more: Any) -> serializers.IntegerField:
    low, high = WHOLE_LIMITS[name]
    return serializers.IntegerField(min_value=low, max_value=high, required=False, **more)


class PartInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=KINDS)
    name = serializers.CharField(max_length=TEXT_LENGTHS["name"])
    bin = serializers.CharField(max_length=TEXT_LENGTHS["bin"], required=False, allow_blank=True)
    supplier = serializers.CharField(max_length=TEXT_LENGTHS["supplier"], required=False, allow_blank=True)
    supplier_code = serializers.CharField(max_length=TEXT_LENGTHS["supplier_code"], required=False, allow_blank=True)
    minimum = _whole("minimum")
    pack = _whole("pack")
    lead_days = _whole("lead_days")
    price_minor = _whole("price_minor", allow_null=True)
    attributes = serializers.DictField(required=False)


class PartChangeSerializer(PartInSerializer):
    kind = None  # type: ignore[assignment]
    name = serializers.CharField(max_length=TEXT_LENGTHS["name"], required=False)
    version = serializers.IntegerField()


class ClaimSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Claim


class StockPartSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=KINDS)

    class Meta:
        dataclass = answers.StockPart


class MoveInSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(choices=MOVES)
    count = serializers.IntegerField(min_value=0, max_value=MOST)
    job = serializers.UUIDField(required=False, allow_null=True)
    note = serializers.CharField(max_length=200, required=False, allow_blank=True, default="")
    to_mm = serializers.FloatField(required=False, allow_null=True)


class MovementSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Movement


class LedgerPageSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.LedgerPage


class ProposedLineSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ProposedLine


class ProposedOrderSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ProposedOrder


class OrderLineSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.OrderLine


class OrderSerializer(AnswerSerializer):
    state = serializers.ChoiceField(choices=["sent", "received", "cancelled"])

    class Meta:
        dataclass = answers.Order


class OrdersSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Orders


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


class PreviewRowSerializer(AnswerSerializer):
    does = serializers.ChoiceField(choices=["new", "changed", "same", "wrong"])

    class Meta:
        dataclass = answers.PreviewRow


class ImportedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Imported


class AttributeSerializer(AnswerSerializer):
    kind = serializers.ChoiceField(choices=ATTRIBUTE_KINDS)

    class Meta:
        dataclass = answers.Attribute


class PartKindSerializer(AnswerSerializer):
    key = serializers.ChoiceField(choices=KINDS)

    class Meta:
        dataclass = answers.PartKind


class StockSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Stock


class MachineSerializer(serializers.Serializer[Any]):
    cuts_spokes = serializers.BooleanField()
