"""App registration."""

from django.apps import AppConfig


class StemsConfig(AppConfig):
    """Stems."""

    name = "apps.stems"
    label = "stems"
    default_auto_field = "django.db.models.BigAutoField"
