from django.urls import path

from felloe.messages.api import views

urlpatterns = [
    path("jobs/<uuid:job_id>/letter", views.LetterView.as_view(), name="letter"),
    path("letters", views.OutboxView.as_view(), name="letters"),
    path("letters/<uuid:message_id>/again", views.AgainView.as_view(), name="letter-again"),
]
