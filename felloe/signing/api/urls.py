from django.urls import path

from felloe.signing.api.views import CheckingPageView, SigningKeysView

urlpatterns = [
    path("signing-keys", SigningKeysView.as_view(), name="signing-keys"),
    path("signing-keys/check-report.html", CheckingPageView.as_view(), name="checking-page"),
]
