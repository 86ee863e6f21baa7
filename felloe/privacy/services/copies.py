"""A customer's own copy: all that is kept of them, as JSON that needs no Felloe to be read, with their photos."""

from __future__ import annotations

import hashlib
import io
import json
import zipfile
from uuid import UUID

from django.core.serializers.json import DjangoJSONEncoder
from django.db import models
from django.utils import timezone

from felloe.accounts.models import User
from felloe.customers import services as customers
from felloe.privacy.services.reach import entries_of, rows_of
from felloe.queue.models import Job, Photo
from felloe.records.services.wheel_records import export_record


def own_copy(user: User, customer_id: UUID) -> bytes:
    """A zip: data.json with every row of every table that belongs to the customer, a wheel record for each job, photos, and
    manifest.json with the SHA-256 of each file."""
    customer = customers.find_customer(user, customer_id)
    ids = [entry.pk for entry in entries_of(customer)]
    files: dict[str, bytes] = {}
    tables = {}
    for model, rows in rows_of(ids):
        columns = [str(field.attname) for field in model._meta.fields if not isinstance(field, models.BinaryField)]
        found = list(rows.order_by("pk").values(*columns))
        if found:
            tables[model._meta.db_table] = found
    files["data.json"] = _json(tables)
    for job in Job.objects.filter(wheel__bike__customer__in=ids).order_by("number"):
        files[f"wheels/{job.number}.wheel-record.json"] = _json(export_record(user, job.pk))
    for photo in Photo.objects.filter(job__wheel__bike__customer__in=ids).select_related("job"):
        files[f"photos/{photo.job.number}-{photo.pk}.jpg"] = bytes(photo.data)
    manifest = {
        "format": "felloe-customer-copy",
        "version": 1,
        "made_at": timezone.now().isoformat(timespec="seconds"),
        "shop": user.shop.name,
        "files": {name: hashlib.sha256(data).hexdigest() for name, data in sorted(files.items())},
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, data in [("manifest.json", _json(manifest)), *sorted(files.items())]:
            packed.writestr(name, data)
    return out.getvalue()


def _json(value: object) -> bytes:
    return json.dumps(value, cls=DjangoJSONEncoder, ensure_ascii=False, indent=1).encode()
