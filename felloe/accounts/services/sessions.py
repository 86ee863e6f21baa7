"""Where somebody is signed in: shown to him, and ended by him or by the owner."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.contrib.auth import login
from django.contrib.sessions.models import Session
from django.http import Http404, HttpRequest
from django.utils import timezone

from felloe.accounts import answers
from felloe.accounts.models import SignedIn, User
from felloe.accounts.services.sign_in_tries import address_of
from felloe.places.here import atomic

#: Where a session was begun by digits only: see `rights.FULL`.
BY_PIN = "felloe_by_pin"
#: When name and password were given last, and when the session was last noted as seen; seconds since 1970.
FULL_AT, SEEN_AT = "felloe_full_at", "felloe_seen_at"
#: For the shop's keys a password counts for so long (OWASP ASVS 4.0.3, 3.3.2: twelve hours at level 2).
FULL_FOR = timedelta(hours=12)
NOTED_EACH = timedelta(minutes=5)
BACKEND = "felloe.accounts.backend.ShopBackend"


@atomic
def begin(request: HttpRequest, person: User, by_digits: bool) -> None:
    """Start a session of one's own under a new key; one that was here before ends."""
    former = request.session.session_key
    login(request, person, backend=BACKEND)
    if former and former != request.session.session_key:
        _end([former])
    now = timezone.now()
    if by_digits:
        request.session[BY_PIN] = True
        request.session.pop(FULL_AT, None)
    else:
        # Also of one who was here by digits before.
        request.session.pop(BY_PIN, None)
    # It gets its key when it is kept first.
    request.session.save()
    SignedIn.objects.update_or_create(
        session_key=request.session.session_key,
        defaults={
            "person": person,
            "device": request.headers.get("User-Agent", "")[:200],
            "address": address_of(request),
            "by_digits": by_digits,
            "seen_at": now,
        },
    )


def go_on_as(request: HttpRequest, person: User) -> None:
    """The same person under another name: no password was given now, so that the last one counts on from when it was."""
    given = request.session.get(FULL_AT)
    begin(request, person, by_digits=False)
    request.session[FULL_AT] = given


def note_in_full(sender: Any, request: HttpRequest, **_more: Any) -> None:
    """Wherever somebody is let in, it is in full; `begin` takes that back for one who came by digits."""
    request.session[FULL_AT] = request.session[SEEN_AT] = timezone.now().timestamp()


def seen(session: Any) -> None:
    """Note, every few minutes at most, that a session is in use."""
    now = timezone.now()
    if now.timestamp() - float(session.get(SEEN_AT) or 0) < NOTED_EACH.total_seconds():
        return
    session[SEEN_AT] = now.timestamp()
    SignedIn.objects.filter(session_key=session.session_key).update(seen_at=now)


def lately_in_full(session: Any) -> bool:
    """Whether name and password were given here, and not too long ago."""
    return timezone.now().timestamp() - float(session.get(FULL_AT) or 0) < FULL_FOR.total_seconds()


def sessions_of(person: User, here: str | None) -> list[answers.SignedIn]:
    """Where somebody is signed in, last seen first; `here` is the key of the session that asks."""
    rows = list(SignedIn.objects.filter(person=person).order_by("-seen_at"))
    live = set(
        Session.objects.filter(session_key__in=[row.session_key for row in rows], expire_date__gt=timezone.now()).values_list(
            "session_key", flat=True
        )
    )
    return [
        answers.SignedIn(
            id=row.pk,
            device=row.device,
            address=row.address,
            by_digits=row.by_digits,
            began_at=row.began_at,
            seen_at=row.seen_at,
            here=row.session_key == here,
        )
        for row in rows
        if row.session_key in live
    ]


@atomic
def end_session(person: User, session_id: UUID) -> None:
    """End one of somebody's sessions; it counts as over with the next question that it asks."""
    row = SignedIn.objects.filter(person=person, pk=session_id).first()
    if row is None:
        raise Http404
    _end([row.session_key])


@atomic
def end_all(person: User, but: str | None = None) -> int:
    """End all of somebody's sessions, that of the key `but` excepted. Returns how many."""
    keys = list(SignedIn.objects.filter(person=person).exclude(session_key=but or "").values_list("session_key", flat=True))
    _end(keys)
    return len(keys)


def ended(session_key: str | None) -> None:
    """Somebody has signed out there himself."""
    _end([session_key or ""])


def _end(keys: list[str]) -> None:
    Session.objects.filter(session_key__in=keys).delete()
    SignedIn.objects.filter(session_key__in=keys).delete()


def forget_over(now: datetime) -> None:
    """What is over goes from both tables."""
    Session.objects.filter(expire_date__lt=now).delete()
    SignedIn.objects.exclude(session_key__in=Session.objects.values("session_key")).delete()
