from django.apps import AppConfig


class ApiConfig(AppConfig):
    name = "felloe.api"
    label = "api"
    default_auto_field = "django.db.models.BigAutoField"
