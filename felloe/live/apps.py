from django.apps import AppConfig


class LiveConfig(AppConfig):
    name = "felloe.live"
    default_auto_field = "django.db.models.BigAutoField"
