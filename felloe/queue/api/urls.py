from django.urls import path

from felloe.queue.api.views import JobsView, JobView, RailView, StageMoveView, TradeView

urlpatterns = [
    path("trade", TradeView.as_view(), name="trade"),
    path("rail", RailView.as_view(), name="rail"),
    path("jobs", JobsView.as_view(), name="jobs"),
    path("jobs/<uuid:job_id>", JobView.as_view(), name="job"),
    path("jobs/<uuid:job_id>/stage", StageMoveView.as_view(), name="job-stage"),
]
