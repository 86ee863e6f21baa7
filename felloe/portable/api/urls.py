from django.urls import path

from felloe.portable.api.views import (
    BundleInView,
    CustomerBundleView,
    CustomerSentView,
    ShopBundleView,
    UnderwayView,
    WheelBundleView,
)

urlpatterns = [
    path("wheels/<uuid:wheel_id>/bundle", WheelBundleView.as_view(), name="wheel-bundle"),
    path("customers/<uuid:customer_id>/bundle", CustomerBundleView.as_view(), name="customer-bundle"),
    path("customers/<uuid:customer_id>/sent", CustomerSentView.as_view(), name="customer-sent"),
    path("shop/bundle", ShopBundleView.as_view(), name="shop-bundle"),
    path("bundles", BundleInView.as_view(), name="bundle-in"),
    path("bundles/underway", UnderwayView.as_view(), name="bundle-underway"),
]
