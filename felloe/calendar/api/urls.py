from django.urls import path

from felloe.calendar.api.views import AbsencesView, AbsenceView, HoursView, ShiftsView

urlpatterns = [
    path("shop/hours", HoursView.as_view(), name="hours"),
    path("staff/<uuid:person_id>/times", ShiftsView.as_view(), name="work-times"),
    path("staff/<uuid:person_id>/absences", AbsencesView.as_view(), name="absences"),
    path("absences/<uuid:absence_id>/end", AbsenceView.as_view(), name="absence-end"),
]
