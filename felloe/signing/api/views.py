from __future__ import annotations

from typing import Any

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
from felloe.signing import answers, services
from felloe.signing.models import SigningKey


class SigningKeysSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Keys


class KeyChangeSerializer(serializers.Serializer[Any]):
    key = serializers.CharField(max_length=44, help_text="The key in use, as it was seen")
    key_ended = serializers.ChoiceField(choices=SigningKey.Ended.choices)


class SigningKeysView(APIView):
    @operation("signing_keys", responses=SigningKeysSerializer)
    def get(self, request: Request) -> Response:
        return Response(SigningKeysSerializer(services.keys_of(staff(request))).data)

    @operation("signing_key_change", request=KeyChangeSerializer, responses=SigningKeysSerializer)
    @write_once
    def post(self, request: Request) -> Response:
        found = services.change_key(staff(request), **checked(KeyChangeSerializer, request.data))
        return Response(SigningKeysSerializer(found).data)


class CheckingPageView(APIView):
    """The page that checks a report, as a file to keep and to give away."""

    @operation("checking_page", responses={(200, "text/html"): OpenApiTypes.STR})
    def get(self, request: Request) -> HttpResponse:
        answer = HttpResponse(services.checking_page(staff(request)), content_type="text/html; charset=utf-8")
        # Saved, not opened here: it brings a policy of its own, and is to work where this server is not.
        answer["Content-Disposition"] = 'attachment; filename="check-report.html"'
        answer["Cache-Control"] = "private, no-store"
        return answer
