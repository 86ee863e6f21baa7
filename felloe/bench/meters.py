"""The shop's meters."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.http import Http404

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.bench.models import Meter, MeterTable
from felloe.core.record import table_from_dict
from felloe.core.tension.meter import MeterTable as CoreTable


def meters_of(user: User) -> list[Meter]:
    return list(Meter.objects.filter(shop_id=user.shop_id).prefetch_related("tables").order_by("name"))


@transaction.atomic
def add_meter(user: User, values: dict[str, Any]) -> Meter:
    """A meter with its tables; the core refuses a table that is no calibration, and nothing is saved."""
    if user.role == User.Role.DESK:
        raise PermissionDenied("Meters are kept by those at the bench: a mechanic or the owner.")
    tables = [table_from_dict(dict(table), f"tables.{i}") for i, table in enumerate(values["tables"])]
    if Meter.objects.filter(shop_id=user.shop_id, name=values["name"]).exists():
        raise Refused("meter_exists", "There is a meter of this name already.", 409)
    meter = Meter.objects.create(shop_id=user.shop_id, name=values["name"], serial=values.get("serial", ""), created_by=user)
    for table in tables:
        MeterTable.objects.create(
            shop_id=user.shop_id,
            meter=meter,
            spoke_kind=table.spoke_kind,
            readings=list(table.readings),
            forces_n=list(table.forces_n),
            resolution=table.resolution,
            residual_n=table.residual_n,
            created_by=user,
        )
    return meter


def table_for(user: User, meter_id: UUID | None, spoke_kind: str) -> MeterTable:
    """The table of a meter for a kind of spoke; refused with what to do where it has none."""
    meter = Meter.objects.filter(shop_id=user.shop_id, pk=meter_id).first() if meter_id else None
    if meter is None:
        raise Http404
    table = MeterTable.objects.filter(meter=meter, spoke_kind=spoke_kind).first()
    if table is None:
        raise Refused(
            "no_table_for_spoke",
            f"{meter.name} has no table for a {spoke_kind} spoke. Use another meter, or enter the force itself.",
            422,
            errors=[{"field": "meter", "message": f"no table for a {spoke_kind} spoke", "code": "no_table_for_spoke"}],
        )
    return table


def core_table(table: MeterTable) -> CoreTable:
    """The core's table of a row."""
    return CoreTable(table.spoke_kind, tuple(table.readings), tuple(table.forces_n), table.resolution, table.residual_n)
