from django.urls import path

from felloe.promises.api.views import (
    JobOffersView,
    JobsView,
    LookView,
    OffersView,
    PromiseView,
    PutDownView,
    RailView,
    TakeUpView,
    ToldView,
    WorkView,
)

urlpatterns = [
    path("rail", RailView.as_view(), name="rail"),
    path("jobs", JobsView.as_view(), name="jobs"),
    path("offers", OffersView.as_view(), name="offers"),
    path("jobs/<uuid:job_id>/offers", JobOffersView.as_view(), name="job-offers"),
    path("jobs/<uuid:job_id>/promise/look", LookView.as_view(), name="promise-look"),
    path("jobs/<uuid:job_id>/promise", PromiseView.as_view(), name="promise"),
    path("jobs/<uuid:job_id>/work", WorkView.as_view(), name="work"),
    path("jobs/<uuid:job_id>/take-up", TakeUpView.as_view(), name="take-up"),
    path("jobs/<uuid:job_id>/put-down", PutDownView.as_view(), name="put-down"),
    path("jobs/<uuid:job_id>/told", ToldView.as_view(), name="told"),
]
