from django.urls import path

from felloe.customers.api.views import BikesView, BikeView, CustomerMergeView, CustomersView, CustomerView

urlpatterns = [
    path("customers", CustomersView.as_view(), name="customers"),
    path("customers/<uuid:customer_id>", CustomerView.as_view(), name="customer"),
    path("customers/<uuid:customer_id>/merge", CustomerMergeView.as_view(), name="customer-merge"),
    path("customers/<uuid:customer_id>/bikes", BikesView.as_view(), name="bikes"),
    path("bikes/<uuid:bike_id>", BikeView.as_view(), name="bike"),
]
