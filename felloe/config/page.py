"""The built single page, rendered per request for its nonce and its CSRF cookie."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return render(request, "index.html")
