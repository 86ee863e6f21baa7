from django.apps import AppConfig


class LinksConfig(AppConfig):
    name = "felloe.links"
    default_auto_field = "django.db.models.BigAutoField"
