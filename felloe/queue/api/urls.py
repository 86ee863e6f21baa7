from django.urls import path

from felloe.queue.api.counter import PhotosView, PhotoView, SignaturesView, TagView
from felloe.queue.api.patterns import PatternsInView, PatternsOutView, PatternsView, PatternView
from felloe.queue.api.views import EventsView, FindView, JobView, PlacesView, PlaceView, TiersView, TradeView

urlpatterns = [
    path("patterns", PatternsView.as_view(), name="patterns"),
    path("patterns/file", PatternsOutView.as_view(), name="patterns-out"),
    path("patterns/take", PatternsInView.as_view(), name="patterns-in"),
    path("patterns/<uuid:pattern_id>", PatternView.as_view(), name="pattern"),
    path("trade", TradeView.as_view(), name="trade"),
    path("find", FindView.as_view(), name="find"),
    path("tiers", TiersView.as_view(), name="tiers"),
    path("places", PlacesView.as_view(), name="places"),
    path("places/<uuid:place_id>", PlaceView.as_view(), name="place"),
    path("jobs/<uuid:job_id>", JobView.as_view(), name="job"),
    path("jobs/<uuid:job_id>/events", EventsView.as_view(), name="job-events"),
    path("jobs/<uuid:job_id>/photos", PhotosView.as_view(), name="photos"),
    path("photos/<uuid:photo_id>", PhotoView.as_view(), name="photo"),
    path("jobs/<uuid:job_id>/tag", TagView.as_view(), name="tag"),
    path("jobs/<uuid:job_id>/signatures", SignaturesView.as_view(), name="signatures"),
]
