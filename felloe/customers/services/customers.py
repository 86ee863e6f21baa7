"""Customers and bikes: finding and making them."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.db.models import Prefetch, Q
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused, StaleWrite
from felloe.core.said import say
from felloe.customers.models import Bike, Customer
from felloe.places.here import atomic


def search(user: User, text: str) -> list[Customer]:
    """Up to 20 customers of the shop whose name, phone or bike fits `text`, by name."""
    found = Customer.objects.filter(shop_id=user.shop_id, merged_into=None)
    if text.strip():
        word = text.strip()
        found = found.filter(Q(name__icontains=word) | Q(phone__icontains=word) | Q(bikes__label__icontains=word))
    bikes = Prefetch("bikes", queryset=Bike.objects.order_by("label"))
    return list(found.order_by("name", "id").distinct().prefetch_related(bikes)[:20])


@atomic
def add_customer(user: User, values: dict[str, Any]) -> Customer:
    """A new customer, written to in the shop's language where no other is said."""
    values = {"language": user.shop.language} | values
    return Customer.objects.create(shop_id=user.shop_id, created_by=user, changed_by=user, **values)


@atomic
def add_bike(user: User, customer_id: UUID, values: dict[str, Any]) -> Bike:
    """A new bike of a customer of this shop; 404 for another's."""
    customer = find_customer(user, customer_id)
    return Bike.objects.create(shop_id=user.shop_id, customer=customer, created_by=user, changed_by=user, **values)


def find_customer(user: User, customer_id: UUID) -> Customer:
    customer = Customer.objects.filter(shop_id=user.shop_id, pk=customer_id).first()
    if customer is None:
        raise Http404
    return customer


@atomic
def change_customer(user: User, customer_id: UUID, version: int, values: dict[str, Any]) -> Customer:
    """Change how a customer is called and reached; a stale write is refused with both versions."""
    customer = _locked(user, customer_id)
    if customer.version != version:
        current = {name: getattr(customer, name) for name in values}
        by = customer.changed_by.display_name if customer.changed_by else ""
        raise StaleWrite({**values, "version": version}, {**current, "version": customer.version, "changed_by": by})
    for name, value in values.items():
        setattr(customer, name, value)
    customer.save_change(user, list(values))
    return customer


@atomic
def merge_customers(user: User, customer_id: UUID, into_id: UUID, version: int) -> Customer:
    """One customer entered twice: the bikes of the first go to `into`, what `into` lacks is filled from the first.

    The first stays as a row that points to the other, so that what was written of it can be followed.
    """
    if customer_id == into_id:
        raise Refused("same_customer", say("This is the same entry: choose the other one."), 422)
    # Both in one order, so that two merges the other way round do not wait for each other.
    locked = {pk: _locked(user, pk) for pk in sorted((customer_id, into_id))}
    gone, kept = locked[customer_id], locked[into_id]
    if gone.version != version:
        raise StaleWrite({"version": version}, {"version": gone.version, "name": gone.name})
    if kept.merged_into_id is not None or gone.merged_into_id is not None:
        raise Refused("merged_already", say("One of them was merged already: look again."), 409)
    for bike in Bike.objects.select_for_update().filter(customer=gone):
        bike.customer = kept
        bike.save_change(user, ["customer"])
    filled = [name for name in ("phone", "email") if not getattr(kept, name) and getattr(gone, name)]
    for name in filled:
        setattr(kept, name, getattr(gone, name))
    if gone.note and gone.note not in kept.note:
        kept.note = f"{kept.note} {gone.note}".strip()[:500]
        filled.append("note")
    kept.save_change(user, filled)
    gone.merged_into = kept
    gone.save_change(user, ["merged_into"])
    return kept


def _locked(user: User, customer_id: UUID) -> Customer:
    customer = Customer.objects.select_for_update().filter(shop_id=user.shop_id, pk=customer_id).first()
    if customer is None:
        raise Http404
    return customer


def find_bike(user: User, bike_id: UUID) -> Bike:
    bike = Bike.objects.select_related("customer").filter(shop_id=user.shop_id, pk=bike_id).first()
    if bike is None:
        raise Http404
    return bike


@atomic
def change_bike(user: User, bike_id: UUID, version: int, values: dict[str, Any]) -> Bike:
    """Change what is known of a bike; a stale write is refused with both versions."""
    bike = Bike.objects.select_for_update().filter(shop_id=user.shop_id, pk=bike_id).first()
    if bike is None:
        raise Http404
    if bike.version != version:
        current = {name: getattr(bike, name) for name in values}
        by = bike.changed_by.display_name if bike.changed_by else ""
        raise StaleWrite({**values, "version": version}, {**current, "version": bike.version, "changed_by": by})
    for name, value in values.items():
        setattr(bike, name, value)
    bike.save_change(user, list(values))
    return bike
