"""What happened at the counter: questions by link, letters, additions to a quote, money."""

from __future__ import annotations

from datetime import datetime, timedelta

from felloe.accounts.models import User
from felloe.demo.clock import demo_clock
from felloe.links import services as links
from felloe.messages.services import outbox
from felloe.queue.models import Job
from felloe.repair.models import Decision
from felloe.repair.services import decisions, payments, quotes
from felloe.repair.services.agreed import quote_version

HOST = "http://127.0.0.1:8460"


def load_counter(staff: dict[str, User], now: datetime) -> None:
    """Everything that the desk did in the last hours, by the services that the desk uses."""
    desk = staff["pip"]
    with demo_clock(now - timedelta(hours=3)):
        for job in _of(desk, "Ola Brix", "Wen Loveday"):
            _asked(desk, job)
    with demo_clock(now - timedelta(hours=1)):
        paid = Decision.objects.filter(shop_id=desk.shop_id, outcome="approved", job__ready_at__isnull=False).order_by(
            "job__number"
        )
        for i, decision in enumerate(paid[:3]):
            amount = decision.price_minor or 0
            payments.take_payment(
                desk, decision.job_id, {"amount_minor": amount if i else amount // 2, "how": "card", "note": ""}
            )
        ready = Job.objects.filter(shop_id=desk.shop_id, ready_at__isnull=False, handed_back_at=None).exclude(
            wheel__bike__customer__email=""
        )
        for job in ready.order_by("number")[:2]:
            outbox.write(desk, job.pk, "ready", None, HOST)


def _of(desk: User, *names: str) -> list[Job]:
    rows = Job.objects.filter(shop_id=desk.shop_id, handed_back_at=None, ready_at=None, wheel__bike__customer__name__in=names)
    return list(rows.order_by("number"))


def _asked(desk: User, job: Job) -> None:
    """The question by link, with something added by hand, and the letter that brings it."""
    if quote_version(job) == 0:
        quotes.set_extras(desk, job.pk, 0, [{"name": "Inner tube", "amount_minor": 750}])
    proposed = [option.key for option in decisions.options_of(desk, job.pk).options if option.proposed and not option.barred]
    link = links.ask_by_link(desk, job.pk, proposed or ["true"], "" if proposed else "It is not to be ridden as it is.")
    outbox.write(desk, job.pk, "ask", link.pk, HOST)
