from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.urls import reverse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.report import services
from felloe.report.issued import REPORT_NAME, reports_language, signed_pdf, thinks_in_kgf
from felloe.report.render import PAPERS, html_of

LANGUAGE = OpenApiParameter("language", str, description="BCP 47; the customer's where nothing is said")


class ReportView(APIView):
    """The report as a page of its own, made for paper."""

    @operation("report", parameters=[LANGUAGE], responses={(200, "text/html"): OpenApiTypes.STR})
    def get(self, request: Request, job_id: UUID) -> HttpResponse:
        user = staff(request)
        language = reports_language(user, job_id, request.query_params.get("language", ""))
        address = reverse("report-pdf", args=[job_id])
        report = services.report_of(user, job_id, language)
        return HttpResponse(html_of(report, language, address, in_kgf=thinks_in_kgf(user)))


class ReportPdfView(APIView):
    @operation(
        "report_pdf",
        parameters=[
            OpenApiParameter("paper", str, enum=list(PAPERS), description="A4 where nothing is said"),
            LANGUAGE,
        ],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, job_id: UUID) -> HttpResponse:
        user = staff(request)
        language = reports_language(user, job_id, request.query_params.get("language", ""))
        data = signed_pdf(user, job_id, language, request.query_params.get("paper", "").lower())
        answer = HttpResponse(data, content_type="application/pdf")
        answer["Content-Disposition"] = f'inline; filename="{REPORT_NAME}"'
        answer["Cache-Control"] = "private, no-store"
        return answer
