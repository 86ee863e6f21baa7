from django.urls import path

from felloe.wheels.api.views import BikeWheelsView, GeometryView, MaterialView, WheelKindsView, WheelView

urlpatterns = [
    path("wheel-kinds", WheelKindsView.as_view(), name="wheel-kinds"),
    path("geometry", GeometryView.as_view(), name="geometry"),
    path("bikes/<uuid:bike_id>/wheels", BikeWheelsView.as_view(), name="bike-wheels"),
    path("wheels/<uuid:wheel_id>", WheelView.as_view(), name="wheel"),
    path("material", MaterialView.as_view(), name="material"),
]
