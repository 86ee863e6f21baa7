from __future__ import annotations

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.numbers import answers, services
from felloe.repair.api.serializers import DaysSerializer


class NumbersSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Numbers


class NumbersView(APIView):
    @operation("numbers", may_lag=True, parameters=[DaysSerializer], responses=NumbersSerializer)
    def get(self, request: Request) -> Response:
        asked = checked(DaysSerializer, request.query_params)
        return Response(NumbersSerializer(services.numbers_of(staff(request), **asked)).data)


class NumbersFileView(APIView):
    @operation("numbers_csv", may_lag=True, parameters=[DaysSerializer], responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request) -> HttpResponse:
        text = services.numbers_csv(staff(request), **checked(DaysSerializer, request.query_params))
        answer = HttpResponse(text, content_type="text/csv; charset=utf-8")
        answer["Content-Disposition"] = 'attachment; filename="numbers.csv"'
        return answer
