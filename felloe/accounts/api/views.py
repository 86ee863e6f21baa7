from __future__ import annotations

from django.middleware.csrf import get_token
from django.utils.decorators import method_decorator
from django.views.decorators.csrf import csrf_protect
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts import services
from felloe.accounts.api.operations import operation, staff
from felloe.accounts.api.serializers import PersonSerializer, SessionSerializer, SettingsSerializer, SignInSerializer


@method_decorator(csrf_protect, name="dispatch")
class SessionView(APIView):
    """Who is signed in; signing in (with CSRF protection although anonymous) and out."""

    @operation("session_get", responses=SessionSerializer)
    def get(self, request: Request) -> Response:
        # A tablet that has lost its cookie gets it anew by asking who is signed in.
        get_token(request._request)
        return Response(SessionSerializer(staff(request)).data)

    @operation("session_start", request=SignInSerializer, responses=SessionSerializer)
    def post(self, request: Request) -> Response:
        data = SignInSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        user = services.sign_in(request._request, **data.validated_data)
        return Response(SessionSerializer(user).data)

    @operation("session_settings", request=SettingsSerializer, responses=SessionSerializer)
    def patch(self, request: Request) -> Response:
        data = SettingsSerializer(data=request.data)
        data.is_valid(raise_exception=True)
        return Response(SessionSerializer(services.set_force_unit(staff(request), **data.validated_data)).data)

    @operation("session_end", responses={204: None})
    def delete(self, request: Request) -> Response:
        services.sign_out(request._request)
        return Response(status=204)


class StaffView(APIView):
    @operation("staff_list", responses=PersonSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(PersonSerializer(services.staff_of(staff(request)), many=True).data)
