"""The staff and the shop as the owner keeps them; and the quick change of person at a shared tablet."""

from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.accounts.api.serializers import (
    PinSerializer,
    PinSetSerializer,
    SessionSerializer,
    ShopSerializer,
    StaffAddSerializer,
    StaffChangeSerializer,
    StaffSerializer,
)
from felloe.accounts.services import settings
from felloe.accounts.services import staff as people
from felloe.api.checked import checked
from felloe.api.write_keys import write_once


class PinView(APIView):
    """Digits: another person takes the tablet over (POST), one sets one's own (PUT)."""

    @operation("session_pin", request=PinSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        values = checked(PinSerializer, request.data)
        person = people.change_by_pin(request._request, staff(request), values["person"], values["pin"])
        return Response(SessionSerializer(person).data)

    @operation("pin_set", request=PinSetSerializer, responses={204: None})
    def put(self, request: Request) -> Response:
        people.set_pin(staff(request), checked(PinSetSerializer, request.data)["pin"])
        return Response(status=204)


class StaffEditView(APIView):
    @operation("staff_all", responses=StaffSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(StaffSerializer(people.everybody(staff(request)), many=True).data)

    @operation("staff_add", request=StaffAddSerializer, responses={201: StaffSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        made = people.add_person(staff(request), checked(StaffAddSerializer, request.data))
        return Response(StaffSerializer(made).data, status=201)


class PersonView(APIView):
    @operation("staff_change", request=StaffChangeSerializer, responses=StaffSerializer)
    @write_once
    def patch(self, request: Request, person_id: UUID) -> Response:
        values = checked(StaffChangeSerializer, request.data)
        changed = people.change_person(staff(request), person_id, values.pop("version"), values)
        return Response(StaffSerializer(changed).data)


class ShopView(APIView):
    @operation("shop", responses=ShopSerializer)
    def get(self, request: Request) -> Response:
        return Response(ShopSerializer(settings.shop_of(staff(request))).data)

    @operation("shop_set", request=ShopSerializer, responses=ShopSerializer)
    @write_once
    def put(self, request: Request) -> Response:
        values = checked(ShopSerializer, request.data)
        return Response(ShopSerializer(settings.set_shop(staff(request), values.pop("version"), values)).data)
