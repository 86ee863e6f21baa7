"""Patterns: the shop's own kinds of wheels, kept from a wheel, changed, and exchanged as a file."""

from __future__ import annotations

import json
from typing import Any
from uuid import UUID

from django.http import Http404

from felloe.accounts.models import Shop, User
from felloe.api.problems import StaleWrite, refused_at
from felloe.core.errors import BadRecord, TradeError
from felloe.core.said import say
from felloe.core.specification import wheel_from_dict, wheel_to_dict
from felloe.core.strict_fields import Fields
from felloe.customers.models import Bike
from felloe.places.here import atomic
from felloe.wheels import answers
from felloe.wheels.models import Pattern, Wheel

FORMAT, VERSION = "felloe-patterns", 1
MOST_BYTES, MOST_PATTERNS = 2_000_000, 500
_MARK = "own-"


def key_of(pattern: Pattern) -> str:
    """By what name a wheel says that it was started from it."""
    return f"{_MARK}{pattern.pk.hex}"


def patterns_of(user: User) -> list[answers.WheelKind]:
    """The shop's patterns, those out of use too."""
    return [_answer(row) for row in Pattern.objects.filter(shop=user.shop).order_by("position", "name")]


def _answer(row: Pattern) -> answers.WheelKind:
    return answers.WheelKind(
        key=key_of(row),
        name=row.name,
        note=row.note,
        position=row.position,
        brakes=row.brakes,
        specification=row.specification,
        tier=row.tier,
        own=True,
        in_use=row.in_use,
        version=row.version,
    )


def tier_of_kind(shop_id: UUID, kind: str) -> str:
    """The tier that the jobs of a pattern are opened with; empty for any other kind."""
    if not kind.startswith(_MARK):
        return ""
    try:
        found = Pattern.objects.filter(shop_id=shop_id, pk=UUID(kind.removeprefix(_MARK))).first()
    except ValueError:
        return ""
    return found.tier if found else ""


@atomic
def keep_pattern(user: User, wheel_id: UUID, values: dict[str, Any]) -> answers.WheelKind:
    """A wheel as it stands becomes a pattern; refused where the shop has one of that name for that end."""
    wheel = Wheel.objects.select_related("bike").filter(shop=user.shop, pk=wheel_id).first()
    if wheel is None:
        raise Http404
    Shop.objects.select_for_update().get(pk=user.shop_id)
    name = " ".join(values["name"].split())
    if not name:
        raise refused_at("name", "name_needed", say("Say what it is called."))
    if Pattern.objects.filter(shop=user.shop, position=wheel.position, name__iexact=name).exists():
        raise refused_at("name", "name_taken", say("There is a pattern “{name}” already.", name=name))
    made = Pattern.objects.create(
        shop=user.shop,
        name=name,
        note=values.get("note", "").strip(),
        tier=values.get("tier", ""),
        position=wheel.position,
        brakes=[wheel.bike.brake],
        specification=wheel.specification,
        created_by=user,
        changed_by=user,
    )
    return _answer(made)


@atomic
def change_pattern(user: User, pattern_id: UUID, version: int, values: dict[str, Any]) -> answers.WheelKind:
    """Change name, note, tier, or whether it is offered. Wheels that were started from it stay as they are."""
    Shop.objects.select_for_update().get(pk=user.shop_id)
    row = Pattern.objects.filter(shop=user.shop, pk=pattern_id).first()
    if row is None:
        raise Http404
    current = {name: getattr(row, name) for name in ("name", "note", "tier", "in_use", "version")}
    if row.version != version:
        raise StaleWrite({**values, "version": version}, current)
    name = " ".join(values.get("name", row.name).split())
    others = Pattern.objects.filter(shop=user.shop, position=row.position, name__iexact=name).exclude(pk=row.pk)
    if not name or others.exists():
        raise refused_at("name", "name_taken", say("There is a pattern “{name}” already.", name=name))
    row.name = name
    for field in ("note", "tier", "in_use"):
        setattr(row, field, values.get(field, getattr(row, field)))
    row.save_change(user, ["name", "note", "tier", "in_use"])
    return _answer(row)


def patterns_out(user: User) -> bytes:
    """The shop's patterns in use, as a file says them."""
    rows = Pattern.objects.filter(shop=user.shop, in_use=True).order_by("position", "name")
    fields = ("name", "note", "position", "brakes", "tier", "specification")
    found = [{name: getattr(row, name) for name in fields} for row in rows]
    said = {"format": FORMAT, "version": VERSION, "patterns": found}
    return json.dumps(said, ensure_ascii=False, indent=1).encode()


@atomic
def patterns_in(user: User, data: bytes, tiers: set[str]) -> answers.PatternsIn:
    """Take patterns in: all of them or none; those whose name is here already for that end are left as they are.

    A tier that the shop does not have is left out. Raises BadRecord or another TradeError with the place.
    """
    if len(data) > MOST_BYTES:
        raise BadRecord(say("a file of patterns has at most {most} MB", most=MOST_BYTES // 1_000_000), "file")
    try:
        value = json.loads(data.decode("utf-8"))
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise BadRecord(say("this is not JSON in UTF-8"), "file") from error
    fields = Fields(value)
    if fields.take("format", None) != FORMAT or fields.integer("version") != VERSION:
        raise BadRecord(say("this is no file of patterns that can be read"), "file")
    Shop.objects.select_for_update().get(pk=user.shop_id)
    taken, known = 0, []
    for place, item in fields.items("patterns", MOST_PATTERNS):
        entry = Fields(item, place)
        name, position = " ".join(entry.text("name", longest=80).split()), entry.choice("position", ("front", "rear"))
        note, tier = entry.text("note", "", 500), entry.text("tier", "", 20)
        brakes = entry.take("brakes", [])
        if not name or not isinstance(brakes, list) or not set(brakes) <= set(Bike.Brake.values):
            raise BadRecord(say("a pattern has a name, and brakes of the list"), place)
        try:
            specification = wheel_to_dict(wheel_from_dict(entry.take("specification")))
        except TradeError as error:
            raise error.under(f"{place}.specification") from None
        entry.done()
        if Pattern.objects.filter(shop=user.shop, position=position, name__iexact=name).exists():
            known.append(name)
            continue
        Pattern.objects.create(
            shop=user.shop, name=name, note=note, position=position, brakes=brakes, specification=specification,
            tier=tier if tier in tiers else "", created_by=user, changed_by=user,
        )  # fmt: skip
        taken += 1
    fields.done()
    return answers.PatternsIn(taken=taken, known=[say("{name}", name=name) for name in known])
