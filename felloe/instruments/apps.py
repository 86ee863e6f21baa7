"""What the shop measures with, and whether it can be trusted."""

from django.apps import AppConfig


class InstrumentsConfig(AppConfig):
    name = "felloe.instruments"
    label = "instruments"
    default_auto_field = "django.db.models.BigAutoField"
