from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.repair.api import serializers as s
from felloe.repair.services import decisions, payments, quotes


def _chosen(text: str) -> list[str]:
    return list(dict.fromkeys(key for key in text.split(",") if key))[:8]


class QuoteView(APIView):
    @operation("quote", parameters=[s.QuoteQuestionSerializer], responses=s.QuoteSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        asked = checked(s.QuoteQuestionSerializer, request.query_params)
        found = decisions.quote_now(staff(request), job_id, _chosen(asked["chosen"]), asked["warning"])
        return Response(s.QuoteSerializer(found).data)

    @operation("quote_extras", request=s.ExtrasSerializer, responses=s.QuoteSerializer)
    @write_once
    def put(self, request: Request, job_id: UUID) -> Response:
        quotes.set_extras(staff(request), job_id, **checked(s.ExtrasSerializer, request.data))
        return Response(s.QuoteSerializer(decisions.quote_now(staff(request), job_id, [])).data)


class AccountView(APIView):
    @operation("account", responses=s.AccountSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.AccountSerializer(payments.account_of(staff(request), job_id)).data)

    @operation("payment_add", request=s.PaymentInSerializer, responses=s.AccountSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        payments.take_payment(staff(request), job_id, checked(s.PaymentInSerializer, request.data))
        return Response(s.AccountSerializer(payments.account_of(staff(request), job_id)).data)


class LinesView(APIView):
    @operation("money_lines", parameters=[s.DaysSerializer], responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request) -> HttpResponse:
        text = payments.lines_csv(staff(request), **checked(s.DaysSerializer, request.query_params))
        answer = HttpResponse(text, content_type="text/csv; charset=utf-8")
        answer["Content-Disposition"] = 'attachment; filename="lines.csv"'
        return answer
