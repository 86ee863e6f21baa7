from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    name = "felloe.upkeep"
    default_auto_field = "django.db.models.BigAutoField"
