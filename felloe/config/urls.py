"""Addresses: the API under /api/v1/, everything else is the built page."""

from django.urls import URLPattern, URLResolver, include, path, re_path
from drf_spectacular.views import SpectacularAPIView

from felloe.config.health import health, metrics, ready
from felloe.config.page import page, service_worker
from felloe.links.page import calendar_page, customer_page, customer_report

api: list[URLPattern | URLResolver] = [
    path("", include("felloe.accounts.api.urls")),
    path("", include("felloe.customers.api.urls")),
    path("", include("felloe.wheels.api.urls")),
    path("", include("felloe.calendar.api.urls")),
    path("", include("felloe.queue.api.urls")),
    path("", include("felloe.condition.api.urls")),
    path("", include("felloe.instruments.api.urls")),
    path("", include("felloe.stock.api.urls")),
    path("", include("felloe.bench.api.urls")),
    path("", include("felloe.building.api.urls")),
    path("", include("felloe.repair.api.urls")),
    path("", include("felloe.promises.api.urls")),
    path("", include("felloe.records.api.urls")),
    path("", include("felloe.numbers.api.urls")),
    path("", include("felloe.links.api.urls")),
    path("", include("felloe.report.api.urls")),
    path("", include("felloe.signing.api.urls")),
    path("", include("felloe.portable.api.urls")),
    path("", include("felloe.privacy.api.urls")),
    path("", include("felloe.trail.api.urls")),
    path("", include("felloe.upkeep.api.urls")),
    path("", include("felloe.fleet.api.urls")),
    path("", include("felloe.practice.api.urls")),
    path("", include("felloe.messages.api.urls")),
    path("schema", SpectacularAPIView.as_view(), name="schema"),
]

handler404 = "felloe.api.problems.nothing_here"
handler500 = "felloe.api.problems.server_fault"

urlpatterns = [
    path("api/v1/", include(api)),
    path("health", health, name="health"),
    path("ready", ready, name="ready"),
    path("metrics", metrics, name="metrics"),
    path("sw.js", service_worker, name="service-worker"),
    path("w/<str:token>", customer_page, name="customer"),
    path("calendar/<str:token>.ics", calendar_page, name="calendar"),
    path("w/<str:token>/report.pdf", customer_report, name="customer-report"),
    re_path(r"^(?!api/|static/).*$", page, name="page"),
]
