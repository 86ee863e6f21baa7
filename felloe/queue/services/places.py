"""Stands and hooks of a shop."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import Http404

from felloe.accounts.models import Shop, User
from felloe.api.problems import Refused, StaleWrite, refused_at
from felloe.core.said import say
from felloe.places.here import atomic
from felloe.queue.models import Job, Place


def places_of(user: User) -> list[Place]:
    """Stands and hooks, those out of use last."""
    return list(Place.objects.filter(shop_id=user.shop_id).order_by("-in_use", "kind", "name"))


def find_place(user: User, place_id: UUID, kind: str) -> Place:
    """A stand or hook in use of this shop; 404 for another's."""
    found = Place.objects.filter(shop_id=user.shop_id, pk=place_id, kind=kind, in_use=True).first()
    if found is None:
        raise Http404
    return found


@atomic
def add_place(user: User, kind: str, name: str) -> Place:
    Shop.objects.select_for_update().get(pk=user.shop_id)
    name = _free(user, kind, name, None)
    return Place.objects.create(shop_id=user.shop_id, kind=kind, name=name, created_by=user, changed_by=user)


@atomic
def change_place(user: User, place_id: UUID, version: int, values: dict[str, Any]) -> Place:
    """Rename, or take out of use; a hook with a wheel on it stays."""
    Shop.objects.select_for_update().get(pk=user.shop_id)
    place = Place.objects.select_for_update().filter(shop_id=user.shop_id, pk=place_id).first()
    if place is None:
        raise Http404
    if place.version != version:
        raise StaleWrite({**values, "version": version}, {"name": place.name, "version": place.version})
    if "name" in values:
        place.name = _free(user, place.kind, values["name"], place)
    if values.get("in_use") is False:
        hanging = Job.objects.filter(hook=place, handed_back_at=None).order_by("number").first()
        if hanging is not None:
            raise Refused("in_use", say("Job {number} hangs there: hang it elsewhere first.", number=hanging.number), 409)
    place.in_use = values.get("in_use", place.in_use)
    place.save_change(user, ["name", "in_use"])
    return place


def _free(user: User, kind: str, name: str, but: Place | None) -> str:
    name = name.strip()
    taken = Place.objects.filter(shop_id=user.shop_id, kind=kind, name__iexact=name)
    if but is not None:
        taken = taken.exclude(pk=but.pk)
    if not name or taken.exists():
        why = say("Another one has that name already.") if name else say("Give it a name.")
        raise refused_at("name", "name_taken", why)
    return name
