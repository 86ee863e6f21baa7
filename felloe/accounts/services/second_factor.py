"""A code from one's own device besides the password: TOTP as RFC 6238 has it, by pyotp. Nobody has to; the owner ought to."""

from __future__ import annotations

import hashlib
import secrets
import time

from django.contrib.auth import user_login_failed
from django.http import Http404, HttpRequest
from django.utils import timezone
from django.utils.crypto import constant_time_compare

from felloe.accounts import answers
from felloe.accounts.models import SecondFactor, User
from felloe.api.problems import refused_at
from felloe.api.squares import rows_of
from felloe.api.vault import vault
from felloe.core.said import say
from felloe.places.here import atomic

PURPOSE = b"felloe second factors"
STEP_S = 30
#: Steps before and after now that count: a device's clock may be off by half a minute.
AROUND = (-1, 0, 1)
SPARE_CODES, SPARE_LETTERS = 8, "abcdefghjkmnpqrstuvwxyz23456789"


def is_on(person: User) -> bool:
    """Whether a code is asked for at sign-in."""
    return SecondFactor.objects.filter(person=person, confirmed_at__isnull=False).exists()


def spare_left(person: User) -> int:
    found = SecondFactor.objects.filter(person=person, confirmed_at__isnull=False).first()
    return len(found.spare_codes) if found else 0


@atomic
def begin(person: User) -> answers.NewFactor:
    """A new secret, which counts once a code of it was given. Refused where one counts already."""
    if is_on(person):
        raise refused_at("code", "factor_on", say("A code is asked for already: take that away first."))
    import pyotp

    secret = pyotp.random_base32()
    SecondFactor.objects.update_or_create(
        person=person,
        defaults={"sealed_secret": vault(PURPOSE).encrypt(secret.encode()), "last_step": 0, "spare_codes": []},
    )
    address = pyotp.TOTP(secret).provisioning_uri(name=f"{person.username} ({person.shop.name})", issuer_name="Felloe")
    return answers.NewFactor(secret=secret, address=address, rows=rows_of(address))


@atomic
def confirm(person: User, code: str) -> answers.SpareCodes:
    """The device shows the right code: from now on one is asked for. Returns the spare codes, which are shown once."""
    found = SecondFactor.objects.select_for_update().filter(person=person, confirmed_at=None).first()
    if found is None:
        raise Http404
    if not _by_device(found, code):
        raise refused_at("code", "code_wrong", say("This is not the code of now. Look at the clock of the device too."))
    codes = ["".join(secrets.choice(SPARE_LETTERS) for _ in range(12)) for _ in range(SPARE_CODES)]
    found.spare_codes = [_hashed(person, code) for code in codes]
    found.confirmed_at = timezone.now()
    found.save()
    return answers.SpareCodes(codes)


@atomic
def end(person: User) -> None:
    """Ask for no code any more."""
    SecondFactor.objects.filter(person=person).delete()


def prove(request: HttpRequest, person: User, code: str) -> None:
    """Raises Refused at the code where one is asked for and this is not it; a wrong one counts as a wrong password does."""
    if not is_on(person):
        return
    if not code.strip():
        raise refused_at("code", "code_needed", say("Type the code that your device shows, or a spare one."))
    if not is_right(person, code):
        tried = {"username": person.username, "shop": person.shop}
        user_login_failed.send(__name__, credentials=tried, request=request)
        raise refused_at("code", "code_wrong", say("This is not the code of now. Look at the clock of the device too."))


@atomic
def is_right(person: User, code: str) -> bool:
    """Whether this code opens; what opened once opens no second time."""
    found = SecondFactor.objects.select_for_update().get(person=person)
    if _by_device(found, code):
        found.save(update_fields=["last_step"])
        return True
    hashed = _hashed(person, code)
    left = [spare for spare in found.spare_codes if not constant_time_compare(spare, hashed)]
    if len(left) == len(found.spare_codes):
        return False
    found.spare_codes = left
    found.save(update_fields=["spare_codes"])
    return True


def _by_device(found: SecondFactor, code: str) -> bool:
    """Whether the device shows this code now; notes the step that it is of, unsaved."""
    # As in `vault`: not for every process.
    import pyotp
    from cryptography.fernet import InvalidToken

    try:
        totp = pyotp.TOTP(vault(PURPOSE).decrypt(bytes(found.sealed_secret)).decode())
    except InvalidToken:
        # Sealed under another secret: no code can be right, the spare ones still are.
        return False
    now = int(time.time()) // STEP_S
    for step in (now + around for around in AROUND):
        if step > found.last_step and constant_time_compare(totp.at(step * STEP_S), _plain(code)):
            found.last_step = step
            return True
    return False


def _plain(code: str) -> str:
    return "".join(code.split()).lower()


def _hashed(person: User, code: str) -> str:
    """Of 59 random bits, salted by the person; not by the installation's secret, so that a new one locks nobody out."""
    return hashlib.sha256(f"{person.pk}:{_plain(code)}".encode()).hexdigest()
