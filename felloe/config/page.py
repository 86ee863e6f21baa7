"""The built single page, rendered per request for its nonce and its CSRF cookie."""

from urllib.parse import urlsplit

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


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
