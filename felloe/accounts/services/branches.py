"""One person in several shops: a name in each, proven once to be his; then a way from one to the other without a password."""

from __future__ import annotations

import uuid
from uuid import UUID

from django.contrib.auth import authenticate
from django.http import Http404, HttpRequest

from felloe.accounts import answers, fence
from felloe.accounts.models import Shop, User
from felloe.accounts.services import second_factor, sessions
from felloe.accounts.services.sign_in_tries import may_try
from felloe.api.problems import refused_at
from felloe.core.said import say
from felloe.places.here import atomic


def branches_of(user: User) -> list[answers.Branch]:
    """The other shops where this person works, by name."""
    with fence.beyond():
        return [
            answers.Branch(id=there.pk, shop=there.shop.name, username=there.username, role=there.role)
            for there in _elsewhere(user)
        ]


def _elsewhere(user: User) -> list[User]:
    if user.one_person is None:
        return []
    found = User.objects.filter(one_person=user.one_person, is_active=True, shop__suspended_at=None).exclude(pk=user.pk)
    return list(found.select_related("shop").order_by("shop__name", "username"))


def join(request: HttpRequest, user: User, shop: str, username: str, password: str, code: str) -> None:
    """This name and that one are one person: he proves it with the other's password, and its code where one is asked for.

    Raises Refused at the field; wrong tries count as at the sign-in.
    """
    with fence.beyond():
        meant = Shop.objects.filter(code=shop.strip().lower()).first()
        may_try(request, meant, username)
        there = authenticate(request, username=username, password=password, shop=meant)
        if not isinstance(there, User):
            raise refused_at("password", "sign_in_failed", say("Name and password do not go together. Try again."))
        if there.shop_id == user.shop_id:
            raise refused_at("shop", "same_shop", say("That is this shop."))
        second_factor.prove(request, there, code)
        with atomic():
            # In one order, so that two who join each other at once do not wait for each other.
            here, other = sorted(
                User.objects.select_for_update().filter(pk__in=[user.pk, there.pk]).order_by("pk"),
                key=lambda row: row.pk != user.pk,
            )
            one = here.one_person or other.one_person or uuid.uuid4()
            for row in (here, other):
                if row.one_person not in (None, one):
                    User.objects.filter(one_person=row.one_person).update(one_person=one)
                User.objects.filter(pk=row.pk).update(one_person=one)


def part(user: User) -> None:
    """This name is no more one with others."""
    User.objects.filter(pk=user.pk).update(one_person=None)


def go_to(request: HttpRequest, user: User, there_id: UUID) -> User:
    """The tablet goes on in another shop, as the same person. Raises Http404 where that name is not his."""
    with fence.beyond():
        there = next((row for row in _elsewhere(user) if row.pk == there_id), None)
        if there is None:
            raise Http404
        sessions.go_on_as(request, there)
        return there


def same_person(user: User, there_id: UUID) -> User:
    """The name of this person in another shop; for what moves between shops. Raises Http404."""
    with fence.beyond():
        there = next((row for row in _elsewhere(user) if row.pk == there_id), None)
    if there is None:
        raise Http404
    return there
