from django.urls import path

from felloe.customers.api.views import BikesView, BikeView, CustomersView

urlpatterns = [
    path("customers", CustomersView.as_view(), name="customers"),
    path("customers/<uuid:customer_id>/bikes", BikesView.as_view(), name="bikes"),
    path("bikes/<uuid:bike_id>", BikeView.as_view(), name="bike"),
]
