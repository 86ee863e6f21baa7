from __future__ import annotations

from rest_framework import serializers

from felloe.customers.models import Bike, Customer


class BikeSerializer(serializers.ModelSerializer[Bike]):
    class Meta:
        model = Bike
        fields = ["id", "label", "brake", "use", "version"]
        read_only_fields = ["id", "version"]


class CustomerSerializer(serializers.ModelSerializer[Customer]):
    bikes = BikeSerializer(many=True, read_only=True)

    class Meta:
        model = Customer
        fields = ["id", "name", "phone", "email", "note", "version", "bikes"]
        read_only_fields = ["id", "version"]
