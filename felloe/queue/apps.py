from django.apps import AppConfig


class QueueConfig(AppConfig):
    name = "felloe.queue"
    label = "queue"
    default_auto_field = "django.db.models.BigAutoField"
