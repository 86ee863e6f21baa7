from django.urls import path

from felloe.condition.api import views

urlpatterns = [
    path("jobs/<uuid:job_id>/diagnosis", views.DiagnosisView.as_view(), name="diagnosis"),
    path("jobs/<uuid:job_id>/diagnosis/answers", views.CheckAnswersView.as_view(), name="check-answers"),
    path("jobs/<uuid:job_id>/diagnosis/findings", views.FindingsView.as_view(), name="findings"),
    path("likely-causes", views.CounterView.as_view(), name="likely-causes"),
]
