from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from django.urls import reverse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.language import asked_for
from felloe.records.services import wheel_records
from felloe.report import services
from felloe.report.render import PAPERS, html_of, pdf_of

LANGUAGE = "Accept-Language"


class ReportView(APIView):
    """The report as a page of its own, made for paper."""

    @operation("report", responses={(200, "text/html"): OpenApiTypes.STR})
    def get(self, request: Request, job_id: UUID) -> HttpResponse:
        report = services.report_of(staff(request), job_id)
        address = reverse("report-pdf", args=[job_id])
        return HttpResponse(html_of(report, asked_for(request.headers.get(LANGUAGE, "")), address))


class ReportPdfView(APIView):
    @operation(
        "report_pdf",
        parameters=[OpenApiParameter("paper", str, enum=list(PAPERS), description="A4 where nothing is said")],
        responses={(200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, job_id: UUID) -> HttpResponse:
        user = staff(request)
        report = services.report_of(user, job_id)
        paper = request.query_params.get("paper", "a4").lower()
        data = pdf_of(
            report,
            wheel_records.export_record(user, job_id),
            asked_for(request.headers.get(LANGUAGE, "")),
            paper if paper in PAPERS else "a4",
        )
        answer = HttpResponse(data, content_type="application/pdf")
        answer["Content-Disposition"] = f'inline; filename="wheel-{report.number}.pdf"'
        answer["Cache-Control"] = "private, no-store"
        return answer
