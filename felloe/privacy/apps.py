from django.apps import AppConfig


class PrivacyConfig(AppConfig):
    name = "felloe.privacy"
    default_auto_field = "django.db.models.BigAutoField"
