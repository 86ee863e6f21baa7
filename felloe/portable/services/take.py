"""Taking a bundle in: all of it or nothing, each wheel and customer once, and looked at first where that is asked."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any
from uuid import UUID

from django.db import transaction

from felloe.accounts import services as accounts
from felloe.accounts.models import User
from felloe.api.problems import refused_at
from felloe.bench.models import ReadingSet
from felloe.condition.models import SpokeBreak
from felloe.condition.services.marks import add_mark
from felloe.core.components import Wheel as CoreWheel
from felloe.core.diagnosis.breakage import PLACES
from felloe.core.diagnosis.causes import CAUSES, COMPLAINTS
from felloe.core.endings import ENDS
from felloe.core.errors import BadRecord
from felloe.core.record import record_from_dict
from felloe.core.refit.checklist import AXLES, DROPOUTS, TYRES
from felloe.core.said import joined, say
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from felloe.core.stages import DONE
from felloe.core.strict_fields import Fields, placed
from felloe.core.terms import term
from felloe.customers import services as customers
from felloe.customers.models import Bike, Customer
from felloe.places.here import alias, atomic
from felloe.portable import answers
from felloe.portable.models import Taken
from felloe.portable.services.opened import Bundle, opened
from felloe.portable.services.out import BIKE_FIELDS, CUSTOMERS
from felloe.portable.services.underway import told
from felloe.queue import services as queue
from felloe.queue.models import Job
from felloe.queue.services.photos import add_photo
from felloe.queue.tolerances import TIER_FIELDS
from felloe.records.services.history import TAKEN_IN
from felloe.records.services.wheel_records import set_in
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel

MOST_JOBS, MOST_BIKES, MOST_MARKS = 200, 200, 200


class _Counted:
    def __init__(self) -> None:
        self.customers = self.bikes = self.wheels = self.jobs = self.readings = self.photos = 0
        self.known: list[str] = []


def take_in(user: User, data: bytes, customer_id: UUID | None, keep: bool, underway: UUID | None = None) -> answers.TakenIn:
    """Takes a bundle in, or says what taking it in would do. A bundle of a wheel goes to the customer `customer_id`.
    How far it has come is told under the name `underway`, where one is given.

    Raises BadRecord or another TradeError with the place of what is wrong; nothing is kept then.
    """
    bundle = opened(data)
    with told(user, underway, len(bundle.wheels)) as tell, atomic():
        accounts.one_at_a_time(user)
        counted = _Counted()
        if bundle.kind == "customer":
            owner, bikes = _customer(user, bundle, counted)
        else:
            if customer_id is None:
                raise refused_at("customer", "customer_needed", say("Choose whose wheel it is."))
            owner, bikes = customers.find_customer(user, customer_id), {}
        for number, name in enumerate(bundle.wheels, start=1):
            _wheel(user, bundle, name, owner, bikes, counted)
            tell(number)
        if not keep:
            transaction.set_rollback(True, using=alias())
    return answers.TakenIn(
        kept=keep,
        shop=bundle.shop,
        customer=owner.name,
        customer_id=owner.pk if keep or not counted.customers else None,
        new_customers=counted.customers,
        bikes=counted.bikes,
        wheels=counted.wheels,
        jobs=counted.jobs,
        readings=counted.readings,
        photos=counted.photos,
        known=counted.known,
    )


def _origin(fields: Fields) -> UUID:
    try:
        return UUID(fields.text("id", longest=36))
    except ValueError:
        raise BadRecord(say("an id is a UUID"), fields.path("id")) from None


def _customer(user: User, bundle: Bundle, counted: _Counted) -> tuple[Customer, dict[UUID, Bike]]:
    said = bundle.json(CUSTOMERS)
    if not isinstance(said, list) or len(said) != 1:
        raise BadRecord(say("a bundle holds one customer"), CUSTOMERS)
    fields = Fields(said[0], CUSTOMERS)
    origin = _origin(fields)
    values = {
        "name": fields.text("name", longest=120),
        "phone": fields.text("phone", "", 40),
        "email": fields.text("email", "", 254),
        "prefers": fields.choice("prefers", tuple(Customer.Prefers.values), "phone"),
        "language": fields.text("language", "en", 10),
        "note": fields.text("note", "", 500),
    }
    if not values["name"].strip():
        raise BadRecord(say("a customer has a name"), fields.path("name"))
    taken = Taken.objects.filter(shop=user.shop, origin=origin, customer__isnull=False).select_related("customer").first()
    alike = Customer.objects.filter(
        shop=user.shop, merged_into=None, name__iexact=values["name"], phone=values["phone"]
    ).first()
    here = taken.customer if taken else Customer.objects.filter(shop=user.shop, pk=origin).first() or alike
    if here is not None:
        counted.known.append(say("{name} is here already: what is new goes to them.", name=here.name))
        customer = here
    else:
        customer = customers.add_customer(user, values)
        counted.customers += 1
    if taken is None and customer.pk != origin:
        Taken.objects.get_or_create(shop=user.shop, origin=origin, defaults={"customer": customer, "created_by": user})
    bikes: dict[UUID, Bike] = {}
    for place, item in fields.items("bikes", MOST_BIKES):
        entry = Fields(item, place)
        entry.take("id", None)
        bike_values = _bike_values(entry)
        wheels_of_it = [_as_uuid(key, place) for key in entry.take("wheels", [])]
        entry.done()
        unknown = [key for key in wheels_of_it if not _known_wheel(user, key)]
        if wheels_of_it and not unknown:
            continue
        bike = customers.add_bike(user, customer.pk, dict(bike_values))
        counted.bikes += 1
        bikes |= dict.fromkeys(unknown, bike)
    fields.done()
    return customer, bikes


def _as_uuid(value: object, place: str) -> UUID:
    try:
        return UUID(str(value))
    except ValueError:
        raise BadRecord(say("an id is a UUID"), place) from None


def _bike_values(fields: Fields) -> Mapping[str, Any]:
    values: dict[str, Any] = {
        "label": fields.text("label", longest=120),
        "asset_number": fields.text("asset_number", "", 40),
        "brake": fields.choice("brake", tuple(Bike.Brake.values)),
        "use": fields.choice("use", tuple(Bike.Use.values), "everyday"),
        "dropout": fields.text("dropout", "", 10),
        "axle": fields.text("axle", "", 10),
        "axle_torque_nm": fields.number("axle_torque_nm", None),
        "tyre": fields.text("tyre", "", 10),
        "directional": bool(fields.take("directional", False)),
    }
    for name, known in (("dropout", DROPOUTS), ("axle", AXLES), ("tyre", TYRES)):
        if values[name] not in known and values[name]:
            raise BadRecord(say("“{value}” is not on the list", value=values[name]), fields.path(name))
    if not values["label"].strip():
        raise BadRecord(say("a bike is called something"), fields.path("label"))
    assert set(values) == set(BIKE_FIELDS)
    return values


def _known_wheel(user: User, origin: UUID) -> Wheel | None:
    taken = Taken.objects.filter(shop=user.shop, origin=origin, wheel__isnull=False).select_related("wheel").first()
    return taken.wheel if taken else Wheel.objects.filter(shop=user.shop, pk=origin).first()


def _wheel(user: User, bundle: Bundle, name: str, owner: Customer, bikes: dict[UUID, Bike], counted: _Counted) -> None:
    fields = Fields(bundle.json(name), name)
    origin = _origin(fields)
    position = fields.choice("position", tuple(Wheel.Position.values))
    bike_values = _bike_values(fields.object("bike"))
    if (here := _known_wheel(user, origin)) is not None:
        counted.known.append(
            say(
                "The {position} wheel of {name} is here already and stays as it is.",
                position=term(position),
                name=here.bike.label,
            )
        )
        return
    bike = bikes.get(origin)
    if bike is None:
        bike = customers.add_bike(user, owner.pk, dict(bike_values))
        counted.bikes += 1
    core = placed(name, lambda: wheel_from_dict(fields.take("specification")))
    kind, measured = fields.text("kind", "", 40), bool(fields.take("measured", False))
    wheel = wheels.add_wheel(user, bike, position, wheel_to_dict(core), kind, measured)
    Wheel.objects.filter(pk=wheel.pk).update(asset_number=fields.text("asset_number", "", 40))
    Taken.objects.create(shop=user.shop, origin=origin, wheel=wheel, created_by=user)
    counted.wheels += 1
    jobs = list(fields.items("jobs", MOST_JOBS))
    marks = list(fields.items("marks", MOST_MARKS))
    for number, (place, item) in enumerate(jobs):
        # What stands on the wheel is noted with its last visit.
        _job(user, bundle, wheel, core, Fields(item, place), marks if number == len(jobs) - 1 else [], counted)
    if marks and not jobs:
        raise BadRecord(say("marks need a visit on which they were found"), f"{name}.marks")
    fields.done()


def _job(
    user: User,
    bundle: Bundle,
    wheel: Wheel,
    core: CoreWheel,
    fields: Fields,
    marks: list[tuple[str, object]],
    counted: _Counted,
) -> None:
    """One visit with its days. One that had not ended where it came from is open here, and begins at taking in."""
    opened_at, left_at = fields.when("opened_at"), fields.when("left_at")
    complaint, tags = fields.text("complaint", longest=500), fields.take("complaint_tags", [])
    number, ended_as = fields.integer("number"), fields.choice("ended_as", ("", *ENDS), "")
    if bool(ended_as) != (left_at is not None):
        raise BadRecord(say("a visit that ended has a day and an end, another has neither"), fields.path("ended_as"))
    cause, record = fields.choice("cause", ("", *CAUSES), ""), record_from_dict(fields.take("record"))
    if record.wheel.spoke_count != core.spoke_count:
        raise BadRecord(say("its record is of another wheel"), fields.path("record"))
    # The record says the same, with the figures.
    fields.take("targets", None)
    known = [tag for tag in tags if tag in COMPLAINTS] if isinstance(tags, list) else []
    values = {"wheel_id": wheel.pk, "complaint": complaint or say("taken in"), "complaint_tags": known, "second": True}
    job = queue.open_job(user, values)
    job.hold_to(record.tier)
    job.save_change(user, TIER_FIELDS)
    for recorded in record.sets:
        made = set_in(user, job, record.wheel, recorded)
        counted.readings += made.readings.count()
        if recorded.taken_at is not None:
            ReadingSet.objects.filter(pk=made.pk).update(created_at=recorded.taken_at)
    for place, item in fields.items("breaks", MOST_MARKS):
        _break(user, job, wheel, Fields(item, place), core)
    for place, item in fields.items("photos", 60):
        photo = Fields(item, place)
        file, caption = photo.text("file", longest=80), photo.text("caption", "", 200)
        photo.done()
        if file not in bundle.files:
            raise BadRecord(say("there is no {name} in the bundle", name=file), photo.path("file"))
        add_photo(user, job.pk, bundle.files[file], caption)
        counted.photos += 1
    fields.done()
    for where, mark in marks:
        _mark(user, job, Fields(mark, where))
    counted.jobs += 1
    said = say("taken in from {shop}, where it was job {number}", shop=bundle.shop, number=number)
    found = say("; found there: {cause}", cause=CAUSES[cause].name) if cause else ""
    queue.log(job, user, TAKEN_IN, joined("", [said, found]) if found else said)
    if opened_at is not None:
        Job.objects.filter(pk=job.pk).update(created_at=opened_at)
    if left_at is not None:
        Job.objects.filter(pk=job.pk).update(stage=DONE, handed_back_at=left_at, ended_as=ended_as, waiting_on="")


def _mark(user: User, job: Job, fields: Fields) -> None:
    values = {
        "kind": fields.text("kind", longest=20),
        "spoke": fields.text("spoke", "", 4),
        "measure_mm": fields.number("measure_mm", None),
        "note": fields.text("note", "", 300),
    }
    fields.done()
    placed(fields.path("kind"), lambda: add_mark(user, job.pk, values))


def _break(user: User, job: Job, wheel: Wheel, fields: Fields, core: CoreWheel) -> None:
    spoke, place = fields.text("spoke", longest=4), fields.choice("place", tuple(PLACES))
    if spoke not in core.index_of:
        raise BadRecord(say("this wheel has no spoke {name}", name=spoke), fields.path("spoke"))
    try:
        on = date.fromisoformat(fields.text("noticed_on", longest=10))
    except ValueError:
        raise BadRecord(say("a day is written as 2026-11-26"), fields.path("noticed_on")) from None
    SpokeBreak.objects.create(
        shop=user.shop,
        wheel=wheel,
        job=job,
        spoke=spoke,
        place=place,
        noticed_on=on,
        note=fields.text("note", "", 300),
        created_by=user,
    )
