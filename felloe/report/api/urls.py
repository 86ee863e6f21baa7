from django.urls import path

from felloe.report.api.views import ReportPdfView, ReportView

urlpatterns = [
    path("jobs/<uuid:job_id>/report", ReportView.as_view(), name="report"),
    path("jobs/<uuid:job_id>/report.pdf", ReportPdfView.as_view(), name="report-pdf"),
]
