from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.privacy import answers, services
from felloe.privacy.models import Consent


class ConsentStateSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ConsentState


class ErasureAheadSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ErasureAhead


class ConsentSetSerializer(serializers.Serializer[Any]):
    consent_to = serializers.ChoiceField(choices=Consent.Purpose.choices)
    given = serializers.BooleanField()


class EraseSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=120, help_text="The customer's name, typed again")


class ConsentsView(APIView):
    @operation("consents", responses=ConsentStateSerializer(many=True))
    def get(self, request: Request, customer_id: UUID) -> Response:
        return Response(ConsentStateSerializer(services.consents_of(staff(request), customer_id), many=True).data)

    @operation("consent_set", request=ConsentSetSerializer, responses=ConsentStateSerializer(many=True))
    @write_once
    def put(self, request: Request, customer_id: UUID) -> Response:
        values = checked(ConsentSetSerializer, request.data)
        found = services.set_consent(staff(request), customer_id, values["consent_to"], values["given"])
        return Response(ConsentStateSerializer(found, many=True).data)


class ErasureView(APIView):
    """A customer's data: what an erasure would reach, and erasing them for good."""

    @operation("erasure_look", responses=ErasureAheadSerializer)
    def get(self, request: Request, customer_id: UUID) -> Response:
        return Response(ErasureAheadSerializer(services.erasure_ahead(staff(request), customer_id)).data)

    @operation("erase", request=EraseSerializer, responses=ErasureAheadSerializer)
    @write_once
    def post(self, request: Request, customer_id: UUID) -> Response:
        values = checked(EraseSerializer, request.data)
        return Response(ErasureAheadSerializer(services.erase(staff(request), customer_id, values["name"])).data)


class OwnCopyView(APIView):
    """All that is kept of a customer, for themselves."""

    @operation("own_copy", may_lag=True, responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request, customer_id: UUID) -> HttpResponse:
        answer = HttpResponse(services.own_copy(staff(request), customer_id), content_type="application/zip")
        answer["Content-Disposition"] = 'attachment; filename="customer-copy.zip"'
        answer["Cache-Control"] = "private, no-store"
        return answer
