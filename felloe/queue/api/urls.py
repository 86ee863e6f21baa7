from django.urls import path

from felloe.queue.api.counter import PhotosView, PhotoView, SignaturesView, TagView
from felloe.queue.api.views import JobsView, JobView, RailView, TradeView

urlpatterns = [
    path("trade", TradeView.as_view(), name="trade"),
    path("rail", RailView.as_view(), name="rail"),
    path("jobs", JobsView.as_view(), name="jobs"),
    path("jobs/<uuid:job_id>", JobView.as_view(), name="job"),
    path("jobs/<uuid:job_id>/photos", PhotosView.as_view(), name="photos"),
    path("photos/<uuid:photo_id>", PhotoView.as_view(), name="photo"),
    path("jobs/<uuid:job_id>/tag", TagView.as_view(), name="tag"),
    path("jobs/<uuid:job_id>/signatures", SignaturesView.as_view(), name="signatures"),
]
