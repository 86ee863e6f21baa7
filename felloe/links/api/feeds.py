from __future__ import annotations

from typing import Any

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.links import answers
from felloe.links.services import feeds


class FeedSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Feed


class FeedRenewSerializer(serializers.Serializer[Any]):
    keep = serializers.BooleanField(help_text="False closes the address without a new one")


class FeedView(APIView):
    """The address at which calendars read the shop's promises."""

    @operation("feed", responses=FeedSerializer)
    def get(self, request: Request) -> Response:
        return Response(FeedSerializer(feeds.feed_of(staff(request), request.build_absolute_uri("/"))).data)

    @operation("feed_renew", request=FeedRenewSerializer, responses=FeedSerializer)
    @write_once
    def post(self, request: Request) -> Response:
        keep = checked(FeedRenewSerializer, request.data)["keep"]
        return Response(FeedSerializer(feeds.renew_feed(staff(request), request.build_absolute_uri("/"), keep)).data)
