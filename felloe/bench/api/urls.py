from django.urls import path

from felloe.bench.api import views

urlpatterns = [
    path("jobs/<uuid:job_id>/diagnosis", views.DiagnosisView.as_view(), name="diagnosis"),
    path("jobs/<uuid:job_id>/diagnosis/answers", views.CheckAnswersView.as_view(), name="check-answers"),
    path("jobs/<uuid:job_id>/diagnosis/findings", views.FindingsView.as_view(), name="findings"),
    path("likely-causes", views.CounterView.as_view(), name="likely-causes"),
    path("meters", views.MetersView.as_view(), name="meters"),
    path("jobs/<uuid:job_id>/reading-sets", views.JobSetsView.as_view(), name="reading-sets"),
    path("jobs/<uuid:job_id>/plans", views.JobPlansView.as_view(), name="job-plans"),
    path("reading-sets/<uuid:set_id>", views.SetView.as_view(), name="reading-set"),
    path("reading-sets/<uuid:set_id>/readings", views.ReadingsView.as_view(), name="readings"),
    path("reading-sets/<uuid:set_id>/withdraw", views.ReadingWithdrawView.as_view(), name="reading-withdraw"),
    path("reading-sets/<uuid:set_id>/history", views.ReadingHistoryView.as_view(), name="reading-history"),
    path("reading-sets/<uuid:set_id>/state", views.StateView.as_view(), name="state"),
    path("reading-sets/<uuid:set_id>/dish-options", views.DishOptionsView.as_view(), name="dish-options"),
    path("reading-sets/<uuid:set_id>/plans", views.SetPlansView.as_view(), name="set-plans"),
    path("plans/<uuid:plan_id>", views.PlanView.as_view(), name="plan"),
    path("plans/<uuid:plan_id>/moves/<str:spoke>", views.PlanMoveView.as_view(), name="plan-move"),
]
