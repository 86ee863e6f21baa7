from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.links import services
from felloe.links.api import serializers as s


def host_of(request: Request) -> str:
    return str(request.build_absolute_uri("/"))


class LinksView(APIView):
    @operation("links", responses=s.LinkSerializer(many=True))
    def get(self, request: Request, job_id: UUID) -> Response:
        return Response(s.LinkSerializer(services.links_of(staff(request), job_id, host_of(request)), many=True).data)

    @operation("link_make", request=s.NewLinkSerializer, responses=s.LinkSerializer(many=True))
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        services.ask_by_link(staff(request), job_id, **checked(s.NewLinkSerializer, request.data))
        return Response(s.LinkSerializer(services.links_of(staff(request), job_id, host_of(request)), many=True).data)


class LinkEndView(APIView):
    @operation("link_revoke", request=None, responses=s.LinkSerializer(many=True))
    @write_once
    def post(self, request: Request, link_id: UUID) -> Response:
        link = services.revoke(staff(request), link_id)
        return Response(s.LinkSerializer(services.links_of(staff(request), link.job_id, host_of(request)), many=True).data)
