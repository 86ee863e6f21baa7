from django.apps import AppConfig
from django.contrib.auth.signals import user_logged_in


class AccountsConfig(AppConfig):
    name = "felloe.accounts"
    label = "accounts"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from felloe.accounts.services.sessions import note_in_full

        user_logged_in.connect(note_in_full, dispatch_uid="felloe_note_in_full")
