"""Writing a bundle: docs/formats/bundle.md says what is in it."""

from __future__ import annotations

import csv
import hashlib
import io
import json
import zipfile
from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Any
from uuid import UUID

from django.apps import apps
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models
from django.utils import timezone

from felloe.accounts.models import Shop, User
from felloe.condition.models import Finding, SpokeBreak
from felloe.condition.services import standing_marks
from felloe.core.delimited import harmless
from felloe.core.record import targets_to_dict
from felloe.customers import services as customers
from felloe.customers.models import Bike, Customer
from felloe.queue.models import Job, Photo
from felloe.records.services.wheel_records import export_record
from felloe.stock.services.library import library_csv
from felloe.wheels import services as wheels
from felloe.wheels.models import Wheel

FORMAT, VERSION = "felloe-bundle", 1
MANIFEST, CUSTOMERS = "manifest.json", "customers.json"
BIKE_FIELDS = ("label", "asset_number", "brake", "use", "dropout", "axle", "axle_torque_nm", "tyre", "directional")
CUSTOMER_FIELDS = ("name", "phone", "email", "prefers", "language", "note")
#: What no export holds: what signs people in, and what signs reports.
_SECRET = {"password", "pin", "sealed_private"}


def wheel_bundle(user: User, wheel_id: UUID) -> bytes:
    """A wheel with all its jobs, readings, marks, breaks and photos; whose it is does not come along."""
    wheel = wheels.find_wheel(user, wheel_id)
    return _packed(user, "wheel", _files(user, [wheel]))


def customer_bundle(user: User, customer_id: UUID) -> bytes:
    """A customer with bikes and wheels."""
    customer = customers.find_customer(user, customer_id)
    found = list(Wheel.objects.filter(bike__customer=customer).select_related("bike").order_by("created_at"))
    files = _files(user, found)
    files[CUSTOMERS] = _json([_customer(customer)])
    return _packed(user, "customer", files)


def shop_bundle(user: User) -> bytes:
    """All of a shop: every customer and wheel as above, every row of every table, and what spreadsheets read."""
    found = list(Wheel.objects.filter(shop=user.shop).select_related("bike").order_by("created_at"))
    files = _files(user, found)
    everybody = Customer.objects.filter(shop=user.shop, merged_into=None).order_by("name")
    files[CUSTOMERS] = _json([_customer(customer) for customer in everybody])
    for model in apps.get_models():
        rows = _rows_of_shop(model, user.shop)
        if rows is not None:
            files[f"tables/{model._meta.db_table}.json"] = rows
    files["csv/stock.csv"] = library_csv(user).encode()
    files["csv/jobs.csv"] = _jobs_csv(user.shop)
    return _packed(user, "shop", files)


def _rows_of_shop(model: type[models.Model], shop: Shop) -> bytes | None:
    """Every row of a table of the shop as JSON, without pictures (they are files) and secrets; None for other tables."""
    names = {field.name for field in model._meta.fields}
    if not model.__module__.startswith("felloe.") or not (model is Shop or "shop" in names):
        return None
    columns = [
        str(field.attname)
        for field in model._meta.fields
        if not isinstance(field, models.BinaryField) and field.name not in _SECRET and field.name != "vector"
    ]
    chosen = {"pk": shop.pk} if model is Shop else {"shop": shop}
    return _json(list(model._default_manager.filter(**chosen).order_by("pk").values(*columns)))


def _customer(customer: Customer) -> Mapping[str, object]:
    bikes = Bike.objects.filter(customer=customer).prefetch_related("wheels").order_by("created_at")
    return {
        "id": customer.pk,
        **{name: getattr(customer, name) for name in CUSTOMER_FIELDS},
        "bikes": [
            {"id": bike.pk, **{name: getattr(bike, name) for name in BIKE_FIELDS}, "wheels": [w.pk for w in bike.wheels.all()]}
            for bike in bikes
        ],
    }


def _files(user: User, found: Iterable[Wheel]) -> dict[str, bytes]:
    files: dict[str, bytes] = {}
    for wheel in found:
        jobs = []
        for job in Job.objects.filter(wheel=wheel).order_by("created_at"):
            photos = list(Photo.objects.filter(job=job).order_by("created_at"))
            files |= {f"photos/{photo.pk}.jpg": bytes(photo.data) for photo in photos}
            jobs.append(_job(user, job, photos))
        files[f"wheels/{wheel.pk}.json"] = _json(
            {
                "id": wheel.pk,
                "bike": {name: getattr(wheel.bike, name) for name in BIKE_FIELDS},
                "position": wheel.position,
                "kind": wheel.kind,
                "asset_number": wheel.asset_number,
                "measured": wheel.measured,
                "specification": wheel.specification,
                "marks": [
                    {"kind": mark.kind, "spoke": mark.spoke, "measure_mm": mark.measure_mm, "note": mark.note}
                    for mark in standing_marks(wheel)
                ],
                "jobs": jobs,
            }
        )
    return files


def _job(user: User, job: Job, photos: list[Photo]) -> Mapping[str, object]:
    finding = Finding.objects.filter(job=job, mended=False).order_by("-created_at").first()
    return {
        "number": job.number,
        "complaint": job.complaint,
        "complaint_tags": job.complaint_tags,
        "opened_at": job.created_at,
        "left_at": job.handed_back_at,
        "ended_as": job.ended_as,
        "targets": targets_to_dict(job.tolerance),
        "cause": finding.cause if finding else "",
        "breaks": [
            {"spoke": gone.spoke, "place": gone.place, "noticed_on": gone.noticed_on, "note": gone.note}
            for gone in SpokeBreak.objects.filter(job=job, ending=None).order_by("noticed_on", "created_at")
        ],
        "photos": [{"file": f"photos/{photo.pk}.jpg", "caption": photo.caption} for photo in photos],
        "record": export_record(user, job.pk),
    }


def _jobs_csv(shop: Shop) -> bytes:
    out = io.StringIO()
    write = csv.writer(out)
    write.writerow(["number", "opened_at", "left_at", "ended_as", "tier", "position", "bike", "customer", "complaint"])
    rows = Job.objects.filter(shop=shop).select_related("wheel__bike__customer").order_by("number")
    for job in rows.iterator(chunk_size=500):
        bike = job.wheel.bike
        left = job.handed_back_at.isoformat() if job.handed_back_at else ""
        texts = [harmless(text) for text in (bike.label, bike.customer.name, job.complaint)]
        write.writerow([job.number, job.created_at.isoformat(), left, job.ended_as, job.tier, job.wheel.position, *texts])
    return out.getvalue().encode()


class _Exactly(DjangoJSONEncoder):
    """Times to the microsecond, as they are kept."""

    def default(self, o: Any) -> Any:
        return o.isoformat() if isinstance(o, datetime) else super().default(o)


def _json(value: object) -> bytes:
    return json.dumps(value, cls=_Exactly, ensure_ascii=False, indent=1).encode()


def _packed(user: User, kind: str, files: dict[str, bytes]) -> bytes:
    manifest = {
        "format": FORMAT,
        "version": VERSION,
        "kind": kind,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        "shop": user.shop.name,
        "files": {name: hashlib.sha256(data).hexdigest() for name, data in sorted(files.items())},
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(MANIFEST, _json(manifest))
        for name, data in sorted(files.items()):
            # A photo is as small as it gets.
            packed.writestr(name, data, zipfile.ZIP_STORED if name.endswith(".jpg") else None)
    return out.getvalue()
