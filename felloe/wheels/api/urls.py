from django.urls import path

from felloe.wheels.api.measure import (
    BedView,
    ErdByRodsView,
    ErdInsideView,
    FlangeCircleView,
    LocknutView,
    RimPlaceView,
    ThreadInNippleView,
)
from felloe.wheels.api.rim import BoxSectionView, HangTestView
from felloe.wheels.api.views import BikeWheelsView, GeometryView, MaterialView, WheelKindsView, WheelView

urlpatterns = [
    path("wheel-kinds", WheelKindsView.as_view(), name="wheel-kinds"),
    path("geometry", GeometryView.as_view(), name="geometry"),
    path("bikes/<uuid:bike_id>/wheels", BikeWheelsView.as_view(), name="bike-wheels"),
    path("wheels/<uuid:wheel_id>", WheelView.as_view(), name="wheel"),
    path("rim-section", BoxSectionView.as_view(), name="rim-section"),
    path("rim-hang-test", HangTestView.as_view(), name="rim-hang-test"),
    path("material", MaterialView.as_view(), name="material"),
    path("measure/erd-by-rods", ErdByRodsView.as_view(), name="measure-erd-by-rods"),
    path("measure/erd-inside", ErdInsideView.as_view(), name="measure-erd-inside"),
    path("measure/bed", BedView.as_view(), name="measure-bed"),
    path("measure/flange", FlangeCircleView.as_view(), name="measure-flange"),
    path("measure/locknut", LocknutView.as_view(), name="measure-locknut"),
    path("measure/rim-place", RimPlaceView.as_view(), name="measure-rim-place"),
    path("thread-in-nipple", ThreadInNippleView.as_view(), name="thread-in-nipple"),
]
