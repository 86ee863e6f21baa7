from django.apps import AppConfig


class RepairConfig(AppConfig):
    name = "felloe.repair"
    label = "repair"
    default_auto_field = "django.db.models.BigAutoField"
