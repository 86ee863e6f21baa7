"""Whether this process lives, and whether it can do a shop's work: for proxies, systemd and `bin/felloe status`."""

from __future__ import annotations

from django.conf import settings
from django.db import DatabaseError
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe
from prometheus_client import CONTENT_TYPE_LATEST, REGISTRY, CollectorRegistry, generate_latest
from prometheus_client.multiprocess import MultiProcessCollector

from felloe.config.observed import from_this_machine
from felloe.places.here import database
from felloe.upkeep.services.fits import migrations_state


@require_safe
@never_cache
def health(request: HttpRequest) -> HttpResponse:
    """The process answers; nothing else is asked."""
    return HttpResponse("alive\n", content_type="text/plain")


@require_safe
@never_cache
def ready(request: HttpRequest) -> JsonResponse:
    """The database answers and is as this version needs it; 503 with what is amiss otherwise."""
    found = {"database": "ready", "migrations": "ready"}
    try:
        with database().cursor() as cursor:
            cursor.execute("SELECT 1")
        found["migrations"] = migrations_state()
    except DatabaseError:
        found = {"database": "away", "migrations": "unknown"}
    return JsonResponse(found, status=200 if set(found.values()) == {"ready"} else 503)


@require_safe
@never_cache
def metrics(request: HttpRequest) -> HttpResponse:
    """Counts of all workers in Prometheus' text format; only for who asks from this machine and not through a proxy."""
    if not from_this_machine(request):
        raise Http404
    registry = REGISTRY
    if settings.FELLOE_METRICS_DIR:
        registry = CollectorRegistry()
        MultiProcessCollector(registry, path=settings.FELLOE_METRICS_DIR)  # type: ignore[no-untyped-call]
    return HttpResponse(generate_latest(registry), content_type=CONTENT_TYPE_LATEST)
