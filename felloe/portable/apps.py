from django.apps import AppConfig


class PortableConfig(AppConfig):
    name = "felloe.portable"
    default_auto_field = "django.db.models.BigAutoField"
