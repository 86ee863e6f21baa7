"""The shop's promises for any calendar (iCalendar, RFC 5545): wheels by tag and bike, and no customer's name."""

from __future__ import annotations

from base64 import urlsafe_b64decode, urlsafe_b64encode
from binascii import Error as BadBase64
from datetime import timedelta
from uuid import UUID

from django.conf import settings
from django.core import signing
from django.utils import timezone
from icalendar import Calendar, Event

from felloe.accounts import fence
from felloe.accounts.models import Shop, User
from felloe.core.said import say
from felloe.core.stages import STAGES, stage_index
from felloe.core.terms import term
from felloe.links import answers
from felloe.links.models import CalendarFeed
from felloe.places.here import atomic, found_at
from felloe.queue import services as queue
from felloe.queue.models import Job

SALT = "felloe.calendar"
#: How long fetching a wheel takes in a calendar, and how often calendars are asked to look again.
LASTS, AGAIN = timedelta(minutes=15), timedelta(minutes=15)


def token_of(feed: CalendarFeed) -> str:
    return signing.Signer(salt=SALT, sep=".").sign(urlsafe_b64encode(feed.pk.bytes).decode().rstrip("="))


def feed_of(user: User, host: str) -> answers.Feed:
    """The address in use; empty where there is none."""
    feed = CalendarFeed.objects.filter(shop=user.shop, ended_at=None).select_related("created_by").first()
    return _answer(feed, host)


def _answer(feed: CalendarFeed | None, host: str) -> answers.Feed:
    if feed is None:
        return answers.Feed(address="", since=None, by="")
    address = f"{(settings.FELLOE_ADDRESS or host).rstrip('/')}/calendar/{token_of(feed)}.ics"
    return answers.Feed(address, feed.created_at, feed.created_by.display_name if feed.created_by else "")


@atomic
def renew_feed(user: User, host: str, keep: bool) -> answers.Feed:
    """A new address, the one before it closed; without `keep` only closed."""
    Shop.objects.select_for_update().get(pk=user.shop_id)
    CalendarFeed.objects.filter(shop=user.shop, ended_at=None).update(ended_at=timezone.now(), ended_by=user)
    return _answer(CalendarFeed.objects.create(shop=user.shop, created_by=user) if keep else None, host)


def calendar_of(token: str) -> bytes | None:
    """The calendar of an address; None where it is none, or none any more."""
    try:
        name = signing.Signer(salt=SALT, sep=".").unsign(token)
        key = UUID(bytes=urlsafe_b64decode(name + "=="))
    except (signing.BadSignature, BadBase64, ValueError):
        return None
    feed = found_at(lambda: CalendarFeed.objects.filter(pk=key, ended_at=None).select_related("shop").first())
    if feed is None:
        return None
    with fence.within(feed.shop_id):
        return _calendar(feed.shop)


def _calendar(shop: Shop) -> bytes:
    calendar = Calendar()
    calendar.add("prodid", "-//Felloe//Promises//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", shop.name)
    calendar.add("refresh-interval", AGAIN, parameters={"VALUE": "DURATION"})
    for job in queue.open_jobs(shop.pk):
        if job.promised_at is not None:
            calendar.add_component(_event(job))
    return bytes(calendar.to_ical())


def _event(job: Job) -> Event:
    event = Event()
    event.add("uid", f"{job.pk}@felloe")
    # A calendar that has an older one takes the one with the higher number.
    event.add("sequence", job.version)
    event.add("dtstamp", job.changed_at)
    event.add("dtstart", job.promised_at)
    event.add("duration", LASTS)
    wheel = say(
        "{number} {position} wheel, {bike}", number=job.number, position=term(job.wheel.position), bike=job.wheel.bike.label
    )
    event.add("summary", "".join([wheel]))
    stage = say("ready") if job.ready_at else STAGES[stage_index(job.stage)].name
    event.add("description", "".join([say("It stands at: {stage}.", stage=stage)]))
    if settings.FELLOE_ADDRESS:
        event.add("url", f"{settings.FELLOE_ADDRESS.rstrip('/')}/jobs/{job.pk}")
    return event
