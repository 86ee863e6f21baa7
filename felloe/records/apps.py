from django.apps import AppConfig


class RecordsConfig(AppConfig):
    name = "felloe.records"
    label = "records"
    default_auto_field = "django.db.models.BigAutoField"
