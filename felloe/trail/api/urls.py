from django.urls import path

from felloe.trail.api.views import ChangesView

urlpatterns = [path("changes", ChangesView.as_view(), name="changes")]
