from django.apps import AppConfig


class SigningConfig(AppConfig):
    name = "felloe.signing"
    default_auto_field = "django.db.models.BigAutoField"
