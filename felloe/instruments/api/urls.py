from django.urls import path

from felloe.instruments.api import views

urlpatterns = [
    path("meters", views.MetersView.as_view(), name="meters"),
    path("instruments", views.InstrumentsView.as_view(), name="instruments"),
    path("instruments/<uuid:instrument_id>", views.InstrumentView.as_view(), name="instrument"),
    path("instruments/<uuid:instrument_id>/calibrations", views.CalibrationsView.as_view(), name="calibrations"),
    path("instruments/<uuid:instrument_id>/derived-tables", views.DerivedTablesView.as_view(), name="derived-tables"),
    path("instruments/<uuid:instrument_id>/chart", views.ChartView.as_view(), name="chart"),
    path("instruments/<uuid:instrument_id>/checks", views.InstrumentChecksView.as_view(), name="instrument-checks"),
    path("instruments/<uuid:instrument_id>/stand-checks", views.StandChecksView.as_view(), name="stand-checks"),
    path("instruments/<uuid:instrument_id>/live", views.LiveView.as_view(), name="instrument-live"),
]
