from django.urls import path

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
]
