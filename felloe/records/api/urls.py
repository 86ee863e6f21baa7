from django.urls import path

from felloe.records.api.ending import EndsView, ReopenView, RulesView, StageMoveView
from felloe.records.api.history import ComebackView, WheelHistoryView
from felloe.records.api.views import ComparisonView, HandBackView, RecordView, RequirementsView, SignOffView

urlpatterns = [
    path("jobs/<uuid:job_id>/stage", StageMoveView.as_view(), name="job-stage"),
    path("jobs/<uuid:job_id>/ends", EndsView.as_view(), name="ends"),
    path("jobs/<uuid:job_id>/reopen", ReopenView.as_view(), name="reopen"),
    path("shop/rules", RulesView.as_view(), name="shop-rules"),
    path("jobs/<uuid:job_id>/comparison", ComparisonView.as_view(), name="comparison"),
    path("jobs/<uuid:job_id>/requirements", RequirementsView.as_view(), name="requirements"),
    path("jobs/<uuid:job_id>/sign-off", SignOffView.as_view(), name="sign-off"),
    path("jobs/<uuid:job_id>/hand-back", HandBackView.as_view(), name="hand-back"),
    path("jobs/<uuid:job_id>/record", RecordView.as_view(), name="record"),
    path("jobs/<uuid:job_id>/comeback", ComebackView.as_view(), name="comeback"),
    path("wheels/<uuid:wheel_id>/history", WheelHistoryView.as_view(), name="wheel-history"),
]
