from __future__ import annotations

from uuid import UUID

from drf_spectacular.utils import OpenApiParameter
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.customers import services
from felloe.customers.api.serializers import (
    BikeChangeSerializer,
    BikeSerializer,
    CustomerChangeSerializer,
    CustomerMergeSerializer,
    CustomerSerializer,
)


class CustomersView(APIView):
    @operation(
        "customers_search",
        parameters=[OpenApiParameter("search", str, description="Part of a name, phone number or bike")],
        responses=CustomerSerializer(many=True),
    )
    def get(self, request: Request) -> Response:
        found = services.search(staff(request), request.query_params.get("search", "")[:80])
        return Response(CustomerSerializer(found, many=True).data)

    @operation("customers_add", request=CustomerSerializer, responses={201: CustomerSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        data = CustomerSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(CustomerSerializer(services.add_customer(staff(request), data.validated_data)).data, status=201)


class CustomerView(APIView):
    @operation("customer", responses=CustomerSerializer)
    def get(self, request: Request, customer_id: UUID) -> Response:
        return Response(CustomerSerializer(services.find_customer(staff(request), customer_id)).data)

    @operation("customer_change", request=CustomerChangeSerializer, responses=CustomerSerializer)
    @write_once
    def patch(self, request: Request, customer_id: UUID) -> Response:
        data = CustomerChangeSerializer(data=request.data, partial=True)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        changed = services.change_customer(staff(request), customer_id, values.pop("version", 0), values)
        return Response(CustomerSerializer(changed).data)


class CustomerMergeView(APIView):
    @operation("customer_merge", request=CustomerMergeSerializer, responses=CustomerSerializer)
    @write_once
    def post(self, request: Request, customer_id: UUID) -> Response:
        values = checked(CustomerMergeSerializer, request.data)
        kept = services.merge_customers(staff(request), customer_id, values["into"], values["version"])
        return Response(CustomerSerializer(kept).data)


class BikesView(APIView):
    @operation("bikes_add", request=BikeSerializer, responses={201: BikeSerializer})
    @write_once
    def post(self, request: Request, customer_id: UUID) -> Response:
        data = BikeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        bike = services.add_bike(staff(request), customer_id, data.validated_data)
        return Response(BikeSerializer(bike).data, status=201)


class BikeView(APIView):
    @operation("bike_change", request=BikeChangeSerializer, responses=BikeSerializer)
    @write_once
    def patch(self, request: Request, bike_id: UUID) -> Response:
        data = BikeChangeSerializer(data=request.data, partial=True)
        data.is_valid(raise_exception=True)
        values = dict(data.validated_data)
        return Response(BikeSerializer(services.change_bike(staff(request), bike_id, values.pop("version", 0), values)).data)
