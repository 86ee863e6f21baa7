from __future__ import annotations

from typing import Any

from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.trail import answers, services


class ChangedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Changed


class AskedSerializer(serializers.Serializer[Any]):
    of = serializers.ChoiceField(choices=list(services.TOPICS))
    row = serializers.UUIDField(required=False)

    def validate(self, attrs: Any) -> Any:
        if attrs["of"] != "settings" and "row" not in attrs:
            raise serializers.ValidationError({"row": "row"}, code="required")
        return attrs


class ChangesView(APIView):
    """Who changed what of a wheel, a part, a customer, a bike, or the shop's settings; newest first."""

    @operation(
        "changes",
        may_lag=True,
        parameters=[
            OpenApiParameter("of", str, enum=list(services.TOPICS), required=True),
            OpenApiParameter("row", OpenApiTypes.UUID, description="Which; not for settings"),
        ],
        responses=ChangedSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        asked = checked(AskedSerializer, request.query_params)
        found = services.changes_of(staff(request), asked["of"], asked.get("row"))
        return Response(ChangedSerializer(found, many=True).data)
