from django.apps import AppConfig


class ReportConfig(AppConfig):
    name = "felloe.report"
    default_auto_field = "django.db.models.BigAutoField"
