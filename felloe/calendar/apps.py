from django.apps import AppConfig


class CalendarConfig(AppConfig):
    name = "felloe.calendar"
    default_auto_field = "django.db.models.BigAutoField"
