"""Erasing a customer: names go from every table, the wheel's technical history stays.

Names are taken out of all text that hangs on the customer, wherever they stand in it; what is theirs alone (notes, signatures,
letters, photos, addresses) goes whole. Rows that nobody may change otherwise let this through by a setting of the transaction.
"""

from __future__ import annotations

import json
import re
from typing import Any
from uuid import UUID

from django.apps import apps
from django.db import models
from django.db.models.expressions import RawSQL
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.models import WriteKey
from felloe.api.problems import Refused, refused_at
from felloe.core.said import say
from felloe.customers import services as customers
from felloe.customers.models import Customer
from felloe.links.models import CustomerLink
from felloe.messages.models import CaughtMail, Message
from felloe.places.here import atomic, database
from felloe.privacy import answers
from felloe.privacy.models import Erasure
from felloe.privacy.services.reach import entries_of, paths, rows_of
from felloe.queue.models import Job, Photo, Signature
from felloe.repair.models import Decision, Payment
from felloe.trail.models import Change

#: What stands where a name stood.
GONE = "–"
ERASED = "(erased)"
#: A part of a name shorter than this would take half the sentence with it.
SHORTEST_PART = 3
_TEXT = (models.CharField, models.TextField, models.JSONField)


def erasure_ahead(user: User, customer_id: UUID) -> answers.ErasureAhead:
    """What an erasure would reach, and what stands against it."""
    customer = customers.find_customer(user, customer_id)
    ids = [entry.pk for entry in entries_of(customer)]
    jobs = Job.objects.filter(wheel__bike__customer__in=ids)
    return answers.ErasureAhead(
        jobs=jobs.count(),
        photos=Photo.objects.filter(job__in=jobs).count(),
        letters=Message.objects.filter(job__in=jobs).count(),
        signatures=Signature.objects.filter(job__in=jobs).count(),
        barred=_barred(jobs),
        erased=customer.name == ERASED,
    )


def _barred(jobs: models.QuerySet[Job]) -> str:
    here = list(jobs.filter(handed_back_at=None).order_by("number").values_list("number", flat=True))
    if not here:
        return ""
    return say("A wheel of theirs is still here: {numbers}.", numbers=say("{name}", name=", ".join(map(str, here))))


@atomic
def erase(user: User, customer_id: UUID, name: str) -> answers.ErasureAhead:
    """Erases a customer for good. `name` is typed again by who does it.

    Raises Refused where a wheel of theirs is still here, where the name is another, or where it was done already.
    """
    customer = Customer.objects.select_for_update().get(pk=customers.find_customer(user, customer_id).pk)
    if customer.name == ERASED:
        raise Refused("erased_already", say("This customer was erased already."))
    if " ".join(name.split()).casefold() != " ".join(customer.name.split()).casefold():
        raise refused_at("name", "another_name", say("This is not their name as it stands here."))
    barred = _barred(Job.objects.filter(wheel__bike__customer=customer))
    if barred:
        raise Refused("wheel_here", barred)
    erase_entries(customer, user)
    return erasure_ahead(user, customer_id)


def erase_entries(customer: Customer, user: User | None) -> None:
    """The erasure itself, in the caller's transaction."""
    entries = entries_of(customer)
    ids = [entry.pk for entry in entries]
    with database().cursor() as at:
        # Until the end of this transaction: what is append-only otherwise lets names be taken out.
        at.execute("SELECT set_config('felloe.erasing', 'on', true)")
    counts = {model._meta.db_table: _scrubbed(model, rows, entries) for model, rows in rows_of(ids)}
    jobs = Job.objects.filter(wheel__bike__customer__in=ids)
    counts["queue_photo"] = _without_photos(Photo.objects.filter(job__in=jobs))
    counts["queue_signature"] = Signature.objects.filter(job__in=jobs).update(name=GONE, strokes=[])
    Decision.objects.filter(job__in=jobs).update(by_whom=GONE, note="")
    Payment.objects.filter(job__in=jobs).update(note="")
    counts["messages_message"] = Message.objects.filter(job__in=jobs).update(
        to="erased@invalid.invalid", subject=GONE, text=GONE
    )
    CustomerLink.objects.filter(job__in=jobs, revoked_at=None, answered_at=None).update(
        revoked_at=timezone.now(), revoked_by=user
    )
    counts |= _beside(customer, entries, jobs)
    Customer.objects.filter(pk__in=ids).update(
        name=ERASED, phone="", email="", note="", language="en", version=models.F("version") + 1
    )
    Erasure.objects.create(
        shop_id=customer.shop_id,
        customer=customer,
        counts={table: count for table, count in sorted(counts.items()) if count},
        created_by=user,
        by_itself=user is None,
    )
    with database().cursor() as at:
        at.execute("SELECT set_config('felloe.erasing', '', true)")


def _beside(customer: Customer, entries: list[Customer], jobs: models.QuerySet[Job]) -> dict[str, int]:
    """What hangs on no customer by a key, and holds names all the same: answers kept for repeated writes, the trail, mail
    that the demo caught."""
    pattern = pattern_of(entries)
    things = {entry.pk for entry in entries}
    for model, path in paths().items():
        if model._meta.db_table in ("customers_bike", "wheels_wheel"):
            things |= set(model._default_manager.filter(**{f"{path}__in": things}).values_list("pk", flat=True))
    trail = Change.objects.filter(shop_id=customer.shop_id, row__in=things)
    emptied = trail.filter(topic="customer").update(fields={})
    scrubbed = _scrubbed(Change, trail.exclude(topic="customer"), entries)
    body = WriteKey.objects.filter(user__shop_id=customer.shop_id).annotate(said=RawSQL("body::text", []))
    keys, _ = body.filter(said__iregex=pattern).delete()
    mail = CaughtMail.objects.filter(shop_id=customer.shop_id)
    caught, _ = mail.filter(
        models.Q(to__iregex=pattern) | models.Q(subject__iregex=pattern) | models.Q(text__iregex=pattern)
    ).delete()
    return {"trail_change": emptied + scrubbed, "api_writekey": keys, "messages_caughtmail": caught}


def _without_photos(photos: models.QuerySet[Photo]) -> int:
    """Photos go; what pointed to one points to none."""
    ids = list(photos.values_list("pk", flat=True))
    for model in apps.get_models():
        for field in model._meta.fields:
            if isinstance(field, models.ForeignKey) and field.related_model is Photo:
                model._default_manager.filter(**{f"{field.name}__in": ids}).update(**{field.name: None})
    return Photo.objects.filter(pk__in=ids).delete()[0]


def pattern_of(entries: list[Customer]) -> str:
    """A regular expression for every way in which these names, numbers and addresses are written, for PostgreSQL."""
    words: set[str] = set()
    wholes: set[str] = set()
    for entry in entries:
        wholes |= {entry.name, entry.email, entry.phone}
        words |= {part for part in re.split(r"[\s,.;/&]+", entry.name) if len(part) >= SHORTEST_PART}
        digits = re.sub(r"\D", "", entry.phone)
        if len(digits) >= 6:
            # However it is spaced.
            wholes.add("")
            words.add("\0" + digits)
    parts = [_escaped(text) for text in sorted(wholes, key=len, reverse=True) if text.strip()]
    for word in sorted(words, key=len, reverse=True):
        parts.append(r"[ ./()+-]*".join(word[1:]) if word.startswith("\0") else rf"\y{_escaped(word)}\y")
    return "|".join(parts)


def _escaped(text: str) -> str:
    """For a pattern; and as it reads within JSON, where quotes and backslashes are written otherwise."""
    plain = _quoted(text)
    within = _quoted(json.dumps(text, ensure_ascii=False)[1:-1])
    return plain if plain == within else f"{plain}|{within}"


def _quoted(text: str) -> str:
    return (
        re.sub(r"([^\w\s])", r"\\\1", text, flags=re.ASCII)
        if text.isascii()
        else re.sub(r"([\\.^$*+?()\[\]{}|/-])", r"\\\1", text)
    )


def _scrubbed(model: type[models.Model], rows: models.QuerySet[Any], entries: list[Customer]) -> int:
    """Takes the names out of every text of these rows; returns in how many rows they stood."""
    columns = [
        field for field in model._meta.fields if isinstance(field, _TEXT) and not field.choices and not field.primary_key
    ]
    if not columns:
        return 0
    pattern = pattern_of(entries)
    table = database().ops.quote_name(model._meta.db_table)
    names = [(database().ops.quote_name(str(field.column)), isinstance(field, models.JSONField)) for field in columns]
    changed = ", ".join(
        f"{name} = regexp_replace({name}::text, %s, %s, 'gi')" + ("::jsonb" if of_json else "") for name, of_json in names
    )
    stands = " OR ".join(f"{name}::text ~* %s" for name, _ in names)
    key = database().ops.quote_name(str(model._meta.pk.column))
    chosen, given = rows.order_by().values("pk").query.sql_with_params()
    asked = [*[part for _ in names for part in (pattern, GONE)], *given, *[pattern for _ in names]]
    with database().cursor() as at:
        # Names of tables and columns are the models' own.
        at.execute(f"UPDATE {table} SET {changed} WHERE {key} IN ({chosen}) AND ({stands})", asked)  # noqa: S608
        return int(at.rowcount)
