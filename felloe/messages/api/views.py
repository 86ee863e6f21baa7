from __future__ import annotations

from uuid import UUID

from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.links import services as links
from felloe.links.api.serializers import LetterQuestionSerializer, LetterSerializer
from felloe.links.api.views import host_of
from felloe.messages.api import serializers as s
from felloe.messages.services import outbox


class LetterView(APIView):
    @operation("letter", parameters=[LetterQuestionSerializer], responses=LetterSerializer)
    def get(self, request: Request, job_id: UUID) -> Response:
        asked = checked(LetterQuestionSerializer, request.query_params)
        user = staff(request)
        link, address = outbox.link_of(user, job_id, asked["kind"], asked["link"], host_of(request))
        return Response(LetterSerializer(links.letter_of(user, job_id, asked["kind"], link, address)).data)

    @operation("letter_send", request=LetterQuestionSerializer, responses=s.SentLetterSerializer)
    @write_once
    def post(self, request: Request, job_id: UUID) -> Response:
        asked = checked(LetterQuestionSerializer, request.data)
        made = outbox.write(staff(request), job_id, asked["kind"], asked["link"], host_of(request))
        return Response(s.SentLetterSerializer(outbox.letter_values(made)).data)


class OutboxView(APIView):
    @operation("letters", responses=s.OutboxSerializer)
    def get(self, request: Request) -> Response:
        return Response(s.OutboxSerializer(outbox.outbox(staff(request))).data)


class AgainView(APIView):
    @operation("letter_again", request=None, responses=s.SentLetterSerializer)
    @write_once
    def post(self, request: Request, message_id: UUID) -> Response:
        return Response(s.SentLetterSerializer(outbox.letter_values(outbox.again(staff(request), message_id))).data)
