"""App registration."""

from django.apps import AppConfig


class CrewsConfig(AppConfig):
    """Crews."""

    name = "apps.crews"
    label = "crews"
    default_auto_field = "django.db.models.BigAutoField"
