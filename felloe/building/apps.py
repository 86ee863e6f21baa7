from django.apps import AppConfig


class BuildingConfig(AppConfig):
    name = "felloe.building"
    label = "building"
    default_auto_field = "django.db.models.BigAutoField"
