"""A lot is opened from its owner's list of numbers: every wheel or none."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from felloe.accounts.models import User
from felloe.api.problems import refused_at
from felloe.core.fleet.assets import Assets, read_assets
from felloe.core.said import joined, say
from felloe.customers import services as customers
from felloe.customers.models import Bike
from felloe.fleet import answers
from felloe.fleet.models import Lot, LotItem
from felloe.places.here import atomic
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.wheels.models import Wheel


def preview(user: User, customer_id: UUID, text: str, position: str) -> answers.Preview:
    """What a list would open. Raises BadAssets at the line at fault."""
    listed = read_assets(text)
    known = _known(user, customer_id, listed, position)
    taken = _open_on(user, [wheel for _, wheel in known.values() if wheel is not None])
    return answers.Preview(
        count=len(listed.numbers),
        doubled=list(listed.doubled),
        known=[number for number in listed.numbers if number in known],
        already_open=[number for number in listed.numbers if number in known and known[number][1] in taken],
    )


def _known(user: User, customer_id: UUID, listed: Assets, position: str) -> dict[str, tuple[UUID, UUID | None]]:
    """Of the numbers, those of bikes that the customer has here: the bike, and its wheel at that end."""
    customers.find_customer(user, customer_id)
    bikes = Bike.objects.filter(shop_id=user.shop_id, customer_id=customer_id, asset_number__in=listed.numbers)
    found: dict[str, tuple[UUID, UUID | None]] = {bike.asset_number: (bike.pk, None) for bike in bikes.order_by("-created_at")}
    wheels = Wheel.objects.filter(bike__in=[bike for bike, _ in found.values()], position=position).order_by("created_at")
    for wheel, bike, number in wheels.values_list("pk", "bike_id", "bike__asset_number"):
        found[number] = (bike, wheel)
    return found


def _open_on(user: User, wheels: list[UUID]) -> set[UUID]:
    return set(
        Job.objects.filter(shop_id=user.shop_id, wheel_id__in=wheels, handed_back_at=None).values_list("wheel_id", flat=True)
    )


@atomic
def open_lot(user: User, values: dict[str, Any]) -> Lot:
    """Open a job for each number. `values`: name, customer_id, text, brake, use, wheel {position, kind, specification},
    complaint, tier, wanted_at."""
    listed = read_assets(values["text"])
    position = values["wheel"]["position"]
    known = _known(user, values["customer_id"], listed, position)
    taken = _open_on(user, [wheel for _, wheel in known.values() if wheel is not None])
    already = [number for number in listed.numbers if number in known and known[number][1] in taken]
    if already:
        raise refused_at(
            "text",
            "already_open",
            say("Open already: {numbers}. Take them out of the list.", numbers=joined(", ", already[:8])),
        )
    lot = Lot.objects.create(
        shop_id=user.shop_id, name=values["name"].strip(), customer_id=values["customer_id"], created_by=user, changed_by=user
    )
    for place, number in enumerate(listed.numbers, start=1):
        bike, wheel = known.get(number, (None, None))
        asked: dict[str, Any] = {key: values[key] for key in ("complaint", "tier", "wanted_at") if values.get(key)}
        asked["with_bike"] = False
        if wheel is not None:
            asked["wheel_id"] = wheel
        else:
            asked["wheel"] = values["wheel"]
            if bike is not None:
                asked["bike_id"] = bike
            else:
                asked["customer_id"] = values["customer_id"]
                label = f"{values['name'].strip()} {number}"[:120]
                asked["bike"] = {"label": label, "asset_number": number, "brake": values["brake"], "use": values["use"]}
        job = queue.open_job(user, asked)
        LotItem.objects.create(shop_id=user.shop_id, lot=lot, job=job, place=place, asset_number=number, created_by=user)
    return lot
