"""Quotes: what is chosen line by line, what the shop adds to it by hand, what each tier would cost."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any
from uuid import UUID

from django.conf import settings

from felloe.accounts.models import Shop, User
from felloe.api import writing
from felloe.api.language import ENGLISH
from felloe.api.problems import Refused, StaleWrite, refused_at
from felloe.calendar.services import shop_calendar
from felloe.core.decision.options import Case, repair_options
from felloe.core.decision.prices import PriceList
from felloe.core.money.consent import Asked, consent_digits, consent_words, plain_words
from felloe.core.money.quote import BinPart, Extra, Quote, QuoteLine, checked_extras, quote
from felloe.core.money.tax import Amounts, Tax
from felloe.core.said import joined, say, told
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair import answers
from felloe.repair.models import Decision, JobQuote
from felloe.repair.services.agreed import newest_decision, why_not_standing
from felloe.stock import services as stock


def tax_of(shop: Shop) -> Tax:
    return Tax(shop.tax_basis_points, shop.tax_included)


def made_quote(shop: Shop, job: Job, case: Case, chosen: Sequence[str]) -> Quote:
    """The quote of what is chosen, as of now."""
    return _quote(shop, case, chosen, picked_for(job), extras_of(job)[1])


def picked_for(job: Job) -> list[BinPart]:
    """What is set aside for a job, at its bins' prices."""
    return [BinPart(part.kind, part.name, count, part.price_minor) for part, count in stock.set_aside_for(job)]


def _quote(shop: Shop, case: Case, chosen: Sequence[str], picked: list[BinPart], extras: list[Extra]) -> Quote:
    prices = PriceList(shop.prices_minor)
    by_key = {option.key: option for option in repair_options(case, prices)}
    return quote([by_key[key] for key in chosen if key in by_key], prices, picked, extras, tax_of(shop))


def frozen_quote(asked: dict[str, Any]) -> Quote:
    """A quote as it was asked of the customer."""
    gross, tax = asked["gross_minor"], asked["tax_minor"]
    return Quote(tuple(QuoteLine(**told(line)) for line in asked["lines"]), Amounts(gross - tax, tax, gross))


def extras_of(job: Job) -> tuple[int, list[Extra]]:
    """The version and the lines that were added by hand; version 0 where there never were any."""
    row = JobQuote.objects.filter(job=job).first()
    return (row.version, [Extra(**line) for line in row.extras]) if row is not None else (0, [])


def digits_of(shop: Shop, job: Job, made: Quote) -> str:
    """The three digits of exactly this quote."""
    gross = made.amounts.gross_minor if made.amounts else None
    return consent_digits(
        settings.SECRET_KEY.encode(),
        shop.pk,
        job.pk,
        job.tier,
        job.tolerance.figures,
        gross,
        extras_of(job)[0],
        job.promised_at,
    )


def tier_plain(job: Job) -> str:
    """What the job's tier means, to its customer: in the shop's own words where it has some."""
    return plain_words(job.tolerance, queue.plain_of(job.shop_id, job.tier))


def words_of(shop: Shop, job: Job, made: Quote, warning: str, by_phone: bool = True) -> list[str]:
    """What is said to the customer before they agree; on the telephone they repeat three digits at its end."""
    assert made.amounts is not None
    zone = shop_calendar(shop).zone
    return consent_words(
        Asked(
            shop=shop.name,
            number=job.number,
            bike=job.wheel.bike.label,
            what=joined(", ", [line.what for line in made.lines if line.kind != "parts"]),
            price=writing.money(made.amounts.gross_minor, shop.currency, ENGLISH),
            tier_plain=tier_plain(job),
            ready=writing.day(job.promised_at, zone, ENGLISH),
            warning=warning,
            digits=digits_of(shop, job, made) if by_phone else "",
        )
    )


def check_agreed(shop: Shop, job: Job, made: Quote, values: dict[str, Any]) -> None:
    """What the customer was told is what is kept: the price that was shown, and by telephone the digits they repeated."""
    assert made.amounts is not None
    told = values.get("told_minor")
    if told is not None and told != made.amounts.gross_minor:
        raise Refused("price_changed", say("The price has changed meanwhile: tell the customer the new one."), 409)
    digits = "".join(str(values.get("digits", "")).split())
    if values["how"] != Decision.How.PHONE or digits == digits_of(shop, job, made):
        return
    if not digits:
        raise refused_at("digits", "digits_missing", say("Read the words out, and enter the three digits that they repeat."))
    raise refused_at("digits", "wrong_digits", say("These are not the digits of this quote: read them out again."))


def quote_of(user: User, job: Job, case: Case, chosen: Sequence[str], warning: str = "") -> answers.Quote:
    """The quote that the decision screen shows, beside what the same would cost at the other tiers."""
    version, extras = extras_of(job)
    picked = picked_for(job)
    made = _quote(user.shop, case, chosen, picked, extras)
    newest = newest_decision(job)
    tiers = []
    for name, tier in queue.tiers_in_use(job.shop_id).items():
        there = _quote(user.shop, replace(case, tier=tier), chosen, picked, extras)
        tiers.append(answers.TierPrice(tier=name, gross_minor=there.amounts.gross_minor if there.amounts else None))
    return answers.Quote(
        lines=list(made.lines),
        net_minor=made.amounts.net_minor if made.amounts else None,
        tax_minor=made.amounts.tax_minor if made.amounts else None,
        gross_minor=made.amounts.gross_minor if made.amounts else None,
        missing=list(made.missing),
        refusal=made.refusal,
        tax_basis_points=user.shop.tax_basis_points,
        currency=user.shop.currency,
        tiers=tiers,
        extras=extras,
        version=version,
        void=why_not_standing(newest, job.tolerance, version) if newest else "",
        words=words_of(user.shop, job, made, warning) if made.amounts else [],
    )


@atomic
def set_extras(user: User, job_id: UUID, version: int, extras: list[dict[str, Any]]) -> Job:
    """Replace what was added by hand; an approval of before is void with it, and the history says so."""
    job = queue.open_for_work(user, job_id, at_work=False)
    lines = checked_extras([Extra(line["name"], line["amount_minor"]) for line in extras])
    row, _ = JobQuote.objects.select_for_update().get_or_create(
        job=job, defaults={"shop_id": job.shop_id, "created_by": user, "version": 0}
    )
    if row.version != version:
        raise StaleWrite({"extras": extras, "version": version}, {"extras": row.extras, "version": row.version})
    new = [{"name": line.name.strip(), "amount_minor": line.amount_minor} for line in lines]
    if new == row.extras:
        return job
    row.extras = new
    row.save_change(user, ["extras"])
    named = joined(", ", [line.name.strip() for line in lines])
    queue.log(
        job, user, "quoted", say("added to the quote: {reason}", reason=named) if lines else say("quote without additions")
    )
    return job


def require_price(made: Quote) -> None:
    """No approval without a price."""
    if made.refusal:
        raise refused_at("chosen", "below_nothing", made.refusal)
    if made.amounts is None:
        what = joined(", ", made.missing)
        raise Refused(
            "no_price",
            say("No price is set for: {what}. Set it under Prices, then ask the customer.", what=what),
            422,
            errors=[{"field": "chosen", "message": say("has no price"), "code": "no_price"}],
        )
