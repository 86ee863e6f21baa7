from django.apps import AppConfig


class TrailConfig(AppConfig):
    name = "felloe.trail"
    default_auto_field = "django.db.models.BigAutoField"
