"""What was paid, what stands open, and the lines of a period for the shop's books."""

from __future__ import annotations

import csv
import io
from collections.abc import Collection, Iterator
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from typing import Any
from uuid import UUID

from django.db.models import Sum

from felloe.accounts.models import User
from felloe.api.problems import refused_at
from felloe.calendar.services import shop_calendar
from felloe.core.delimited import harmless
from felloe.core.money.quote import open_minor
from felloe.core.said import say, told
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.repair import answers
from felloe.repair.models import Decision, Payment
from felloe.repair.services.agreed import newest_decision

MOST_DAYS = 400
LINE_COLUMNS = (
    "agreed_on", "job", "customer", "bike", "tier", "line", "kind", "count", "unit", "total", "currency",
    "job_net", "job_tax", "job_gross", "job_paid", "ended_on", "ended_as",
)  # fmt: skip


def agreed_minor(decision: Decision | None) -> int | None:
    """What the customer owes by the newest approval; None where nothing is agreed."""
    return decision.price_minor if decision is not None and decision.outcome == Decision.Outcome.APPROVED else None


def account_of(user: User, job_id: UUID) -> answers.Account:
    """What was agreed, what came, what stands open."""
    job = queue.find_job(user, job_id)
    agreed = agreed_minor(newest_decision(job))
    rows = list(Payment.objects.filter(job=job).select_related("created_by").order_by("created_at"))
    return answers.Account(
        currency=user.shop.currency,
        agreed_minor=agreed,
        open_minor=open_minor(agreed, [row.amount_minor for row in rows]),
        payments=[
            answers.Payment(
                id=row.pk,
                amount_minor=row.amount_minor,
                how=row.how,
                note=row.note,
                by=row.created_by.display_name if row.created_by else "",
                created_at=row.created_at,
            )
            for row in rows
        ],
    )


@atomic
def take_payment(user: User, job_id: UUID, values: dict[str, Any]) -> None:
    """Note money that came or went back. Also after the wheel has left; never more back than came."""
    job = queue.find_job(user, job_id, lock=True)
    amount = values["amount_minor"]
    paid = Payment.objects.filter(job=job).aggregate(total=Sum("amount_minor"))["total"] or 0
    if amount == 0:
        raise refused_at("amount_minor", "nothing", say("An amount, not nothing."))
    if paid + amount < 0:
        raise refused_at("amount_minor", "more_than_paid", say("More than was paid cannot go back."))
    agreed = agreed_minor(newest_decision(job)) or 0
    if amount > 0 and paid + amount > agreed and not values.get("note", "").strip():
        raise refused_at("note", "more_than_open", say("That is more than stands open: say what it is for."))
    made = Payment.objects.create(
        shop_id=user.shop_id,
        job=job,
        amount_minor=amount,
        how=values["how"],
        note=values.get("note", "").strip(),
        created_by=user,
    )
    queue.log(
        job,
        user,
        "paid",
        say(
            "{how}: {currency} {amount}",
            how=Payment.How(made.how).label,
            currency=user.shop.currency,
            amount=str(units(amount)),
        ),
    )


def open_of(jobs: Collection[Job], agreed: dict[UUID, int | None]) -> dict[UUID, int]:
    """What stands open of many jobs, where anything was agreed."""
    paid = dict(Payment.objects.filter(job__in=jobs).values_list("job_id").annotate(total=Sum("amount_minor")))
    return {job.pk: (agreed[job.pk] or 0) - (paid.get(job.pk) or 0) for job in jobs if agreed.get(job.pk) is not None}


def days(user: User, since: date, until: date) -> tuple[datetime, datetime]:
    """The first moment of `since` and the first after `until`, in the shop's time."""
    if until < since:
        raise refused_at("until", "before_since", say("The last day lies before the first."))
    if (until - since).days > MOST_DAYS:
        raise refused_at("until", "too_long", say("At most {days} days at once.", days=MOST_DAYS))
    zone = shop_calendar(user.shop).zone
    return (
        datetime.combine(since, time(), tzinfo=zone),
        datetime.combine(until + timedelta(days=1), time(), tzinfo=zone),
    )


def lines_csv(user: User, since: date, until: date) -> str:
    """The lines of what was agreed within the days, the newest word of each job, as the shop's books take them."""
    start, end = days(user, since, until)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(LINE_COLUMNS)
    for row in _lines(user, start, end):
        writer.writerow([harmless(cell) if isinstance(cell, str) else cell for cell in row])
    return out.getvalue()


def _lines(user: User, start: datetime, end: datetime) -> Iterator[list[Any]]:
    zone = shop_calendar(user.shop).zone
    newest = Decision.objects.filter(shop_id=user.shop_id).order_by("job_id", "-created_at").distinct("job_id").values("pk")
    rows = (
        Decision.objects.filter(pk__in=newest, outcome=Decision.Outcome.APPROVED, created_at__gte=start, created_at__lt=end)
        .select_related("job", "job__wheel__bike__customer")
        .order_by("created_at", "pk")
    )
    paid = dict(
        Payment.objects.filter(job__decisions__in=rows)
        .values_list("job_id")
        .annotate(total=Sum("amount_minor", distinct=False))
    )
    for decision in rows:
        job = decision.job
        ended = job.handed_back_at.astimezone(zone).date().isoformat() if job.handed_back_at else ""
        for line in decision.lines or [
            {"kind": "", "what": "", "count": 1, "unit_minor": None, "total_minor": decision.price_minor}
        ]:
            yield [
                decision.created_at.astimezone(zone).date().isoformat(),
                job.number,
                job.wheel.bike.customer.name,
                job.wheel.bike.label,
                decision.tier,
                told(line["what"]),
                line["kind"],
                line["count"],
                units(line["unit_minor"]),
                units(line["total_minor"]),
                decision.currency or user.shop.currency,
                units(decision.net_minor),
                units(decision.tax_minor),
                units(decision.price_minor),
                units(paid.get(job.pk, 0)),
                ended,
                job.ended_as,
            ]


def units(minor: int | None) -> Decimal | str:
    """Whole units with two places, as a number: a spreadsheet adds it up, and a minus makes no formula of it."""
    return "" if minor is None else Decimal(minor).scaleb(-2)
