from django.urls import path

from felloe.practice.api import views

urlpatterns = [
    path("practice", views.LadderView.as_view(), name="practice"),
    path("practice/learners", views.LearnersView.as_view(), name="practice-learners"),
    path("practice/lesson", views.LessonView.as_view(), name="practice-lesson"),
    path("practice/runs", views.RunsView.as_view(), name="practice-runs"),
    path("practice/runs/<uuid:run_id>", views.RunView.as_view(), name="practice-run"),
    path("practice/runs/<uuid:run_id>/deeds", views.DeedsView.as_view(), name="practice-deeds"),
    path("practice/runs/<uuid:run_id>/state", views.RunStateView.as_view(), name="practice-state"),
    path("practice/runs/<uuid:run_id>/sound/<slug:spoke>", views.PluckView.as_view(), name="practice-pluck"),
    path("practice/tasks", views.TasksView.as_view(), name="practice-tasks"),
    path("practice/tasks/<uuid:task_id>/taken-back", views.TaskView.as_view(), name="practice-task"),
]
