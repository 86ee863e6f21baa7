"""Orders: what should be ordered, what was, and what came in."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from uuid import UUID

from django.http import Http404
from django.utils import timezone

from felloe.accounts.models import User
from felloe.api.problems import Refused
from felloe.core.said import say
from felloe.core.stock.claims import NotEnough
from felloe.core.stock.ordering import USE_DAYS, Bin, minimum_by_use, to_order
from felloe.places.here import atomic
from felloe.queue.models import Job
from felloe.stock import answers
from felloe.stock.models import Movement, OrderLine, Part, PurchaseOrder
from felloe.stock.services.bins import MOST, arrivals, figures, find_part, parts_of, release_waiting, write


def proposed(user: User) -> list[answers.ProposedOrder]:
    """What to order, by supplier, with the reason of each line."""
    parts = {str(part.pk): part for part in parts_of(user)}
    known = figures(parts.values())
    bins = [
        Bin(
            key,
            p.supplier,
            known[p.pk].on_hand,
            sum(c.count for c in known[p.pk].claims),
            known[p.pk].on_order,
            p.minimum,
            p.pack,
        )
        for key, p in parts.items()
    ]
    return [
        answers.ProposedOrder(
            supplier=supplier,
            lines=[
                answers.ProposedLine(part=UUID(line.key), name=parts[line.key].name, count=line.count, why=line.why)
                for line in lines
            ],
        )
        for supplier, lines in to_order(bins).items()
    ]


def suggested_minima(user: User, parts: list[Part]) -> dict[UUID, int]:
    """The minimum that each part's use of late asks for."""
    since = timezone.now() - timedelta(days=USE_DAYS)
    taken: dict[UUID, list[int]] = {}
    rows = Movement.objects.filter(part__in=parts, kind__in=["take", "cut"], created_at__gte=since)
    for part, delta in rows.values_list("part_id", "delta"):
        taken.setdefault(part, []).append(-delta)
    return {part.pk: minimum_by_use(taken.get(part.pk, []), USE_DAYS, part.lead_days) for part in parts}


def orders_of(user: User) -> list[PurchaseOrder]:
    """Orders under way, and the last ones that are done."""
    rows = PurchaseOrder.objects.filter(shop_id=user.shop_id).select_related("created_by").prefetch_related("lines__part")
    under_way = list(rows.filter(state=PurchaseOrder.State.SENT).order_by("created_at"))
    return under_way + list(rows.exclude(state=PurchaseOrder.State.SENT).order_by("-changed_at")[:5])


def arrived_of(*orders: PurchaseOrder) -> dict[UUID, int]:
    """What has come in of each line of some orders."""
    return dict(arrivals(OrderLine.objects.filter(order__in=orders)))


@atomic
def send_order(user: User, supplier: str, lines: list[dict[str, Any]]) -> PurchaseOrder:
    """Note that an order went out."""
    if not lines:
        raise Refused("nothing_ordered", say("Order at least one part."), 422)
    order = PurchaseOrder.objects.create(shop_id=user.shop_id, supplier=supplier, created_by=user, changed_by=user)
    for line in lines:
        part = find_part(user, line["part"])
        if not 1 <= line["count"] <= MOST:
            raise NotEnough(say("a count lies between 1 and {most}", most=MOST), "count")
        OrderLine.objects.create(shop_id=user.shop_id, order=order, part=part, count=line["count"], created_by=user)
    return order


def find_order(user: User, order_id: UUID, lock: bool = False) -> PurchaseOrder:
    found = PurchaseOrder.objects.filter(shop_id=user.shop_id, pk=order_id)
    order = (found.select_for_update() if lock else found).first()
    if order is None:
        raise Http404
    return order


def _under_way(user: User, order_id: UUID) -> PurchaseOrder:
    order = find_order(user, order_id, lock=True)
    if order.state != PurchaseOrder.State.SENT:
        raise Refused("order_closed", say("This order is closed already."), 409)
    return order


@atomic
def receive(user: User, order_id: UUID, lines: list[dict[str, Any]]) -> tuple[PurchaseOrder, list[Job]]:
    """Book what came in; the order closes when nothing is missing, and jobs that waited are released."""
    order = _under_way(user, order_id)
    arrived = arrived_of(order)
    known = {line.pk: line for line in order.lines.select_related("part")}
    if any(given["line"] not in known for given in lines):
        raise Http404
    # Parts are locked in one order, so that two deliveries booked at once wait for each other and never both.
    for given in sorted(lines, key=lambda given: known[given["line"]].part_id):
        line = known[given["line"]]
        missing = line.count - arrived.get(line.pk, 0)
        if not 0 <= given["count"] <= missing:
            raise NotEnough(
                say(
                    "{part}: {missing} were still to come, {count} cannot have",
                    part=line.part.name,
                    missing=missing,
                    count=given["count"],
                ),
                "count",
            )
        if given["count"]:
            part = find_part(user, line.part_id, lock=True)
            write(user, part, Movement.Kind.RECEIVE, delta=given["count"], order_line=line)
            arrived[line.pk] = arrived.get(line.pk, 0) + given["count"]
    if all(arrived.get(key, 0) >= line.count for key, line in known.items()):
        order.state = PurchaseOrder.State.RECEIVED
    order.save_change(user, ["state"])
    return order, release_waiting(user, [line.part_id for line in known.values()])


@atomic
def cancel(user: User, order_id: UUID) -> PurchaseOrder:
    """What has not come will not come."""
    order = _under_way(user, order_id)
    order.state = PurchaseOrder.State.CANCELLED
    order.save_change(user, ["state"])
    return order
