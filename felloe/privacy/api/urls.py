from django.urls import path

from felloe.privacy.api.views import ConsentsView, ErasureView, OwnCopyView

urlpatterns = [
    path("customers/<uuid:customer_id>/consents", ConsentsView.as_view(), name="consents"),
    path("customers/<uuid:customer_id>/erasure", ErasureView.as_view(), name="erasure"),
    path("customers/<uuid:customer_id>/copy", OwnCopyView.as_view(), name="own-copy"),
]
