from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "felloe.demo"
    label = "demo"
    default_auto_field = "django.db.models.BigAutoField"
