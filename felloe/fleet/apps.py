from django.apps import AppConfig


class FleetConfig(AppConfig):
    name = "felloe.fleet"
    default_auto_field = "django.db.models.BigAutoField"
