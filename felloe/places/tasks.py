"""Tasks are put into the queue of the place that they are about; each place has a worker of its own (FELLOE_PLACE)."""

from __future__ import annotations

from procrastinate import App
from procrastinate.contrib.django.django_connector import DjangoConnector

from felloe.places import here


class PlacedConnector(DjangoConnector):
    """By the connection of the place in force, and so in the transaction that is open there."""

    alias = property(lambda self: here.place(), lambda self, value: None)


def follow_place(app: App) -> None:
    """Called once the task queue is ready (PROCRASTINATE_ON_APP_READY)."""
    app.connector = app.job_manager.connector = PlacedConnector()
