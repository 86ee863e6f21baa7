"""What the shop keeps beside its jobs: patterns, what customers allow, its key, its calendar."""

from __future__ import annotations

from datetime import datetime, timedelta

from felloe.accounts.models import User
from felloe.customers.models import Customer
from felloe.demo.clock import demo_clock
from felloe.demo.counter import HOST
from felloe.links.services.feeds import renew_feed
from felloe.privacy.services import set_consent
from felloe.queue.models import Job
from felloe.signing.services import signer_of
from felloe.wheels.services.patterns import keep_pattern

#: Bike, end, what the pattern is called, its tier, what to mind.
PATTERNS = (
    ("Fleet bike N11", "rear", "District nurses, rear", "sound", "Brass nipples; the hub takes 30 N·m on both nuts."),
    ("Loan track bike 12", "rear", "Velodrome loan, rear", "fine", "No grease on the spoke heads: the club asks for it."),
)
CONSENTS = (("Maud Penhale", "photos", True), ("Hetty Vane", "photos", False), ("Wen Loveday", "name", True))


def load_record(staff: dict[str, User], now: datetime) -> None:
    """By the services that the shop uses."""
    odile = staff["odile"]
    with demo_clock(now - timedelta(days=30)):
        signer_of(odile)
        renew_feed(odile, HOST, keep=True)
        for bike, position, name, tier, note in PATTERNS:
            jobs = Job.objects.filter(shop=odile.shop, wheel__bike__label=bike, wheel__position=position)
            job = jobs.order_by("number").first()
            if job is not None:
                keep_pattern(odile, job.wheel_id, {"name": name, "note": note, "tier": tier})
        for customer, purpose, given in CONSENTS:
            found = Customer.objects.filter(shop=odile.shop, name=customer).first()
            if found is not None:
                set_consent(staff["pip"], found.pk, purpose, given)
