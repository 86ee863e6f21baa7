from django.apps import AppConfig


class MessagesConfig(AppConfig):
    name = "felloe.messages"
    default_auto_field = "django.db.models.BigAutoField"
