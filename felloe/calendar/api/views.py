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
from felloe.calendar import answers, services


class WeekSpanSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.WeekSpan


class ClosedOnSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.ClosedOn


class HoursSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Hours


class AwaySerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.Away


class WorkTimesSerializer(AnswerSerializer):
    class Meta:
        dataclass = answers.WorkTimes


class SpanSerializer(serializers.Serializer[Any]):
    weekday = serializers.IntegerField(min_value=0, max_value=6)
    starts = serializers.TimeField()
    ends = serializers.TimeField()


class ClosedDaySerializer(serializers.Serializer[Any]):
    day = serializers.DateField()
    name = serializers.CharField(max_length=80, required=False, allow_blank=True, default="")


class HoursSetSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    time_zone = serializers.CharField(max_length=40)
    week = serializers.ListField(child=SpanSerializer(), max_length=40)
    closed_days = serializers.ListField(child=ClosedDaySerializer(), max_length=400)


class ShiftsSetSerializer(serializers.Serializer[Any]):
    version = serializers.IntegerField()
    week = serializers.ListField(child=SpanSerializer(), max_length=40)


class AbsenceSerializer(serializers.Serializer[Any]):
    first_day = serializers.DateField()
    last_day = serializers.DateField()
    why = serializers.CharField(max_length=80, required=False, allow_blank=True, default="")


class HoursView(APIView):
    @operation("hours", responses=HoursSerializer)
    def get(self, request: Request) -> Response:
        return Response(HoursSerializer(services.hours_of(staff(request))).data)

    @operation("hours_set", request=HoursSetSerializer, responses=HoursSerializer)
    @write_once
    def put(self, request: Request) -> Response:
        values = checked(HoursSetSerializer, request.data)
        return Response(HoursSerializer(services.set_hours(staff(request), values.pop("version"), values)).data)


class ShiftsView(APIView):
    @operation("work_times", responses=WorkTimesSerializer)
    def get(self, request: Request, person_id: UUID) -> Response:
        return Response(WorkTimesSerializer(services.work_times(staff(request), person_id)).data)

    @operation("shifts_set", request=ShiftsSetSerializer, responses=WorkTimesSerializer)
    @write_once
    def put(self, request: Request, person_id: UUID) -> Response:
        values = checked(ShiftsSetSerializer, request.data)
        return Response(WorkTimesSerializer(services.set_shifts(staff(request), person_id, **values)).data)


class AbsencesView(APIView):
    @operation("absence_add", request=AbsenceSerializer, responses={201: WorkTimesSerializer})
    @write_once
    def post(self, request: Request, person_id: UUID) -> Response:
        found = services.add_absence(staff(request), person_id, checked(AbsenceSerializer, request.data))
        return Response(WorkTimesSerializer(found).data, status=201)


class AbsenceView(APIView):
    @operation("absence_end", request=None, responses=WorkTimesSerializer)
    @write_once
    def post(self, request: Request, absence_id: UUID) -> Response:
        return Response(WorkTimesSerializer(services.end_absence(staff(request), absence_id)).data)
