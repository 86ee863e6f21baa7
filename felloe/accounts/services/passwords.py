"""One's own password: changed by who knows it, set anew by who reads the letters of his address."""

from __future__ import annotations

from datetime import timedelta
from uuid import UUID

from django.conf import settings
from django.contrib.auth import authenticate
from django.contrib.auth.tokens import default_token_generator
from django.core.mail import EmailMessage
from django.http import HttpRequest
from django.utils import timezone

from felloe.accounts.models import PasswordLetter, Shop, User
from felloe.accounts.services import sessions
from felloe.accounts.services.sign_in_tries import may_try
from felloe.accounts.services.staff import set_password
from felloe.api.language import spoken_for
from felloe.api.problems import Refused, refused_at
from felloe.core.said import say
from felloe.places.here import at, atomic, found_at, places, settle

#: One letter to a person within so long, however often it is asked for.
BETWEEN_LETTERS = timedelta(minutes=10)


def prove(request: HttpRequest, user: User, password: str) -> None:
    """Raises Refused unless this is the person's password; wrong ones count as those at the sign-in do."""
    may_try(request, user.shop, user.username)
    if authenticate(request, username=user.username, password=password, shop=user.shop) is None:
        raise refused_at("password", "password_wrong", say("This is not your password."))


def change_password(request: HttpRequest, user: User, old: str, new: str) -> None:
    """A new password. All other sessions of the person end."""
    try:
        prove(request, user, old)
    except Refused as error:
        if error.code == "password_wrong":
            raise refused_at("old", "password_wrong", say("This is not your password.")) from None
        raise
    with atomic():
        person = User.objects.select_for_update().get(pk=user.pk)
        set_password(person, new, "new")
        person.save(update_fields=["password", "one_person"])
        sessions.end_all(person)
        sessions.begin(request, person, by_digits=False)


def set_address(user: User, email: str) -> User:
    """Where a letter for a new password goes."""
    user.email = email
    user.save(update_fields=["email"])
    return user


def send_letter(shop_code: str, username: str, language: str) -> None:
    """The letter with the way to a new password, where the name is somebody's who has said his address. Says nothing else."""
    person = User.objects.filter(shop__code=shop_code, username=username, is_active=True).exclude(email="").first()
    # Without the shop's address there is no link; what a request says of it is nobody's word.
    if person is None or not settings.FELLOE_ADDRESS:
        return
    now = timezone.now()
    _, first = PasswordLetter.objects.get_or_create(person=person, defaults={"at": now})
    again = PasswordLetter.objects.filter(person=person, at__lte=now - BETWEEN_LETTERS)
    if not first and not again.update(at=now):
        return
    token = default_token_generator.make_token(person)
    link = f"{settings.FELLOE_ADDRESS.rstrip('/')}/new-password/{person.pk}/{token}"
    said = say(
        "Somebody has asked for a new password for {name} at {shop}. Within an hour it can be set here:\n\n{link}\n\n"
        "If that was not you, do nothing: the old password stays.",
        name=person.username,
        shop=person.shop.name,
        link=link,
    )
    _send(person, say("A new password"), said, language)


def tell_of_change(person_id: UUID, language: str) -> None:
    """That the password is another one now."""
    person = User.objects.filter(pk=person_id).exclude(email="").first()
    if person is None:
        return
    said = say(
        "The password of {name} at {shop} was changed, and all other devices are signed out. If that was not you, tell the "
        "owner of the shop at once.",
        name=person.username,
        shop=person.shop.name,
    )
    _send(person, say("Your password was changed"), said, language)


def _send(person: User, subject: str, text: str, language: str) -> None:
    EmailMessage(
        subject=str(spoken_for(subject, language)),
        body=str(spoken_for(text, language)),
        from_email=settings.DEFAULT_FROM_EMAIL,
        to=[person.email],
        headers={"X-Felloe-Shop": str(person.shop_id)},
    ).send()


def set_anew(person_id: UUID, token: str, password: str) -> None:
    """By the letter's link: a new password, once. All sessions of the person end; a second factor stays."""
    person = found_at(lambda: User.objects.filter(pk=person_id, is_active=True).first())
    if person is None or not default_token_generator.check_token(person, token):
        raise Refused("link_over", say("This link was used already or is too old. Ask for another letter."), 422)
    with atomic():
        person = User.objects.select_for_update().get(pk=person.pk)
        if not default_token_generator.check_token(person, token):
            raise Refused("link_over", say("This link was used already or is too old. Ask for another letter."), 422)
        set_password(person, password)
        person.save(update_fields=["password", "one_person"])
        sessions.end_all(person)


def shop_meant(code: str) -> Shop | None:
    """The shop that somebody signs in to: the one said, else the only one there is. Refused where he has to say which."""
    if code.strip():
        return found_at(lambda: Shop.objects.filter(code=code.strip().lower()).first())
    only = []
    for name in places():
        with at(name):
            only += [(name, shop) for shop in Shop.objects.order_by("pk")[:2]]
    if len(only) > 1:
        raise refused_at("shop", "shop_needed", say("Say which shop: several work on this server."))
    if not only:
        return None
    settle(only[0][0])
    return only[0][1]
