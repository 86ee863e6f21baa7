from django.urls import path

from felloe.accounts.api.staff import PersonView, PinView, ShopView, StaffEditView
from felloe.accounts.api.views import SessionView, StaffView

urlpatterns = [
    path("session", SessionView.as_view(), name="session"),
    path("session/pin", PinView.as_view(), name="pin"),
    path("staff", StaffView.as_view(), name="staff"),
    path("shop/staff", StaffEditView.as_view(), name="staff-edit"),
    path("shop/staff/<uuid:person_id>", PersonView.as_view(), name="person"),
    path("shop/settings", ShopView.as_view(), name="shop"),
]
