from django.urls import path

from felloe.upkeep.api.views import BackupsView

urlpatterns = [path("backups", BackupsView.as_view(), name="backups")]
