from django.apps import AppConfig
from django.db.models.signals import post_migrate


class UpkeepConfig(AppConfig):
    name = "felloe.upkeep"
    label = "upkeep"
    default_auto_field = "django.db.models.BigAutoField"

    def ready(self) -> None:
        from felloe.upkeep.fencing import after_migrating

        post_migrate.connect(after_migrating, sender=self, dispatch_uid="felloe_fence_put_up")
