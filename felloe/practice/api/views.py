from __future__ import annotations

from uuid import UUID

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, OpenApiResponse
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from felloe.accounts.api.operations import operation, staff
from felloe.api.checked import checked
from felloe.api.write_keys import write_once
from felloe.bench.api.serializers import StateSerializer
from felloe.practice import services
from felloe.practice.api import serializers as s


class LadderView(APIView):
    @operation("practice", responses=s.LadderSerializer)
    def get(self, request: Request) -> Response:
        return Response(s.LadderSerializer(services.ladder_of(staff(request))).data)


class LearnersView(APIView):
    @operation("practice_learners", responses=s.LearnerSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(s.LearnerSerializer(services.learners_of(staff(request)), many=True).data)


class LessonView(APIView):
    @operation(
        "practice_lesson",
        parameters=[OpenApiParameter("of", str, required=True, description="The lesson of a rung, as the ladder names it")],
        responses=s.PracticeLessonSerializer,
    )
    def get(self, request: Request) -> Response:
        return Response(s.PracticeLessonSerializer(services.lesson_answer(request.GET.get("of", ""))).data)


class RunsView(APIView):
    @operation("practice_begin", request=s.BeginSerializer, responses={201: s.PracticeRunSerializer})
    @write_once
    def post(self, request: Request) -> Response:
        run = services.begin(staff(request), checked(s.BeginSerializer, request.data))
        return Response(s.PracticeRunSerializer(services.run_answer(staff(request), run.pk)).data, status=201)


class RunView(APIView):
    @operation("practice_run", responses=s.PracticeRunSerializer)
    def get(self, request: Request, run_id: UUID) -> Response:
        return Response(s.PracticeRunSerializer(services.run_answer(staff(request), run_id)).data)


class DeedsView(APIView):
    @operation("practice_act", request=s.DeedSerializer, responses=s.PracticeNowSerializer)
    @write_once
    def post(self, request: Request, run_id: UUID) -> Response:
        now = services.act(staff(request), run_id, checked(s.DeedSerializer, request.data))
        return Response(s.PracticeNowSerializer(now).data)


class RunStateView(APIView):
    @operation("practice_state", responses=StateSerializer)
    def get(self, request: Request, run_id: UUID) -> Response:
        return Response(StateSerializer(services.state_answer(staff(request), run_id)).data)


class PluckView(APIView):
    @operation("practice_pluck", responses={(200, "audio/wav"): OpenApiResponse(OpenApiTypes.BINARY)})
    def get(self, request: Request, run_id: UUID, spoke: str) -> HttpResponse:
        return HttpResponse(services.pluck(staff(request), run_id, spoke), content_type="audio/wav")


class TasksView(APIView):
    @operation("practice_set", request=s.NewTaskSerializer, responses=s.LearnerSerializer(many=True))
    @write_once
    def post(self, request: Request) -> Response:
        asked = checked(s.NewTaskSerializer, request.data)
        services.set_task(staff(request), asked["person"], asked["exercise"])
        return Response(s.LearnerSerializer(services.learners_of(staff(request)), many=True).data)


class TaskView(APIView):
    @operation("practice_take_back", request=None, responses=s.LearnerSerializer(many=True))
    @write_once
    def post(self, request: Request, task_id: UUID) -> Response:
        services.take_back(staff(request), task_id)
        return Response(s.LearnerSerializer(services.learners_of(staff(request)), many=True).data)
