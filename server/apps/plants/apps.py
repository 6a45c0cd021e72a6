"""App registration."""

from django.apps import AppConfig


class PlantsConfig(AppConfig):
    """Stems."""

    name = "apps.plants"
    label = "plants"
    default_auto_field = "django.db.models.BigAutoField"
