"""The built single page, rendered per request for its nonce and its CSRF cookie."""

from pathlib import Path
from urllib.parse import urlsplit

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@never_cache
def service_worker(request: HttpRequest) -> HttpResponse:
    """What keeps the application on the tablet. It stands at the root, since it is heard only for what lies below it."""
    built = Path(settings.WEB_DIST) / "sw.js"
    if not built.exists():
        raise Http404
    return HttpResponse(built.read_bytes(), content_type="text/javascript")


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    response = render(request, "index.html")
    if settings.FELLOE_LIVE.startswith(":"):
        # The live process has a port of its own, and a policy cannot say "this host, another port".
        live = f"{request.scheme}://{urlsplit(f'//{request.get_host()}').hostname}{settings.FELLOE_LIVE}"
        response._csp_update = {"connect-src": [live]}  # type: ignore[attr-defined]
    return response
