from django.urls import path

from felloe.queue.api.counter import PhotosView, PhotoView, SignaturesView, TagView
from felloe.queue.api.views import FindView, JobView, PlacesView, PlaceView, TiersView, TradeView

urlpatterns = [
    path("trade", TradeView.as_view(), name="trade"),
    path("find", FindView.as_view(), name="find"),
    path("tiers", TiersView.as_view(), name="tiers"),
    path("places", PlacesView.as_view(), name="places"),
    path("places/<uuid:place_id>", PlaceView.as_view(), name="place"),
    path("jobs/<uuid:job_id>", JobView.as_view(), name="job"),
    path("jobs/<uuid:job_id>/photos", PhotosView.as_view(), name="photos"),
    path("photos/<uuid:photo_id>", PhotoView.as_view(), name="photo"),
    path("jobs/<uuid:job_id>/tag", TagView.as_view(), name="tag"),
    path("jobs/<uuid:job_id>/signatures", SignaturesView.as_view(), name="signatures"),
]
