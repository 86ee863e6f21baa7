from django.urls import path

from felloe.accounts.api.views import SessionView, StaffView

urlpatterns = [
    path("session", SessionView.as_view(), name="session"),
    path("staff", StaffView.as_view(), name="staff"),
]
