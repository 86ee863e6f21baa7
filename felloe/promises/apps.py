from django.apps import AppConfig


class PromisesConfig(AppConfig):
    name = "felloe.promises"
    default_auto_field = "django.db.models.BigAutoField"
