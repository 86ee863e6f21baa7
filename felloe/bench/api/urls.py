from django.urls import path

from felloe.bench.api import judging, measuring, views

urlpatterns = [
    path("jobs/<uuid:job_id>/reading-sets", views.JobSetsView.as_view(), name="reading-sets"),
    path("jobs/<uuid:job_id>/plans", views.JobPlansView.as_view(), name="job-plans"),
    path("reading-sets/<uuid:set_id>", views.SetView.as_view(), name="reading-set"),
    path("reading-sets/<uuid:set_id>/readings", views.ReadingsView.as_view(), name="readings"),
    path("reading-sets/<uuid:set_id>/withdraw", views.ReadingWithdrawView.as_view(), name="reading-withdraw"),
    path("reading-sets/<uuid:set_id>/history", views.ReadingHistoryView.as_view(), name="reading-history"),
    path("reading-sets/<uuid:set_id>/advice", measuring.AdviceView.as_view(), name="reading-advice"),
    path("reading-sets/<uuid:set_id>/lumps", measuring.LumpsView.as_view(), name="lumps"),
    path("reading-sets/<uuid:set_id>/turns", measuring.TurnsView.as_view(), name="turns"),
    path(
        "reading-sets/<uuid:set_id>/traces/<uuid:trace_id>/withdraw",
        measuring.TraceWithdrawView.as_view(),
        name="trace-withdraw",
    ),
    path("reading-sets/<uuid:set_id>/csv", measuring.SetCsvView.as_view(), name="set-csv"),
    path("reading-sets/<uuid:set_id>/recordings", measuring.RecordingsView.as_view(), name="recordings"),
    path("reading-sets/<uuid:set_id>/state", views.StateView.as_view(), name="state"),
    path("reading-sets/<uuid:set_id>/what-if", views.WhatIfView.as_view(), name="what-if"),
    path("plan-modes", views.PlanModesView.as_view(), name="plan-modes"),
    path("reading-sets/<uuid:set_id>/dish-options", views.DishOptionsView.as_view(), name="dish-options"),
    path("reading-sets/<uuid:set_id>/left-alone", views.LeftAloneView.as_view(), name="left-alone"),
    path("reading-sets/<uuid:set_id>/trade-off", views.TradeOffView.as_view(), name="trade-off"),
    path("reading-sets/<uuid:set_id>/plans", views.SetPlansView.as_view(), name="set-plans"),
    path("reading-sets/<uuid:set_id>/verdict", judging.VerdictView.as_view(), name="verdict"),
    path("reading-sets/<uuid:set_id>/pass", judging.PassView.as_view(), name="pass"),
    path("reading-sets/<uuid:set_id>/laps", judging.LapsView.as_view(), name="laps"),
    path("plans/<uuid:plan_id>", views.PlanView.as_view(), name="plan"),
    path("plans/<uuid:plan_id>/moves/<str:spoke>", views.PlanMoveView.as_view(), name="plan-move"),
]
