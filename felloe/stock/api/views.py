from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts import services as accounts
from felloe.accounts.api.operations import operation, staff
from felloe.accounts.models import User
from felloe.api.checked import checked
from felloe.api.pages import BeforeSerializer
from felloe.api.problems import Refused
from felloe.api.write_keys import write_once
from felloe.core.said import say
from felloe.core.stock.claims import covered
from felloe.core.stock.parts import ATTRIBUTES, PART_KINDS
from felloe.core.stock.worth import worth_of
from felloe.queue import services as queue
from felloe.stock import answers, services
from felloe.stock.api import serializers as s
from felloe.stock.models import Part, PurchaseOrder
from felloe.stock.services import library, orders


def _stock(user: User, parts: list[Part]) -> list[answers.StockPart]:
    known = services.figures(parts)
    minima = orders.suggested_minima(user, parts)
    numbers = queue.job_numbers(user, {claim.job for f in known.values() for claim in f.claims})
    found = []
    for part in parts:
        figures = known[part.pk]
        shares = covered(figures.on_hand, figures.claims)
        claims = [
            answers.Claim(job=UUID(c.job), job_number=numbers[c.job], count=c.count, covered=shares[c.job])
            for c in figures.claims
        ]
        values = {name: getattr(part, name) for name in ("id", "version", "kind", "name", "attributes", *services.FIELDS)}
        found.append(
            answers.StockPart(
                **values,
                on_hand=figures.on_hand,
                free=figures.free,
                on_order=figures.on_order,
                suggested_minimum=minima[part.pk],
                claims=claims,
            )
        )
    return found


def _part(user: User, part: Part) -> Response:
    return Response(s.StockPartSerializer(_stock(user, [part])[0]).data)


class StockView(APIView):
    @operation("stock", responses=s.StockSerializer)
    def get(self, request: Request) -> Response:
        user = staff(request)
        kinds = [
            answers.PartKind(
                key=k,
                name=name,
                attributes=[
                    answers.Attribute(name=a.name, label=a.label, kind=a.kind, needed=a.required, words=list(a.words))
                    for a in ATTRIBUTES[k]
                ],
            )
            for k, name in PART_KINDS.items()
        ]
        shop = user.shop
        parts = _stock(user, services.parts_of(user))
        value, unpriced = worth_of((part.on_hand, part.price_minor) for part in parts)
        worth = answers.Worth(shop.currency, value, unpriced)
        return Response(
            s.StockSerializer(answers.Stock(kinds=kinds, parts=parts, cuts_spokes=shop.cuts_spokes, worth=worth)).data
        )


class MachineView(APIView):
    """Whether the shop cuts spokes and rolls threads itself: the owner says."""

    @operation("stock_machine", request=s.MachineSerializer, responses=s.MachineSerializer)
    @write_once
    def put(self, request: Request) -> Response:
        values = checked(s.MachineSerializer, request.data)
        accounts.set_cuts_spokes(staff(request), **values)
        return Response(s.MachineSerializer(values).data)


class PartsView(APIView):
    @operation("part_add", request=s.PartInSerializer, responses={201: s.StockPartSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        part = services.add_part(staff(request), checked(s.PartInSerializer, request.data))
        return Response(s.StockPartSerializer(_stock(staff(request), [part])[0]).data, status=201)


class PartView(APIView):
    @operation("part_change", request=s.PartChangeSerializer, responses=s.StockPartSerializer)
    @write_once
    def patch(self, request: Request, part_id: UUID) -> Response:
        values = checked(s.PartChangeSerializer, request.data)
        return _part(staff(request), services.change_part(staff(request), part_id, values.pop("version"), values))


class MovementsView(APIView):
    @operation(
        "part_movements",
        parameters=[BeforeSerializer],
        responses=s.LedgerPageSerializer,
    )
    def get(self, request: Request, part_id: UUID) -> Response:
        before = checked(BeforeSerializer, request.query_params).get("before")
        rows, earlier = services.movements_of(staff(request), part_id, before)
        return Response(
            s.LedgerPageSerializer(
                answers.LedgerPage(
                    earlier=earlier,
                    movements=[
                        answers.Movement(
                            id=row.pk,
                            kind=row.kind,
                            word=row.get_kind_display(),
                            delta=row.delta,
                            claim_delta=row.claim_delta,
                            job_number=row.job.number if row.job else None,
                            note=row.note,
                            by=row.created_by.display_name if row.created_by else "",
                            created_at=row.created_at,
                        )
                        for row in rows
                    ],
                )
            ).data
        )

    @operation("part_move", request=s.MoveInSerializer, responses=s.StockPartSerializer)
    @write_once
    def post(self, request: Request, part_id: UUID) -> Response:
        user, values = staff(request), checked(s.MoveInSerializer, request.data)
        kind, count, job = values["kind"], values["count"], values.get("job")
        if kind == "count":
            services.count_bin(user, part_id, count, values["note"])
        elif job is None:
            raise Refused("job_needed", say("Say for which job."), 422)
        elif kind == "take":
            services.take(user, part_id, job, count, values["note"])
        elif kind == "cut":
            services.cut(user, part_id, job, count, values.get("to_mm") or 0.0)
        else:
            {"reserve": services.reserve, "release": services.release, "return": services.give_back}[kind](
                user, part_id, job, count
            )
        return _part(user, services.find_part(user, part_id))


def _orders(user: User, freed: list[int]) -> Response:
    rows = orders.orders_of(user)
    arrived = orders.arrived_of(*rows)
    return Response(
        s.OrdersSerializer(
            answers.Orders(
                proposed=orders.proposed(user), orders=[_order_values(row, arrived) for row in rows], freed_jobs=freed
            )
        ).data
    )


def _order_values(order: PurchaseOrder, arrived: dict[UUID, int]) -> answers.Order:
    return answers.Order(
        id=order.pk,
        supplier=order.supplier,
        state=order.state,
        by=order.created_by.display_name if order.created_by else "",
        created_at=order.created_at,
        lines=[
            answers.OrderLine(
                id=line.pk, part=line.part_id, name=line.part.name, count=line.count, arrived=arrived.get(line.pk, 0)
            )
            for line in order.lines.all()
        ],
    )


class OrdersView(APIView):
    @operation("orders", responses=s.OrdersSerializer)
    def get(self, request: Request) -> Response:
        return _orders(staff(request), [])

    @operation("order_send", request=s.SendOrderSerializer, responses={201: s.OrdersSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        orders.send_order(staff(request), **checked(s.SendOrderSerializer, request.data))
        answer = _orders(staff(request), [])
        answer.status_code = 201
        return answer


class ReceiveView(APIView):
    @operation("order_receive", request=s.ReceiveSerializer, responses=s.OrdersSerializer)
    @write_once
    def post(self, request: Request, order_id: UUID) -> Response:
        _, freed = orders.receive(staff(request), order_id, checked(s.ReceiveSerializer, request.data)["lines"])
        return _orders(staff(request), [job.number for job in freed])


class CancelView(APIView):
    @operation("order_cancel", request=None, responses=s.OrdersSerializer)
    @write_once
    def post(self, request: Request, order_id: UUID) -> Response:
        orders.cancel(staff(request), order_id)
        return _orders(staff(request), [])


class LibraryView(APIView):
    @operation("stock_library", may_lag=True, responses={(200, "text/csv"): OpenApiTypes.STR})
    def get(self, request: Request) -> HttpResponse:
        answer = HttpResponse(library.library_csv(staff(request)), content_type="text/csv; charset=utf-8")
        answer["Content-Disposition"] = 'attachment; filename="parts.csv"'
        return answer


class PreviewView(APIView):
    @operation("stock_preview", request=s.FileSerializer, responses=s.PreviewRowSerializer(many=True))
    def post(self, request: Request) -> Response:
        rows = library.preview(staff(request), checked(s.FileSerializer, request.data)["text"])
        return Response(s.PreviewRowSerializer(rows, many=True).data)


class ImportView(APIView):
    @operation("stock_import", request=s.FileSerializer, responses=s.ImportedSerializer)
    @write_once
    def post(self, request: Request) -> Response:
        touched = library.import_csv(staff(request), checked(s.FileSerializer, request.data)["text"])
        return Response(s.ImportedSerializer(answers.Imported(touched=touched)).data)
