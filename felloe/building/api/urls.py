from django.urls import path

from felloe.building.api import views as v

urlpatterns = [
    path("jobs/<uuid:job_id>/sizing", v.SizingView.as_view(), name="sizing"),
    path("jobs/<uuid:job_id>/sizing/choice", v.ChooseView.as_view(), name="spokes-choose"),
    path("jobs/<uuid:job_id>/sizing/old-spokes", v.OldSpokesView.as_view(), name="old-spokes"),
    path("jobs/<uuid:job_id>/sizing/kit", v.KitView.as_view(), name="kit"),
    path("jobs/<uuid:job_id>/sizing/swap", v.SwapView.as_view(), name="swap"),
    path("jobs/<uuid:job_id>/lacing", v.LacingView.as_view(), name="lacing"),
    path("jobs/<uuid:job_id>/lacing/inside", v.LacingInsideView.as_view(), name="lacing-inside"),
    path("jobs/<uuid:job_id>/lacing/despite", v.LacingDespiteView.as_view(), name="lacing-despite"),
    path("jobs/<uuid:job_id>/lacing/look", v.LacingLookView.as_view(), name="lacing-look"),
    path("jobs/<uuid:job_id>/strip", v.StripView.as_view(), name="strip"),
    path("jobs/<uuid:job_id>/strip/steps", v.StripStepView.as_view(), name="strip-steps"),
    path("jobs/<uuid:job_id>/strip/counts", v.CountView.as_view(), name="strip-counts"),
    path("jobs/<uuid:job_id>/replacing", v.ReplacingView.as_view(), name="replacing"),
    path("bikes/<uuid:bike_id>/spare-card", v.SpareCardView.as_view(), name="spare-card"),
]
