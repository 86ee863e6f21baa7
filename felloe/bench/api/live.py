"""Live truing over HTTP."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.answers import AnswerSerializer
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.bench import answers
from felloe.bench.api.measuring import TurnHeardSerializer
from felloe.bench.api.serializers import ReadingEntrySerializer, StateSerializer
from felloe.bench.models import LivePass
from felloe.bench.services import live, live_looks
from felloe.bench.services.live_follow import find_live
from felloe.bench.services.live_step import step_of
from felloe.core.measuring.stream import Sample
from felloe.instruments.api.serializers import DIAL_KINDS


class LiveStepSerializer(AnswerSerializer):
    state = StateSerializer()

    class Meta:
        dataclass = answers.LiveStep


class LiveBeginSerializer(serializers.Serializer[Any]):
    untouchable = serializers.ListField(child=serializers.CharField(max_length=8), required=False, max_length=48)
    despite = serializers.CharField(max_length=500, required=False, allow_blank=True)
    as_read = serializers.BooleanField(required=False)


class LiveVersionSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField(min_value=1, help_text="Of the step that the person saw")


class LiveTurnedSerializer(LiveVersionSerializer):
    spoke = serializers.CharField(max_length=8)
    turns = serializers.FloatField(min_value=-3, max_value=3, help_text="0: it would not turn")


class LiveTurnRequestSerializer(LiveVersionSerializer):
    instrument = serializers.UUIDField()
    kind = serializers.ChoiceField(choices=DIAL_KINDS)


class LiveToldSerializer(LiveVersionSerializer):
    kind = serializers.ChoiceField(choices=DIAL_KINDS)
    clear = serializers.BooleanField(required=False, help_text="Nothing is seen against the pointer any more")
    first = serializers.CharField(max_length=8, required=False, default="")
    last = serializers.CharField(max_length=8, required=False, default="")
    height_mm = serializers.FloatField(required=False, default=0.0)
    toward = serializers.ChoiceField(choices=["R", "L"], required=False)


class LiveReadingSerializer(ReadingEntrySerializer):
    version = serializers.IntegerField(min_value=1)


def _step(live_pass: LivePass, status: int = 200) -> Response:
    return Response(LiveStepSerializer(step_of(live_pass)).data, status=status)


class SetLiveView(APIView):
    @operation("live_begin", request=LiveBeginSerializer, responses={201: LiveStepSerializer})
    @write_once
    def post(self, request: Request, set_id: UUID) -> Response:
        return _step(live.begin(staff(request), set_id, checked(LiveBeginSerializer, request.data)), 201)


class LiveView(APIView):
    @operation("live_get", responses=LiveStepSerializer)
    def get(self, request: Request, plan_id: UUID) -> Response:
        return _step(find_live(staff(request), plan_id))


class LiveTurnedView(APIView):
    @operation("live_turned", request=LiveTurnedSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        return _step(live.turned(staff(request), plan_id, checked(LiveTurnedSerializer, request.data)))


class LiveTakeBackView(APIView):
    @operation("live_take_back", request=LiveVersionSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        asked = checked(LiveVersionSerializer, request.data)
        return _step(live.take_back(staff(request), plan_id, asked["version"]))


class LiveMendView(APIView):
    @operation("live_mend", request=LiveTurnedSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        asked = checked(LiveTurnedSerializer, request.data)
        return _step(live.mend(staff(request), plan_id, asked["version"], asked["spoke"], asked["turns"]))


class LiveTurnView(APIView):
    """Asked again and again while the wheel is turned past the dial; what is heard whole is written."""

    @operation("live_turn", request=LiveTurnRequestSerializer, responses={200: LiveStepSerializer, 202: TurnHeardSerializer})
    def post(self, request: Request, plan_id: UUID) -> Response:
        asked = checked(LiveTurnRequestSerializer, request.data)
        press = request.headers.get("Idempotency-Key", "")
        heard = live_looks.hear(staff(request), plan_id, asked["instrument"], asked["kind"], press)
        if heard.turn is None:
            return Response(TurnHeardSerializer(heard).data, status=202)
        return self.kept(request, plan_id, heard.turn)

    @write_once
    def kept(self, request: Request, plan_id: UUID, turn: list[Sample]) -> Response:
        asked = checked(LiveTurnRequestSerializer, request.data)
        made = live_looks.keep_turn(staff(request), plan_id, asked["version"], asked["instrument"], asked["kind"], turn)
        return _step(made)


class LiveTellView(APIView):
    @operation("live_tell", request=LiveToldSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        return _step(live_looks.tell(staff(request), plan_id, checked(LiveToldSerializer, request.data)))


class LiveReadView(APIView):
    @operation("live_read", request=LiveReadingSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        asked = dict(checked(LiveReadingSerializer, request.data))
        version = asked.pop("version")
        return _step(live_looks.read_one(staff(request), plan_id, version, asked))


class LiveEndView(APIView):
    @operation("live_end", request=LiveVersionSerializer, responses=LiveStepSerializer)
    @write_once
    def post(self, request: Request, plan_id: UUID) -> Response:
        asked = checked(LiveVersionSerializer, request.data)
        return _step(live.end(staff(request), plan_id, asked["version"]))
