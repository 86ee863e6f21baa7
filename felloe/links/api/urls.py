from django.urls import path

from felloe.links.api import views
from felloe.links.api.feeds import FeedView

urlpatterns = [
    path("calendar-feed", FeedView.as_view(), name="feed"),
    path("jobs/<uuid:job_id>/links", views.LinksView.as_view(), name="links"),
    path("links/<uuid:link_id>/revoke", views.LinkEndView.as_view(), name="link-revoke"),
]
