from django.urls import path

from felloe.accounts.api.account import (
    AccountView,
    BranchesView,
    BranchView,
    NewPasswordView,
    OtherSessionsView,
    OtherSessionView,
    PasswordView,
    SecondFactorView,
)
from felloe.accounts.api.staff import PersonView, PinView, ShopView, StaffEditView
from felloe.accounts.api.views import SessionView, StaffView

urlpatterns = [
    path("session", SessionView.as_view(), name="session"),
    path("session/pin", PinView.as_view(), name="pin"),
    path("session/new-password", NewPasswordView.as_view(), name="new-password"),
    path("account", AccountView.as_view(), name="account"),
    path("account/password", PasswordView.as_view(), name="account-password"),
    path("account/second-factor", SecondFactorView.as_view(), name="second-factor"),
    path("account/branches", BranchesView.as_view(), name="branches"),
    path("session/branch", BranchView.as_view(), name="branch"),
    path("account/sessions", OtherSessionsView.as_view(), name="sessions"),
    path("account/sessions/<uuid:session_id>", OtherSessionView.as_view(), name="session-close"),
    path("staff", StaffView.as_view(), name="staff"),
    path("shop/staff", StaffEditView.as_view(), name="staff-edit"),
    path("shop/staff/<uuid:person_id>", PersonView.as_view(), name="person"),
    path("shop/settings", ShopView.as_view(), name="shop"),
]
