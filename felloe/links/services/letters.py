"""A letter to a customer: about which job, in which language, and the ways to send it."""

from __future__ import annotations

from typing import Any
from urllib.parse import quote
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.language import spoken_to_customer
from felloe.api.writing import day, language_of, money
from felloe.calendar.services import shop_calendar
from felloe.core.letters import ASK, READY, About, letter, status_words
from felloe.core.money.consent import TIER_PLAIN
from felloe.core.said import joined, told
from felloe.links import answers
from felloe.links.models import CustomerLink
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair.services import decisions, payments


def about_of(user: User, job: Job, language: str, link: CustomerLink | None, address: str) -> About:
    """Everything that a letter or a page about a job may say."""
    shop = user.shop
    zone = shop_calendar(shop).zone
    asked = link.asked if link is not None else {}
    account = payments.account_of(user, job.pk)
    return About(
        shop=shop.name,
        phone=shop.phone,
        name=job.wheel.bike.customer.name,
        number=job.number,
        bike=job.wheel.bike.label,
        what=joined(", ", told(asked["names"])) if asked else "",
        price=money(asked["gross_minor"], asked["currency"], language) if asked else "",
        tier_plain=_tier_plain(asked),
        ready="" if job.ready_at or job.handed_back_at else day(job.promised_at, zone, language),
        warning=asked.get("warning", ""),
        link=address,
        status=status_words(job.stage, job.waiting_on, job.ready_at is not None, job.ended_as),
        own_words=shop.letter_texts.get(language, ""),
        unsafe=bool(decisions.unsafe_now(user, job)) and not job.handed_back_at,
        open_price=money(account.open_minor, account.currency, language) if account.open_minor > 0 else "",
    )


def _tier_plain(asked: dict[str, Any]) -> str:
    """What the tier means, as it was asked; questions of before said it by the tier's name alone."""
    if "tier_plain" in asked:
        found: str = told(asked["tier_plain"])
        return found
    return TIER_PLAIN.get(asked.get("tier", ""), "")


def letter_of(user: User, job_id: UUID, kind: str, link: CustomerLink | None = None, address: str = "") -> answers.Letter:
    """A letter in the customer's language. A question needs the link that holds what is asked."""
    job = queue.find_job(user, job_id)
    customer = job.wheel.bike.customer
    language = language_of(customer.language)
    about = about_of(user, job, language, link if kind == ASK else None, address)
    made = letter(kind, about)
    subject = str(spoken_to_customer(made.subject, language))
    text = "\n".join(str(spoken_to_customer(line, language)) for line in made.lines)
    phone = "".join(ch for ch in customer.phone if ch.isdigit() or ch == "+")
    return answers.Letter(
        kind=kind,
        language=language,
        letter_subject=subject,
        letter_text=text,
        phone=customer.phone,
        email=customer.email,
        tel=f"tel:{phone}" if phone else "",
        sms=f"sms:{phone}?body={quote(text)}" if phone else "",
        mailto=f"mailto:{quote(customer.email)}?subject={quote(subject)}&body={quote(text)}" if customer.email else "",
        prefers=customer.prefers,
    )


__all__ = ["READY", "about_of", "letter_of"]
