from django.urls import path

from felloe.numbers.api import views

urlpatterns = [
    path("numbers", views.NumbersView.as_view(), name="numbers"),
    path("numbers.csv", views.NumbersFileView.as_view(), name="numbers-csv"),
]
