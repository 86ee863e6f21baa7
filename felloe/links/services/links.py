"""Links: made, opened, answered, revoked. Nobody can guess one, and a question that changed is not answered."""

from __future__ import annotations

import hashlib
from base64 import urlsafe_b64decode, urlsafe_b64encode
from binascii import Error as BadBase64
from dataclasses import asdict, dataclass
from datetime import timedelta
from typing import Any
from uuid import UUID

from django.conf import settings
from django.core import signing
from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.api.writing import language_of
from felloe.core.letters import DO_NOT_RIDE
from felloe.core.money.quote import QuoteLine
from felloe.core.said import kept, say
from felloe.links import answers
from felloe.links.models import CustomerLink, LinkVisit, StrangeVisit
from felloe.places.here import atomic, found_at
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.repair.services import decisions
from felloe.repair.services.agreed import quote_version
from felloe.repair.services.quotes import tier_plain

SALT = "felloe.links"
OPEN, ANSWERED, EXPIRED, REVOKED = "open", "answered", "expired", "revoked"
USUAL_DAYS = 30
#: Within so long, so many openings and answers of one link, and so many addresses that are no link from one place.
WITHIN = timedelta(minutes=10)
MOST_SEEN, MOST_WRITTEN, MOST_STRANGE = 120, 12, 30


@dataclass(frozen=True)
class Question:
    """What a link asks, frozen."""

    chosen: list[str]
    names: list[str]
    lines: list[QuoteLine]
    gross_minor: int
    tax_minor: int
    tax_basis_points: int
    currency: str
    tier: str
    tier_figures: tuple[float, ...]
    tier_plain: str
    quote_version: int
    warning: str


class TooOften(Exception):
    """More than a person does."""


def token_of(link: CustomerLink) -> str:
    """The signed name of a link: who has not the server's key makes none, and the database holds none."""
    name = urlsafe_b64encode(link.pk.bytes).decode().rstrip("=")
    return signing.Signer(salt=SALT, sep=".").sign(name)


def address_of(link: CustomerLink, host: str) -> str:
    """Where the customer opens it: at the shop's own address, else at the one by which it was asked for."""
    return f"{(settings.FELLOE_ADDRESS or host).rstrip('/')}/w/{token_of(link)}"


def find_by_token(token: str, whence: str) -> CustomerLink | None:
    """The link of an address; None where it is none. Who tries many is sent away: TooOften."""
    try:
        name = signing.Signer(salt=SALT, sep=".").unsign(token)
        key = UUID(bytes=urlsafe_b64decode(name + "=="))
    except (signing.BadSignature, BadBase64, ValueError):
        place = hashlib.sha256(f"{settings.SECRET_KEY} {whence}".encode()).hexdigest()
        now = timezone.now()
        StrangeVisit.objects.filter(at__lt=now - WITHIN).delete()
        if StrangeVisit.objects.filter(whence=place).count() >= MOST_STRANGE:
            raise TooOften from None
        StrangeVisit.objects.create(whence=place, at=now)
        return None
    rows = CustomerLink.objects.select_related("job__wheel__bike__customer", "shop", "created_by", "decision")
    return found_at(lambda: rows.filter(pk=key).first())


def state_of(link: CustomerLink) -> str:
    if link.revoked_at is not None:
        return REVOKED
    if link.answered_at is not None:
        return ANSWERED
    return EXPIRED if link.expires_at <= timezone.now() else OPEN


def visit(link: CustomerLink, wrote: bool = False) -> None:
    """Count a visit; TooOften where there are more than a person makes."""
    now = timezone.now()
    recent = LinkVisit.objects.filter(link=link, at__gt=now - WITHIN)
    if recent.filter(wrote=wrote).count() >= (MOST_WRITTEN if wrote else MOST_SEEN):
        raise TooOften
    LinkVisit.objects.create(link=link, at=now, wrote=wrote)


@atomic
def ask_by_link(user: User, job_id: UUID, chosen: list[str], warning: str = "", days: int = USUAL_DAYS) -> CustomerLink:
    """A link for a job's customer: with what is chosen it asks for their word, without it shows how the wheel stands.

    A new question takes the place of those before it.
    """
    queue.find_job(user, job_id, lock=True)
    job = queue.find_job(user, job_id)
    asked: dict[str, Any] = {}
    if chosen:
        queue.open_for_work(user, job_id, at_work=False)
        asked = kept(asdict(_asked(user, job, list(dict.fromkeys(chosen)), warning.strip())))
        now = timezone.now()
        stale = CustomerLink.objects.filter(job=job, answered_at=None, revoked_at=None).exclude(asked={})
        stale.update(revoked_at=now, revoked_by=user)
    made = CustomerLink.objects.create(
        shop_id=user.shop_id,
        job=job,
        language=language_of(job.wheel.bike.customer.language),
        asked=asked,
        expires_at=timezone.now() + timedelta(days=days),
        created_by=user,
    )
    queue.log(job, user, "link_made", say("the customer's link, with the question") if asked else say("the customer's link"))
    if asked and job.waiting_on != Job.WaitingOn.CUSTOMER:
        queue.change_job(user, job.pk, job.version, {"waiting_on": Job.WaitingOn.CUSTOMER})
    return made


def _asked(user: User, job: Job, chosen: list[str], warning: str) -> Question:
    shown = decisions.options_of(user, job.pk)
    by_key = {option.key: option for option in shown.options}
    if any(key not in by_key for key in chosen):
        raise Refused("unknown_option", say("This was not among the options."), 422)
    if any(by_key[key].barred for key in chosen) and not warning:
        raise Refused("warning_needed", say("Write down the warning that the customer is given."), 422)
    made = decisions.quote_now(user, job.pk, chosen, warning)
    if made.gross_minor is None:
        raise Refused("no_price", made.refusal or say("Nothing is asked without a price: set it under Prices first."), 422)
    return Question(
        chosen=chosen,
        names=[by_key[key].name for key in chosen],
        lines=made.lines,
        gross_minor=made.gross_minor,
        tax_minor=made.tax_minor or 0,
        tax_basis_points=made.tax_basis_points,
        currency=made.currency,
        tier=job.tier,
        tier_figures=job.tolerance.figures,
        tier_plain=tier_plain(job),
        quote_version=made.version,
        warning=warning,
    )


def _same_tier(job: Job, asked: dict[str, Any]) -> bool:
    figures = asked.get("tier_figures")
    return job.tier == asked["tier"] and (figures is None or tuple(figures) == job.tolerance.figures)


@atomic
def answer(link_id: UUID, agrees: bool, by_whom: str) -> Decision:
    """The customer's word by their link: once, in time, and only to the question that still stands.

    Raises Refused "link_over" where the link is none any more, "link_changed" where what it asks has changed.
    """
    known = CustomerLink.objects.select_related("created_by").get(pk=link_id)
    if known.created_by is not None:
        # The job first, as everywhere: two hands wait for each other and never both.
        queue.find_job(known.created_by, known.job_id, lock=True)
    link = CustomerLink.objects.select_for_update(of=("self",)).select_related("created_by").get(pk=link_id)
    if not link.asked or state_of(link) != OPEN or link.created_by is None:
        raise Refused("link_over", say("This question is closed. Please call us."), 409)
    user = link.created_by
    job = queue.find_job(user, link.job_id)
    asked = link.asked
    if job.handed_back_at is not None or not _same_tier(job, asked) or quote_version(job) != asked["quote_version"]:
        raise Refused(
            "link_changed", say("What we propose has changed since. Please call us, or wait for our new question."), 409
        )
    values = {
        "outcome": Decision.Outcome.APPROVED if agrees else Decision.Outcome.REFUSED,
        "chosen": asked["chosen"],
        "by_whom": by_whom,
        "how": Decision.How.LINK,
        # Who says no to a wheel that is unsafe has read so on the page.
        "warning": asked["warning"] or ("" if agrees or not decisions.unsafe_now(user, job) else DO_NOT_RIDE),
        # What was asked holds, whatever the price list or the usual minutes have become meanwhile.
        "frozen": asked,
    }
    try:
        made = decisions.decide(user, job.pk, values)
    except Refused as refused:
        if refused.code in ("price_changed", "options_changed", "unknown_option", "warning_needed", "no_price"):
            raise Refused(
                "link_changed", say("What we propose has changed since. Please call us, or wait for our new question."), 409
            ) from refused
        raise
    link.answered_at, link.decision = made.created_at, made
    link.save(update_fields=["answered_at", "decision"])
    return made


@atomic
def revoke(user: User, link_id: UUID) -> CustomerLink:
    link = CustomerLink.objects.select_for_update().filter(shop_id=user.shop_id, pk=link_id).first()
    if link is None:
        raise Http404
    if link.revoked_at is None and link.answered_at is None:
        link.revoked_at, link.revoked_by = timezone.now(), user
        link.save(update_fields=["revoked_at", "revoked_by"])
        queue.log(link.job, user, "link_revoked", say("the customer's link is closed"))
    return link


def links_of(user: User, job_id: UUID, host: str) -> list[answers.Link]:
    job = queue.find_job(user, job_id)
    rows = CustomerLink.objects.filter(job=job).select_related("created_by").prefetch_related("visits").order_by("-created_at")
    found = []
    for link in rows:
        state = state_of(link)
        visits = sorted(link.visits.all(), key=lambda visit: visit.at)
        found.append(
            answers.Link(
                id=link.pk,
                asks=bool(link.asked),
                state=state,
                address=address_of(link, host) if state in (OPEN, ANSWERED) else "",
                language=link.language,
                expires_at=link.expires_at,
                seen=len(visits),
                seen_at=visits[-1].at if visits else None,
                by=link.created_by.display_name if link.created_by else "",
                created_at=link.created_at,
            )
        )
    return found
