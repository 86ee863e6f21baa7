from __future__ import annotations

from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts import services
from felloe.accounts.api.serializers import PersonSerializer, SessionSerializer, SettingsSerializer, SignInSerializer
from felloe.api.permissions import IsShopStaff, staff


@method_decorator(csrf_protect, name="dispatch")
class SessionView(APIView):
    """Who is signed in; signing in (with CSRF protection although anonymous) and out."""

    def get_permissions(self) -> list[object]:  # type: ignore[override]
        return [AllowAny()] if self.request.method == "POST" else [IsShopStaff()]

    @extend_schema(responses=SessionSerializer, operation_id="session_get")
    def get(self, request: Request) -> Response:
        return Response(SessionSerializer(staff(request)).data)

    @extend_schema(request=SignInSerializer, responses=SessionSerializer, operation_id="session_start")
    def post(self, request: Request) -> Response:
        data = SignInSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        user = services.sign_in(request._request, **data.validated_data)
        return Response(SessionSerializer(user).data)

    @extend_schema(request=SettingsSerializer, responses=SessionSerializer, operation_id="session_settings")
    def patch(self, request: Request) -> Response:
        data = SettingsSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(SessionSerializer(services.set_force_unit(staff(request), **data.validated_data)).data)

    @extend_schema(responses={204: None}, operation_id="session_end")
    def delete(self, request: Request) -> Response:
        services.sign_out(request._request)
        return Response(status=204)


class StaffView(APIView):
    @extend_schema(responses=PersonSerializer(many=True), operation_id="staff_list")
    def get(self, request: Request) -> Response:
        return Response(PersonSerializer(services.staff_of(staff(request)), many=True).data)
