from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.write_keys import write_once
from felloe.core.measuring.material import by_magnet
from felloe.core.specification import wheel_from_dict
from felloe.wheels import services
from felloe.wheels.api.serializers import (
    DerivedSerializer,
    GeometryCheckSerializer,
    MaterialGuessSerializer,
    MaterialQuestionSerializer,
    WheelChangeSerializer,
    WheelKindSerializer,
    WheelSerializer,
)


class WheelKindsView(APIView):
    @operation("wheel_kinds", responses=WheelKindSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(WheelKindSerializer(services.kinds(staff(request)), many=True).data)


class GeometryView(APIView):
    """What follows from dimensions that are still being entered; nothing is saved."""

    @operation("geometry_check", request=GeometryCheckSerializer, responses=DerivedSerializer)
    def post(self, request: Request) -> Response:
        data = GeometryCheckSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        wheel = wheel_from_dict(values["specification"], "specification")
        return Response(DerivedSerializer(services.derived(wheel, values.get("uncertainty_mm"))).data)


class BikeWheelsView(APIView):
    @operation("bike_wheels", responses=WheelSerializer(many=True))
    def get(self, request: Request, bike_id: UUID) -> Response:
        return Response(WheelSerializer(services.wheels_of_bike(staff(request), bike_id), many=True).data)


class WheelView(APIView):
    @operation("wheel_get", responses=WheelSerializer)
    def get(self, request: Request, wheel_id: UUID) -> Response:
        return Response(WheelSerializer(services.find_wheel(staff(request), wheel_id)).data)

    @operation("wheel_change", request=WheelChangeSerializer, responses=WheelSerializer)
    @write_once
    def patch(self, request: Request, wheel_id: UUID) -> Response:
        data = WheelChangeSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        values = data.validated_data
        wheel = services.change_specification(
            staff(request),
            wheel_id,
            values["version"],
            values["specification"],
            values["kind"],
            values.get("uncertainty_mm"),
        )
        return Response(WheelSerializer(wheel).data)


class MaterialView(APIView):
    @operation("material", parameters=[MaterialQuestionSerializer], responses=MaterialGuessSerializer)
    def get(self, request: Request) -> Response:
        data = MaterialQuestionSerializer(data=request.query_params)
        data.is_valid(raise_exception=True)
        return Response(MaterialGuessSerializer(by_magnet(**data.validated_data)).data)
