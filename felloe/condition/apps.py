from django.apps import AppConfig


class ConditionConfig(AppConfig):
    name = "felloe.condition"
    label = "condition"
    default_auto_field = "django.db.models.BigAutoField"
