from django.urls import path

from felloe.repair.api import money, views

urlpatterns = [
    path("jobs/<uuid:job_id>/condition", views.ConditionView.as_view(), name="condition"),
    path("jobs/<uuid:job_id>/marks", views.MarksView.as_view(), name="marks"),
    path("jobs/<uuid:job_id>/marks/<uuid:mark_id>/end", views.MarkEndView.as_view(), name="mark-end"),
    path("jobs/<uuid:job_id>/breaks", views.BreaksView.as_view(), name="breaks"),
    path("jobs/<uuid:job_id>/breaks/<uuid:break_id>/end", views.BreakEndView.as_view(), name="break-end"),
    path("jobs/<uuid:job_id>/frame-checks", views.FrameChecksView.as_view(), name="frame-checks"),
    path("jobs/<uuid:job_id>/options", views.OptionsView.as_view(), name="options"),
    path("jobs/<uuid:job_id>/decisions", views.DecisionsView.as_view(), name="decisions"),
    path("jobs/<uuid:job_id>/mended", views.MendedView.as_view(), name="mended"),
    path("jobs/<uuid:job_id>/refit", views.RefitView.as_view(), name="refit"),
    path("jobs/<uuid:job_id>/recheck", views.RecheckView.as_view(), name="recheck"),
    path("jobs/<uuid:job_id>/quote", money.QuoteView.as_view(), name="quote"),
    path("jobs/<uuid:job_id>/account", money.AccountView.as_view(), name="account"),
    path("money/lines.csv", money.LinesView.as_view(), name="money-lines"),
    path("unsafe", views.UnsafeView.as_view(), name="unsafe"),
    path("road-advice", views.RoadAdviceView.as_view(), name="road-advice"),
    path("prices", views.PricesView.as_view(), name="prices"),
]
