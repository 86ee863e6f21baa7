from __future__ import annotations

from typing import Any

from rest_framework import serializers

from felloe.customers.models import Bike, Customer


class BikeSerializer(serializers.ModelSerializer[Bike]):
    class Meta:
        model = Bike
        fields = [
            "id", "label", "asset_number", "brake", "use", "dropout", "axle", "axle_torque_nm", "tyre", "directional",
            "version",
        ]  # fmt: skip
        read_only_fields = ["id", "version"]
        extra_kwargs = {"axle_torque_nm": {"min_value": 1, "max_value": 80}}


class BikeChangeSerializer(serializers.ModelSerializer[Bike]):
    version = serializers.IntegerField()

    class Meta:
        model = Bike
        fields = [
            "version",
            "label",
            "asset_number",
            "brake",
            "use",
            "dropout",
            "axle",
            "axle_torque_nm",
            "tyre",
            "directional",
        ]
        extra_kwargs = {name: {"required": False} for name in ("label", "brake")}


#: What is asked of a new customer.
CUSTOMER_FIELDS = ["name", "phone", "email", "prefers", "language", "note"]


class CustomerSerializer(serializers.ModelSerializer[Customer]):
    bikes = BikeSerializer(many=True, read_only=True)

    class Meta:
        model = Customer
        fields = ["id", *CUSTOMER_FIELDS, "version", "bikes"]
        read_only_fields = ["id", "version"]
        extra_kwargs = {"language": {"required": False}, "prefers": {"required": False}}


class CustomerChangeSerializer(serializers.ModelSerializer[Customer]):
    version = serializers.IntegerField()

    class Meta:
        model = Customer
        fields = ["version", *CUSTOMER_FIELDS]


class CustomerMergeSerializer(serializers.Serializer[Any]):
    into = serializers.UUIDField()
    version = serializers.IntegerField()
