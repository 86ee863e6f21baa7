"""What goes by itself once its time is over, by the shop's own times; run by the worker each night."""

from __future__ import annotations

from datetime import datetime, timedelta
from uuid import UUID

from django.contrib.sessions.models import Session
from django.db.models import Max, Q

from felloe.accounts.models import PinTry, Shop
from felloe.api.models import WriteKey
from felloe.customers.models import Customer
from felloe.links.models import LinkVisit, StrangeVisit
from felloe.messages.models import CaughtMail, Message
from felloe.places.here import atomic, database
from felloe.privacy.models import Consent
from felloe.privacy.services.consents import allows
from felloe.privacy.services.erasing import ERASED, GONE, _without_photos, erase_entries
from felloe.queue.models import Job, Photo

MONTH = timedelta(days=30.4)
#: What only machines need, and for how long.
KEYS, VISITS, CAUGHT, TRIES = timedelta(days=14), timedelta(days=400), timedelta(days=30), timedelta(days=2)


def retain(now: datetime) -> dict[str, int]:
    """Everything whose time is over, of every shop; returns how much of each went."""
    counts = {"photos": 0, "letters": 0, "customers": 0}
    for shop in Shop.objects.order_by("pk"):
        counts["photos"] += _photos(shop, now)
        counts["letters"] += _letters(shop, now)
        counts["customers"] += _customers(shop, now)
    counts["keys"] = WriteKey.objects.filter(created_at__lt=now - KEYS).delete()[0]
    counts["visits"] = LinkVisit.objects.filter(at__lt=now - VISITS).delete()[0]
    counts["strange"] = StrangeVisit.objects.filter(at__lt=now - TRIES).delete()[0]
    counts["caught"] = CaughtMail.objects.filter(at__lt=now - CAUGHT).delete()[0]
    counts["tries"] = PinTry.objects.filter(at__lt=now - TRIES).delete()[0]
    counts["sessions"] = Session.objects.filter(expire_date__lt=now).delete()[0]
    return counts


@atomic
def _photos(shop: Shop, now: datetime) -> int:
    """Photos of wheels that left long ago, unless their owner allows that they stay."""
    if not shop.keep_photos_months:
        return 0
    with database().cursor() as at:
        at.execute("SELECT set_config('felloe.erasing', 'on', true)")
    over = Photo.objects.filter(shop=shop, job__handed_back_at__lt=now - MONTH * shop.keep_photos_months)
    owners = Customer.objects.filter(pk__in=over.values("job__wheel__bike__customer"))
    stay = [owner.pk for owner in owners if allows(owner, Consent.Purpose.PHOTOS)]
    gone = _without_photos(over.exclude(job__wheel__bike__customer__in=stay))
    with database().cursor() as at:
        at.execute("SELECT set_config('felloe.erasing', '', true)")
    return gone


def _letters(shop: Shop, now: datetime) -> int:
    if not shop.keep_letters_months:
        return 0
    over = Message.objects.filter(shop=shop, created_at__lt=now - MONTH * shop.keep_letters_months).exclude(text=GONE)
    return over.update(to="erased@invalid.invalid", subject=GONE, text=GONE)


def _customers(shop: Shop, now: datetime) -> int:
    """Customers who were not here for so long, one transaction each: one that fails keeps no other back."""
    if not shop.keep_customers_months:
        return 0
    since = now - MONTH * shop.keep_customers_months
    quiet = (
        Customer.objects.filter(shop=shop, merged_into=None, changed_at__lt=since)
        .exclude(name=ERASED)
        .annotate(left=Max("bikes__wheels__jobs__handed_back_at"), opened=Max("bikes__wheels__jobs__created_at"))
        .filter(Q(left__lt=since, opened__lt=since) | Q(opened=None))
    )
    count = 0
    for key in list(quiet.values_list("pk", flat=True)):
        count += _erased(key)
    return count


@atomic
def _erased(key: UUID) -> int:
    customer = Customer.objects.select_for_update().get(pk=key)
    here = Job.objects.filter(wheel__bike__customer=customer, handed_back_at=None).exists()
    if here or customer.name == ERASED or allows(customer, Consent.Purpose.NAME):
        return 0
    erase_entries(customer, None)
    return 1
