from __future__ import annotations

from typing import Any, cast
from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.portable import answers, services
from felloe.portable.services.opened import MOST_BYTES

ZIP = {(200, "application/zip"): OpenApiTypes.BINARY}


class TakenInSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.TakenIn


class UnderwaySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Underway


class SentToSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.SentTo


class SendSerializer(serializers.Serializer[Any]):
    """`keep` False only says what it would bring there."""

    branch = serializers.UUIDField()
    keep = serializers.BooleanField(default=False)


class UnderwayQuerySerializer(serializers.Serializer[Any]):
    underway = serializers.UUIDField()


class BundleQuerySerializer(serializers.Serializer[Any]):
    underway = serializers.UUIDField(required=False)
    keep = serializers.BooleanField(required=False, default=False)
    customer = serializers.UUIDField(required=False)


class ZipParser(BaseParser):
    """The raw bytes of a zip, one byte past the limit at most."""

    media_type = "application/zip"

    def parse(self, stream: object, media_type: str | None = None, parser_context: object = None) -> dict[str, bytes]:
        return {"file": stream.read(MOST_BYTES + 1)}  # type: ignore[attr-defined]


def _file(data: bytes, name: str) -> HttpResponse:
    answer = HttpResponse(data, content_type="application/zip")
    answer["Content-Disposition"] = f'attachment; filename="{name}"'
    answer["Cache-Control"] = "private, no-store"
    return answer


class WheelBundleView(APIView):
    @operation("bundle_wheel", may_lag=True, responses=ZIP)
    def get(self, request: Request, wheel_id: UUID) -> HttpResponse:
        return _file(services.wheel_bundle(staff(request), wheel_id), "wheel.zip")


class CustomerBundleView(APIView):
    @operation("bundle_customer", may_lag=True, responses=ZIP)
    def get(self, request: Request, customer_id: UUID) -> HttpResponse:
        return _file(services.customer_bundle(staff(request), customer_id), "customer.zip")


class ShopBundleView(APIView):
    @operation("bundle_shop", may_lag=True, responses=ZIP)
    def get(self, request: Request) -> HttpResponse:
        return _file(services.shop_bundle(staff(request)), "shop.zip")


class BundleInView(APIView):
    """Take a wheel or a customer in from another shop: first looked at, then all of it or nothing."""

    parser_classes = [ZipParser]

    @operation(
        "bundle_in",
        parameters=[
            OpenApiParameter("keep", bool, description="False: only say what it would bring"),
            OpenApiParameter("underway", OpenApiTypes.UUID, description="A name to ask by how far it has come"),
            OpenApiParameter("customer", OpenApiTypes.UUID, description="Whose the wheel is, for the bundle of a wheel"),
        ],
        request={"application/zip": OpenApiTypes.BINARY},
        responses=TakenInSerializer,
    )
    @write_once
    def post(self, request: Request) -> Response:
        asked = checked(BundleQuerySerializer, request.query_params)
        data = cast(dict[str, bytes], request.data).get("file", b"")
        found = services.take_in(staff(request), data, asked.get("customer"), asked["keep"], asked.get("underway"))
        return Response(TakenInSerializer(found).data)


class UnderwayView(APIView):
    """How far a taking in has come; nought of nought where none of that name is under way."""

    @operation(
        "bundle_underway",
        parameters=[OpenApiParameter("underway", OpenApiTypes.UUID, required=True)],
        responses=UnderwaySerializer,
    )
    def get(self, request: Request) -> Response:
        key = checked(UnderwayQuerySerializer, request.query_params)["underway"]
        return Response(UnderwaySerializer(services.how_far(staff(request), key)).data)


class CustomerSentView(APIView):
    """A customer's record to another shop of the same person."""

    @operation("customer_sent", responses=SentToSerializer(many=True))
    def get(self, request: Request, customer_id: UUID) -> Response:
        return Response(SentToSerializer(services.sent_of(staff(request), customer_id), many=True).data)

    @operation("customer_send", request=SendSerializer, responses=TakenInSerializer)
    @write_once
    def post(self, request: Request, customer_id: UUID) -> Response:
        values = checked(SendSerializer, request.data)
        found = services.send_customer(staff(request), customer_id, values["branch"], values["keep"])
        return Response(TakenInSerializer(found).data)
