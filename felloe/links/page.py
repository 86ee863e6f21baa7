"""The customer's page: plain HTML in their language, no script and no cookie. The address is the key."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods

from felloe.accounts import fence
from felloe.api.language import ENGLISH, spoken_to_customer
from felloe.api.problems import Refused
from felloe.api.writing import money
from felloe.core.letters import DO_NOT_RIDE, PAGE, question
from felloe.core.said import Said, told
from felloe.links import services
from felloe.links.models import CustomerLink
from felloe.links.services.feeds import calendar_of
from felloe.links.services.letters import about_of
from felloe.links.services.links import ANSWERED, OPEN, TooOften
from felloe.repair.models import Decision
from felloe.report.issued import REPORT_NAME, signed_pdf


# Whoever could forge a request would have to know the address, and who knows that may answer anyway.
@csrf_exempt
@never_cache
@require_http_methods(["GET", "HEAD", "POST"])
def customer_page(request: HttpRequest, token: str) -> HttpResponse:
    return _by_link(request, token, request.method == "POST", _page)


@never_cache
@require_http_methods(["GET", "HEAD"])
def customer_report(request: HttpRequest, token: str) -> HttpResponse:
    """The report of a wheel that was handed back, by its customer's link."""
    # A PDF takes the server longer than a page, so that it counts as an answer does.
    return _by_link(request, token, True, _report)


Shown = Callable[[HttpRequest, CustomerLink, str, bool], HttpResponse]


def _by_link(request: HttpRequest, token: str, heavy: bool, shown: Shown) -> HttpResponse:
    """What a link shows, in the fence of its shop; `heavy` looks are counted as answers are."""
    # Who is signed in here works here: a look of theirs is not the customer's, and an answer even less.
    ours = request.user.is_authenticated
    try:
        link = services.find_by_token(token, request.META.get("REMOTE_ADDR", ""))
        if link is None:
            return _shown(request, {"said": "unknown"}, status=404)
        with fence.within(link.shop_id):
            if not ours:
                services.visit(link, wrote=heavy)
            over = link.created_by is None or link.shop.suspended_at is not None
            if over or services.state_of(link) not in (OPEN, ANSWERED):
                return _over(request, link)
            return shown(request, link, token, ours)
    except TooOften:
        return _shown(request, {"said": "often"}, status=429)


def _over(request: HttpRequest, link: CustomerLink) -> HttpResponse:
    return _shown(request, {"said": "over", "phone": link.shop.phone, "shop": link.shop.name}, link.language, 410)


def _page(request: HttpRequest, link: CustomerLink, token: str, ours: bool) -> HttpResponse:
    if ours:
        return _read(request, link, token, "ours", 403 if request.method == "POST" else 200)
    return _answered(request, link, token) if request.method == "POST" else _read(request, link, token)


def _report(request: HttpRequest, link: CustomerLink, _token: str, _ours: bool) -> HttpResponse:
    assert link.created_by is not None
    if link.job.handed_back_at is None:
        return _over(request, link)
    answer = HttpResponse(signed_pdf(link.created_by, link.job_id, link.language), content_type="application/pdf")
    answer["Content-Disposition"] = f'attachment; filename="{REPORT_NAME}"'
    answer["Referrer-Policy"] = "no-referrer"
    answer["X-Robots-Tag"] = "noindex, nofollow"
    return answer


@never_cache
@require_http_methods(["GET", "HEAD"])
def calendar_page(request: HttpRequest, token: str) -> HttpResponse:
    """The shop's promises, for calendars that ask every now and then."""
    data = calendar_of(token)
    if data is None:
        return HttpResponse("There is no calendar here.", content_type="text/plain", status=404)
    return HttpResponse(data, content_type="text/calendar; charset=utf-8")


def _answered(request: HttpRequest, link: CustomerLink, token: str) -> HttpResponse:
    name = " ".join(request.POST.get("name", "").replace("\0", "").split())[:120]
    answer = request.POST.get("answer")
    if not name or answer not in ("agree", "decline"):
        return _read(request, link, token, "who", 422)
    try:
        services.answer(link.pk, answer == "agree", name)
    except Refused as refused:
        return _read(request, link, token, "changed" if refused.code == "link_changed" else "over", refused.status)
    return redirect("customer", token=token)


def _read(request: HttpRequest, link: CustomerLink, token: str, problem: str = "", status: int = 200) -> HttpResponse:
    assert link.created_by is not None
    about = about_of(link.created_by, link.job, link.language, link, "")
    asked = link.asked
    currency = asked.get("currency", "")
    answered = link.decision
    outcome = ""
    if answered is not None:
        outcome = "agreed" if answered.outcome == Decision.Outcome.APPROVED else "declined"
    lines = [
        {"what": told(line["what"]), "amount": money(line["total_minor"], currency, link.language)}
        for line in asked.get("lines", [])
    ]
    return _shown(
        request,
        {
            "shop": about.shop,
            "phone": about.phone,
            "own_words": about.own_words.splitlines(),
            "number": about.number,
            "bike": about.bike,
            "status": about.status,
            "ready": "" if asked else about.ready,
            "do_not_ride": DO_NOT_RIDE if about.unsafe else "",
            "question": question(about) if asked else [],
            "lines": lines,
            "price": about.price,
            "tax": money(asked.get("tax_minor") or None, currency, link.language) if asked else "",
            # Their paper of what was done, once it is done; while it is worked on the page says how it stands.
            "report": reverse("customer-report", args=[token]) if link.job.handed_back_at else "",
            "open": bool(asked) and answered is None and problem not in ("changed", "over", "ours"),
            "outcome": outcome,
            "who": request.POST.get("name", "")[:120],
            "problem": problem,
        },
        link.language,
        status,
    )


def _shown(request: HttpRequest, given: dict[str, Any], language: str = ENGLISH, status: int = 200) -> HttpResponse:
    words = {key: str(spoken_to_customer(text, language)) for key, text in PAGE.items()}
    spoken = {key: _spoken(value, language) for key, value in given.items()}
    for key in ("said", "problem", "outcome"):
        spoken[key] = words.get(str(given.get(key, "")), "")
    context = {**spoken, "words": words, "language": language}
    answer = render(request, "links/customer.html", context, status=status)
    answer["Content-Language"] = language
    answer["Referrer-Policy"] = "no-referrer"
    answer["X-Robots-Tag"] = "noindex, nofollow"
    return answer


def _spoken(value: Any, language: str) -> Any:
    if isinstance(value, Said | list | dict):
        return spoken_to_customer(value, language)
    return value
