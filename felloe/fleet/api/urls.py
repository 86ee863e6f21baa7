from django.urls import path

from felloe.fleet.api import views

urlpatterns = [
    path("lots", views.LotsView.as_view(), name="lots"),
    path("lots/preview", views.PreviewView.as_view(), name="lot-preview"),
    path("lots/<uuid:lot_id>", views.LotView.as_view(), name="lot"),
    path("lots/<uuid:lot_id>/labels", views.LabelsView.as_view(), name="lot-labels"),
    path("lots/<uuid:lot_id>/agree", views.LotAgreeView.as_view(), name="lot-agree"),
    path("lots/<uuid:lot_id>/return", views.LotReturnView.as_view(), name="lot-return"),
    path("lots/<uuid:lot_id>/items/<uuid:job_id>", views.LotItemView.as_view(), name="lot-item"),
]
