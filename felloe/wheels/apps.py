from django.apps import AppConfig


class WheelsConfig(AppConfig):
    name = "felloe.wheels"
    label = "wheels"
    default_auto_field = "django.db.models.BigAutoField"
