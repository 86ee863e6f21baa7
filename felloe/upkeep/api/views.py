from __future__ import annotations

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.upkeep import answers, services


class BackupsSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Backups


class BackupsView(APIView):
    """How old the last good backup is, and how the last ones went."""

    @operation("backups", responses=BackupsSerializer)
    def get(self, request: Request) -> Response:
        return Response(BackupsSerializer(services.newest_backups(staff(request))).data)
